"""Placing: pieces inside of a piece, laid flat, so that all that follows knows only layers.

A placement becomes a group of the layers of its original, called `placement/layer`. What the original looks like in the
state in which the placement stands is what those layers look like in the states of the piece around; and where that
takes a placement from one state to another, they have the spans of the original's own transition.

A free placement stands where its original starts; the piece that plays it is in `piece`, in place of an id.
"""

from __future__ import annotations

import json
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from itertools import count
from types import MappingProxyType
from typing import Any, NamedTuple

from keen_ripple.core.document import Piece, State, Transition, walk
from keen_ripple.core.document.layers import MODELS, LayerBase
from keen_ripple.core.document.looks import Look
from keen_ripple.core.document.piece import FontFamily
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.document.undercurrents import Undercurrent
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.called import Called
from keen_ripple.core.flow.copies import Flat, every_layer
from keen_ripple.core.flow.free import inner_id, led_by_itself, varied
from keen_ripple.core.flow.parameters import with_values
from keen_ripple.core.flow.traits import with_traits
from keen_ripple.core.flow.ways import Ways
from keen_ripple.core.limits import DEEPEST_GROUPS, MOST_LAYERS, MOST_LOOKS

Library = Mapping[str, Piece]
"""Pieces by their ids, as they are written."""
NO_LIBRARY: Library = {}


class PlacingFault(Fault):
    """Pieces that cannot be put into each other."""


def placed(piece: Piece, library: Library = NO_LIBRARY, only: str | None = None, before: Flat | None = None) -> Piece:
    """The piece with all that is placed in it laid flat; the same object where nothing is.

    With `only` that one of its placements, and all that is in it; the others stay. `before` is what was laid flat of an
    earlier revision, whose layers are taken over where they come from the same ones.

    Raises PlacingFault for a piece that the library does not have, for pieces that hold each other, and for more layers
    or looks than can be played.
    """
    return _Placer(library, before).flat(piece if only is not None else with_traits(piece, {}), (), only)


def placements_of(piece: Piece) -> list[tuple[LayerBase, str]]:
    """The placements of a piece that have not been laid flat, in painting order, with their JSON pointers."""
    return [(layer, place) for layer, place in walk(piece.layers) if isinstance(layer.piece, str)]


def flat_layers(piece: Piece) -> list[dict[str, Any]]:
    """What a scene has to know of the layers of a flat piece, whose looks are told by poses; as JSON."""
    return [_drawn(layer) for layer in piece.layers]


def _with_edge(piece: Piece) -> Piece:
    """A piece that clips, with a mask below all others in its stead: in another piece it is a group, which does not."""
    if not piece.clips:
        return piece
    taken = {layer.id for layer in every_layer(piece.layers)}
    name = next(name for name in _edge_names() if name not in taken)
    box = {"x": 0, "y": 0, "width": piece.width, "height": piece.height, "resize_x": "both", "resize_y": "both"}
    edge = MODELS["rectangle"].model_validate({"kind": "rectangle", "id": name, "name": "Edge", "mask": True, **box})
    return piece.model_copy(update={"layers": (edge, *piece.layers)})


def _fonts(piece: Piece, originals: Iterable[Piece]) -> dict[str, tuple[FontFamily, ...]]:
    """The families of all that stands in it, if any. Of two of one name, that of the piece around is shown."""
    found = {own.family: own for original in originals for own in original.fonts}
    return {"fonts": tuple({**found, **{own.family: own for own in piece.fonts}}.values())} if found else {}


def _edge_names() -> Iterator[str]:
    return (f"edge-{number}" if number > 1 else "edge" for number in count(1))


def _drawn(layer: LayerBase) -> dict[str, Any]:
    told = {"id": layer.id, "name": layer.name, "kind": layer.kind, "locked": layer.locked, "mask": layer.mask}
    if layer.pinned:
        told["pinned"] = True
    return {**told, "layers": [_drawn(inner) for inner in layer.layers]} if layer.layers else told


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
    # How the layers of the original are called in it.
    names: Mapping[str, str]
    # The original as the base of the placement has it.
    base: Piece
    # Its size where it is not that of the original, for which its layers are written.
    size: Mapping[str, float]
    # By the states of the piece around.
    standing: Mapping[str, _Standing]
    around: Piece

    @property
    def is_free(self) -> bool:
        return bool(self.placement.life == "free")


class _Placer:
    def __init__(self, library: Library, before: Flat | None) -> None:
        self._library = library
        self._called = Called(before)
        self._ways = Ways(before.piece if before else None)
        # Copies with the same values share all of this.
        self._originals: dict[tuple[str, str], Piece] = {}
        self._layer_ids: dict[int, list[str]] = {}
        self._standing: dict[tuple[int, tuple[tuple[str, str], ...]], Mapping[str, _Standing]] = {}
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
        bases = {id(copy.base): copy.base for copy in copies.values()}
        depths = {base: _depth(original.layers) for base, original in bases.items()}
        if _depth(piece.layers, {name: depths[id(copy.base)] for name, copy in copies.items()}) > DEEPEST_GROUPS:
            raise _too_deep(placements[0][1])
        return piece.model_copy(
            update={
                **_fonts(piece, bases.values()),
                "layers": self._layers(piece.layers, copies),
                "states": tuple(self._state(state, copies.values()) for state in piece.states),
                "transitions": tuple(self._transition(own, copies.values()) for own in piece.transitions),
                "undercurrents": (
                    *piece.undercurrents,
                    *(own for copy in copies.values() for own in _undercurrents(copy)),
                ),
            }
        )

    def _copy(self, piece: Piece, placement: LayerBase, place: str, chain: tuple[str, ...]) -> _Copy:
        own = placement.base
        base = self._original(placement, _own(own, {}), place, chain)
        looks = [state.changes.get(placement.id, NO_LOOK) for state in piece.states]
        leads = placement.life == "led"
        stands = tuple([(leads and look.__dict__["state"]) or own["state"] for look in looks])
        if all(IN_LAYERS.isdisjoint(look.model_fields_set) for look in looks):
            # Shared by all copies that have the same states.
            key = id(base), tuple(zip([state.id for state in piece.states], stands, strict=True))
            if key not in self._standing:
                self._standing[key] = _standing(piece, stands, [base] * len(looks))
            standing = self._standing[key]
        else:
            told = (state.of(placement.id) for state in piece.states)
            originals = [self._original(placement, _own(own, look), place, chain) for look in told]
            standing = _standing(piece, stands, originals)
        if id(base) not in self._layer_ids:
            self._layer_ids[id(base)] = [layer.id for layer in every_layer(base.layers)]
        names = {layer: inner_id(placement.id, layer) for layer in self._layer_ids[id(base)]}
        return _Copy(placement, names, base, _other_size(own, base), standing, piece)

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
        key = (placement.piece, json.dumps(own, sort_keys=True) if own.values or own.traits else "")
        if key not in self._originals:
            original = with_traits(with_values(self._library[placement.piece], own.values), own.traits)
            self._originals[key] = self.flat(_with_edge(original), chain)
        return self._originals[key]

    def _state(self, state: State, copies: Collection[_Copy]) -> State:
        changes = dict(state.changes)
        for copy in copies:
            name = copy.placement.id
            look = changes.get(name)
            if copy.size or (look is not None and not IN_LAYERS.isdisjoint(look.model_fields_set)):
                own = state.of(name)
                changes[name] = Look.model_construct(**_without_values({**copy.size, **own}))
            looks = self._looks(copy.base, *copy.standing[state.id])
            if copy.is_free:
                looks = _still(looks, copy)
            changes.update(zip(map(copy.names.__getitem__, looks), looks.values(), strict=True))
        return state.model_copy(update={"changes": changes})

    def _looks(self, base: Piece, original: Piece, state: State) -> Mapping[str, Look]:
        """What the original says in a state, as differences from the base that the placement has."""
        if original is base:
            return state.changes
        key = (id(base), id(original), state.id)
        if key not in self._differences:
            found = {}
            for before, after in zip(every_layer(base.layers), every_layer(original.layers), strict=True):
                look = {**after.base, **state.of(after.id)}
                other = {name: value for name, value in look.items() if before.base[name] != value}
                if other:
                    found[after.id] = Look.model_construct(**other)
            self._differences[key] = found
        return self._differences[key]

    def _transition(self, own: Transition, copies: Collection[_Copy]) -> Transition:
        if own.style != "tween":
            return own
        starts, lanes = Spans(own), []
        timed = {lane.layer for lane in own.lanes if lane.timing and lane.property == "state"}
        for copy in copies:
            name = copy.placement.id
            before, after = copy.standing[own.from_], copy.standing[own.to]
            if name in timed or before.state.id == after.state.id:
                continue
            way = self._ways.of(copy.base, after.original, before.state.id, after.state.id)
            if way is not None:
                lanes.append(self._ways.lane(own, name, starts.of(name, "state").start_ms, way))
        return own.model_copy(update={"lanes": (*own.lanes, *lanes)}) if lanes else own

    def _layers(self, layers: Sequence[LayerBase], copies: Mapping[str, _Copy]) -> tuple[LayerBase, ...]:
        return tuple(self._layer(layer, copies) for layer in layers)

    def _layer(self, layer: LayerBase, copies: Mapping[str, _Copy]) -> LayerBase:
        copy = copies.get(layer.id)
        if copy is None:
            return layer.model_copy(update={"layers": self._layers(layer.layers, copies)}) if layer.layers else layer
        base = copy.base
        # The size that the resize rules of what is inside count from.
        values = {"width": base.width, "height": base.height}
        # It holds its layers itself now.
        flat = layer.model_copy(update={**values, "piece": None, "layers": self._called.of(base.layers, layer)})
        flat.__dict__["base"] = {**_without_values(layer.base), **values}
        if copy.is_free:
            start = _state_of(base, layer.base["state"]).id
            flat.__dict__["piece"] = led_by_itself(flat.model_copy(), base, start, copy.around)
        return flat


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


def _depth(layers: Sequence[LayerBase], inside: Mapping[str, int] = MappingProxyType({})) -> int:
    """How many groups and copies lie in each other; `inside` has those of the copies among these layers."""
    depths = (inside.get(layer.id) or _depth(layer.layers, inside) for layer in layers)
    return 1 + max(depths, default=0) if layers else 0


def _too_deep(place: str) -> PlacingFault:
    return PlacingFault(
        f"Groups and pieces lie more than {DEEPEST_GROUPS} deep in each other.",
        place=place,
        remedy="Place the innermost ones directly.",
    )


def _own(base: Mapping[str, Any], look: Mapping[str, Any]) -> _Own:
    """What a placement says of its original's parameters and traits: in its base, and then in a look."""
    values, traits = ({**dict(base[name]), **dict(look.get(name, ()))} for name in ("values", "traits"))
    return _Own(values, traits)


def _standing(piece: Piece, names: Iterable[str], originals: Iterable[Piece]) -> Mapping[str, _Standing]:
    found = zip(piece.states, names, originals, strict=True)
    return {state.id: _Standing(original, _state_of(original, name)) for state, name, original in found}


def _state_of(original: Piece, name: str) -> State:
    """The state named; the start where the original has it no more."""
    found = next((state for state in original.states if state.id == name), None)
    return found or next(state for state in original.states if state.id == original.start)


NO_LOOK = Look()
# They have gone into the layers: poses need not hold pictures once more.
IN_LAYERS = frozenset(("values", "traits"))


def _without_values(look: Mapping[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in look.items() if name not in IN_LAYERS}


def _other_size(told: Mapping[str, Any], original: Piece) -> dict[str, float]:
    own = {"width": original.width, "height": original.height}
    return {name: told[name] for name in own if told[name] != own[name]}


def _undercurrents(copy: _Copy) -> Iterator[Undercurrent]:
    name = copy.placement.id
    for own in () if copy.is_free else copy.base.undercurrents:
        courses = tuple(c.model_copy(update={"layer": inner_id(name, c.layer)}) for c in own.courses)
        states = own.states
        if states is not None:
            states = tuple(around for around, standing in copy.standing.items() if standing.state.id in states)
        yield own.model_copy(update={"id": inner_id(name, own.id), "courses": courses, "states": states})


def _check_size(piece: Piece, copies: Collection[_Copy]) -> None:
    count = sum(1 for _ in every_layer(piece.layers)) + sum(len(copy.names) for copy in copies)
    looks = count * len(piece.states)
    if count > MOST_LAYERS or looks > MOST_LOOKS:
        raise PlacingFault(
            f"With all that is placed in it the piece has {count} layers in {len(piece.states)} states.",
            place="/layers",
            value=count,
            remedy=f"Place fewer: at most {MOST_LAYERS} layers, and {MOST_LOOKS} looks, can be played.",
        )
