"""Which CSS properties show a layer, and their values as text."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from keen_ripple.core.colour import colour_text, oklab_of, parse_colour
from keen_ripple.core.curves.numbers import css_number

Look = Mapping[str, Any]


@dataclass(frozen=True)
class Declaration:
    """One CSS property, the rows of the property table that it shows, and how its value is written.

    `calm` ones may go on where motion is unwanted: they change how things look, not where they are.
    """

    css: str
    shows: tuple[str, ...]
    text: Callable[[Look, str], str]
    calm: bool = False


def px(value: float) -> str:
    return css_number(value, 3) + ("px" if value else "")


def colour(text: str, space: str) -> str:
    """Colours as CSS blends them in that space: oklab() in OKLab; hexadecimal ones, the legacy syntax, in sRGB."""
    if space == "srgb":
        return "transparent" if text == "none" else colour_text(parse_colour(text))
    lightness, a, b, alpha = oklab_of(text)
    plain = " ".join(css_number(c, 5) for c in (lightness, a, b))
    return f"oklab({plain})" if alpha == 1.0 else f"oklab({plain} / {css_number(alpha, 4)})"


def _px(name: str) -> Declaration:
    return Declaration(name, (name,), lambda look, _: px(look[name]))


def _translate(look: Look, _: str) -> str:
    return f"{px(look['x'])} {px(look['y'])}"


def _scale(look: Look, _: str) -> str:
    x, y = css_number(look["scale_x"]), css_number(look["scale_y"])
    return x if x == y else f"{x} {y}"


def _origin(look: Look, _: str) -> str:
    return f"{css_number(look['pivot_x'] * 100, 4)}% {css_number(look['pivot_y'] * 100, 4)}%"


RADII = ("radius_top_left", "radius_top_right", "radius_bottom_right", "radius_bottom_left")


def _radii(look: Look, _: str) -> str:
    corners = [px(look[name]) for name in RADII]
    return corners[0] if len(set(corners)) == 1 else " ".join(corners)


def _inner_stroke(look: Look, space: str) -> str:
    """A stroke inside the outline: unlike a border, this shadow takes no room and may have any width."""
    return f"inset 0 0 0 {px(look['stroke_width'])} {colour(look['stroke'], space)}"


def _fill(css: str) -> Declaration:
    return Declaration(css, ("fill",), lambda look, space: colour(look["fill"], space), calm=True)


BOX = (
    Declaration("translate", ("x", "y"), _translate),
    _px("width"),
    _px("height"),
    Declaration("transform-origin", ("pivot_x", "pivot_y"), _origin),
    Declaration("rotate", ("rotation",), lambda look, _: f"{css_number(look['rotation'], 4)}deg"),
    Declaration("scale", ("scale_x", "scale_y"), _scale),
    Declaration("opacity", ("opacity",), lambda look, _: css_number(look["opacity"], 4), calm=True),
)
SHAPE = (_fill("background-color"), Declaration("box-shadow", ("stroke", "stroke_width"), _inner_stroke))

DECLARATIONS: dict[str, tuple[Declaration, ...]] = {
    "group": BOX,
    "rectangle": (*BOX, Declaration("border-radius", RADII, _radii), *SHAPE),
    "ellipse": (*BOX, *SHAPE),
    "path": (
        *BOX,
        _fill("fill"),
        Declaration("stroke", ("stroke",), lambda look, space: colour(look["stroke"], space), calm=True),
        Declaration("stroke-width", ("stroke_width",), lambda look, _: px(look["stroke_width"])),
    ),
    "text": (
        *BOX,
        _fill("color"),
        Declaration("font-size", ("font_size",), lambda look, _: px(look["font_size"])),
    ),
}

# What is not blended is written in the way that is easiest to read.
RESTING = "srgb"
# Left out of a rule while they have these values, which are CSS's own.
INITIAL = {"transform-origin": "50% 50%", "rotate": "0deg", "scale": "1", "opacity": "1", "border-radius": "0"}


def rest_rule(kind: str, look: Look) -> dict[str, str]:
    """The CSS of a layer at rest, without what is CSS's own default or cannot be seen."""
    rule = {d.css: d.text(look, RESTING) for d in DECLARATIONS[kind]}
    for css, name in (("background-color", "fill"), ("box-shadow", "stroke")):
        if css in rule and look[name] == "none":
            del rule[css]
    return {css: text for css, text in rule.items() if INITIAL.get(css) != text}
