"""Which CSS properties show a layer, and their values as text."""

from __future__ import annotations

from collections.abc import Sequence

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.measures.geometry import RADII
from keen_ripple.core.properties import CSS_UNITS, Property, properties_of
from keen_ripple.core.values import Shadow
from keen_ripple.handoff.css_lines import LINE, nothing_drawn, visibility
from keen_ripple.handoff.css_paints import RESTING, colour, paint_image
from keen_ripple.handoff.css_text import css_string, deg, percent, px
from keen_ripple.handoff.declaration import Declaration, Look


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
    stroke = [f"inset 0 0 0 {px(look['stroke_width'])} {colour(look['stroke'], space)}"]
    return ", ".join([*stroke, *(_shadow(shadow, space) for shadow in look["shadows"])]) or "none"


def _cast(look: Look, space: str) -> str:
    return ", ".join(_shadow(shadow, space) for shadow in look["shadows"]) or "none"


def resting_shadows(look: Look) -> str:
    return _cast(look, RESTING)


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
        found.append(f"hue-rotate({deg(hue)})")
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
    turns = f"rotateX({deg(look['rotation_x'])}) rotateY({deg(look['rotation_y'])})"
    return f"{eye}{turns} skewX({deg(look['skew_x'])}) skewY({deg(look['skew_y'])})"


def _fill(css: str) -> Declaration:
    def text(look: Look, space: str) -> str:
        return colour(look["fill"], space) if isinstance(look["fill"], str) else paint_image(look["fill"])

    return Declaration(css, ("fill",), text, calm=True)


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
    Declaration("rotate", ("rotation",), lambda look, _: deg(look["rotation"])),
    Declaration("scale", ("scale_x", "scale_y"), _scale),
    Declaration("transform", ("rotation_x", "rotation_y", "perspective", "skew_x", "skew_y"), _transform),
    Declaration(
        "opacity",
        ("opacity", "visible"),
        lambda look, _: css_number(look["opacity"] * look["visible"], 4),
        calm=True,
        products=(("opacity", "visible"),),
        near=0.002,
    ),
)
FILTERS = Declaration("filter", ("blur", *COLOUR_FILTERS), lambda look, _: _filters(look))
FILTERS_AND_SHADOWS = Declaration("filter", ("blur", "shadows", *COLOUR_FILTERS), _filters_and_shadows)
CAST = Declaration("box-shadow", ("shadows",), _cast)
OUTLINE = Declaration("d", ("path",), lambda look, _: f"path({css_string(look['path'])})")
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
        Declaration("fill-rule", ("fill_rule",), lambda look, _: str(look["fill_rule"])),
        *LINE,
        Declaration(
            "visibility",
            ("trim_start", "trim_end"),
            lambda look, _: visibility(look["fill"] == "none" and nothing_drawn(look)),
        ),
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
        CAST,
        FILTERS,
        Declaration("background-image", ("source",), lambda look, _: f"url({css_string(look['source'])})"),
        Declaration("background-size", ("fit",), lambda look, _: "100% 100%" if look["fit"] == "fill" else look["fit"]),
        Declaration(
            "background-position",
            ("focus_x", "focus_y"),
            lambda look, _: f"{percent(look['focus_x'])} {percent(look['focus_y'])}",
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
