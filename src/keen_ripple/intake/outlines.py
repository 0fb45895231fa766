"""SVG shapes as outlines, measured in the px of the piece."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from xml.etree.ElementTree import Element

from svgelements import Arc, Close, CubicBezier, Length, Line, Matrix, Move, Path, QuadraticBezier

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.limits import FARTHEST, LONGEST_PATH
from keen_ripple.core.outlines import bounds


class ShapeFault(ValueError):
    """A shape that cannot be read, and why."""


@dataclass(frozen=True)
class Outline:
    """A path in px of the piece, its text, and its bounds (left, top, right, bottom)."""

    path: Path
    data: str
    bounds: tuple[float, float, float, float]

    def moved(self, by_x: float, by_y: float) -> str:
        """Its path data, moved."""
        return "".join(_commands(self.path, by_x, by_y))


def matrix_of(text: str) -> Matrix:
    """A transform attribute. Raises ShapeFault."""
    try:
        matrix = Matrix(text) if text.strip() else Matrix()
    except (ValueError, LookupError, ArithmeticError, TypeError):
        raise ShapeFault(f"its transform {text[:60]!r} is no transform") from None
    if not all(map(math.isfinite, numbers_of(matrix))):
        raise ShapeFault(f"its transform {text[:60]!r} is no transform")
    return matrix


def numbers_of(matrix: Matrix) -> tuple[float, float, float, float, float, float]:
    return (matrix.a, matrix.b, matrix.c, matrix.d, matrix.e, matrix.f)


def length(text: str | None, whole: float, default: float = 0.0) -> float:
    """A length in px: absolute units at 96 px to the inch, percentages of `whole`. Raises ShapeFault."""
    if text is None or not text.strip():
        return default
    try:
        value = float(Length(text).value(ppi=96.0, relative_length=whole, font_size=16.0, font_height=8.0))
    except (TypeError, ValueError, AttributeError):
        raise ShapeFault(f"{text!r} is no length") from None
    if not math.isfinite(value):
        raise ShapeFault(f"{text!r} is no length")
    return value


def scale_of(matrix: Matrix) -> float:
    """By how much lengths grow, where that differs by direction the mean of areas."""
    a, b, c, d, _, _ = numbers_of(matrix)
    return math.sqrt(abs(a * d - b * c))


def is_even(matrix: Matrix) -> bool:
    """Whether it keeps circles round."""
    a, b, c, d, _, _ = numbers_of(matrix)
    size = a * a + b * b + c * c + d * d
    return abs((a * a + b * b) - (c * c + d * d)) <= 2e-3 * size and abs(a * c + b * d) <= 1e-3 * size


def diagonal(view: tuple[float, float]) -> float:
    """Of what lengths that belong to no axis are percentages (SVG 2, section 8.9)."""
    return math.hypot(*view) / math.sqrt(2.0)


def dash_of(style: Mapping[str, str], view: tuple[float, float]) -> tuple[list[float], float]:
    """Lengths of dashes and gaps, and where they begin; none where they say nothing. Raises ShapeFault."""
    text = style["stroke-dasharray"]
    parts = [] if text == "none" else re.split(r"[\s,]+", text.strip())
    lengths = [length(part, diagonal(view)) for part in parts if part][:16]
    if sum(lengths) <= 0.0 or min(lengths) < 0.0:
        return [], 0.0
    return lengths, length(style["stroke-dashoffset"], diagonal(view))


def line_of(style: Mapping[str, str], matrix: Matrix, view: tuple[float, float]) -> dict[str, Any]:
    """How a stroke is drawn under a matrix; its paint as it is written."""
    if style["stroke"] == "none":
        return {"stroke": "none"}
    scale = scale_of(matrix)
    width = length(style["stroke-width"], diagonal(view)) * scale
    if width <= 0.0:
        return {"stroke": "none"}
    joins = {"round": "round", "bevel": "bevel"}
    look = {
        "stroke": style["stroke"],
        "stroke_width": round(width, 4),
        "stroke_cap": style["stroke-linecap"] if style["stroke-linecap"] in ("round", "square") else "butt",
        "stroke_join": joins.get(style["stroke-linejoin"], "miter"),
    }
    lengths, offset = dash_of(style, view)
    if lengths:
        look |= {"stroke_dash": [part * scale for part in lengths], "stroke_dash_offset": offset * scale}
    return look


def offset_of(element: Element, view: tuple[float, float]) -> Matrix:
    """The move by x and y of what is placed by them. Raises ShapeFault."""
    return Matrix.translate(*(length(element.get(key), whole) for key, whole in zip("xy", view, strict=True)))


def path_of(element: Element, kind: str, view: tuple[float, float]) -> Path | None:
    """The outline of a shape in its own px; None for one that shows nothing. Raises ShapeFault."""
    width, height = view
    get = element.get
    if kind == "path":
        return _written(get("d", ""))
    if kind in ("polygon", "polyline"):
        points = get("points", "").replace(",", " ").split()
        pairs = [" ".join(points[i : i + 2]) for i in range(0, len(points) - 1, 2)]
        return _written("M" + "L".join(pairs) + ("Z" if kind == "polygon" else "")) if pairs else None
    if kind == "line":
        x1, x2 = (length(get(name), width) for name in ("x1", "x2"))
        y1, y2 = (length(get(name), height) for name in ("y1", "y2"))
        return _written(f"M{x1} {y1}L{x2} {y2}")
    box = box_of(element, kind, view)
    if box is None:
        return None
    x, y, w, h, rx, ry = box
    if rx <= 0.0 or ry <= 0.0:
        return _written(f"M{x} {y}h{w}v{h}h{-w}Z")
    arc = f"a{rx} {ry} 0 0 1"
    if kind != "rect":
        return _written(f"M{x + w} {y + ry}{arc} {-rx} {ry}{arc} {-rx} {-ry}{arc} {rx} {-ry}{arc} {rx} {ry}Z")
    return _written(
        f"M{x + rx} {y}h{w - 2 * rx}{arc} {rx} {ry}v{h - 2 * ry}{arc} {-rx} {ry}"
        f"h{2 * rx - w}{arc} {-rx} {-ry}v{2 * ry - h}{arc} {rx} {-ry}Z"
    )


def box_of(element: Element, kind: str, view: tuple[float, float]) -> tuple[float, ...] | None:
    """(x, y, width, height, rx, ry) of a rect, circle or ellipse; None where one side is missing. Raises ShapeFault."""
    width, height = view
    get, radial = element.get, diagonal(view)
    if kind == "rect":
        x, y = length(get("x"), width), length(get("y"), height)
        w, h = length(get("width"), width), length(get("height"), height)
        rx = length(get("rx", get("ry")), width)
        ry = length(get("ry", get("rx")), height)
        box = (x, y, w, h, min(rx, w / 2.0), min(ry, h / 2.0))
    else:
        radius = get("r")
        rx = length(get("rx", radius), width if kind == "ellipse" else radial)
        ry = length(get("ry", radius), height if kind == "ellipse" else radial)
        cx, cy = length(get("cx"), width), length(get("cy"), height)
        box = (cx - rx, cy - ry, 2.0 * rx, 2.0 * ry, rx, ry)
    return box if box[2] > 0.0 and box[3] > 0.0 else None


def _written(data: str) -> Path | None:
    if len(data) > LONGEST_PATH:
        raise ShapeFault(f"its path has {len(data)} characters, more than {LONGEST_PATH}")
    if not data.strip() or data.strip() == "none":
        return None
    try:
        return Path(data)
    except (ValueError, IndexError, ZeroDivisionError, TypeError) as error:
        raise ShapeFault("its path data cannot be read") from error


def placed(path: Path, matrix: Matrix) -> Outline | None:
    """The outline under a matrix; None where nothing is left of it. Raises ShapeFault."""
    path = abs(path * matrix)
    data = "".join(_commands(path))
    if not data or "nan" in data or "inf" in data:
        if data:
            raise ShapeFault("it has points that are no numbers")
        return None
    if any(abs(side) > FARTHEST for side in path.bbox() or ()):
        raise ShapeFault("it lies too far away")
    try:
        return Outline(path, data, bounds(data, (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)))
    except ValueError as error:
        raise ShapeFault("its path data cannot be read") from error


def _commands(path: Path, by_x: float = 0.0, by_y: float = 0.0) -> list[str]:
    """Absolute commands, moved."""

    def at(point: Any) -> str:
        x, y = point.x + by_x, point.y + by_y
        return f"{css_number(x, 3)} {css_number(y, 3)}" if math.isfinite(x) and math.isfinite(y) else "nan nan"

    found: list[str] = []
    for segment in path:
        if isinstance(segment, Move):
            found.append(f"M{at(segment.end)}")
        elif isinstance(segment, Close):
            found.append("Z")
        elif isinstance(segment, Line):
            found.append(f"L{at(segment.end)}")
        elif isinstance(segment, CubicBezier):
            found.append("C" + " ".join(map(at, (segment.control1, segment.control2, segment.end))))
        elif isinstance(segment, QuadraticBezier):
            found.append("Q" + " ".join(map(at, (segment.control, segment.end))))
        elif isinstance(segment, Arc):
            found.append(_arc(segment) + at(segment.end))
    while found and found[-1].startswith("M"):
        found.pop()
    return found


def _arc(arc: Arc) -> str:
    """All of an arc but its end."""
    radii = " ".join(css_number(side, 4) for side in (arc.rx, arc.ry))
    turn = css_number(math.degrees(float(arc.get_rotation())), 4)
    return f"A{radii} {turn} {int(abs(arc.sweep) > math.pi)} {int(arc.sweep > 0.0)} "
