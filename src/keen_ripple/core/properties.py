"""The one table of what a layer has: unit, range, default, blend, tolerance and the CSS that shows it.

Models, poses, tapes, the page and the hand-offs loop over it; a new property is a new row.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any

from keen_ripple.core.blends import BLENDS, Blend

KINDS = ("group", "rectangle", "ellipse", "path", "text")
SHAPES = ("rectangle", "ellipse", "path")


@dataclass(frozen=True)
class Property:
    """One row. `low` and `high` bound what may be written, and also what is shown where `clamped`.

    `default` is None where a value must be given. `varies` says whether states may differ in it. `tolerance` is how
    far a tape may be off, in the property's own unit (colours: of 255).
    """

    name: str
    label: str
    unit: str
    blend: str
    default: Any = None
    low: float | None = None
    high: float | None = None
    clamped: bool = False
    tolerance: float = 0.0
    kinds: tuple[str, ...] = KINDS
    varies: bool = True
    css: str = ""
    choices: tuple[str, ...] = ()


def _length(name: str, label: str, css: str, **rest: Any) -> Property:
    return Property(name, label, "px", "linear", tolerance=0.05, css=css, **rest)


def _angle(name: str, label: str, css: str) -> Property:
    return Property(name, label, "°", "linear", 0.0, tolerance=0.05, css=css)


def _factor(name: str, label: str, css: str, default: float, **rest: Any) -> Property:
    return Property(name, label, "", "linear", default, tolerance=0.002, css=css, **rest)


def _colour(name: str, label: str, css: str, default: str, kinds: tuple[str, ...]) -> Property:
    return Property(name, label, "colour", "colour", default, tolerance=1.0, kinds=kinds, css=css)


def _radius(name: str, label: str) -> Property:
    return _length(f"radius_{name}", label, "border-radius", default=0.0, low=0.0, clamped=True, kinds=("rectangle",))


PROPERTIES: tuple[Property, ...] = (
    _length("x", "x", "translate"),
    _length("y", "y", "translate"),
    _length("width", "width", "width", low=0.0, clamped=True),
    _length("height", "height", "height", low=0.0, clamped=True),
    _angle("rotation", "rotation", "rotate"),
    _factor("scale_x", "scale x", "scale", 1.0),
    _factor("scale_y", "scale y", "scale", 1.0),
    _factor("pivot_x", "pivot x", "transform-origin", 0.5),
    _factor("pivot_y", "pivot y", "transform-origin", 0.5),
    _factor("opacity", "opacity", "opacity", 1.0, low=0.0, high=1.0, clamped=True),
    _radius("top_left", "radius top left"),
    _radius("top_right", "radius top right"),
    _radius("bottom_right", "radius bottom right"),
    _radius("bottom_left", "radius bottom left"),
    _colour("fill", "fill", "background-color", "#15293b", (*SHAPES, "text")),
    _colour("stroke", "stroke", "box-shadow", "none", SHAPES),
    _length(
        "stroke_width", "stroke width", "box-shadow", default=1.0, low=0.0, clamped=True, kinds=SHAPES
    ),
    _length("font_size", "font size", "font-size", default=16.0, low=0.0, clamped=True, kinds=("text",)),
    Property("text", "text", "", "discrete", kinds=("text",), varies=False),
    Property("font_weight", "font weight", "", "discrete", 400, 100, 900, kinds=("text",), varies=False),
    Property(
        "text_align", "align", "", "discrete", "centre", kinds=("text",), varies=False,
        choices=("left", "centre", "right"),
    ),
    Property("path", "path", "path", "discrete", kinds=("path",), varies=False),
    # The size in which the path is written; it is stretched from there to width and height.
    Property("view_width", "view width", "px", "discrete", low=1.0, kinds=("path",), varies=False),
    Property("view_height", "view height", "px", "discrete", low=1.0, kinds=("path",), varies=False),
    Property(
        "stroke_cap", "cap", "", "discrete", "round", kinds=("path",), varies=False,
        choices=("butt", "round", "square"),
    ),
    Property(
        "stroke_join", "join", "", "discrete", "round", kinds=("path",), varies=False,
        choices=("miter", "round", "bevel"),
    ),
)  # fmt: skip

BY_NAME: dict[str, Property] = {row.name: row for row in PROPERTIES}
VARYING: tuple[Property, ...] = tuple(row for row in PROPERTIES if row.varies)


@cache
def properties_of(kind: str) -> tuple[Property, ...]:
    """The rows that a layer of this kind has."""
    return tuple(row for row in PROPERTIES if kind in row.kinds)


@cache
def names_of(kind: str) -> frozenset[str]:
    """The names of those rows."""
    return frozenset(row.name for row in properties_of(kind))


def blend_of(row: Property, colour_space: str) -> Blend:
    """How the property is blended; colours in the space that the piece asks for."""
    return BLENDS[colour_space if row.blend == "colour" else row.blend]
