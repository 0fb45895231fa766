"""Masks by what a layer shows: no mask of CSS shows elements that move. So what cuts stands far above what is cut, in
one element with it, whose SVG filter lays the one over the other (Filter Effects Level 1, feOffset, feComposite)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.handoff.css_text import px
from keen_ripple.handoff.declaration import Look
from keen_ripple.handoff.names import css_name
from keen_ripple.handoff.parts import COVERING

# How many stages around a group are seen in it, at most; as in the page.
AROUND = 1.0
# Brightness counts by as much as it is opaque.
BRIGHTNESS = (
    '<feColorMatrix type="luminanceToAlpha"/>',
    '<feComposite in2="mask" operator="in" result="mask"/>',
)


def rules_of_masks(piece: Piece, masks: Iterable[LayerBase]) -> Iterator[tuple[str, dict[str, str]]]:
    """Selectors, each with its declarations."""
    left, top, width, height = _seen(piece)
    corners = ((left, top), (left + width, top), (left + width, top + height), (left, top + height))
    names = []
    for mask in masks:
        names.append(mask.id)
        yield f'[data-mask="{mask.id}"]', {**COVERING, "filter": f"url(#{_name(piece, mask)})"}
    if names:
        edge = ", ".join(f"{px(x)} {px(y)}" for x, y in corners)
        yield "[data-seen], [data-cuts]", {**COVERING, "clip-path": f"polygon({edge})"}
        yield "[data-cuts]", {"transform": f"translateY({px(-_far(piece))})"}


def masked(piece: Piece, mask: LayerBase, cuts: Iterable[str], seen: Iterable[str], again: bool) -> Iterator[str]:
    """The element of what a mask cuts, with the elements of the mask in it; with its filter, unless that is `again`."""
    yield f'<div data-mask="{mask.id}">'
    yield from () if again else (f"  {line}" for line in _filter(piece, mask))
    for name, elements in (("data-seen", seen), ("data-cuts", cuts)):
        yield f'  <div {name}="">'
        yield from (f"    {line}" for line in elements)
        yield "  </div>"
    yield "</div>"


def _filter(piece: Piece, mask: LayerBase) -> Iterator[str]:
    left, top, width, height = _seen(piece)
    far = _far(piece)
    whole = _box(left, top - far, width, height + far)
    yield '<svg width="0" height="0">'
    yield f'  <filter id="{_name(piece, mask)}" filterUnits="userSpaceOnUse" {whole}'
    yield '    color-interpolation-filters="sRGB">'
    yield f'    <feOffset dy="{css_number(far)}" result="mask"/>'
    yield from (f"    {line}" for line in (BRIGHTNESS if mask.mask == "brightness" else ()))
    yield '    <feComposite in="SourceGraphic" in2="mask" operator="in"'
    yield f"      {_box(left, top, width, height)}/>"
    yield "  </filter>"
    yield "</svg>"


def is_out_of_reach(piece: Piece, look: Look) -> bool:
    """Whether an outline may cut beyond what of its group is seen, however it is turned."""
    left, top, width, height = _seen(piece)
    x, y = (look["x"] + look["pivot_x"] * look["width"], look["y"] + look["pivot_y"] * look["height"])
    sides = [
        max(look[f"pivot_{a}"], 1.0 - look[f"pivot_{a}"]) * look[side] for a, side in (("x", "width"), ("y", "height"))
    ]
    far = math.hypot(*sides) * max(abs(look["scale_x"]), abs(look["scale_y"]))
    return bool(min(x - left, y - top, left + width - x, top + height - y) < far)


def _box(*numbers: float) -> str:
    named = zip(("x", "y", "width", "height"), numbers, strict=True)
    return " ".join(f'{name}="{css_number(number)}"' for name, number in named)


def _name(piece: Piece, mask: LayerBase) -> str:
    return f"{css_name(piece.id, mask.id)}_mask"


def _seen(piece: Piece) -> tuple[float, float, float, float]:
    """Left, top, width, height in px of any group: what of it can be seen."""
    height = _height(piece)
    return (-AROUND * piece.width, -AROUND * height, (2.0 * AROUND + 1.0) * piece.width, (2.0 * AROUND + 1.0) * height)


def _far(piece: Piece) -> float:
    """How far above what is seen that stands which cuts it, in px."""
    return (2.0 * AROUND + 2.0) * _height(piece)


def _height(piece: Piece) -> float:
    return sum(section.height for section in piece.sections) or piece.height
