"""Outlines as Skia paths, and the strokes along them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import skia
from fontTools.svgLib.path import parse_path

from keen_ripple.core.measures.geometry import corner_radii

Look = Mapping[str, Any]
OUTWARDS = {"inside": -0.5, "centre": 0.0, "outside": 0.5}
CAPS = {"butt": skia.Paint.kButt_Cap, "round": skia.Paint.kRound_Cap, "square": skia.Paint.kSquare_Cap}
JOINS = {"miter": skia.Paint.kMiter_Join, "round": skia.Paint.kRound_Join, "bevel": skia.Paint.kBevel_Join}


def outline(kind: str, look: Look) -> skia.Path:
    """The outline of a layer in its own px; of all that is no shape its box."""
    if kind == "path":
        scale = skia.Matrix.Scale(look["width"] / look["view_width"], look["height"] / look["view_height"])
        path = written(look)
        path.transform(scale)
        return path
    return box(kind, look)


def box(kind: str, look: Look, by: float = 0.0) -> skia.Path:
    """A rectangle or an ellipse, moved outwards by `by` px; from the top, clockwise."""
    path = skia.Path()
    if kind == "ellipse":
        path.addOval(rrect(kind, look, by).rect(), skia.PathDirection.kCW, 0)
    else:
        path.addRRect(rrect(kind, look, by), skia.PathDirection.kCW, 0)
    return path


def rrect(kind: str, look: Look, by: float = 0.0) -> skia.RRect:
    """A rectangle or an ellipse, moved outwards. Sharp corners stay sharp; round ones keep their middle."""
    width, height = look["width"], look["height"]
    bounds = skia.Rect.MakeLTRB(
        min(-by, width / 2), min(-by, height / 2), max(width + by, width / 2), max(height + by, height / 2)
    )
    if kind == "ellipse":
        return skia.RRect.MakeOval(bounds)
    radii = corner_radii(look) if kind in ("rectangle", "picture", "medium") else [(0.0, 0.0)] * 4
    grown = [(max(x + by, 0.0), max(y + by, 0.0)) if x > 0.0 and y > 0.0 else (0.0, 0.0) for x, y in radii]
    rect = skia.RRect()
    rect.setRectRadii(bounds, [skia.Point(*radius) for radius in grown])
    return rect


def written(look: Look) -> skia.Path:
    """The path of a layer in the px of its view."""
    pen = _Pen()
    parse_path(look["path"], pen)
    pen.path.setFillType(skia.PathFillType.kEvenOdd if look["fill_rule"] == "evenodd" else skia.PathFillType.kWinding)
    return pen.path


# A dash that begins again exactly at the end of the outline would put its cap there.
ROUND = 1.0001
Point = tuple[float, float]


class _Pen:
    """Draws path data as a browser does: arcs as conics."""

    def __init__(self) -> None:
        self.path = skia.Path()

    def moveTo(self, point: Point) -> None:
        self.path.moveTo(*point)

    def lineTo(self, point: Point) -> None:
        self.path.lineTo(*point)

    def curveTo(self, first: Point, second: Point, end: Point) -> None:
        self.path.cubicTo(*first, *second, *end)

    def qCurveTo(self, handle: Point, end: Point) -> None:
        self.path.quadTo(*handle, *end)

    def arcTo(self, rx: float, ry: float, turn: float, large: bool, sweep: bool, end: Point) -> None:
        size = skia.Path.kLarge_ArcSize if large else skia.Path.kSmall_ArcSize
        way = skia.PathDirection.kCW if sweep else skia.PathDirection.kCCW
        self.path.arcTo(rx, ry, turn, size, way, *end)

    def closePath(self) -> None:
        self.path.close()

    def endPath(self) -> None:
        """An open subpath ends by itself."""


Line = dict[str, Any]
"""How a stroke is drawn, as Skia's paints take it; its colour comes to that."""


def stroke(look: Look, path: skia.Path) -> Line | None:
    """The stroke along a path; None where there is none to be seen."""
    drawn = look["trim_end"] - look["trim_start"]
    if look["stroke"] == "none" or look["stroke_width"] <= 0.0 or drawn <= 0.0:
        return None
    line = {
        "Style": skia.Paint.kStroke_Style,
        "StrokeWidth": look["stroke_width"],
        "StrokeCap": CAPS[look["stroke_cap"]],
        "StrokeJoin": JOINS[look["stroke_join"]],
        "StrokeMiter": 4.0,
    }
    dash = _dash(look, drawn, path)
    return line if dash is None else {**line, "PathEffect": dash}


def _dash(look: Look, drawn: float, path: skia.Path) -> skia.PathEffect | None:
    """Dashes, or the part of the outline that is drawn, as one dash."""
    if drawn < 1.0:
        length = _length(path)
        phase = -(look["trim_start"] + look["trim_offset"]) * length
        gap = (ROUND - drawn) * length
        return skia.DashPathEffect.Make([drawn * length, gap], phase) if length > 0.0 else None
    dash = list(look["stroke_dash"])
    dash *= 2 if len(dash) % 2 else 1
    return skia.DashPathEffect.Make(dash, look["stroke_dash_offset"]) if sum(dash) > 0.0 else None


def _length(path: skia.Path) -> float:
    measure, total = skia.PathMeasure(path, False), 0.0
    while True:
        total += float(measure.getLength())
        if not measure.nextContour():
            return total
