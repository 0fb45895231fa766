"""Pictures that follow each other as files: GIF, APNG and WebP by Pillow, WebM by FFmpeg.

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
    images = (Image.fromarray(frame, "RGBA") for frame in frames)
    return _saved(images, "PNG", lengths_ms, loop=0 if again else 1)


def webp(frames: Iterable[Pixels], lengths_ms: Sequence[int], again: bool) -> bytes:
    """Without loss: what is flat and has sharp edges is small so, and exact."""
    images = (Image.fromarray(frame, "RGBA") for frame in frames)
    return _saved(images, "WEBP", lengths_ms, loop=0 if again else 1, lossless=True, quality=EFFORT, method=0)


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


# Of BT.709 in TV range: Y, Cb and Cr of R, G and B, all 0–255, and where each begins.
TO_Y = (219 * 0.2126 / 255, 219 * 0.7152 / 255, 219 * 0.0722 / 255, 16.0)
TO_CB = (-112 * 0.2126 / 0.9278 / 255, -112 * 0.7152 / 0.9278 / 255, 112.0 / 255, 128.0)
TO_CR = (112.0 / 255, -112 * 0.7152 / 0.7874 / 255, -112 * 0.0722 / 0.7874 / 255, 128.0)


def _in_yuv(pixels: Pixels, form: str) -> Any:
    """Colour at half the width and height, as the format has it; by a matrix, which is exact to rounding, as converters
    for speed are not."""
    height, width = pixels.shape[:2]
    colours = Image.frombytes("RGB", (width, height), pixels.tobytes(), "raw", "RGBX")
    halved = colours.reduce(2)
    frame: Any = av.VideoFrame(width, height, form)
    planes = (colours.convert("L", TO_Y), halved.convert("L", TO_CB), halved.convert("L", TO_CR), pixels[..., 3])
    for plane, values in zip(frame.planes, planes, strict=False):
        shown = np.asarray(values)
        rows = np.zeros((shown.shape[0], plane.line_size), np.uint8)
        rows[:, : shown.shape[1]] = shown
        plane.update(rows)
    return frame


def _even(pixels: Pixels) -> Pixels:
    height, width = pixels.shape[:2]
    return np.pad(pixels, ((0, height % 2), (0, width % 2), (0, 0)), mode="edge")


def _saved(images: Iterator[Image.Image], kind: str, lengths_ms: Sequence[int], **own: Any) -> bytes:
    file, first = io.BytesIO(), next(images)
    # One picture is no animation, and has no length. Those of an APNG are gone through twice.
    rest = (
        {
            "save_all": True,
            "append_images": list(images) if kind == "PNG" else images,
            "duration": list(lengths_ms),
            **own,
        }
        if len(lengths_ms) > 1
        else {}
    )
    first.save(file, kind, **(rest or {name: own[name] for name in ("transparency", "lossless") if name in own}))
    return file.getvalue()


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
        palette = self.colours.astype(np.int32)
        for first in range(0, len(packed), AT_ONCE):
            some = packed[first : first + AT_ONCE]
            away = _unpacked(some).astype(np.int32)[:, None] - palette[None]
            self._numbers[some] = np.argmin((away * away).sum(axis=2), axis=1)


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
