"""A document that shares with an earlier one all that they have in common: the same is the same object.

What is worked out of a document is kept by what it depends on, and finds at once what has not changed.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TypeVar

from keen_ripple.core.document.layers import LayerBase, walk
from keen_ripple.core.document.piece import Piece, State
from keen_ripple.core.document.transitions import Transition

Part = TypeVar("Part", State, Transition)


def with_same_parts(piece: Piece, before: Piece | None) -> Piece:
    """The piece, of the layers, states, looks and transitions of `before` where it has equal ones by the same ids."""
    if before is None or piece is before:
        return piece
    if piece == before:
        return before
    layers = {layer.id: layer for layer, _ in walk(before.layers)}
    states = {state.id: state for state in before.states}
    return piece.model_copy(
        update={
            "layers": _layers(piece.layers, before.layers, layers),
            "states": tuple(_state(state, states.get(state.id)) for state in piece.states),
            "transitions": _same(piece.transitions, {own.id: own for own in before.transitions}),
        }
    )


def _same(parts: Sequence[Part], known: Mapping[str, Part]) -> tuple[Part, ...]:
    return tuple(known[part.id] if part == known.get(part.id) else part for part in parts)


def _layers(
    layers: tuple[LayerBase, ...], before: tuple[LayerBase, ...], known: Mapping[str, LayerBase]
) -> tuple[LayerBase, ...]:
    found = tuple(_layer(layer, known) for layer in layers)
    same = len(found) == len(before) and all(one is other for one, other in zip(found, before, strict=True))
    return before if same else found


def _layer(layer: LayerBase, known: Mapping[str, LayerBase]) -> LayerBase:
    old = known.get(layer.id)
    if old is not None and layer == old:
        return old
    if not layer.layers:
        return layer
    return layer.model_copy(update={"layers": _layers(layer.layers, old.layers if old else (), known)})


def _state(state: State, old: State | None) -> State:
    if old is None:
        return state
    before = old.changes
    looks = {layer: before[layer] if look == before.get(layer) else look for layer, look in state.changes.items()}
    same = state.model_copy(update={"changes": looks})
    return old if same == old else same
