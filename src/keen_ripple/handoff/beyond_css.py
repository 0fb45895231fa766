"""What CSS keyframes cannot say of a piece: such layers are drawn into pictures, and named."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from itertools import chain, pairwise

from keen_ripple.core.document import walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.cross_fades import cross_fades, stands_in_the_way
from keen_ripple.handoff.css_lines import blends_evenly
from keen_ripple.handoff.declaration import Look
from keen_ripple.handoff.forms import changes_form
from keen_ripple.handoff.joined import is_too_much, moved_together
from keen_ripple.handoff.masks import is_out_of_reach
from keen_ripple.handoff.moving_fill import moving_fill
from keen_ripple.handoff.parts import (
    BOXES,
    cuts_by_filter,
    cuts_in_motion,
    is_lined,
    looks_shown,
    moved,
    parts_of,
    twice_moved,
)
from keen_ripple.handoff.svg_paints import still_paints

WHOLE = ""
"""In place of a layer: the piece with all that is in it."""

Found = tuple[str, str]
"""A layer, or the whole piece, and what of it CSS cannot say."""


def beyond_css(timeline: Timeline, own_markup: bool = False) -> Mapping[str, str]:
    """By the layers that have to be drawn, what is the reason; what lies in another of them is not named.

    With `own_markup` in elements that somebody else has arranged, and not for our filters.
    """
    first: dict[str, str] = {}
    turned = _turned_masks(timeline, timeline.piece.layers, WHOLE) if own_markup else ()
    twice = ((layer, f"its {css} moves twice at once") for layer, css in twice_moved(timeline))
    for layer, what in chain(_found(timeline), twice, turned):
        first.setdefault(layer, what)
    drawn = list(outermost(timeline.piece.layers, first))
    if cross_fades(timeline):
        # Pictures show a layer in all looks at once.
        why = [f"{layer.name} has to be drawn: {first[layer.id]}" for layer in drawn[:1]]
        why += ["has one element for each layer" if own_markup else stands_in_the_way(timeline)]
        return {WHOLE: f"it cross-fades, and {why[0]}"} if why[0] else {}
    return {layer.id: first[layer.id] for layer in drawn}


def outermost(layers: Sequence[LayerBase], chosen: Collection[str]) -> Iterator[LayerBase]:
    """Those that are chosen, without what lies in others of them; in painting order."""
    for layer in layers:
        if layer.id in chosen:
            yield layer
        else:
            yield from outermost(layer.layers, chosen)


def _found(timeline: Timeline) -> Iterator[Found]:
    yield from _of_its_own(timeline)
    for voice in timeline.voices:
        for layer, what in _found(voice.timeline):
            yield layer or voice.layer, what


def _of_its_own(timeline: Timeline) -> Iterator[Found]:
    yield from _of_layers(timeline, timeline.piece.layers, WHOLE)
    for layer, _ in walk(timeline.piece.layers):
        yield from ((layer.id, what) for what in (*_forms(timeline, layer), *_paints(timeline, layer)))


def _apart(timeline: Timeline, layer: LayerBase) -> Iterator[str]:
    """CSS properties that more than one motion moves, where these cannot be joined: the one would hide the other."""
    if timeline.courses_of(layer.id):
        found = [declaration for part in parts_of(timeline, layer) for declaration in moved_together(timeline, part)]
        if found and is_too_much(timeline, layer.id):
            yield f"what moves its {found[0].css} goes round together too seldom"


def _paints(timeline: Timeline, layer: LayerBase) -> Iterator[str]:
    """Gradients in motion that CSS has no properties for; of an outline that cuts nobody sees them."""
    if layer.mask is True or not {"fill", "stroke"} & moved(timeline, layer.id):
        return
    looks = looks_shown(timeline, layer.id)
    for name in ("fill", "stroke"):
        paints = {look.get(name, "none") for look in looks}
        is_said = len(paints) == 1 or all(isinstance(paint, str) for paint in paints)
        in_a_box = name == "fill" and layer.kind in BOXES and moving_fill(list(paints), "") is not None
        if not is_said and not in_a_box:
            yield "a gradient of it moves"


def _of_layers(timeline: Timeline, layers: Sequence[LayerBase], around: str) -> Iterator[Found]:
    for layer in layers:
        drawn = around if layer.mask is True else layer.id
        yield from ((drawn, what) for what in _apart(timeline, layer))
        if layer.mask is True and cuts_in_motion(timeline, layers, layer):
            yield drawn, f"what the mask {layer.name} in it cuts moves"
        if timeline.voice_of(layer.id) is None:
            yield from ((drawn, what) for what in _look(timeline, layer))
        yield from _of_layers(timeline, layer.layers, layer.id)


def _look(timeline: Timeline, layer: LayerBase) -> Iterator[str]:
    looks = looks_shown(timeline, layer.id)
    painted = still_paints(layer.kind, looks)
    if layer.mask is True:
        if cuts_by_filter(timeline, layer) and any(is_out_of_reach(timeline.piece, look) for look in looks):
            yield f"the mask {layer.name} in it lies far from its group"
    elif layer.kind == "medium":
        yield "it plays a medium"
    elif any(not isinstance(look.get("stroke", ""), str) for look in looks) and "stroke" not in painted:
        yield "its stroke lies along a gradient"
    elif is_lined(timeline, layer) and not all(blends_evenly(layer.kind, *ends) for ends in _ways(timeline, layer)):
        yield "the corners of its stroke bend as it moves"
    elif layer.kind in ("path", "text") and not all(
        "fill" in painted or isinstance(look["fill"], str) for look in looks
    ):
        yield "a gradient fills it, and it is no box"


def _ways(timeline: Timeline, layer: LayerBase) -> Iterator[tuple[Look, Look]]:
    """Between which looks a layer goes: by transitions, and in the keys of undercurrents."""
    for way in timeline.piece.transitions:
        yield timeline.poses[way.from_][layer.id], timeline.poses[way.to][layer.id]
    yield from pairwise(looks_shown(timeline, layer.id))


def _turned_masks(timeline: Timeline, layers: Sequence[LayerBase], around: str) -> Iterator[Found]:
    for layer in layers:
        if layer.mask is True and cuts_by_filter(timeline, layer):
            yield around, f"the mask {layer.name} in it is no upright rectangle or ellipse"
        yield from _turned_masks(timeline, layer.layers, layer.id)


def _forms(timeline: Timeline, layer: LayerBase) -> Iterator[str]:
    """CSS properties in which something changes its form while something else in them moves."""
    tracks = {track.property.name: track for track in timeline.tracks_of(layer.id)}
    if not any(map(changes_form, tracks.values())):
        return
    names = moved(timeline, layer.id)
    for declaration in (declaration for part in parts_of(timeline, layer) for declaration in part.declarations):
        own = names & set(declaration.shows)
        if len(own) > 1 and any(changes_form(tracks[name]) for name in own & tracks.keys()):
            yield f"its {declaration.css} changes in several ways at once"
