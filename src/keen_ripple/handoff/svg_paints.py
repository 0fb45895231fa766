"""Gradients that lie in an outline or along a stroke, as SVG has them (SVG 2, section 14)."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from keen_ripple.core.colour import colour_text, parse_colour
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.values import ConicGradient, Gradient, LinearGradient, RadialGradient
from keen_ripple.handoff.css_paints import premultiplied
from keen_ripple.handoff.declaration import Look

# What a gradient is laid over: the view of an outline, the box of all else.
OVER_VIEW, OVER_BOX = ("view_width", "view_height"), ("width", "height")
# A gradient without any extent is one colour, which SVG does not show.
LEAST = 1e-6


def still_paints(kind: str, looks: Sequence[Look]) -> Mapping[str, Gradient]:
    """By the name of the property the gradients of a layer that SVG can show: those that always are the same, and over
    what never changes its size."""
    over = OVER_VIEW if kind == "path" else OVER_BOX
    if kind not in ("path", "rectangle", "ellipse") or len({tuple(look[side] for side in over) for look in looks}) > 1:
        return {}
    found = {}
    for name in ("fill", "stroke") if kind == "path" else ("stroke",):
        [paint, *others] = {look[name] for look in looks}
        if not others and not isinstance(paint, str) and _is_in_svg(paint):
            found[name] = paint
    return found


def _is_in_svg(paint: Gradient) -> bool:
    is_flat = isinstance(paint, RadialGradient) and paint.radius * paint.stretch < LEAST
    return not isinstance(paint, ConicGradient) and not is_flat


def defined(paint: Gradient, name: str, look: Look) -> Iterator[str]:
    """The element of a gradient with that id, over the view or the box of such a look."""
    width, height = (look[side] for side in (OVER_VIEW if "view_width" in look else OVER_BOX))
    kind = f"{paint.kind}Gradient"
    yield f'<{kind} id="{name}" gradientUnits="userSpaceOnUse" {_placed(paint, width, height)}>'
    for stop in premultiplied(paint.stops):
        at, colour = css_number(stop.at, 5), colour_text(parse_colour(stop.colour))
        yield f'  <stop offset="{at}" stop-color="{colour}"/>'
    yield f"</{kind}>"


def _placed(paint: Gradient, width: float, height: float) -> str:
    if isinstance(paint, LinearGradient):
        ends = dict(zip(("x1", "y1", "x2", "y2"), (at for end in paint.line(width, height) for at in end), strict=True))
        return _attributes(ends)
    assert isinstance(paint, RadialGradient)
    focus = dict(zip(("fx", "fy"), paint.focus, strict=True))
    across = [number * side for number, side in zip(paint.matrix, (width, height) * 3, strict=True)]
    matrix = " ".join(css_number(number, 5) for number in across)
    return f'{_attributes({"cx": 0.0, "cy": 0.0, "r": 1.0, **focus})} gradientTransform="matrix({matrix})"'


def _attributes(numbers: Mapping[str, float]) -> str:
    return " ".join(f'{name}="{css_number(number, 4)}"' for name, number in numbers.items())
