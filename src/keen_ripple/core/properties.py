"""The one table of what a layer has: unit, range, default, blend, tolerance and the CSS and SVG that show it.

Models, poses, tapes, the page and the hand-offs loop over it; a new property is a new row.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from keen_ripple.core.blends import Blend, blend_named
from keen_ripple.core.blends.coordinates import ColourCoordinates, Passing
from keen_ripple.core.blends.taken_over import TakenOver
from keen_ripple.core.fonts import FONTS

KINDS = ("group", "rectangle", "ellipse", "path", "text", "picture", "medium", "placement")
SHAPES = ("rectangle", "ellipse", "path")
PICTURES = ("picture", "medium")
GROUPED = ("group", "placement")
"""What holds other layers."""
STILL = ("layout", "placed")
"""Blends of what is told at states and never in motion itself."""
CASTING = (*SHAPES, "text", *PICTURES)


@dataclass(frozen=True)
class Property:
    """One row. `low` and `high` bound what may be written, and also what is shown where `clamped`.

    `blend` is how it is mixed, or one of STILL: `layout` for what only places other layers, `placed` for what a
    placement says of the piece in it. `default` is None where a value must be given. `varies` says whether states may
    differ in it. `tolerance` is how far a tape may be off, in the property's own unit (colours: of 255).
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
    svg: str = ""
    choices: tuple[str, ...] = ()
    # Shown by its CSS property with the number and its unit, or the choice, as it stands.
    plain: bool = False
    # Its group in lists of all that a layer has, its shorter name there, and what one press of an arrow key adds.
    group: str = ""
    short: str = ""
    step: float = 1.0


def _length(name: str, label: str, css: str, svg: str, **rest: Any) -> Property:
    return Property(name, label, "px", "linear", tolerance=0.05, css=css, svg=svg, **rest)


def _angle(name: str, label: str, css: str, svg: str = "transform") -> Property:
    return Property(name, label, "°", "linear", 0.0, tolerance=0.05, css=css, svg=svg)


def _factor(name: str, label: str, css: str, default: float, svg: str = "transform", **rest: Any) -> Property:
    return Property(name, label, "", "linear", default, tolerance=0.002, css=css, svg=svg, step=0.05, **rest)


def _filter(name: str, label: str) -> Property:
    """An amount of the filter functions of CSS, of which 1 changes nothing."""
    return _factor(name, label, "filter", 1.0, "feColorMatrix", low=0.0, clamped=True)


def _radius(name: str, label: str) -> Property:
    rest = {
        "default": 0.0,
        "low": 0.0,
        "clamped": True,
        "kinds": ("rectangle", *PICTURES),
        "short": name.replace("_", " "),
    }
    return _length(f"radius_{name}", label, "border-radius", "rx", **rest)


def _choice(name: str, label: str, choices: tuple[str, ...], kinds: tuple[str, ...], css: str, **rest: Any) -> Property:
    rest = {"default": choices[0], "blend": "discrete", "svg": css, **rest}
    return Property(name, label, "", kinds=kinds, choices=choices, css=css, **rest)


def _layout(name: str, label: str, default: Any, kinds: tuple[str, ...] = ("group",), **rest: Any) -> Property:
    return Property(name, label, "" if rest.get("choices") else "px", "layout", default, kinds=kinds, **rest)


def _under(group: str, *rows: Property) -> tuple[Property, ...]:
    return tuple(replace(row, group=group) for row in rows)


GROUPS: dict[str, bool] = {
    "Content": True,
    "Placement": True,
    "Place": True,
    "Rotation and scale": True,
    "Look": True,
    "Letters": True,
    "Corners": True,
    "Line": False,
    "Shadow and blur": False,
    "Colour filters": False,
    "Skew and 3D": False,
    "Picture": False,
    "Row or column": False,
    "In its group": False,
}
"""Groups of properties in the order in which they are listed, and whether they are open from the start."""

CSS_UNITS = {"°": "deg"}
"""As CSS writes units that the table has for people."""

RULES = ("start", "end", "both", "centre", "scale", "fixed")

PROPERTIES: tuple[Property, ...] = (
    *_under(
        "Place",
        _length("x", "x", "translate", "transform"),
        _length("y", "y", "translate", "transform"),
        _length("width", "width", "width", "width", low=0.0, clamped=True),
        _length("height", "height", "height", "height", low=0.0, clamped=True),
    ),
    *_under(
        "Rotation and scale",
        _angle("rotation", "rotation", "rotate"),
        _factor("scale_x", "scale x", "scale", 1.0),
        _factor("scale_y", "scale y", "scale", 1.0),
    ),
    *_under(
        "Skew and 3D",
        _angle("skew_x", "skew x", "transform"),
        _angle("skew_y", "skew y", "transform"),
        _angle("rotation_x", "rotation about x", "transform", ""),
        _angle("rotation_y", "rotation about y", "transform", ""),
        # 0 is none: what turns about x or y is then only foreshortened.
        Property("perspective", "perspective", "px", "perspective", 0.0, low=0.0, clamped=True, tolerance=0.05,
                 css="transform"),
    ),
    *_under(
        "Rotation and scale",
        _factor("pivot_x", "pivot x", "transform-origin", 0.5),
        _factor("pivot_y", "pivot y", "transform-origin", 0.5),
    ),
    *_under(
        "Look",
        Property("visible", "visible", "", "visible", True, tolerance=0.002, css="opacity", svg="opacity"),
        _factor("opacity", "opacity", "opacity", 1.0, "opacity", low=0.0, high=1.0, clamped=True),
    ),
    *_under(
        "Corners",
        _radius("top_left", "radius top left"),
        _radius("top_right", "radius top right"),
        _radius("bottom_right", "radius bottom right"),
        _radius("bottom_left", "radius bottom left"),
    ),
    *_under(
        "Look",
        Property("fill", "fill", "colour", "paint", "#15293b", kinds=(*SHAPES, "text"), tolerance=1.0, css="background",
                 svg="fill"),
        Property("stroke", "stroke", "colour", "paint", "none", kinds=SHAPES, tolerance=1.0, css="stroke",
                 svg="stroke"),
        _length("stroke_width", "stroke width", "stroke-width", "stroke-width", short="width", default=1.0, low=0.0,
                clamped=True, kinds=SHAPES),
    ),
    *_under(
        "Line",
        _choice("stroke_align", "stroke place", ("inside", "centre", "outside"), ("rectangle", "ellipse"), ""),
        _choice("stroke_cap", "cap", ("butt", "round", "square"), SHAPES, "stroke-linecap", default="round"),
        _choice("stroke_join", "join", ("miter", "round", "bevel"), SHAPES, "stroke-linejoin", default="miter"),
        Property("stroke_dash", "dash", "", "dash", (), tolerance=0.05, kinds=SHAPES, css="stroke-dasharray",
                 svg="stroke-dasharray"),
        _length("stroke_dash_offset", "dash offset", "stroke-dashoffset", "stroke-dashoffset", default=0.0,
                kinds=SHAPES),
        # Trims are shares of the outline's length; what lies between start and end is drawn.
        _factor("trim_start", "trim start", "stroke-dasharray", 0.0, "stroke-dasharray", low=0.0, high=1.0,
                clamped=True,
                kinds=SHAPES),
        _factor("trim_end", "trim end", "stroke-dasharray", 1.0, "stroke-dasharray", low=0.0, high=1.0, clamped=True,
                kinds=SHAPES),
        _factor("trim_offset", "trim offset", "stroke-dashoffset", 0.0, "stroke-dashoffset", kinds=SHAPES),
    ),
    *_under(
        "Shadow and blur",
        Property("shadows", "shadows", "", "shadows", (), tolerance=0.05, kinds=CASTING, css="box-shadow",
                 svg="feDropShadow"),
        _length("blur", "blur", "filter", "feGaussianBlur", default=0.0, low=0.0, clamped=True),
    ),
    *_under(
        "Colour filters",
        _filter("brightness", "brightness"),
        _filter("contrast", "contrast"),
        _filter("saturation", "saturation"),
        _angle("hue", "hue", "filter", "feColorMatrix"),
    ),
    *_under(
        "Content",
        Property("path", "path", "path", "path", tolerance=0.05, kinds=("path",), css="d", svg="d"),
        # The size in which the path is written; it is stretched from there to width and height.
        _choice("fill_rule", "inside", ("nonzero", "evenodd"), ("path",), "fill-rule"),
        Property("view_width", "view width", "px", "discrete", low=1.0, kinds=("path",), varies=False, svg="viewBox"),
        Property("view_height", "view height", "px", "discrete", low=1.0, kinds=("path",), varies=False, svg="viewBox"),
        Property("text", "text", "", "fade", tolerance=0.002, kinds=("text",)),
    ),
    *_under(
        "Letters",
        Property("font_family", "family", "", "discrete", next(iter(FONTS)), kinds=("text",), css="font-family",
                 svg="font-family"),
        _length("font_size", "font size", "font-size", "font-size", short="size", default=16.0, low=0.0,
                clamped=True, plain=True, kinds=("text",)),
        Property("font_weight", "font weight", "", "linear", 400.0, short="weight", step=100.0, low=100.0,
                 high=900.0, clamped=True, tolerance=0.5,
                 kinds=("text",), css="font-weight", svg="font-weight", plain=True),
        Property("font_axes", "axes", "", "axes", (), tolerance=0.002, kinds=("text",), css="font-variation-settings"),
        _factor("line_height", "line height", "line-height", 1.3, "", low=0.0, clamped=True, kinds=("text",),
                plain=True),
        _length("letter_spacing", "letter spacing", "letter-spacing", "letter-spacing", default=0.0, kinds=("text",),
                plain=True),
        _choice("text_align", "align", ("left", "centre", "right"), ("text",), "text-align", default="centre"),
        # As CSS says it: lines as they are written, or broken between words where the box ends.
        _choice("white_space", "lines", ("pre", "pre-wrap"), ("text",), "white-space", plain=True),
    ),
    Property("source", "picture", "", "fade", tolerance=0.002, kinds=PICTURES, css="background-image", svg="href"),
    *_under(
        "Picture",
        _choice("fit", "fit", ("cover", "contain", "fill"), PICTURES, "background-size"),
        _factor("focus_x", "focus x", "background-position", 0.5, "preserveAspectRatio", kinds=PICTURES),
        _factor("focus_y", "focus y", "background-position", 0.5, "preserveAspectRatio", kinds=PICTURES),
        Property("playhead", "playhead", "ms", "linear", 0.0, low=0.0, clamped=True, tolerance=0.5, kinds=("medium",)),
    ),
    *_under(
        "Placement",
        Property("state", "state", "", "placed", kinds=("placement",)),
        Property("traits", "traits", "", "placed", (), kinds=("placement",)),
        Property("values", "values of its own", "", "placed", (), kinds=("placement",)),
    ),
    *_under(
        "Row or column",
        _layout("layout", "layout", "none", choices=("none", "row", "column")),
        _layout("gap", "gap", 0.0, low=0.0),
        _layout("padding_x", "padding x", 0.0, low=0.0),
        _layout("padding_y", "padding y", 0.0, low=0.0),
        _layout("align", "align across", "centre", choices=("start", "centre", "end", "stretch")),
        _layout("justify", "justify", "start", choices=("start", "centre", "end", "between")),
    ),
    *_under(
        "In its group",
        # What a row or column has left is shared out in proportion.
        Property("grow", "grow", "", "layout", 0.0, low=0.0, step=0.05),
        _layout("resize_x", "resize x", "start", KINDS, choices=RULES),
        _layout("resize_y", "resize y", "start", KINDS, choices=RULES),
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


def blend_of(row: Property, colour_space: str, *values: Any) -> Blend:
    """How these values of the property are blended; colours in the space that the piece asks for.

    Some of them may be places in mid-motion.
    """
    plain = row.blend == "paint" and all(map(_is_colour, values))
    blend = blend_named("colour" if plain else row.blend, colour_space)
    return TakenOver(blend) if any(isinstance(value, Passing) for value in values) else blend


def _is_colour(value: Any) -> bool:
    if isinstance(value, Passing):
        return isinstance(value.coordinates, ColourCoordinates)
    return isinstance(value, str)


@cache
def moving_of(kind: str) -> tuple[Property, ...]:
    """The rows of this kind that can be in motion."""
    return tuple(row for row in properties_of(kind) if row.varies and row.blend not in STILL)
