"""Poses: every state complete, base and differences together, then laid out."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from keen_ripple.core.document import Piece, walk
from keen_ripple.core.layout import lay_out

Pose = Mapping[str, Mapping[str, Any]]
"""Layer id → property name → value, for every property that the layer has."""


def poses_of(piece: Piece) -> dict[str, Pose]:
    """The pose at each state, by the state's id."""
    bases = {layer.id: layer.base() for layer, _ in walk(piece.layers)}
    poses: dict[str, Pose] = {}
    for state in piece.states:
        looks = {layer_id: {**base, **state.of(layer_id)} for layer_id, base in bases.items()}
        for layer in piece.layers:
            lay_out(layer, looks, bases)
        poses[state.id] = looks
    return poses
