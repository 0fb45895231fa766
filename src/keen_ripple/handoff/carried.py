"""Layers that are drawn into pictures as they are upright, and carried by the format as they lie in their group."""

from __future__ import annotations

from dataclasses import replace
from itertools import chain

from keen_ripple.core.document import walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css
from keen_ripple.handoff.css_text import px
from keen_ripple.handoff.css_values import BOX
from keen_ripple.handoff.declaration import Declaration, Look
from keen_ripple.handoff.flipbook import Flipbook, flipbook_of
from keen_ripple.handoff.joined import is_too_much, moved_together
from keen_ripple.handoff.parts import Part, twice_moved
from keen_ripple.handoff.progress import along
from keen_ripple.render.draw import Area

# What is written of a carried layer otherwise than of others: its box is that of its pictures.
OF_PICTURES = {"translate", "width", "height", "transform-origin"}
PIVOT = (("pivot_x", "width"), ("pivot_y", "height"))
ELSEWHERE = tuple(declaration for declaration in BOX if declaration.css not in OF_PICTURES)


def flipbooks_of(timeline: Timeline, own_markup: bool = False) -> dict[str, Flipbook]:
    """Of each layer that CSS cannot show, or of the whole piece; see `beyond_css`."""
    layers = {layer.id: layer for layer, _ in walk(timeline.piece.layers)}

    def book(name: str) -> Flipbook:
        return flipbook_of(timeline, name, upright=name != WHOLE and is_carried(timeline, layers[name]))

    return {name: book(name) for name in along(list(beyond_css(timeline, own_markup)))}


def is_carried(timeline: Timeline, layer: LayerBase) -> bool:
    """Whether CSS can say how it lies: not of what cuts, nor where several motions of that cannot be joined."""
    part = Part(layer, declarations=BOX)
    placing = {declaration.css for declaration in BOX}
    is_alone = not any(own == layer.id and css in placing for own, css in twice_moved(timeline))
    return is_alone and not layer.mask and not (moved_together(timeline, part) and is_too_much(timeline, layer.id))


def drawn_part(layer: LayerBase, book: Flipbook, timeline: Timeline) -> Part:
    """The element that shows its pictures."""
    own = Part(layer, fixed=book.look(), declarations=_carrying(book.area) if book.upright else ())
    return replace(own, pages=tuple(book.animations(f"{own.css_name(timeline)}_drawn")))


def _carrying(area: Area) -> tuple[Declaration, ...]:
    left, top, *_ = area

    def translate(look: Look, _: str) -> str:
        return f"{px(look['x'] + left)} {px(look['y'] + top)}"

    def origin(look: Look, _: str) -> str:
        return f"{px(look['pivot_x'] * look['width'] - left)} {px(look['pivot_y'] * look['height'] - top)}"

    return (
        Declaration("translate", ("x", "y"), translate),
        Declaration("transform-origin", tuple(chain(*PIVOT)), origin, products=PIVOT, near=0.1),
        *ELSEWHERE,
    )
