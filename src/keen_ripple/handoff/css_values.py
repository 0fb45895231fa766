"""Which CSS properties show a layer, and their values as text."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any
from urllib.parse import quote

from keen_ripple.core.blends.paints import with_places
from keen_ripple.core.colour import colour_text, oklab_of, parse_colour
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.measures.geometry import RADII
from keen_ripple.core.properties import CSS_UNITS, Property, properties_of
from keen_ripple.core.values import ConicGradient, Gradient, LinearGradient, RadialGradient, Shadow, Stop
from keen_ripple.handoff.css_text import css_string

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


def _px(css: str, name: str = "") -> Declaration:
    return Declaration(css, (name or css,), lambda look, _: px(look[name or css]))


def _translate(look: Look, _: str) -> str:
    return f"{px(look['x'])} {px(look['y'])}"


def _scale(look: Look, _: str) -> str:
    x, y = css_number(look["scale_x"]), css_number(look["scale_y"])
    return x if x == y else f"{x} {y}"


def _origin(look: Look, _: str) -> str:
    return f"{css_number(look['pivot_x'] * 100, 4)}% {css_number(look['pivot_y'] * 100, 4)}%"


def _radii(look: Look, _: str) -> str:
    corners = [px(look[name]) for name in RADII]
    return corners[0] if len(set(corners)) == 1 else " ".join(corners)


def _box_shadow(look: Look, space: str) -> str:
    """Shadows, under a stroke inside the outline: unlike a border, this one takes no room and may have any width."""
    stroke = [f"inset 0 0 0 {px(look['stroke_width'])} {colour(look['stroke'], space)}"] if "stroke" in look else []
    return ", ".join([*stroke, *(_shadow(shadow, space) for shadow in look["shadows"])]) or "none"


def _shadow(shadow: Shadow, space: str) -> str:
    lengths = " ".join(px(value) for value in (shadow.x, shadow.y, shadow.blur, shadow.spread))
    return f"{'inset ' * shadow.inset}{lengths} {colour(shadow.colour, space)}"


COLOUR_FILTERS = ("brightness", "contrast", "saturation", "hue")


def _filters(look: Look, drops: Sequence[str] = ()) -> str:
    """Colour filters come last: functions that a list lacks at its end are blended from no effect."""
    found = [f"blur({css_number(look['blur'], 3)}px)", *drops]
    brightness, contrast, saturation, hue = (look[name] for name in COLOUR_FILTERS)
    if hue or (brightness, contrast, saturation) != (1.0, 1.0, 1.0):
        amounts = (("brightness", brightness), ("contrast", contrast), ("saturate", saturation))
        found += [f"{name}({css_number(amount, 4)})" for name, amount in amounts]
        found.append(f"hue-rotate({_deg(hue)})")
    return " ".join(found)


def _filters_and_shadows(look: Look, space: str) -> str:
    """Where the outline is no box. A drop shadow's blur is a standard deviation, a box shadow's twice that."""
    drops = [f"drop-shadow({px(s.x)} {px(s.y)} {px(s.blur / 2.0)} {colour(s.colour, space)})" for s in look["shadows"]]
    return _filters(look, drops)


# What once has perspective is written with it always, marked by this: only functions of the same kind are blended.
IN_SPACE = "in space"


def _transform(look: Look, _: str) -> str:
    eye = (
        f"perspective({px(look['perspective'])}) " if look["perspective"] else "perspective(none) " * (IN_SPACE in look)
    )
    turns = f"rotateX({_deg(look['rotation_x'])}) rotateY({_deg(look['rotation_y'])})"
    return f"{eye}{turns} skewX({_deg(look['skew_x'])}) skewY({_deg(look['skew_y'])})"


def _deg(value: float) -> str:
    return f"{css_number(value, 4)}deg"


def paint_image(paint: Gradient) -> str:
    """A gradient as a CSS image."""
    stops = ", ".join(f"{colour(stop.colour, RESTING)} {_percent(stop.at)}" for stop in paint.stops)
    if isinstance(paint, LinearGradient):
        return f"linear-gradient({_deg(paint.angle)}, {stops})"
    centre = f"at {_percent(paint.centre_x)} {_percent(paint.centre_y)}"
    if isinstance(paint, ConicGradient):
        return f"conic-gradient(from {_deg(paint.angle)} {centre}, {stops})"
    if paint.is_upright:
        radii = f"{_percent(paint.radius * paint.stretch)} {_percent(paint.radius)}"
        return f"radial-gradient({radii} {centre}, {stops})"
    return _picture_of(paint)


def _picture_of(gradient: RadialGradient) -> str:
    """What CSS has no gradient for, as an SVG picture that is as large as the box."""
    places = " ".join(css_number(number, 5) for number in gradient.matrix)
    focus = zip(("fx", "fy"), gradient.focus, strict=True)
    attributes = " ".join(f"{name}='{css_number(at, 5)}'" for name, at in focus)
    stops = "".join(
        f"<stop offset='{css_number(stop.at, 5)}' stop-color='{colour_text(parse_colour(stop.colour))}'/>"
        for stop in premultiplied(gradient.stops)
    )
    svg = (
        "<svg xmlns='http://www.w3.org/2000/svg'>"
        f"<radialGradient id='g' cx='0' cy='0' r='1' {attributes} gradientTransform='matrix({places})'>{stops}"
        "</radialGradient><rect width='100%' height='100%' fill='url(#g)'/></svg>"
    )
    return f'url("data:image/svg+xml,{quote(svg, safe=SAFE)}")'


# What stands in a URL, and in a string of CSS, as it is.
SAFE = " ='/:().,-"
BETWEEN = 8


def premultiplied(stops: tuple[Stop, ...]) -> list[Stop]:
    """SVG blends what is partly transparent otherwise than CSS: stops in between keep to CSS's way.

    What is wholly transparent has the colour of what it is blended with, on either side.
    """
    found: list[Stop] = []
    for before, after in pairwise(stops):
        pair: tuple[Stop, ...] = (before, after)
        start, end = (parse_colour(stop.colour) for stop in pair)
        if not start[3] or not end[3]:
            shown = end if not start[3] else start
            pair = (_in(before, shown, start[3]), _in(after, shown, end[3]))
        elif start[3] != end[3] and start[:3] != end[:3] and before.at < after.at:
            places = [before.at + (after.at - before.at) * i / BETWEEN for i in range(BETWEEN + 1)]
            pair = tuple(with_places(pair, Counter(places)))
        found += [stop for stop in pair if stop not in found[-1:]]
    return found


def _in(stop: Stop, colour: Sequence[float], alpha: float) -> Stop:
    return Stop(at=stop.at, colour=colour_text((*colour[:3], alpha)))


def _percent(share: float) -> str:
    return f"{css_number(share * 100.0, 4)}%"


def _fill(css: str) -> Declaration:
    def text(look: Look, space: str) -> str:
        return colour(look["fill"], space) if isinstance(look["fill"], str) else paint_image(look["fill"])

    return Declaration(css, ("fill",), text, calm=True)


# A dash that begins again exactly at the end of the outline would put its cap there.
ROUND = 1.0001


def _visibility(look: Look, _: str) -> str:
    """An outline of which nothing is drawn shows no caps either. On the way from hidden to visible CSS shows it."""
    nothing = trimmed(look) and look["trim_end"] <= look["trim_start"] and look["fill"] == "none"
    return "hidden" if nothing else "visible"


def _dash(look: Look, _: str) -> str:
    if trimmed(look):
        drawn = max(look["trim_end"] - look["trim_start"], 0.0)
        return f"{css_number(drawn)} {css_number(ROUND - drawn)}"
    return " ".join(css_number(length, 3) for length in look["stroke_dash"]) or "none"


def _dash_offset(look: Look, _: str) -> str:
    return css_number(-look["trim_start"] - look["trim_offset"] if trimmed(look) else look["stroke_dash_offset"])


TRIM = ("trim_start", "trim_end", "trim_offset")


def trimmed(look: Look) -> bool:
    """Whether the outline's length counts as 1. What is trimmed once is written so always, marked by `TRIMMED`."""
    return TRIMMED in look or look["trim_start"] > 0.0 or look["trim_end"] < 1.0 or look["trim_offset"] != 0.0


TRIMMED = "trimmed"


def _plain(row: Property) -> Declaration:
    def text(look: Look, _: str) -> str:
        value = look[row.name]
        if isinstance(value, str):
            return value
        return px(value) if row.unit == "px" else f"{css_number(value, 4)}{CSS_UNITS.get(row.unit, row.unit)}"

    return Declaration(row.css, (row.name,), text)


def _axes(look: Look, _: str) -> str:
    places = (f"{css_string(place.axis)} {css_number(place.value, 4)}" for place in look["font_axes"])
    return ", ".join(places) or "normal"


BOX = (
    Declaration("translate", ("x", "y"), _translate),
    _px("width"),
    _px("height"),
    Declaration("transform-origin", ("pivot_x", "pivot_y"), _origin),
    Declaration("rotate", ("rotation",), lambda look, _: _deg(look["rotation"])),
    Declaration("scale", ("scale_x", "scale_y"), _scale),
    Declaration("transform", ("rotation_x", "rotation_y", "perspective", "skew_x", "skew_y"), _transform),
    Declaration(
        "opacity", ("opacity", "visible"), lambda look, _: css_number(look["opacity"] * look["visible"], 4), calm=True
    ),
)
FILTERS = Declaration("filter", ("blur", *COLOUR_FILTERS), lambda look, _: _filters(look))
FILTERS_AND_SHADOWS = Declaration("filter", ("blur", "shadows", *COLOUR_FILTERS), _filters_and_shadows)
CORNERS = Declaration("border-radius", RADII, _radii)
SHAPE = (_fill("background"), Declaration("box-shadow", ("stroke", "stroke_width", "shadows"), _box_shadow), FILTERS)

WRITTEN: dict[str, tuple[Declaration, ...]] = {
    "group": (*BOX, FILTERS),
    "placement": (*BOX, FILTERS),
    "rectangle": (*BOX, CORNERS, *SHAPE),
    "ellipse": (*BOX, *SHAPE),
    "path": (
        *BOX,
        FILTERS_AND_SHADOWS,
        _fill("fill"),
        Declaration("d", ("path",), lambda look, _: f"path({css_string(look['path'])})"),
        Declaration("fill-rule", ("fill_rule",), lambda look, _: str(look["fill_rule"])),
        Declaration("stroke", ("stroke",), lambda look, space: colour(look["stroke"], space), calm=True),
        Declaration("stroke-width", ("stroke_width",), lambda look, _: px(look["stroke_width"])),
        Declaration("stroke-linecap", ("stroke_cap",), lambda look, _: str(look["stroke_cap"])),
        Declaration("stroke-linejoin", ("stroke_join",), lambda look, _: str(look["stroke_join"])),
        Declaration("stroke-dasharray", ("stroke_dash", "trim_start", "trim_end"), _dash),
        Declaration("visibility", ("trim_start", "trim_end"), _visibility),
        Declaration("stroke-dashoffset", ("stroke_dash_offset", "trim_start", "trim_offset"), _dash_offset),
    ),
    "text": (
        *BOX,
        FILTERS_AND_SHADOWS,
        _fill("color"),
        Declaration("font-family", ("font_family",), lambda look, _: f"{css_string(look['font_family'])}, sans-serif"),
        Declaration("font-variation-settings", ("font_axes",), _axes),
        Declaration(
            "text-align",
            ("text_align",),
            lambda look, _: "center" if look["text_align"] == "centre" else look["text_align"],
        ),
    ),
    "picture": (
        *BOX,
        CORNERS,
        Declaration("box-shadow", ("shadows",), _box_shadow),
        FILTERS,
        Declaration("background-image", ("source",), lambda look, _: f"url({css_string(look['source'])})"),
        Declaration("background-size", ("fit",), lambda look, _: "100% 100%" if look["fit"] == "fill" else look["fit"]),
        Declaration(
            "background-position",
            ("focus_x", "focus_y"),
            lambda look, _: f"{_percent(look['focus_x'])} {_percent(look['focus_y'])}",
        ),
    ),
}

DECLARATIONS: dict[str, tuple[Declaration, ...]] = {
    kind: (*written, *(_plain(row) for row in properties_of(kind) if row.plain)) for kind, written in WRITTEN.items()
}


def _cut_out(look: Look, _: str) -> str:
    """The outline of a mask, in the px of its group."""
    if "radius_top_left" in look:
        place = " ".join(f"{css_number(look[name], 3)}px" for name in ("x", "y", "width", "height"))
        return f"xywh({place} round {_radii(look, RESTING)})"
    rx, ry = look["width"] / 2.0, look["height"] / 2.0
    return f"ellipse({px(rx)} {px(ry)} at {px(look['x'] + rx)} {px(look['y'] + ry)})"


MASK = (Declaration("clip-path", ("x", "y", "width", "height", *RADII), _cut_out),)

# What is not blended is written in the way that is easiest to read.
RESTING = "srgb"
# Left out of a rule while they have these values, which are CSS's own.
INITIAL = {
    "transform-origin": "50% 50%",
    "rotate": "0deg",
    "scale": "1",
    "transform": "rotateX(0deg) rotateY(0deg) skewX(0deg) skewY(0deg)",
    "opacity": "1",
    "border-radius": "0",
    "background": "transparent",
    "box-shadow": "none",
    "filter": "blur(0px)",
    "fill-rule": "nonzero",
    "stroke-linecap": "butt",
    "visibility": "visible",
    "stroke-linejoin": "miter",
    "stroke-dasharray": "none",
    "stroke-dashoffset": "0",
    "font-weight": "400",
    "font-variation-settings": "normal",
    "letter-spacing": "0",
    "background-position": "0% 0%",
}


def rest_rule(kind: str, look: Look) -> dict[str, str]:
    """The CSS of a layer at rest, without what is CSS's own default or cannot be seen."""
    # Outlines stand in the elements themselves.
    rule = {d.css: d.text(look, RESTING) for d in DECLARATIONS[kind] if d.css != "d"}
    if "box-shadow" in rule and look.get("stroke") == "none":
        rule["box-shadow"] = ", ".join(_shadow(shadow, RESTING) for shadow in look["shadows"]) or "none"
    return {css: text for css, text in rule.items() if INITIAL.get(css) != text}
