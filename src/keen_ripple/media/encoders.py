"""Pictures that follow each other as files: APNG by Pillow, GIF, WebP and WebM by FFmpeg.

All take pixels (height, width, 4), RGBA, not premultiplied, one by one, and for how many ms each is seen.
"""

from __future__ import annotations

import io
import math
from collections.abc import Iterable, Iterator, Sequence
from fractions import Fraction
from itertools import accumulate
from typing import Any

import av
import numpy as np
from av.video.reformatter import Colorspace, Interpolation, VideoReformatter
from PIL import Image

from keen_ripple.media.ahead import ahead
from keen_ripple.media.reel import Pixels

Numbers = np.ndarray[Any, np.dtype[np.uint8]]

COLOURS = 255
"""Of a GIF, besides what is transparent."""
CLEAR = 255
SEEN = 128
"""A GIF knows no half-transparency: from this alpha on, a pixel is seen."""
EXACT, AREA = 128, 0.0005
"""So many colours are kept as they are, if they fill so much of what is seen."""
AT_ONCE = 20_000
EFFORT = 20
"""Of WebP without loss, 0–100: more takes long and saves little."""
QUALITY = "18"
"""Of VP9, 0–63, less is better: no blocks are seen in flat areas."""


def gif(
    frames: Iterable[Pixels], lengths_ms: Sequence[int], again: bool, some: Sequence[Pixels], dither: bool
) -> bytes:
    """`lengths_ms` are multiples of 10. The palette is made of `some` of the frames, and is one for all of them."""
    palette = Palette(some)
    found = ahead(lambda frame: palette.numbers(frame, dither), frames, most=2)
    numbers, lengths = _without_repeats(list(found), lengths_ms)
    if len(numbers) == 1:
        return _still_gif(palette.image(numbers[0]))
    file = io.BytesIO()
    # The clock of a GIF is hundredths of a second. It begins again for ever (0), or not (−1).
    looped = {"loop": "0" if again else "-1", "final_delay": str(lengths[-1] // 10)}
    with av.open(file, "w", format="gif", options=looped) as container:
        stream: Any = container.add_stream("gif", rate=100)
        stream.height, stream.width = numbers[0].shape
        stream.pix_fmt = "pal8"
        for each, start in zip(numbers, accumulate(lengths, initial=0), strict=False):
            container.mux(stream.encode(_pal8(each, palette, start // 10)))
        container.mux(stream.encode())
    return file.getvalue()


def _pal8(numbers: Numbers, palette: Palette, at: int) -> Any:
    frame: Any = av.VideoFrame(numbers.shape[1], numbers.shape[0], "pal8")
    rows = np.zeros((numbers.shape[0], frame.planes[0].line_size), np.uint8)
    rows[:, : numbers.shape[1]] = numbers
    frame.planes[0].update(rows.tobytes())
    colours = np.zeros((256, 4), np.uint8)
    # One number is transparent, and no other.
    colours[:CLEAR, 3] = 255
    colours[: len(palette.colours), :3] = palette.colours[:, ::-1]
    frame.planes[1].update(colours.tobytes())
    frame.pts, frame.time_base = at, Fraction(1, 100)
    return frame


def _still_gif(image: Image.Image) -> bytes:
    file = io.BytesIO()
    image.save(file, "GIF", **({"transparency": CLEAR} if (np.asarray(image) == CLEAR).any() else {}))
    return file.getvalue()


def _without_repeats(all_numbers: Sequence[Numbers], lengths_ms: Sequence[int]) -> tuple[list[Numbers], list[int]]:
    """What looks alike in few colours is one frame."""
    kept, lengths = list(all_numbers[:1]), list(lengths_ms[:1])
    for numbers, length_ms in zip(all_numbers[1:], lengths_ms[1:], strict=True):
        if np.array_equal(kept[-1], numbers):
            lengths[-1] += length_ms
        else:
            kept.append(numbers)
            lengths.append(length_ms)
    return kept, lengths


def apng(frames: Iterable[Pixels], lengths_ms: Sequence[int], again: bool) -> bytes:
    # Gone through twice.
    file, images = io.BytesIO(), [Image.fromarray(frame, "RGBA") for frame in frames]
    first, *others = images
    # One picture is no animation, and has no length.
    rest: dict[str, Any] = {"save_all": True, "duration": list(lengths_ms), "loop": 0 if again else 1}
    first.save(file, "PNG", append_images=others, **(rest if others else {}))
    return file.getvalue()


def webp(frames: Iterable[Pixels], lengths_ms: Sequence[int], again: bool) -> bytes:
    """Without loss: what is flat and has sharp edges is small so, and exact."""
    if len(lengths_ms) == 1:
        return webp_still(next(iter(frames)))
    file = io.BytesIO()
    with av.open(file, "w", format="webp", options={"loop": "0" if again else "1"}) as container:
        stream: Any = container.add_stream("libwebp_anim", rate=1000)
        stream.pix_fmt = "bgra"
        stream.options = {"lossless": "1", "compression_level": "0", "quality": str(EFFORT)}
        for frame, start in zip(frames, accumulate(lengths_ms, initial=0), strict=False):
            if start == 0:
                stream.height, stream.width = frame.shape[:2]
            shown: Any = av.VideoFrame.from_numpy_buffer(frame, format="rgba").reformat(format="bgra")
            shown.pts, shown.time_base = start, Fraction(1, 1000)
            container.mux(stream.encode(shown))
        container.mux(stream.encode())
    return _as_long_as(file.getvalue(), sum(lengths_ms))


def _as_long_as(data: bytes, length_ms: int) -> bytes:
    """An encoder that is told moments has to guess how long the last frame is seen. Each frame is a chunk `ANMF`, with
    its length in three bytes after its place and size (RFC 9649, section 2.7.1.1)."""
    at, places = 12, []
    while at < len(data):
        if data[at : at + 4] == b"ANMF":
            places.append(at + 20)
        size = int.from_bytes(data[at + 4 : at + 8], "little")
        at += 8 + size + size % 2
    if not places:
        # All frames look alike: one picture.
        return data
    *before, last = places
    left_ms = length_ms - sum(int.from_bytes(data[place : place + 3], "little") for place in before)
    return data[:last] + left_ms.to_bytes(3, "little") + data[last + 3 :]


def webp_still(pixels: Pixels) -> bytes:
    """One picture, without loss."""
    file = io.BytesIO()
    Image.fromarray(pixels, "RGBA").save(file, "WEBP", lossless=True, quality=EFFORT, method=2)
    return file.getvalue()


def webm(frames: Iterable[Pixels], lengths_ms: Sequence[int], clear: bool) -> bytes:
    """VP9; with `clear` what is transparent stays so, else it is black. Odd sides get one px more, as VP9 needs."""
    file = io.BytesIO()
    with av.open(file, "w", format="webm") as container:
        stream: Any = container.add_stream("libvpx-vp9", rate=1000)
        stream.pix_fmt = "yuva420p" if clear else "yuv420p"
        stream.time_base = stream.codec_context.time_base = Fraction(1, 1000)
        stream.options = {
            "crf": QUALITY,
            "b": "0",
            "row-mt": "1",
            "cpu-used": "6",
            "threads": "2",
            "deadline": "realtime",
            "auto-alt-ref": "0",
        }
        for value in ("color_range", "colorspace", "color_primaries", "color_trc"):
            # BT.709 in TV range.
            setattr(stream.codec_context, value, 1)
        start = 0
        shown = ahead(lambda pixels: _in_yuv(_even(pixels), stream.pix_fmt), frames)
        for frame, length_ms in _with_last_again(shown, lengths_ms):
            if start == 0:
                stream.height, stream.width = frame.height, frame.width
            frame.pts, frame.time_base = start, Fraction(1, 1000)
            container.mux(stream.encode(frame))
            start += length_ms
        container.mux(stream.encode())
    return file.getvalue()


def _with_last_again(frames: Iterable[Any], lengths_ms: Sequence[int]) -> Iterator[tuple[Any, int]]:
    """A film lasts until its last frame begins, so that one is there twice: one ms of it is left for the second."""
    last = None
    for last, length_ms in zip(frames, lengths_ms, strict=True):
        yield last, length_ms
    if last is not None:
        yield last, 1


# Colour at half the width and height is a mean of four px, and all is rounded exactly.
FAITHFUL = Interpolation.AREA | Interpolation.ACCURATE_RND


def _in_yuv(pixels: Pixels, form: str) -> Any:
    """BT.709 in TV range."""
    frame = av.VideoFrame.from_numpy_buffer(pixels, format="rgba")
    return VideoReformatter().reformat(frame, format=form, dst_colorspace=Colorspace.ITU709, interpolation=FAITHFUL)


def _even(pixels: Pixels) -> Pixels:
    height, width = pixels.shape[:2]
    return np.pad(pixels, ((0, height % 2), (0, width % 2), (0, 0)), mode="edge")


class Palette:
    """The colours of a GIF: those that fill areas exactly as they are, the others near to what is seen."""

    def __init__(self, some: Sequence[Pixels]) -> None:
        seen = np.concatenate([_packed(frame)[frame[..., 3] >= SEEN] for frame in some] or [np.zeros(0, np.uint32)])
        found, counts = np.unique(seen, return_counts=True)
        order = np.argsort(-counts, kind="stable")
        exact = found if len(found) <= COLOURS else found[order[:EXACT]][counts[order[:EXACT]] > len(seen) * AREA]
        rest = seen[~np.isin(seen, exact)]
        colours = [*_unpacked(exact), *(_quantized(rest, COLOURS - len(exact)) if len(rest) else [])]
        self.colours = np.array(colours or [[0, 0, 0]], np.uint8)
        # For every colour its number in the palette, once it has been asked for.
        self._numbers = np.full(1 << 24, CLEAR, np.uint8)

    def image(self, numbers: Numbers) -> Image.Image:
        image = Image.fromarray(numbers, "P")
        image.putpalette(np.pad(self.colours, ((0, 256 - len(self.colours)), (0, 0))).tobytes())
        return image

    def numbers(self, frame: Pixels, dither: bool) -> Numbers:
        """For each pixel the number of its colour."""
        clear = frame[..., 3] < SEEN
        packed = _packed(frame)
        if dither:
            plain = Image.fromarray(np.ascontiguousarray(frame[..., :3]), "RGB")
            own = self.image(np.zeros((1, 1), np.uint8))
            numbers = np.array(plain.quantize(palette=own, dither=Image.Dither.FLOYDSTEINBERG))
        else:
            numbers = self._numbers[packed]
            asked = np.unique(packed[(numbers == CLEAR) & ~clear])
            if asked.size:
                self._learn(asked)
                numbers = self._numbers[packed]
        numbers[clear] = CLEAR
        return numbers

    def _learn(self, packed: np.ndarray[Any, np.dtype[np.uint32]]) -> None:
        palette = self.colours.astype(np.float32)
        squares = (palette * palette).sum(axis=1)
        for first in range(0, len(packed), AT_ONCE):
            some = packed[first : first + AT_ONCE]
            # |a − b|² without |a|², which is the same for all; whole numbers below 2²⁴, so exact.
            away = squares - 2.0 * (_unpacked(some).astype(np.float32) @ palette.T)
            self._numbers[some] = np.argmin(away, axis=1)


def _packed(frame: Pixels) -> np.ndarray[Any, np.dtype[np.uint32]]:
    """Each colour as one number, red in its lowest byte."""
    return np.asarray(np.ascontiguousarray(frame).view("<u4")[..., 0] & 0xFFFFFF, np.uint32)


def _unpacked(packed: np.ndarray[Any, np.dtype[np.uint32]]) -> Pixels:
    return np.stack([packed & 255, packed >> 8 & 255, packed >> 16], axis=-1).astype(np.uint8)


def _quantized(packed: np.ndarray[Any, np.dtype[np.uint32]], most: int) -> Pixels:
    width = math.ceil(math.sqrt(len(packed)))
    sheet = Image.fromarray(_unpacked(np.resize(packed, (width, width))), "RGB")
    found = sheet.quantize(most, Image.Quantize.MEDIANCUT, kmeans=1).getpalette() or []
    return np.array(found, np.uint8).reshape(-1, 3)[:most]
