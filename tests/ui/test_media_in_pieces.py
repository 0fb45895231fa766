"""Moving pictures in a piece, from an empty one: over and over, once, replaced, and refused."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageDraw
from selenium.webdriver import Keys
from test_building import add, begin, choose, give

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import sample, timeline_of
from keen_ripple.render import draw_pose
from lottie_files import bytes_of, slide, still
from support import pixels

EACH_MS, COUNT = 60, 12


def ring(kind: str, count: int = COUNT, colour: str = "#1f7a70") -> bytes:
    """A ring that closes: it begins with nothing."""
    frames = []
    for n in range(count):
        frames.append(Image.new("RGBA", (48, 48), (0, 0, 0, 0)))
        ImageDraw.Draw(frames[-1]).arc((4, 4, 44, 44), -90, -90 + 360 * n // (count - 1), fill=colour, width=8)
    file = io.BytesIO()
    # Frames that are alike would be joined.
    frames[0].save(
        file, kind, save_all=True, append_images=frames[1:], duration=EACH_MS, disposal=1 if kind == "PNG" else 2
    )
    return file.getvalue()


@pytest.fixture
def files(tmp_path: Path) -> Path:
    (tmp_path / "bell.png").write_bytes(ring("PNG"))
    (tmp_path / "other.gif").write_bytes(ring("GIF", 8, "#c03a1e"))
    (tmp_path / "broken.gif").write_bytes(b"GIF89a" + bytes(40))
    one = io.BytesIO()
    Image.new("RGB", (8, 8)).save(one, "GIF")
    (tmp_path / "still.gif").write_bytes(one.getvalue())
    return tmp_path


def take(bench, file: Path, label: str = "Picture, medium or SVG file") -> None:
    bench.browser.find_element("css selector", f"input[type=file][aria-label='{label}']").send_keys(str(file))


def frame(bench, stage: str = "loop") -> int:
    shown = bench.browser.execute_script(
        "return document.querySelector(`[data-stage=${arguments[0]}] canvas`)?.dataset.frame", stage
    )
    return int(shown or -1)


def test_a_notice_whose_icon_plays_once(bench, files: Path) -> None:
    begin(bench, "Fog", 200, 120)
    card = add(bench, "rectangle", "Card", width=180, height=72, x=10, y=24, fill="#ffffff")
    bench.changed(lambda: take(bench, files / "bell.png"))
    icon = bench.document()["layers"][-1]
    assert (icon["kind"], icon["width"], icon["length_ms"]) == ("medium", 48, EACH_MS * COUNT)
    # It plays at once, over and over; where it stands, it stands where most is seen of it.
    assert icon["playhead"] >= EACH_MS * (COUNT - 2)
    bench.wait(lambda: frame(bench, "pose") >= COUNT - 2, "the fullest frame in the pose")
    seen: set[int] = set()
    bench.wait(lambda: seen.add(frame(bench)) or len(seen) > COUNT // 2, "that it plays")

    # Once, on the way to a state, where it stays; back at its beginning once the state is left.
    choose(bench, card)
    give(bench, y=60)
    bench.press("+ state")
    give(bench, y=24)
    choose(bench, icon["id"])
    bench.press("play once on the way to State 2")
    document = bench.document()
    assert document["undercurrents"] == []
    timeline = timeline_of(read_piece(document))
    travel = next(s for s in timeline.run.segments if s.kind == "travel")
    assert travel.end_ms - travel.start_ms == EACH_MS * COUNT
    # In step with the run to one frame, wherever it is stopped.
    for _ in range(4):
        bench.button("Pause").click()
        moment = float(bench.one("[data-stage=loop] [role=slider]").get_attribute("aria-valuenow"))
        [pose] = sample(timeline, [moment])
        wanted = min(int(pose[icon["id"]]["playhead"] // EACH_MS), COUNT - 1)
        bench.wait(lambda wanted=wanted: abs(frame(bench) - wanted) <= 1, f"frame {wanted} at {moment} ms")
        bench.button("Play").click()
        bench.wait(lambda wanted=wanted: abs(frame(bench) - wanted) > 1, "that it goes on")

    # Another in its place plays whole where this one did.
    bench.changed(lambda: take(bench, files / "other.gif", "File for the medium"))
    replaced = bench.document()
    assert replaced["states"][1]["changes"][icon["id"]]["playhead"] == EACH_MS * 8
    assert replaced["transitions"][0]["lanes"][0]["timing"]["duration_ms"] == EACH_MS * 8
    bench.one("body").send_keys(Keys.CONTROL, "z")
    bench.wait(lambda: bench.document()["layers"][-1]["length_ms"] == EACH_MS * COUNT)
    assert bench.errors() == []


PLAYED = """
document.querySelector('#alone')?.remove();
const alone = document.body.appendChild(document.createElement('div')), scene = document.querySelector('[data-stage=pose] .scene');
alone.id = 'alone';
alone.style.cssText = 'position: fixed; inset: 0; z-index: 9999; background: #fff';
alone.append(scene.cloneNode(true));
alone.firstChild.style.transform = 'none';
"""  # noqa: E501 (script)


def test_a_lottie_file_is_played_and_drawn_alike(bench, tmp_path: Path) -> None:
    (tmp_path / "lamp.json").write_bytes(bytes_of(slide()))
    ring = {"v": [[0, 0], [9, 0], [9, 9]], "i": [[0, 0]] * 3, "o": [[0, 0]] * 3, "c": True}
    masked = {"hasMask": True, "masksProperties": [{"mode": "a", "inv": True, "pt": still(ring), "o": still(100)}]}
    (tmp_path / "masked.json").write_bytes(bytes_of(slide(layers=[slide()["layers"][0] | masked])))
    (tmp_path / "program.json").write_bytes(bytes_of(slide(layers=[{"ks": {"r": {"k": 0, "x": "loopOut()"}}}])))
    begin(bench, "Lamp", 160, 90)
    bench.changed(lambda: take(bench, tmp_path / "lamp.json"))
    lamp = bench.document()["layers"][-1]["id"]
    assert bench.document()["undercurrents"][0]["period_ms"] == 800
    shown = "return document.querySelector(`[data-stage=${arguments[0]}] figure`)?.dataset.frame"
    seen: set[str] = set()
    bench.wait(lambda: seen.add(bench.browser.execute_script(shown, "loop")) or len(seen) > 8, "that it plays")
    as_said = ".//label[.//*[normalize-space()='as states say']]"
    bench.changed(lambda: bench.browser.find_element("xpath", as_said).click())
    bench.unfold("Picture")
    bench.wait(lambda: bench.field("playhead").is_displayed(), "the fold open")
    for t in (210, 470, 640, 800, 0):
        give(bench, playhead=t)
        frame = str(min(t * 50 // 1000, 39))
        bench.wait(lambda frame=frame: bench.browser.execute_script(shown, "pose") == frame, f"frame {frame}")
        bench.browser.execute_script(PLAYED)
        theirs = pixels(bench.browser, 160, 90)
        bench.browser.execute_script("document.querySelector('#alone').remove()")
        piece = read_piece(bench.document())
        [pose] = timeline_of(piece).poses.values()
        ours = draw_pose(piece, pose, ground="white")[:, :, :3].astype(np.int16)
        assert (np.abs(ours - theirs).max(axis=2) > 32).mean() < 0.01, t
        assert (theirs < 128).any(axis=2).sum() > 300, t
    choose(bench, lamp)
    # What players show each in its own way is said, and a program is refused.
    bench.changed(lambda: take(bench, tmp_path / "masked.json"))
    assert "masks turned inside out" in bench.one(".notice").text
    bench.button("Understood").click()
    take(bench, tmp_path / "program.json")
    bench.wait(lambda: "an expression, which is a program" in bench.one(".notice").text, "that it is refused")
    assert bench.errors() == []


def test_what_cannot_be_taken_is_said_and_nothing_is_changed(bench, files: Path) -> None:
    begin(bench, "Nothing", 100, 100)
    before = bench.document()
    for name, said in (("broken.gif", "cannot be read"), ("still.gif", "stands still")):
        take(bench, files / name)
        bench.wait(lambda said=said: said in bench.one(".notice").text, said)
        bench.button("Understood").click()
    assert bench.document() == before
