"""The elements of a piece, in painting order."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from html import escape

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import WHOLE
from keen_ripple.handoff.css_lines import is_round, outline_of, shape_of, trimmed
from keen_ripple.handoff.declaration import Look
from keen_ripple.handoff.flipbook import Flipbook
from keen_ripple.handoff.masks import masked
from keen_ripple.handoff.names import class_names
from keen_ripple.handoff.parts import changing_values, cuts_by_filter, looks_shown, parts_of, seen_first
from keen_ripple.handoff.svg_paints import defined

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
        if cuts_by_filter(timeline, layer):
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
    mark, look = f'class="{names[layer.id]}" data-layer="{layer.id}"', seen_first(timeline)[layer.id]
    if layer.id in drawn:
        yield f"<div {mark}></div>"
    elif len(values := changing_values(timeline, layer)) > 1:
        yield f"<div {mark}>"
        yield from (f"  <div>{escape(text) if layer.kind == 'text' else ''}</div>" for text in values)
        yield "</div>"
    elif layer.kind == "text":
        yield f"<div {mark}>{escape(look['text'])}</div>"
    elif layer.kind == "path":
        yield from _path(timeline, layer, mark, look)
    elif any(part.name == "line" for part in parts_of(timeline, layer)):
        yield from _lined(timeline, layer, mark, look)
    elif layer.layers:
        yield f"<div {mark}>"
        yield from indented(_elements(layer.layers, timeline, names, drawn), 2)
        yield "</div>"
    else:
        yield f"<div {mark}></div>"


def _path(timeline: Timeline, layer: LayerBase, mark: str, look: Look) -> Iterator[str]:
    looks = looks_shown(timeline, layer.id)
    view = f"0 0 {css_number(look['view_width'])} {css_number(look['view_height'])}"
    yield f'<svg {mark} viewBox="{view}" preserveAspectRatio="none">'
    yield from indented(_paints(timeline, layer, look), 2)
    stretched = any(at[of] != look[f"view_{of}"] for at in looks for of in ("width", "height"))
    # The outline stretches with its box, its stroke does not.
    fixed = ' vector-effect="non-scaling-stroke"' if stretched else ""
    yield f'  <path{fixed}{_measured(looks)} d="{escape(look["path"])}"/>'
    yield "</svg>"


def _lined(timeline: Timeline, layer: LayerBase, mark: str, look: Look) -> Iterator[str]:
    """A box with a stroke that is drawn along its outline."""
    kind, looks = layer.kind, looks_shown(timeline, layer.id)
    shape = shape_of(kind, looks)
    at = {"path": f' d="{outline_of(kind, look, is_round(kind, looks))}"', "ellipse": ' cx="50%" cy="50%"', "rect": ""}
    yield f"<div {mark}>"
    yield "  <svg>"
    yield from indented(_paints(timeline, layer, look), 4)
    yield f"    <{shape}{_measured(looks)}{at[shape]}/>"
    yield "  </svg>"
    yield "</div>"


def _paints(timeline: Timeline, layer: LayerBase, look: Look) -> Iterator[str]:
    for part in parts_of(timeline, layer):
        for name, paint in part.paints.items():
            yield from defined(paint, part.paint_name(timeline, name), look)


def _measured(looks: Sequence[Look]) -> str:
    """The length of an outline counts as 1 where a part of it is drawn."""
    return ' pathLength="1"' if any(map(trimmed, looks)) else ""


def indented(lines: Iterable[str], by: int) -> Iterator[str]:
    return (" " * by + line for line in lines)
