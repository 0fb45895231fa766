"""How far two looks of one layer differ: in px, in colour, and in what only a picture can tell."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import zip_longest
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.colour import NONE, oklab_of
from keen_ripple.core.properties import BY_NAME, GROUPED, SHAPES, STILL
from keen_ripple.core.values import Gradient, Shadow

Look = Mapping[str, Any]

# What places and bends the outline itself, and is measured there.
OUTLINE = {
    *("x", "y", "width", "height", "rotation", "scale_x", "scale_y", "skew_x", "skew_y", "rotation_x", "rotation_y"),
    *("perspective", "pivot_x", "pivot_y", "path"),
    *("radius_top_left", "radius_top_right", "radius_bottom_right", "radius_bottom_left"),
}
COLOURED = ("fill", "stroke", "shadows", "opacity", "visible")
LENGTHS = ("blur", "font_size", "letter_spacing")
OF_STROKE = ("stroke_width", "stroke_dash", "stroke_dash_offset", "stroke_align", "stroke_cap", "stroke_join")
TRIMS = ("trim_start", "trim_end", "trim_offset")


def is_plain(kind: str, look: Look) -> bool:
    """Whether nothing but its outline can be seen of it, so that a turned circle is the same circle."""
    simple = isinstance(look.get("fill"), str) and not look["shadows"] if kind in SHAPES else kind in GROUPED
    if kind in GROUPED or not simple:
        return bool(simple)
    return look["stroke"] == NONE or (isinstance(look["stroke"], str) and not look["stroke_dash"])


def length_jump(before: Look, after: Look, outline_px: float) -> float:
    """The greatest difference of a length besides the outline: stroke, blur, letters, dashes, trims, shadows; px."""
    jumps = [abs(after[name] - before[name]) for name in LENGTHS if name in before]
    if "shadows" in before:
        jumps += [_shadow_px(*pair) for pair in zip_longest(before["shadows"], after["shadows"])]
    if has_stroke(before) or has_stroke(after):
        jumps.append(abs(after["stroke_width"] - before["stroke_width"]))
        jumps += [abs(after[name] - before[name]) * outline_px for name in TRIMS]
        jumps += [abs(a - b) for a, b in zip_longest(before["stroke_dash"], after["stroke_dash"], fillvalue=0.0)]
        if before["stroke_dash"]:
            jumps.append(abs(after["stroke_dash_offset"] - before["stroke_dash_offset"]))
    return float(max(jumps, default=0.0))


def has_stroke(look: Look) -> bool:
    """Whether a stroke can be seen: a layer that has one, not all transparent."""
    return any(oklab_of(colour)[3] > 0.0 for colour in _colours(look.get("stroke")))


def shade_jump(before: Look, after: Look, seen: tuple[float, float]) -> float:
    """The greatest distance in OKLab of fill, stroke and shadows, premultiplied, alpha counted as a fourth axis.

    `seen` is by how much the layer shows, before and after: its opacity with that of the groups around it.
    """
    pairs = [(before.get(name), after.get(name)) for name in ("fill", "stroke")]
    pairs += [(_colour(a), _colour(b)) for a, b in zip_longest(before.get("shadows", ()), after.get("shadows", ()))]
    jumps = [abs(seen[0] - seen[1]) if _shows(before) or _shows(after) else 0.0]
    for old, new in pairs:
        colours = list(zip_longest(_colours(old), _colours(new)))
        if len({a is None or b is None for a, b in colours}) > 1 or any(a is None or b is None for a, b in colours):
            continue
        jumps += [float(np.linalg.norm(_premultiplied(a, seen[0]) - _premultiplied(b, seen[1]))) for a, b in colours]
    return max(jumps)


def differs_otherwise(before: Look, after: Look) -> bool:
    """Whether there is something more that only a picture can tell: another text, another gradient, another join."""
    measured = {*OUTLINE, *LENGTHS, *TRIMS, "opacity", "visible", "stroke_width", "stroke_dash", "stroke_dash_offset"}
    measured |= {name for name in ("fill", "stroke") if _are_colours(before.get(name), after.get(name))}
    names = [name for name in before if before[name] != after[name]]
    return any(name not in measured and BY_NAME[name].blend not in STILL for name in names)


def _are_colours(before: Any, after: Any) -> bool:
    """Whether both are plain colours, whose difference is a distance."""
    return isinstance(before, str) and isinstance(after, str)


def _shows(look: Look) -> bool:
    """Whether there is anything of its own to be seen; of groups, texts and pictures it is taken for granted."""
    paints = [*_colours(look.get("fill")), *_colours(look.get("stroke"))] if "stroke" in look else []
    return not paints or any(oklab_of(colour)[3] > 0.0 for colour in paints) or bool(look["shadows"])


def _colour(shadow: Shadow | None) -> str:
    return shadow.colour if shadow else NONE


def _colours(paint: str | Gradient | None) -> list[str]:
    if paint is None:
        return []
    return [paint] if isinstance(paint, str) else [stop.colour for stop in paint.stops]


def _shadow_px(a: Shadow | None, b: Shadow | None) -> float:
    """What jumps of a shadow that is there on both sides; one that comes or goes is a jump of colour."""
    if a is None or b is None or NONE in (a.colour, b.colour):
        return 0.0
    return float(max(abs(getattr(a, name) - getattr(b, name)) for name in ("x", "y", "blur", "spread")))


def _premultiplied(text: str, share: float) -> Floats:
    lightness, a, b, alpha = oklab_of(text)
    return np.array([lightness, a, b, 1.0]) * alpha * share
