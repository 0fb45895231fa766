"""GIF, APNG, WebP, WebM and sprite sheets, read by other decoders and held against what the core draws."""

from __future__ import annotations

import io
import json
from typing import Any

import av
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from keen_ripple import library
from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.handoff import FORMATS, Options
from keen_ripple.handoff.frames import frames_of, part_of, played, slots_of
from keen_ripple.media import encoders
from keen_ripple.render import draw_at
from support import DEMO, piece, timeline_in, way

FILES = ("gif", "apng", "webp", "webm")
# (what of it is special, piece, ground)
SHOWN = [
    ("goes round", "tide-loader", None),
    ("ends, and is clear", "fog-notice", None),
    ("ends, on a ground", "crossing-progress", "#ffffff"),
    ("waits for taps", "deck-lamp-switch", "#f5f2ea"),
]
Picture = np.ndarray[Any, Any]


def over_white(pixels: Picture) -> Picture:
    share = pixels[..., 3:] / 255.0 if pixels.shape[2] == 4 else 1.0
    return pixels[..., :3] * share + 255.0 * (1.0 - share)


def read(name: str, data: bytes) -> tuple[list[tuple[float, Picture]], float, Any]:
    """Start (ms) and picture of each frame, the length of all, and how often it is played."""
    if name == "webm":
        return read_film(data)
    image, found, start = Image.open(io.BytesIO(data)), [], 0.0
    for index in range(image.n_frames):
        image.seek(index)
        found.append((start, np.asarray(image.convert("RGBA"), np.float64)))
        start += image.info.get("duration", 0)
    return found, start, image.info.get("loop")


def read_film(data: bytes) -> tuple[list[tuple[float, Picture]], float, Any]:
    found = []
    with av.open(io.BytesIO(data)) as container:
        # The decoder that FFmpeg chooses by itself leaves transparency out.
        decoder = av.CodecContext.create("libvpx-vp9", "r")
        for packet in container.demux(video=0):
            for frame in decoder.decode(packet) if packet.size else ():
                start = float(packet.pts * packet.time_base * 1000)
                found.append((start, in_rgb(frame)))
    return found[:-1], found[-1][0], None


def in_rgb(frame: Any) -> Picture:
    """By ITU-R BT.709, as the file says; converters that have to be fast are off by up to 2."""
    assert (frame.colorspace, frame.color_range) == (1, 1)
    planes = []
    for plane in frame.planes:
        rows = np.frombuffer(plane, np.uint8).reshape(plane.height, plane.line_size)[:, : plane.width]
        by = frame.width // plane.width
        planes.append(rows.astype(np.float64).repeat(by, 0).repeat(by, 1))
    y, blue, red = (planes[0] - 16) / 219, (planes[1] - 128) / 224, (planes[2] - 128) / 224
    rgb = [y + 1.5748 * red, y - 0.1873 * blue - 0.4681 * red, y + 1.8556 * blue]
    alpha = planes[3:] or [np.full(y.shape, 255.0)]
    return np.stack([*(np.clip(channel, 0, 1) * 255 for channel in rgb), *alpha], axis=-1)


@pytest.mark.parametrize("name", FILES)
@pytest.mark.parametrize(("piece_id", "ground"), [row[1:] for row in SHOWN], ids=[row[0] for row in SHOWN])
def test_a_file_shows_what_is_drawn_when_it_is_drawn(name: str, piece_id: str, ground: str | None) -> None:
    timeline = timeline_in(DEMO[piece_id])
    shown = played(timeline)
    options = Options(ground=ground, fps=20)
    [data] = FORMATS[name].files(timeline, options).values()
    frames, length, loop = read(name, data)
    part = part_of(shown.run)
    wanted = part.length_ms if part.again else part.length_ms + 50
    assert length == (round(wanted, -1) if name == "gif" else wanted)
    assert loop == {"gif": 0 if part.again else None, "webm": None}.get(name, 0 if part.again else 1)
    assert len(frames) > 10
    for start, picture in frames[:: len(frames) // 8]:
        drawn = draw_at(shown, part.begin_ms + start, 1.0, ground).astype(np.float64)
        height, width = drawn.shape[:2]
        off = np.abs(over_white(picture[:height, :width]) - over_white(drawn))
        if name in ("apng", "webp"):
            assert off.max() <= 1.0
        elif name == "gif" and ground is None and piece_id == "fog-notice":
            # Its soft shadow is half transparent, which a GIF is not; that is said.
            assert "Half transparency" in FORMATS["gif"].report(timeline, options).leaves_out[0]
        else:
            assert off.mean() <= 1.5
            assert (off.max(axis=2) > 16).mean() <= 0.03


lengths = st.integers(1, 4000)


@settings(max_examples=60, deadline=None)
@given(lengths, st.integers(0, 900), st.floats(1, 120), st.sampled_from([1, 10]), st.booleans())
def test_the_times_of_frames_add_up(moves_ms: int, rests_ms: int, fps: float, clock: int, again: bool) -> None:
    curve = {"kind": "curve", "duration_ms": moves_ms, "easing": "linear"}
    back = [way("b", "a", {**curve, "duration_ms": 0}, hold_ms=rests_ms, style="cut")] if again else []
    timeline = timeline_of(read_piece(piece(transitions=[way("a", "b", curve), *back])))
    part, slots, frames = part_of(timeline.run), slots_of(timeline, fps, clock), frames_of(timeline, fps, clock)
    assert part.again == again
    for found in (slots, frames):
        assert all(frame.length_ms >= clock and frame.length_ms % clock == 0 for frame in found)
        over = sum(frame.length_ms for frame in found) - part.length_ms
        # What ends is seen once more at its end; a clock of 10 ms says lengths to 5 ms.
        assert -clock / 2 <= over - (0 if again else slots[-1].length_ms) <= max(clock / 2, clock - part.length_ms)
        assert [frame.t_ms for frame in found] == sorted({frame.t_ms for frame in found})
    assert len(frames) <= len(slots)


@pytest.mark.parametrize(("levels", "length_ms"), [([9, 200, 200], 150), ([9, 9, 200], 150), ([9, 9, 9], 0)])
def test_a_webp_lasts_as_long_where_frames_look_alike(levels: list[int], length_ms: int) -> None:
    frames = [np.full((8, 8, 4), level, np.uint8) for level in levels]
    found, length, _ = read("webp", encoders.webp(iter(frames), [40, 50, 60], again=True))
    assert length == length_ms
    assert [int(picture[0, 0, 0]) for _, picture in found] == sorted(set(levels))


def test_what_stands_still_is_one_frame() -> None:
    frames = frames_of(timeline_in(piece()), 50)
    # 400 ms of motion, the last of it at rest already, and 100 ms of rest.
    assert len(frames) == 21
    assert frames[-1].length_ms == 100


def test_a_gif_has_no_fringes() -> None:
    disc = {
        "kind": "ellipse",
        "id": "disc",
        "name": "Disc",
        "x": 3,
        "y": 3,
        "width": 60,
        "height": 60,
        "fill": "#d9503a",
    }
    states = [{"id": "a", "name": "A", "changes": {}}, {"id": "b", "name": "B", "changes": {"disc": {"x": 100}}}]
    [data] = FORMATS["gif"].files(timeline_in(piece([disc], states=states)), Options()).values()
    for _, picture in read("gif", data)[0]:
        seen = picture[picture[..., 3] > 0]
        assert len(seen) == pytest.approx(np.pi * 30 * 30, rel=0.02)
        assert np.abs(seen[:, :3] - (0xD9, 0x50, 0x3A)).max() <= 2


def test_a_sprite_sheet_says_where_its_frames_are() -> None:
    timeline = timeline_in(DEMO["tide-loader"])
    files = FORMATS["sprite"].files(timeline, Options(fps=10, scale=0.5))
    said = json.loads(files["sprite.json"])
    sheet = np.asarray(Image.open(io.BytesIO(files["sprite.png"])))
    assert (said["width"], said["height"], said["length_ms"], said["again"]) == (136, 104, 2060, True)
    for frame in said["frames"]:
        found = sheet[frame["y"] : frame["y"] + 104, frame["x"] : frame["x"] + 136]
        assert np.array_equal(found, draw_at(timeline, part_of(timeline.run).begin_ms + frame["start_ms"], 0.5))


def test_a_common_loop_is_whole_or_said() -> None:
    def with_rounds(*periods: int) -> Timeline:
        keys = [{"at_ms": 0, "value": 10, "easing": "linear"}, {"at_ms": 5, "value": 40, "easing": "linear"}]
        rounds = [
            {
                "id": f"r{n}",
                "name": f"R {n}",
                "period_ms": period,
                "courses": [{"layer": "box", "property": ("y", "width")[n], "keys": keys}],
            }
            for n, period in enumerate(periods)
        ]
        return timeline_in(piece(undercurrents=rounds))

    assert part_of(with_rounds(750).run).length_ms == 1500
    far = part_of(with_rounds(751, 977).run)
    assert far.length_ms == 500
    assert "meets it again only after" in far.left_out[0]


def test_a_still_picture_is_that_of_the_fullest_state_or_of_any_moment() -> None:
    document = piece()
    document["layers"][0]["opacity"] = 0.0
    document["states"][1]["changes"] = {"box": {"opacity": 1.0, "x": 110}}
    timeline = timeline_in(document)
    for chosen, t in (({}, 400), ({"at": 200.0}, 200), ({"at": 0.0, "scale": 2.0, "ground": "#ffffff"}, 0)):
        options = Options(**chosen)
        assert f"One picture of {200 * options.scale:g} ×" in FORMATS["still"].report(timeline, options).holds
        [data] = FORMATS["still"].files(timeline, options).values()
        shown = np.asarray(Image.open(io.BytesIO(data)))
        assert (shown == draw_at(timeline, t, options.scale, options.ground)).all()
    wide = timeline_in(piece(width=4000, height=2000))
    assert "too much" in FORMATS["still"].report(wide, Options(scale=8.0)).refused[0].message


@pytest.mark.parametrize(
    ("name", "chosen", "says"),
    [
        ("html", {"fps": 30}, "html has no fps to choose. It has none."),
        ("webp", {"dither": True}, "webp has no dither to choose. It has fps, ground, scale."),
        ("still", {"at": -1}, "A moment of -1 ms. Choose 0 to 3600000 ms."),
        ("gif", {"at": 5}, "gif has no at to choose."),
        ("gif", {"fps": 60}, "gif cannot say 60 pictures per second. Choose at most 50 per second."),
        ("gif", {"fps": 0.5}, "0.5 pictures per second. Choose 1 to 120."),
        ("gif", {"scale": 9}, "A scale of 9. Choose 0.05 to 8"),
        ("gif", {"ground": "mud"}, "mud"),
        ("webm", {"scale": 8, "fps": 120}, "are too much. Choose a smaller scale, or fewer per second."),
        ("sprite", {"scale": 2, "fps": 60}, "have no room on one of 8192 px"),
    ],
)
def test_what_cannot_be_is_said(name: str, chosen: dict[str, Any], says: str) -> None:
    with pytest.raises(Fault) as caught:
        library.hand_off(timeline_in(DEMO["sonar-watch"]), name, **chosen)
    assert says in str(caught.value)
