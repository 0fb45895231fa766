"""Text, set with the fonts of the piece as the page sets it."""

from __future__ import annotations

import math
import re
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any
from xml.etree import ElementTree

import skia

from keen_ripple.core.document.piece import FontFamily
from keen_ripple.core.values.font_file import OPTICAL_SIZE, WEIGHT
from keen_ripple.fonts import Face, chosen, faces_of
from keen_ripple.render.letters import seen_through

Look = Mapping[str, Any]
Axes = tuple[tuple[str, float], ...]


@dataclass(frozen=True)
class Letters:
    """How a text is set: with these faces, at these places of their axes."""

    faces: tuple[Face, ...]
    axes: Axes
    size: float
    spacing: float

    @property
    def is_spaced(self) -> bool:
        return self.spacing != 0.0

    @staticmethod
    def of(look: Look, fonts: Sequence[FontFamily]) -> Letters:
        size = look["font_size"]
        said = {place.axis: place.value for place in look.get("font_axes", ())}
        # Letters of their own for each size, where nothing else is said: font-optical-sizing, as browsers have it.
        axes = {OPTICAL_SIZE: size, **said, WEIGHT: said.get(WEIGHT, float(round(look["font_weight"])))}
        faces = chosen(faces_of(fonts, look["font_family"]), look["font_weight"])
        return Letters(faces, tuple(sorted(axes.items())), size, look["letter_spacing"])


@dataclass(frozen=True)
class Line:
    """Words, whether they are written from the right, and where they begin, px of the layer; `y` is the top."""

    words: str
    right: bool
    x: float
    y: float


def draw_text(canvas: skia.Canvas, text: str, look: Look, paint: skia.Paint, fonts: Sequence[FontFamily] = ()) -> None:
    """Lines one under another, in the middle of the box from top to bottom; too long ones run out to the right.

    `fonts` are those that the piece brings.
    """
    letters = Letters.of(look, fonts)
    lines = _laid_out(text, look, letters)

    def draw(ink: skia.Paint) -> None:
        for line in lines:
            _set(line.words, line.right, letters, ink).paint(canvas, line.x, line.y)

    # Letters may stand out of their lines, to all sides.
    beyond = BEYOND * letters.size
    tops, widest = [line.y for line in lines], max(_set(line.words, line.right, letters).LongestLine for line in lines)
    lefts = [line.x for line in lines]
    area = skia.Rect(min(lefts), min(tops), max(lefts) + widest, max(tops)).makeOutset(beyond, beyond)
    seen_through(canvas, paint, area, draw)


def outline_of_text(look: Look, fonts: Sequence[FontFamily] = ()) -> str:
    """What is drawn of a text, as path data in px of its layer; empty where there is nothing to be seen."""
    letters = Letters.of(look, fonts)
    stream = skia.DynamicMemoryWStream()
    canvas = skia.SVGCanvas.Make(EVERYWHERE, stream, TEXT_TO_PATHS)
    ink = skia.Paint()
    for line in _laid_out(look["text"], look, letters):
        _set(line.words, line.right, letters, ink).paint(canvas, line.x, line.y)
    # It is written when there is no more canvas.
    del canvas
    svg = ElementTree.fromstring(bytes(stream.detachAsData()))
    return " ".join(path.get("d", "") for path in svg.iter(f"{SVG}path"))


def _laid_out(text: str, look: Look, letters: Letters) -> list[Line]:
    written = [(line, _is_from_right(line)) for line in text.split("\n")]
    if look["white_space"] == "pre-wrap":
        within = look["width"] + FITS
        written = [(part, right) for line, right in written for part in _broken(line, right, letters, within)]
    set_lines = [_set(line, right, letters) for line, right in written]
    height = look["line_height"] * letters.size
    room = max([look["width"], *(line.LongestLine for line in set_lines)])
    top = (look["height"] - height * len(written)) / 2.0
    share = {"left": 0.0, "centre": 0.5, "right": 1.0}[look["text_align"]]
    lines = []
    for number, ((words, right), paragraph) in enumerate(zip(written, set_lines, strict=True)):
        # Browsers put baselines on whole px of the layer, before it is scaled or turned.
        baseline = math.floor(top + number * height + _baseline(letters, height) + 0.5)
        # All space follows its letter; here half of it stands before.
        x = (room - paragraph.LongestLine) * share - letters.spacing / 2.0
        lines.append(Line(words, right, x, baseline - round(paragraph.AlphabeticBaseline)))
    return lines


# A word with its hyphen or with the spaces that follow it.
WORD = re.compile(r"\s*\S+?(?:(?<=[^\W\d]-)(?=[^\W\d])|(?=\s|$))")


def _is_from_right(line: str) -> bool:
    """Whether a line is written from the right: by its first letter that says so (Unicode Annex 9, rules P2 and P3)."""
    kinds = (unicodedata.bidirectional(letter) for letter in line)
    return next((kind != "L" for kind in kinds if kind in ("L", "R", "AL")), False)


def _broken(line: str, right: bool, letters: Letters, room: float) -> list[str]:
    """A line as the lines that fit into the box: broken between words, and after hyphens. A longer word runs out."""
    lines: list[str] = []
    for word in WORD.findall(line):
        longer = lines[-1] + word if lines else word
        if lines and _set(longer, right, letters).LongestLine > room:
            lines.append(word.lstrip())
        else:
            lines[-1:] = [longer]
    return lines or [line]


# px: what browsers round away.
FITS = 0.02
# Of their size: how far letters stand out of their lines at most.
BEYOND = 2.0
# skia.SVGCanvas: kConvertTextToPaths_Flag.
TEXT_TO_PATHS = 1
# What lies beyond would not be written.
EVERYWHERE = skia.Rect(-1e6, -1e6, 1e6, 1e6)
SVG = "{http://www.w3.org/2000/svg}"


def _baseline(letters: Letters, height: float) -> float:
    """From the top of a line. Browsers take whole px for ascent and descent, and of what is left for half above."""
    metrics = skia.Font(_typeface(letters.faces[0], letters.axes, letters.is_spaced), letters.size).getMetrics()
    ascent, descent = (math.floor(part + 0.5) for part in (-metrics.fAscent, metrics.fDescent))
    return float(math.floor((height - ascent - descent) / 2.0) + ascent)


# Around a line from the right: all between them is laid out from there.
FROM_RIGHT, ISOLATE_ENDS = "\u2067", "\u2069"


def _set(line: str, right: bool, letters: Letters, ink: skia.Paint | None = None) -> skia.textlayout.Paragraph:
    style = skia.textlayout.TextStyle()
    style.setFontFamilies([str(index) for index in range(len(letters.faces))])
    style.setFontSize(letters.size)
    style.setLetterSpacing(letters.spacing)
    style.setForegroundPaint(ink or skia.Paint())
    paragraph_style = skia.textlayout.ParagraphStyle()
    paragraph_style.setTextStyle(style)
    builder = skia.textlayout.ParagraphBuilder.make(
        paragraph_style, _collection(letters.faces, letters.axes, letters.is_spaced), skia.Unicodes.ICU.Make()
    )
    builder.addText(f"{FROM_RIGHT}{line}{ISOLATE_ENDS}" if right else line)
    paragraph = builder.Build()
    paragraph.layout(1e6)
    return paragraph


@lru_cache(maxsize=64)
def _collection(faces: tuple[Face, ...], axes: Axes, spaced: bool) -> skia.textlayout.FontCollection:
    provider = skia.textlayout.TypefaceFontProvider()
    for index, face in enumerate(faces):
        provider.registerTypeface(_typeface(face, axes, spaced), str(index))
    collection = skia.textlayout.FontCollection()
    collection.setDefaultFontManager(provider)
    return collection


@lru_cache(maxsize=64)
def _typeface(face: Face, axes: Axes, spaced: bool) -> skia.Typeface:
    # What the font does not have is left out by it; what is beyond its ends stands there.
    coordinates = skia.FontArguments.VariationPosition.Coordinates(
        [skia.FontArguments.VariationPosition.Coordinate(int.from_bytes(tag.encode()), place) for tag, place in axes]
    )
    arguments = skia.FontArguments()
    arguments.setVariationDesignPosition(skia.FontArguments.VariationPosition(coordinates))
    return _plain(face, spaced).makeClone(arguments)


@lru_cache(maxsize=64)
def _plain(face: Face, spaced: bool) -> skia.Typeface:
    # Fonts of this machine are never asked for.
    return skia.FontMgr.New_Custom_Empty().makeFromData(skia.Data.MakeWithCopy(face.unpacked(spaced)))
