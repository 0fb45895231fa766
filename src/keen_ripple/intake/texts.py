"""Texts of SVG as text layers: each line that has a place of its own is one.

They are set in the fonts that are shipped; where its own is another one, that is named.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any
from xml.etree.ElementTree import Element

from svgelements import Matrix

from keen_ripple.core.fonts import FONTS
from keen_ripple.core.values.font_file import opened
from keen_ripple.fonts import faces_of
from keen_ripple.intake.layers import Names
from keen_ripple.intake.opened import kind_of
from keen_ripple.intake.outlines import ShapeFault, length, numbers_of
from keen_ripple.intake.paints import colour, share
from keen_ripple.intake.styles import Sheet, Style

MONOSPACED = re.compile(r"mono|courier|consol|menlo", re.I)
ALIGNED = {"start": "left", "middle": "centre", "end": "right"}
WEIGHTS = {"normal": 400.0, "bold": 700.0, "bolder": 700.0, "lighter": 300.0}
NOT_TAKEN = {"font-style": "normal", "text-decoration": "none", "writing-mode": "horizontal-tb"}
# How far below y the baseline lies, in shares of ascent, descent and height of an x (as Chromium lays it out).
BASELINES: Mapping[str, tuple[float, float, float]] = {
    "middle": (0.0, 0.0, 0.5),
    "central": (0.5, -0.5, 0.0),
    "hanging": (0.8, 0.0, 0.0),
    "text-before-edge": (1.0, 0.0, 0.0),
    "text-top": (1.0, 0.0, 0.0),
    "text-after-edge": (0.0, -1.0, 0.0),
    "ideographic": (0.0, -1.0, 0.0),
}
LINE_HEIGHT = 1.3
# Of what the plain weight takes: how much room letters of any weight need at most.
ROOM = 1.15
LONGEST = 2000


@dataclass(frozen=True)
class Line:
    """Words that begin at a place of their own, in the units of the file, y of the baseline."""

    text: str
    x: float
    y: float
    style: Style


View = tuple[float, float]
"""Width and height of what percentages of places are of."""


def lines_of(element: Element, style: Style, sheet: Sheet, view: View, note: Callable[[str], None]) -> Iterator[Line]:
    """The lines of a text element, in its order. What begins inside of a line goes on in the look of that line."""
    pen = _Pen(sheet, view, note)
    pen.read(element, style)
    for line in pen.lines:
        text = re.sub(r"\s+", " ", line.text).strip()[:LONGEST]
        if text:
            yield Line(text, line.x, line.y, line.style)


def layers_of_text(
    element: Element,
    style: Style,
    sheet: Sheet,
    matrix: Matrix,
    names: Names,
    view: View,
    note: Callable[[str], None],
) -> Iterator[dict[str, Any]]:
    """A layer for each of its lines. Raises ShapeFault for a text that is stretched."""
    opacity = share(style["opacity"], 1.0)
    for line in lines_of(element, style, sheet, view, note):
        if line.style["stroke"] != "none":
            note("the stroke of text was left out")
        for name, plain in NOT_TAKEN.items():
            if line.style[name] not in (plain, "lr-tb", "lr"):
                note(f"{name} {line.style[name][:40]} of text was left out")
        fill = line.style["fill"]
        if fill.startswith("url("):
            note("a gradient in text was left out; black instead")
            fill = "black"
        look = {
            "id": names.of(element.get("id", ""), "text"),
            "name": line.text[:40],
            "fill": colour(fill, line.style["color"], share(line.style["fill-opacity"], 1.0), note),
        }
        yield {**layer_of_line(line, matrix, note), **look, **({"opacity": opacity} if opacity < 1.0 else {})}


class _Pen:
    def __init__(self, sheet: Sheet, view: View, note: Callable[[str], None]) -> None:
        self.lines: list[Line] = []
        self._sheet, self._view, self._note = sheet, view, note

    def read(self, element: Element, style: Style) -> None:
        if style["display"] == "none" or style["visibility"] != "visible":
            return
        size = _em(style["font-size"], 16.0)
        x, y = (_first(element.get(name), size, whole) for name, whole in zip("xy", self._view, strict=True))
        dx, dy = (
            _first(element.get(name), size, whole) or 0.0 for name, whole in zip(("dx", "dy"), self._view, strict=True)
        )
        if any(len(_listed(element.get(name))) > 1 for name in ("x", "y", "dx", "dy")) or element.get("rotate"):
            self._note("places of single letters were left out")
        last = self.lines[-1] if self.lines else None
        if last is None or x is not None or y is not None or dy:
            before_x, before_y = (last.x, last.y) if last else (0.0, 0.0)
            place = (before_x if x is None else x) + dx, (before_y if y is None else y) + dy
            self.lines.append(Line("", *place, style))
        elif any(style[name] != last.style[name] for name in ("fill", "font-size", "font-weight", "font-family")):
            self._note("a change of style inside a line of text was left out")
        elif dx:
            self._note("a gap inside a line of text was left out")
        self._add(element.text)
        for child in element:
            if kind_of(child) in ("tspan", "a"):
                self.read(child, self._sheet.of(child, style))
            elif isinstance(child.tag, str) and kind_of(child) != "title":
                self._note(f"{kind_of(child)} in a text was left out")
            self._add(child.tail)

    def _add(self, text: str | None) -> None:
        if not self.lines:
            return
        last = self.lines[-1]
        self.lines[-1] = Line(last.text + (text or ""), last.x, last.y, last.style)


def layer_of_line(line: Line, matrix: Matrix, note: Callable[[str], None]) -> dict[str, Any]:
    """Its place, letters and words; the baseline lies where it did. Raises ShapeFault for one that is stretched."""
    a, b, c, d, _, _ = numbers_of(matrix)
    scale = math.hypot(a, b)
    if scale == 0.0 or max(abs(a - d), abs(b + c)) > 1e-3 * scale:
        raise ShapeFault("it is stretched, mirrored or leans")
    family, weight = _font(line.style["font-family"], note), _weight(line.style["font-weight"])
    em = _em(line.style["font-size"], 16.0)
    size = em * scale
    spacing = 0.0 if line.style["letter-spacing"] == "normal" else _em(line.style["letter-spacing"], em) * scale
    align = ALIGNED.get(line.style["text-anchor"], "left")
    width, height = _width(line.text, family, size, note) + max(spacing, 0.0) * len(line.text), LINE_HEIGHT * size
    # From where the line begins to the middle of the box, around which it is turned.
    left = {"left": 0.0, "centre": -width / 2.0, "right": -width}[align]
    middle = left + width / 2.0, height / 2.0 - _baseline(family, size, height)
    turn = math.atan2(b, a)
    below = line.y + _below(line.style["dominant-baseline"], family) * em
    x, y = (float(side) for side in matrix.point_in_matrix_space((line.x, below)))
    cos, sin = math.cos(turn), math.sin(turn)
    place = x + middle[0] * cos - middle[1] * sin, y + middle[0] * sin + middle[1] * cos
    look = {
        "kind": "text",
        "text": line.text,
        "x": round(place[0] - width / 2.0, 4),
        "y": round(place[1] - height / 2.0, 4),
        "width": round(width, 4),
        "height": round(height, 4),
        "font_family": family,
        "font_size": round(size, 4),
        "font_weight": weight,
        "text_align": align,
    }
    turned = {"rotation": round(math.degrees(turn), 4)} if abs(turn) > 1e-6 else {}
    return {**look, **turned, **({"letter_spacing": round(spacing, 4)} if spacing else {})}


def _listed(text: str | None) -> list[str]:
    return [part for part in re.split(r"[\s,]+", text or "") if part]


def _first(text: str | None, size: float, whole: float) -> float | None:
    """The first of a list of places, em of the size of the letters; none where nothing is said."""
    parts = _listed(text)
    return _em(parts[0], size, whole) if parts else None


def _em(text: str, size: float, whole: float | None = None) -> float:
    """A length in the units of the file; em are of the size of the letters, and so are percentages where they are not
    of something `whole`. Raises ShapeFault."""
    found = re.fullmatch(r"([-+]?[\d.]+(?:e[-+]?\d+)?)em", text.strip(), re.I)
    return length(found[1], size) * size if found else length(text, size if whole is None else whole)


def _font(text: str, note: Callable[[str], None]) -> str:
    families = [name.strip().strip("'\"") for name in text.split(",") if name.strip()]
    ours = next((name for name in families if name in FONTS), None)
    if ours is None:
        ours = "JetBrains Mono" if MONOSPACED.search(text) else "Hanken Grotesk"
        note(f"text was set in {ours}" + (f" instead of {families[0][:60]}" if families else ""))
    return ours


def _weight(text: str) -> float:
    weight = WEIGHTS.get(text) or (float(text) if text.isdigit() else 400.0)
    return min(max(weight, 100.0), 900.0)


def _width(text: str, family: str, size: float, note: Callable[[str], None]) -> float:
    """How wide it is at most."""
    advances = _metrics(family)["advances"]
    missing = sorted({letter for letter in text if ord(letter) not in advances and letter > " "})
    if missing:
        note(f"{family} has no {', '.join(missing[:5])}")
    return float(max(sum(advances.get(ord(letter), 0.6) for letter in text) * size * ROOM, 1.0))


def _below(baseline: str, family: str) -> float:
    """How far below its y the letters of a text stand, in shares of their size."""
    metrics, shares = _metrics(family), BASELINES.get(baseline, (0.0, 0.0, 0.0))
    return float(sum(share * metrics[name] for share, name in zip(shares, ("ascent", "descent", "x"), strict=True)))


def _baseline(family: str, size: float, height: float) -> float:
    """From the top of the box, on whole px as browsers put it (as `render.text` draws it)."""
    metrics = _metrics(family)
    ascent, descent = (math.floor(float(metrics[name]) * size + 0.5) for name in ("ascent", "descent"))
    return float(math.floor((height - ascent - descent) / 2.0) + ascent)


@lru_cache
def _metrics(family: str) -> Mapping[str, Any]:
    """In shares of the size of the letters."""
    fonts = [opened(face.data) for face in faces_of((), family)]
    font = fonts[0]
    unit = float(font["head"].unitsPerEm)
    return {
        "ascent": font["hhea"].ascent / unit,
        "descent": -font["hhea"].descent / unit,
        "x": font["OS/2"].sxHeight / unit,
        "advances": {
            code: each["hmtx"].metrics[name][0] / unit
            for each in reversed(fonts)
            for code, name in each.getBestCmap().items()
        },
    }
