"""Text, set with the shipped fonts as the page sets it."""

from __future__ import annotations

import io
import math
import re
from collections.abc import Mapping
from functools import lru_cache
from importlib.resources import files
from typing import Any

import skia
from fontTools.ttLib import TTFont

from keen_ripple.core.fonts import FONTS

WEIGHT = int.from_bytes(b"wght")


def draw_text(canvas: skia.Canvas, text: str, look: Mapping[str, Any], paint: skia.Paint) -> None:
    """Lines one under another, in the middle of the box from top to bottom; too long ones run out to the right."""
    written = text.split("\n")
    if look["white_space"] == "pre-wrap":
        written = [part for line in written for part in _broken(line, look, paint)]
    lines = [_set(line, look, paint) for line in written]
    height = look["line_height"] * look["font_size"]
    room = max([look["width"], *(line.LongestLine for line in lines)])
    top = (look["height"] - height * len(lines)) / 2.0
    share = {"left": 0.0, "centre": 0.5, "right": 1.0}[look["text_align"]]
    # All space follows its letter; here half of it stands before.
    early = look["letter_spacing"] / 2.0
    for number, line in enumerate(lines):
        # Browsers put baselines on whole px of the layer, before it is scaled or turned.
        baseline = math.floor(top + number * height + _baseline(look, height) + 0.5)
        line.paint(canvas, (room - line.LongestLine) * share - early, baseline - round(line.AlphabeticBaseline))


# A word with its hyphen or with the spaces that follow it.
WORD = re.compile(r"\s*\S+?(?:(?<=[^\W\d]-)(?=[^\W\d])|(?=\s|$))")


def _broken(line: str, look: Mapping[str, Any], paint: skia.Paint) -> list[str]:
    """A line as the lines that fit into the box: broken between words, and after hyphens. A longer word runs out."""
    lines: list[str] = []
    for word in WORD.findall(line):
        longer = lines[-1] + word if lines else word
        if lines and _set(longer, look, paint).LongestLine > look["width"] + FITS:
            lines.append(word.lstrip())
        else:
            lines[-1:] = [longer]
    return lines or [line]


# px: what browsers round away.
FITS = 0.02


def _baseline(look: Mapping[str, Any], height: float) -> float:
    """From the top of a line. Browsers take whole px for ascent and descent, and of what is left for half above."""
    metrics = skia.Font(_typefaces(look["font_family"], round(look["font_weight"]))[0], look["font_size"]).getMetrics()
    ascent, descent = (math.floor(part + 0.5) for part in (-metrics.fAscent, metrics.fDescent))
    return float(math.floor((height - ascent - descent) / 2.0) + ascent)


def _set(line: str, look: Mapping[str, Any], paint: skia.Paint) -> skia.textlayout.Paragraph:
    family, weight = look["font_family"], round(look["font_weight"])
    style = skia.textlayout.TextStyle()
    style.setFontFamilies([f"{family} {weight} {index}" for index in range(len(FONTS[family].files))])
    style.setFontSize(look["font_size"])
    style.setLetterSpacing(look["letter_spacing"])
    style.setForegroundPaint(paint)
    paragraph_style = skia.textlayout.ParagraphStyle()
    paragraph_style.setTextStyle(style)
    builder = skia.textlayout.ParagraphBuilder.make(
        paragraph_style, _collection(family, weight), skia.Unicodes.ICU.Make()
    )
    builder.addText(line)
    paragraph = builder.Build()
    paragraph.layout(1e6)
    return paragraph


@lru_cache(maxsize=64)
def _collection(family: str, weight: int) -> skia.textlayout.FontCollection:
    provider = skia.textlayout.TypefaceFontProvider()
    for index, typeface in enumerate(_typefaces(family, weight)):
        provider.registerTypeface(typeface, f"{family} {weight} {index}")
    collection = skia.textlayout.FontCollection()
    collection.setDefaultFontManager(provider)
    return collection


@lru_cache(maxsize=64)
def _typefaces(family: str, weight: int) -> tuple[skia.Typeface, ...]:
    # Fonts of this machine are never asked for.
    manager = skia.FontMgr.New_Custom_Empty()
    return tuple(
        _weighted(manager.makeFromData(skia.Data.MakeWithCopy(_opened(name))), weight) for name in FONTS[family].files
    )


def _weighted(typeface: skia.Typeface, weight: int) -> skia.Typeface:
    axes = skia.FontArguments.VariationPosition.Coordinates(
        [skia.FontArguments.VariationPosition.Coordinate(WEIGHT, weight)]
    )
    position = skia.FontArguments.VariationPosition(axes)
    arguments = skia.FontArguments()
    arguments.setVariationDesignPosition(position)
    return typeface.makeClone(arguments)


@lru_cache
def _opened(name: str) -> bytes:
    """A shipped font without its compression."""
    font = TTFont(io.BytesIO((files("keen_ripple") / "fonts" / name).read_bytes()), recalcTimestamp=False)
    font.flavor = None
    buffer = io.BytesIO()
    font.save(buffer)
    return buffer.getvalue()
