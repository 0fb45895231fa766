"""The elements of a piece, in painting order."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from html import escape

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import WHOLE
from keen_ripple.handoff.css_values import trimmed
from keen_ripple.handoff.flipbook import Flipbook
from keen_ripple.handoff.masks import masked
from keen_ripple.handoff.names import class_names

Drawn = Mapping[str, Flipbook]
"""By the layers that are drawn into pictures, or for the whole piece, those pictures."""


# The class of the one element of a piece that is drawn whole.
DRAWN = "drawn"


def elements_of(timeline: Timeline, drawn: Drawn) -> Iterator[str]:
    """All elements inside of that of the piece, as lines."""
    piece = timeline.piece
    if WHOLE in drawn:
        yield f'<div class="{DRAWN}" data-layer="{piece.id}"></div>'
        return
    elements = _elements(piece.layers, timeline, class_names(piece.layers), drawn)
    if not piece.sections:
        yield from elements
        return
    yield '<div class="content">'
    yield from (f'  <div data-section="{section.id}"></div>' for section in piece.sections)
    yield from indented(elements, 2)
    yield "</div>"


def _elements(layers: Sequence[LayerBase], timeline: Timeline, names: Mapping[str, str], drawn: Drawn) -> Iterator[str]:
    """Siblings in painting order; what stands above a mask is inside an element that it cuts."""
    for index, layer in enumerate(layers):
        if layer.masks_by_content:
            above = _elements(layers[index + 1 :], timeline, names, drawn)
            yield from masked(timeline.piece, layer, _element(layer, timeline, names, drawn), above)
            return
        pinned = layer.pinned and timeline.piece.sections
        yield from ('<div class="pinned">',) if pinned else ()
        yield from _element(layer, timeline, names, drawn)
        yield from ("</div>",) if pinned else ()
        if layer.mask:
            yield f'<div data-mask="{layer.id}">'
            yield from indented(_elements(layers[index + 1 :], timeline, names, drawn), 2)
            yield "</div>"
            return


def _element(layer: LayerBase, timeline: Timeline, names: Mapping[str, str], drawn: Drawn) -> Iterator[str]:
    mark, look = f'class="{names[layer.id]}" data-layer="{layer.id}"', layer.base
    if layer.id in drawn:
        yield f"<div {mark}></div>"
    elif layer.kind == "text":
        yield f"<div {mark}>{escape(look['text'])}</div>"
    elif layer.kind == "path":
        view = f"0 0 {css_number(look['view_width'])} {css_number(look['view_height'])}"
        yield f'<svg {mark} viewBox="{view}" preserveAspectRatio="none">'
        looks = timeline.looks_of(layer.id)
        stretched = any(at[of] != look[f"view_{of}"] for at in looks for of in ("width", "height"))
        # The outline stretches with its box, its stroke does not.
        fixed = ' vector-effect="non-scaling-stroke"' if stretched else ""
        length = ' pathLength="1"' if any(map(trimmed, looks)) else ""
        yield f'  <path{fixed}{length} d="{escape(look["path"])}"/>'
        yield "</svg>"
    elif layer.layers:
        yield f"<div {mark}>"
        yield from indented(_elements(layer.layers, timeline, names, drawn), 2)
        yield "</div>"
    else:
        yield f"<div {mark}></div>"


def indented(lines: Iterable[str], by: int) -> Iterator[str]:
    return (" " * by + line for line in lines)
