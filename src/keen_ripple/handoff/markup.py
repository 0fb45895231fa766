"""The elements of a piece, in painting order."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from html import escape

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import WHOLE
from keen_ripple.handoff.cross_fades import PLAYING
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


@dataclass(frozen=True)
class _Shown:
    """How the layers of a piece stand there: as they play, or `again` in a look that is left."""

    timeline: Timeline
    names: Mapping[str, str]
    drawn: Drawn
    pose: Pose
    again: bool = False

    def mark(self, layer: LayerBase) -> str:
        return f'class="{self.names[layer.id]}" data-{"left" if self.again else "layer"}="{layer.id}"'


def elements_of(timeline: Timeline, drawn: Drawn, left: Collection[str] = ()) -> Iterator[str]:
    """All elements inside of that of the piece, as lines; once more for each state that cross-fades leave."""
    piece = timeline.piece
    if WHOLE in drawn:
        yield f'<div class="{DRAWN}" data-layer="{piece.id}"></div>'
        return
    playing = _Shown(timeline, class_names(piece.layers), drawn, seen_first(timeline))
    if left:
        looks = {PLAYING: playing} | {state: replace(playing, pose=timeline.poses[state], again=True) for state in left}
        yield '<div data-looks="">'
        for state, shown in looks.items():
            yield f'  <div data-look="{state}">'
            yield from indented(_elements(piece.layers, shown), 4)
            yield "  </div>"
        yield "</div>"
    elif piece.sections:
        yield '<div class="content">'
        yield from (f'  <div data-section="{section.id}"></div>' for section in piece.sections)
        yield from indented(_elements(piece.layers, playing), 2)
        yield "</div>"
    else:
        yield from _elements(piece.layers, playing)


def _elements(layers: Sequence[LayerBase], shown: _Shown) -> Iterator[str]:
    """Siblings in painting order; what stands above a mask is inside an element that it cuts."""
    piece = shown.timeline.piece
    for index, layer in enumerate(layers):
        if cuts_by_filter(shown.timeline, layer):
            above = _elements(layers[index + 1 :], shown)
            yield from masked(piece, layer, _element(layer, shown), above, shown.again)
            return
        pinned = layer.pinned and piece.sections
        yield from ('<div class="pinned">',) if pinned else ()
        yield from _element(layer, shown)
        yield from ("</div>",) if pinned else ()
        if layer.mask:
            yield f'<div data-mask="{layer.id}">'
            yield from indented(_elements(layers[index + 1 :], shown), 2)
            yield "</div>"
            return


def _element(layer: LayerBase, shown: _Shown) -> Iterator[str]:
    timeline, mark, look = shown.timeline, shown.mark(layer), shown.pose[layer.id]
    if layer.id in shown.drawn:
        yield f"<div {mark}></div>"
    elif len(values := changing_values(timeline, layer)) > 1:
        yield f"<div {mark}>"
        yield from (f"  <div>{escape(text) if layer.kind == 'text' else ''}</div>" for text in values)
        yield "</div>"
    elif layer.kind == "text":
        yield f"<div {mark}>{escape(look['text'])}</div>"
    elif layer.kind == "path":
        yield from _path(layer, shown, look)
    elif any(part.name == "line" for part in parts_of(timeline, layer)):
        yield from _lined(layer, shown, look)
    elif layer.layers:
        yield f"<div {mark}>"
        yield from indented(_elements(layer.layers, shown), 2)
        yield "</div>"
    else:
        yield f"<div {mark}></div>"


def _path(layer: LayerBase, shown: _Shown, look: Look) -> Iterator[str]:
    looks = looks_shown(shown.timeline, layer.id)
    view = f"0 0 {css_number(look['view_width'])} {css_number(look['view_height'])}"
    yield f'<svg {shown.mark(layer)} viewBox="{view}" preserveAspectRatio="none">'
    yield from indented(_paints(layer, shown, look), 2)
    stretched = any(at[of] != look[f"view_{of}"] for at in looks for of in ("width", "height"))
    # The outline stretches with its box, its stroke does not.
    fixed = ' vector-effect="non-scaling-stroke"' if stretched else ""
    yield f'  <path{fixed}{_measured(looks)} d="{escape(look["path"])}"/>'
    yield "</svg>"


def _lined(layer: LayerBase, shown: _Shown, look: Look) -> Iterator[str]:
    """A box with a stroke that is drawn along its outline."""
    kind, looks = layer.kind, looks_shown(shown.timeline, layer.id)
    shape = shape_of(kind, looks)
    at = {"path": f' d="{outline_of(kind, look, is_round(kind, looks))}"', "ellipse": ' cx="50%" cy="50%"', "rect": ""}
    yield f"<div {shown.mark(layer)}>"
    yield "  <svg>"
    yield from indented(_paints(layer, shown, look), 4)
    yield f"    <{shape}{_measured(looks)}{at[shape]}/>"
    yield "  </svg>"
    yield "</div>"


def _paints(layer: LayerBase, shown: _Shown, look: Look) -> Iterator[str]:
    """Its gradients, which stand still, and so are there once."""
    for part in [] if shown.again else parts_of(shown.timeline, layer):
        for name, paint in part.paints.items():
            yield from defined(paint, part.paint_name(shown.timeline, name), look)


def _measured(looks: Sequence[Look]) -> str:
    """The length of an outline counts as 1 where a part of it is drawn."""
    return ' pathLength="1"' if any(map(trimmed, looks)) else ""


def indented(lines: Iterable[str], by: int) -> Iterator[str]:
    return (" " * by + line for line in lines)
