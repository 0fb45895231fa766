"""Placing: pieces inside of a piece, laid flat, so that all that follows knows only layers.

A placement becomes a group of the layers of its original, called `placement/layer`. What the original looks like in the
state in which the placement stands is what those layers look like in the states of the piece around; and where that
takes a placement from one state to another, they have the spans of the original's own transition.

A free placement stands where its original starts; the piece that plays it is in `piece`, in place of an id.
"""

from __future__ import annotations

import json
from collections.abc import Collection, Iterator, Mapping, Sequence
from functools import partial
from typing import Any, NamedTuple

from keen_ripple.core.document import Lane, Piece, State, Transition, walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.document.looks import Look
from keen_ripple.core.document.renaming import renamed_parts
from keen_ripple.core.document.spans import Span, Spans
from keen_ripple.core.document.undercurrents import Undercurrent
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.free import inner_id, led_by_itself, varied
from keen_ripple.core.flow.parameters import with_values
from keen_ripple.core.flow.traits import with_traits
from keen_ripple.core.limits import DEEPEST_GROUPS, MOST_LAYERS, MOST_LOOKS

Library = Mapping[str, Piece]
"""Pieces by their ids, as they are written."""
NO_LIBRARY: Library = {}


class PlacingFault(Fault):
    """Pieces that cannot be put into each other."""


def placed(piece: Piece, library: Library = NO_LIBRARY, only: str | None = None) -> Piece:
    """The piece with all that is placed in it laid flat; the same object where nothing is.

    With `only` that one of its placements, and all that is in it; the others stay.

    Raises PlacingFault for a piece that the library does not have, for pieces that hold each other, and for more layers
    or looks than can be played.
    """
    return _Placer(library).flat(piece if only is not None else with_traits(piece, {}), (), only)


def placements_of(piece: Piece) -> list[tuple[LayerBase, str]]:
    """The placements of a piece that have not been laid flat, in painting order, with their JSON pointers."""
    return [(layer, place) for layer, place in walk(piece.layers) if isinstance(layer.piece, str)]


def flat_layers(piece: Piece) -> list[dict[str, Any]]:
    """What a scene has to know of the layers of a flat piece, whose looks are told by poses; as JSON."""
    return [_drawn(layer) for layer in piece.layers]


def _drawn(layer: LayerBase) -> dict[str, Any]:
    told = {"id": layer.id, "name": layer.name, "kind": layer.kind, "locked": layer.locked, "mask": layer.mask}
    if layer.pinned:
        told["pinned"] = True
    return {**told, "layers": [_drawn(inner) for inner in layer.layers]} if layer.layers else told


def way_of(original: Piece, from_: str, to: str) -> Transition | None:
    """The transition by which a placement is led from one state of its original to another; the first written."""
    return next((own for own in original.transitions if (own.from_, own.to) == (from_, to)), None)


class _Own(NamedTuple):
    """What a placement says itself: values by parameters, and options by traits."""

    values: Mapping[str, Any]
    traits: Mapping[str, str]


class _Standing(NamedTuple):
    """What a placement is in one state of the piece around: its original with its own values, and the state of that."""

    original: Piece
    state: State


class _Copy(NamedTuple):
    placement: LayerBase
    # The original as the base of the placement has it.
    base: Piece
    # By the states of the piece around.
    standing: Mapping[str, _Standing]
    around: Piece

    @property
    def is_free(self) -> bool:
        return bool(self.placement.life == "free")


class _Placer:
    def __init__(self, library: Library) -> None:
        self._library = library
        # Copies with the same values share all of this.
        self._originals: dict[tuple[str, str], Piece] = {}
        self._differences: dict[tuple[int, int, str], Mapping[str, Look]] = {}

    def flat(self, piece: Piece, chain: tuple[str, ...], only: str | None = None) -> Piece:
        placements = [found for found in placements_of(piece) if only in (None, found[0].id)]
        if not placements:
            return piece
        chain = (*chain, piece.id)
        if len(chain) > DEEPEST_GROUPS:
            raise _too_deep(placements[0][1])
        copies = {layer.id: self._copy(piece, layer, place, chain) for layer, place in placements}
        _check_size(piece, copies.values())
        layers = _layers(piece.layers, copies)
        if _depth(layers) > DEEPEST_GROUPS:
            raise _too_deep(placements[0][1])
        return piece.model_copy(
            update={
                "layers": layers,
                "states": tuple(self._state(state, copies.values()) for state in piece.states),
                "transitions": tuple(_transition(own, copies.values()) for own in piece.transitions),
                "undercurrents": (
                    *piece.undercurrents,
                    *(own for copy in copies.values() for own in _undercurrents(copy)),
                ),
            }
        )

    def _copy(self, piece: Piece, placement: LayerBase, place: str, chain: tuple[str, ...]) -> _Copy:
        base = dict(placement.base)
        standing = {}
        for state in piece.states:
            told = {**base, **state.of(placement.id)}
            if placement.life == "free":
                told["state"] = base["state"]
            original = self._original(placement, _merged(base, told), place, chain)
            standing[state.id] = _Standing(original, _state_of(original, told["state"]))
        return _Copy(placement, self._original(placement, _merged(base, base), place, chain), standing, piece)

    def _original(self, placement: LayerBase, own: _Own, place: str, chain: tuple[str, ...]) -> Piece:
        if placement.piece in chain:
            names = [*chain[chain.index(placement.piece) :], placement.piece]
            raise PlacingFault(
                f"These pieces hold each other: {' → '.join(names)}.",
                place=place,
                value=names,
                remedy="Take one of them out of the other.",
            )
        if placement.piece not in self._library:
            raise PlacingFault(
                f"There is no piece {placement.piece!r}, which {placement.name} shows.",
                place=f"{place}/piece",
                value=placement.piece,
                remedy="Put it into the library, or take the placement out.",
            )
        key = (placement.piece, json.dumps(own, sort_keys=True))
        if key not in self._originals:
            original = with_traits(with_values(self._library[placement.piece], own.values), own.traits)
            self._originals[key] = self.flat(original, chain)
        return self._originals[key]

    def _state(self, state: State, copies: Collection[_Copy]) -> State:
        changes = dict(state.changes)
        for copy in copies:
            name = copy.placement.id
            told = {**state.of(name), **_size(copy, state)}
            if told:
                changes[name] = Look.model_construct(**_without_values(told))
            looks = self._looks(copy.base, *copy.standing[state.id])
            for layer, look in (_still(looks, copy) if copy.is_free else looks).items():
                changes[inner_id(name, layer)] = look
        return state.model_copy(update={"changes": changes})

    def _looks(self, base: Piece, original: Piece, state: State) -> Mapping[str, Look]:
        """What the original says in a state, as differences from the base that the placement has."""
        if original is base:
            return state.changes
        key = (id(base), id(original), state.id)
        if key not in self._differences:
            found = {}
            for before, after in zip(_all(base), _all(original), strict=True):
                look = {**after.base, **state.of(after.id)}
                other = {name: value for name, value in look.items() if before.base[name] != value}
                if other:
                    found[after.id] = Look.model_construct(**other)
            self._differences[key] = found
        return self._differences[key]


def _still(looks: Mapping[str, Look], copy: _Copy) -> dict[str, Look]:
    """What a free placement looks like in a state of the piece around: as it starts, but for what it never moves."""
    own = varied(copy.base)
    start = _state_of(copy.base, copy.placement.base["state"])
    found = dict(start.changes)
    for layer, look in looks.items():
        told = {n: getattr(look, n) for n in look.model_fields_set if n not in own.get(layer, ())}
        if told:
            found[layer] = Look.model_construct(**{**start.of(layer), **told})
    return found


def _depth(layers: Sequence[LayerBase]) -> int:
    """How many groups and copies lie in each other."""
    return 1 + max((_depth(layer.layers) for layer in layers), default=0) if layers else 0


def _too_deep(place: str) -> PlacingFault:
    return PlacingFault(
        f"Groups and pieces lie more than {DEEPEST_GROUPS} deep in each other.",
        place=place,
        remedy="Place the innermost ones directly.",
    )


def _all(piece: Piece) -> Iterator[LayerBase]:
    return (layer for layer, _ in walk(piece.layers))


def _merged(base: Mapping[str, Any], told: Mapping[str, Any]) -> _Own:
    """What a placement says of its original's parameters and traits: in its base, and then in a state."""
    values, traits = ({**dict(base[name]), **dict(told[name])} for name in ("values", "traits"))
    return _Own(values, traits)


def _state_of(original: Piece, name: str) -> State:
    """The state named; the start where the original has it no more."""
    by_name = {state.id: state for state in original.states}
    return by_name.get(name) or by_name[original.start]


def _without_values(look: Mapping[str, Any]) -> dict[str, Any]:
    """They have gone into the layers, as traits have: poses need not hold pictures once more."""
    return {name: value for name, value in look.items() if name not in ("values", "traits")}


def _size(copy: _Copy, state: State) -> dict[str, float]:
    """The size in a state where it is not that of the original, for which its layers are written."""
    told = {**copy.placement.base, **state.of(copy.placement.id)}
    own = {"width": copy.base.width, "height": copy.base.height}
    return {name: told[name] for name in own if told[name] != own[name]}


def _layers(layers: Sequence[LayerBase], copies: Mapping[str, _Copy]) -> tuple[LayerBase, ...]:
    return tuple(_layer(layer, copies) for layer in layers)


def _layer(layer: LayerBase, copies: Mapping[str, _Copy]) -> LayerBase:
    if layer.id in copies:
        base = copies[layer.id].base
        # The size that the resize rules of what is inside count from.
        values = {"width": base.width, "height": base.height}
        # It holds its layers itself now.
        flat = layer.model_copy(update={**values, "piece": None, "layers": _called(base.layers, layer)})
        flat.__dict__["base"] = {**_without_values(layer.base), **values}
        if copies[layer.id].is_free:
            start = _state_of(base, layer.base["state"]).id
            flat.__dict__["piece"] = led_by_itself(flat.model_copy(), base, start, copies[layer.id].around)
        return flat
    if not layer.layers:
        return layer
    return layer.model_copy(update={"layers": _layers(layer.layers, copies)})


def _called(layers: Sequence[LayerBase], placement: LayerBase) -> tuple[LayerBase, ...]:
    """The layers of the original by ids and names that tell them from those of other copies."""
    found = []
    for layer in layers:
        # Worked out before it is copied, so that all copies share it.
        _ = layer.base
        inner: dict[str, Any] = {"layers": _called(layer.layers, placement)} if layer.layers else {}
        if isinstance(layer.piece, Piece):
            inner["piece"] = _carried(layer.piece, placement)
        name = f"{placement.name} › {layer.name}"
        found.append(layer.model_copy(update={"id": inner_id(placement.id, layer.id), "name": name, **inner}))
    return tuple(found)


def _carried(leader: Piece, placement: LayerBase) -> Piece:
    """The piece that plays a free placement, which lies in another placement."""
    parts = renamed_parts(leader, partial(inner_id, placement.id))
    return leader.model_copy(update={**parts, "layers": _called(leader.layers, placement)})


def _transition(own: Transition, copies: Collection[_Copy]) -> Transition:
    if own.style != "tween":
        return own
    spans = Spans(own)
    lanes = [lane for copy in copies for lane in _lanes(own, spans, copy)]
    return own.model_copy(update={"lanes": (*own.lanes, *lanes)}) if lanes else own


def _lanes(own: Transition, spans: Spans, copy: _Copy) -> Iterator[Lane]:
    """When each layer of a placement moves: by the original's own way, or by the timing around."""
    name = copy.placement.id
    before, after = copy.standing[own.from_], copy.standing[own.to]
    around = spans.of(name, "state")
    told = any(lane.timing and (lane.layer, lane.property) == (name, "state") for lane in own.lanes)
    way = None if told else way_of(after.original, before.state.id, after.state.id)
    if before.state.id == after.state.id or way is None:
        if around is not spans.own:
            yield from (_lane(inner_id(name, layer.id), None, around, 0) for layer in _all(copy.base))
        return
    inside = Spans(way)
    for layer in _all(copy.base):
        yield _lane(inner_id(name, layer.id), None, inside.of(layer.id, None), around.start_ms)
    for (layer_id, prop), span in inside.special.items():
        if prop is not None:
            yield _lane(inner_id(name, layer_id), prop, span, around.start_ms)


def _lane(layer: str, prop: str | None, span: Span, later_ms: int) -> Lane:
    return Lane.model_construct(
        layer=layer,
        property=prop,
        delay_ms=span.start_ms + later_ms,
        style="tween" if span.easing else "cut",
        timing=span.timing,
    )


def _undercurrents(copy: _Copy) -> Iterator[Undercurrent]:
    name = copy.placement.id
    for own in () if copy.is_free else copy.base.undercurrents:
        courses = tuple(c.model_copy(update={"layer": inner_id(name, c.layer)}) for c in own.courses)
        states = own.states
        if states is not None:
            states = tuple(around for around, standing in copy.standing.items() if standing.state.id in states)
        yield own.model_copy(update={"id": inner_id(name, own.id), "courses": courses, "states": states})


def _check_size(piece: Piece, copies: Collection[_Copy]) -> None:
    count = sum(1 for _ in walk(piece.layers)) + sum(1 for copy in copies for _ in _all(copy.base))
    looks = count * len(piece.states)
    if count > MOST_LAYERS or looks > MOST_LOOKS:
        raise PlacingFault(
            f"With all that is placed in it the piece has {count} layers in {len(piece.states)} states.",
            place="/layers",
            value=count,
            remedy=f"Place fewer: at most {MOST_LAYERS} layers, and {MOST_LOOKS} looks, can be played.",
        )
