"""Lottie files: drawn at whole frames, and refused with their place where they could do harm."""

from __future__ import annotations

import base64
import time
import tracemalloc
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import DocumentFault
from keen_ripple.core.values.lottie import LottieFault, read_lottie
from keen_ripple.media import MediumFault, facts_of, lotties, reel_of
from lottie_files import FPS, FRAMES, bytes_of, moving, slide, still
from support import piece

LENGTH = 1000 * FRAMES // FPS


def source_of(file: Any) -> str:
    return f"data:application/json;base64,{base64.b64encode(bytes_of(file)).decode()}"


def middle(pixels: np.ndarray[Any, Any]) -> float:
    """Across the picture, 0–100."""
    return float(np.nonzero(pixels[:, :, 3] > 128)[1].mean() + 0.5) / pixels.shape[1] * 100.0


@pytest.mark.parametrize("older", [False, True])
def test_whole_frames_are_drawn_forwards_and_back(older: bool) -> None:
    facts = facts_of(bytes_of(slide(older)))
    assert (facts.mime, facts.width, facts.height, facts.length_ms) == ("application/json", 100, 50, LENGTH)
    reel = reel_of(source_of(slide(older)))
    for t in (0, 19, 20, 400, 799, 800, 9000, 410, -5):
        frame = min(max(t * FPS // 1000, 0), FRAMES - 1)
        assert middle(reel.at(t)) == pytest.approx(20 + 60 * frame / FRAMES, abs=0.2), t
    assert np.abs(reel.at(0)[reel.at(0)[:, :, 3] == 255][:, :3].astype(int) - (31, 122, 112)).max() <= 1


def test_what_jumps_at_its_last_keyframe_stays_there() -> None:
    file = slide()
    held = moving((0, [20, 25]), (10, [50, 25]), (30, [80, 25]))
    for key in held["k"]:
        key["h"] = 1
    file["layers"][0]["ks"]["p"] = held
    reel = reel_of(source_of(file))
    assert [round(middle(reel.at(frame * 1000 / FPS + 1))) for frame in (0, 9, 10, 29, 30, 39)] == [
        20,
        20,
        50,
        50,
        80,
        80,
    ]


def composition(name: str, *refs: str) -> dict[str, Any]:
    return {"id": name, "layers": [{"ty": 0, "refId": ref, "ks": {}} for ref in refs]}


def deep(levels: int) -> Any:
    found: Any = {}
    for _ in range(levels):
        found = {"it": [found]}
    return found


LAYER = slide()["layers"][0]
REPEATED = {"ty": "rp", "c": moving((0, [3]), (9, [1e6]))}
SVG = "data:image/svg+xml;base64,PHN2Zz4="
# The file, its place that is named, and what is said.
HOSTILE: dict[str, tuple[Any, str, str]] = {
    "an expression": (
        slide(layers=[{"ks": {"p": {"k": [0, 0], "x": "var $bm_rt;"}}}]),
        "/layers/0/ks/p/x",
        "expression",
    ),
    "a picture elsewhere": (
        slide(assets=[{"id": "i", "u": "http://quay.example/", "p": "a.png"}]),
        "/assets/0/p",
        "elsewhere",
    ),
    "a picture that is SVG": (slide(assets=[{"id": "i", "p": SVG}]), "/assets/0/p", "elsewhere"),
    "a font elsewhere": (slide(fonts={"list": [{"fPath": "http://quay.example/f"}]}), "/fonts/list/0/fPath", "font"),
    "itself in itself": (
        slide(layers=[{"refId": "a"}], assets=[composition("a", "b"), composition("b", "a")]),
        "/assets/0",
        "holds itself",
    ),
    "too often": (
        slide(layers=[{"refId": "c0"}], assets=[composition(f"c{n}", *[f"c{n + 1}"] * 10) for n in range(9)]),
        "",
        "draws",
    ),
    "too many copies": (slide(layers=[{"shapes": [REPEATED]}]), "/layers/0/shapes/0/c", "repeats"),
    "too deep": (slide(layers=[deep(90)]), "/layers", "too deep"),
    "too large a side": (slide(w=90_000), "/w", "90000"),
    "too fast": (slide(fr=1e5), "/fr", "per second"),
    "without end": (slide(op=1e6), "/op", "frames"),
    "no time": (slide(op=0), "/op", "frames"),
    "a number beyond all": (slide(layers=[{**LAYER, "st": 1e30}]), "/layers/0/st", "too large"),
    "no size": ({"layers": []}, "/w", "no number"),
    "another thing": ({"format": 1}, "", "no layers"),
    "no JSON": (b"{]", "", "no JSON"),
    "JSON without end": (b"[" * 100_000, "", "no JSON"),
    "a long name": (slide(layers=[{"n" * 1_000_000: [{}] * 50_000, "deep": deep(90)}]), "/layers/0/deep", "too deep"),
    "too many bytes": (b"[" + b"[]," * 2_000_000 + b"[]]", "", "MB"),
    "nothing, often": (b'{"layers":[' + b"[]," * 990_000 + b"[]]}", "", "parts"),
    "many parts": (slide(layers=[[0] * 500_000]), "", "parts"),
}


@pytest.mark.parametrize("name", HOSTILE)
def test_what_could_do_harm_is_refused_with_its_place(name: str) -> None:
    file, place, words = HOSTILE[name]
    data = file if isinstance(file, bytes) else bytes_of(file)
    begun = time.process_time()
    with pytest.raises(LottieFault) as caught:
        read_lottie(data)
    took = time.process_time() - begun
    tracemalloc.start()
    with pytest.raises(LottieFault):
        read_lottie(data)
    _, most = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    assert (words in caught.value.message, caught.value.place.startswith(place)) == (True, True), caught.value
    assert took < 2.0 and most < 128e6


def test_a_document_cannot_bring_one_in_either() -> None:
    medium = {"kind": "medium", "id": "box", "name": "M", "x": 0, "y": 0, "width": 9, "height": 9, "length_ms": 9}
    file = HOSTILE["an expression"][0]
    with pytest.raises(DocumentFault) as caught:
        read_piece(piece([{**medium, "source": source_of(file)}]))
    assert "expression" in str(caught.value)
    assert read_piece(piece([{**medium, "source": source_of(slide())}])).layers[0].kind == "medium"


@pytest.mark.parametrize("script", ["raise SystemExit", "import time; time.sleep(60)"])
def test_a_player_that_falls_or_hangs_takes_nothing_with_it(
    script: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    player = tmp_path / "player.py"
    player.write_text(script, "utf-8")
    monkeypatch.setattr(lotties, "PLAYER", player)
    monkeypatch.setattr(lotties, "PATIENCE_S", 0.5)
    reel = lotties.Drawn(bytes_of(slide()))
    with pytest.raises(MediumFault, match="cannot be drawn"):
        reel.at(0)
    monkeypatch.undo()
    assert middle(reel.at(0)) == pytest.approx(20, abs=0.2)


@pytest.mark.parametrize(
    ("file", "said"),
    [
        (slide(), ""),
        (slide(layers=[LAYER, {"ty": 5}]), "texts without outlines"),
        (slide(layers=[{**LAYER, "masksProperties": [{"mode": "a", "inv": True, "pt": still({})}]}]), "inside out"),
        (slide(layers=[{**LAYER, "ef": [{"ty": 29}]}]), "effects"),
    ],
)
def test_what_players_show_each_in_its_own_way_is_said(file: Any, said: str) -> None:
    notes = lotties.Drawn(bytes_of(file)).notes
    assert said in notes[0] if said else not notes
