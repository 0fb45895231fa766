"""Poses: every state complete, base and differences together, then laid out."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from keen_ripple.core.document import Piece, State, walk
from keen_ripple.core.flow.layout import lay_out

Pose = Mapping[str, Mapping[str, Any]]
"""Layer id → property name → value, for every property that the layer has."""


def poses_of(piece: Piece, earlier: Piece | None = None, known: Mapping[str, Pose] | None = None) -> dict[str, Pose]:
    """The pose at each state, by the state's id; `known` are those of an earlier revision, kept where they still hold.

    A pose that is kept is the same object, so that what depends on it is quickly known to be the same too.
    """
    kept: dict[str, Pose] = {}
    if earlier is not None and known is not None and piece.layers == earlier.layers:
        before = {state.id: state for state in earlier.states}
        kept = {state.id: known[state.id] for state in piece.states if state == before.get(state.id)}
    made = _made(piece, [state for state in piece.states if state.id not in kept])
    if known is not None:
        made = {state: _with_same_looks(pose, known.get(state, {})) for state, pose in made.items()}
    return {state.id: made[state.id] if state.id in made else kept[state.id] for state in piece.states}


def _with_same_looks(pose: Pose, before: Pose) -> Pose:
    """The earlier look of each layer that looks the same: what depends on looks finds that out at once."""
    return {layer: before[layer] if before.get(layer) == look else look for layer, look in pose.items()}


def _made(piece: Piece, states: Sequence[State]) -> dict[str, Pose]:
    bases = {layer.id: layer.base for layer, _ in walk(piece.layers)} if states else {}
    poses: dict[str, Pose] = {}
    for state in states:
        looks = {layer_id: {**base, **state.of(layer_id)} for layer_id, base in bases.items()}
        for layer in piece.layers:
            lay_out(layer, looks, bases)
        poses[state.id] = looks
    return poses
