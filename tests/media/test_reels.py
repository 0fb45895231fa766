"""Media of every kind, made here: their frames at any moment, what is told of them, and what is refused."""

from __future__ import annotations

import base64
import io
from fractions import Fraction
from typing import Any

import av
import numpy as np
import pytest
from PIL import Image

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import timeline_of
from keen_ripple.media import MediumFault, facts_of, reel_of
from keen_ripple.media.encoders import webm
from keen_ripple.media.reel import LARGEST
from keen_ripple.render import draw_at

COLOURS = [(200, 60, 30), (31, 122, 112), (20, 40, 60), (240, 200, 80)]
SIZE = (32, 24)


def pictures(kind: str, durations: list[int], colours: list[Any] = COLOURS, **rest: Any) -> bytes:
    frames = [Image.new("RGBA", SIZE, colour) for colour, _ in zip(colours, durations, strict=False)]
    file = io.BytesIO()
    more = {"lossless": True} if kind == "WEBP" else {"disposal": 2} if kind == "GIF" else {}
    frames[0].save(file, kind, save_all=True, append_images=frames[1:], duration=durations, loop=0, **more, **rest)
    return file.getvalue()


def film(kind: str, codec: str, fps: int = 25, colours: list[Any] = COLOURS) -> bytes:
    file = io.BytesIO()
    with av.open(file, "w", format=kind) as out:
        track = out.add_stream(codec, rate=fps)
        track.width, track.height, track.pix_fmt = *SIZE, "yuv420p"
        track.time_base = Fraction(1, fps)
        for n, colour in enumerate(colours):
            frame = av.VideoFrame.from_ndarray(np.full((*SIZE[::-1], 3), colour, np.uint8), format="rgb24")
            frame.pts = n
            out.mux(track.encode(frame))
        out.mux(track.encode(None))
    return file.getvalue()


def source_of(data: bytes, mime: str) -> str:
    return f"data:{mime};base64,{base64.b64encode(data).decode()}"


MEDIA = {
    "gif": (pictures("GIF", [40, 100, 60, 200]), "image/gif", [0, 40, 140, 200], 400),
    "apng": (pictures("PNG", [40, 100, 60, 200]), "image/png", [0, 40, 140, 200], 400),
    "webp": (pictures("WEBP", [40, 100, 60, 200]), "image/webp", [0, 40, 140, 200], 400),
    "hasty gif": (pictures("GIF", [10, 20, 20, 20]), "image/gif", [0, 100, 120, 140], 160),
    "mp4": (film("mp4", "libx264"), "video/mp4", [0, 40, 80, 120], 160),
    "webm": (film("webm", "libvpx-vp9"), "video/webm", [0, 40, 80, 120], 160),
}


@pytest.mark.parametrize("name", MEDIA)
def test_each_frame_is_shown_from_its_moment_on(name: str) -> None:
    data, mime, starts, length = MEDIA[name]
    facts = facts_of(data)
    assert (facts.mime, facts.width, facts.height, facts.length_ms) == (mime, *SIZE, length)
    reel = reel_of(source_of(data, mime))
    # Forwards, backwards, and by leaps; before the beginning and after the end it stands.
    ends = [*starts[1:], length]
    moments = [(t, n) for n, (a, b) in enumerate(zip(starts, ends, strict=True)) for t in (a, (a + b) / 2, b - 1)]
    for t, n in [*moments, *moments[::-1], *moments[::5], (-50, 0), (length, 3), (10 * length, 3)]:
        assert np.abs(reel.at(t)[12, 16, :3].astype(int) - COLOURS[n]).max() <= 4, (t, n)


@pytest.mark.parametrize("name", ["gif", "webm"])
def test_a_drawing_shows_the_frame_at_the_playhead(name: str) -> None:
    data, mime, starts, length = MEDIA[name]
    layer = {"kind": "medium", "id": "m", "name": "M", "x": 4, "y": 4, "width": 32, "height": 24}
    layer |= {"source": source_of(data, mime), "length_ms": length}
    keys = [{"at_ms": 0, "value": 0}, {"at_ms": length, "value": length}]
    going = {"id": "plays", "name": "Plays", "period_ms": length}
    going["courses"] = [{"layer": "m", "property": "playhead", "keys": keys}]
    document = {"format": 1, "id": "p", "name": "P", "width": 40, "height": 32, "layers": [layer]}
    document |= {"states": [{"id": "s", "name": "S"}], "start": "s", "undercurrents": [going]}
    timeline = timeline_of(read_piece(document))
    assert timeline.run.loop_ms == length
    for round_ in (0, 3):
        for n, start in enumerate(starts):
            pixel = draw_at(timeline, round_ * length + start + 1, 1.0, None)[16, 20]
            assert np.abs(pixel[:3].astype(int) - COLOURS[n]).max() <= 4, (round_, n)


def test_the_fullest_moment_is_never_an_empty_first_frame() -> None:
    empty = (0, 0, 0, 0)
    data = pictures("PNG", [100, 100, 100], [empty, empty, (31, 122, 112, 255)])
    assert 200 <= facts_of(data).fullest_ms < 300
    assert facts_of(pictures("GIF", [100, 100], [COLOURS[0]] * 2)).fullest_ms == 0


def cut_off(name: str) -> bytes:
    return MEDIA[name][0][: len(MEDIA[name][0]) // 3]


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "no medium"),
        (b"<svg/>", "no medium"),
        (b"GIF89a", "cannot be read"),
        (cut_off("mp4"), "cannot be read"),
        (b"\x1aE\xdf\xa3" + bytes(200), "cannot be read"),
        (b"\x00\x00\x00\x18ftypmp42" + bytes(400), "cannot be read"),
        (MEDIA["gif"][0][:6] + b"\x88\x13\x88\x13" + MEDIA["gif"][0][10:], "5000 × 5000 px"),
        (bytes(LARGEST + 1), "MB"),
    ],
)
def test_what_cannot_be_read_is_refused_in_words(data: bytes, said: str) -> None:
    with pytest.raises(MediumFault) as caught:
        facts_of(data)
    assert said in caught.value.message
    assert caught.value.remedy


@pytest.mark.parametrize("name", ["gif", "apng", "webp"])
def test_one_that_ends_too_early_is_refused_or_played_as_far_as_it_goes(name: str) -> None:
    for share in (0.2, 0.5, 0.9):
        data = MEDIA[name][0][: round(len(MEDIA[name][0]) * share)]
        try:
            assert facts_of(data).length_ms >= 0
        except Fault as fault:
            assert fault.remedy


def test_what_is_transparent_in_a_webm_stays_so() -> None:
    clear = np.zeros((40, 60, 4), np.uint8)
    half = clear.copy()
    half[:, 30:] = (217, 80, 58, 255)
    reel = reel_of(source_of(webm([half, clear, half], [100, 100, 100], clear=True), "video/webm"))
    first, second = reel.at(50), reel.at(150)
    assert first[20, 10, 3] < 8 and first[20, 50, 3] > 247 and abs(int(first[20, 50, 0]) - 217) < 8
    assert second[..., 3].max() < 8
    # Back again, and forward.
    assert reel.at(20)[20, 50, 3] > 247 and reel.at(250)[20, 50, 3] > 247
