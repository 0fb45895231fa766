"""Poses: every state complete, base and differences together, then laid out."""

from __future__ import annotations

from collections.abc import Mapping, MutableMapping, Sequence
from operator import is_
from typing import Any

from keen_ripple.core.document import Piece, State
from keen_ripple.core.flow.copies import Copy, Flat
from keen_ripple.core.flow.layout import AXES, lay_out

Pose = Mapping[str, Mapping[str, Any]]
"""Layer id → property name → value, for every property that the layer has."""
Look = MutableMapping[str, Any]


def poses_of(
    piece: Piece,
    earlier: Piece | None = None,
    known: Mapping[str, Pose] | None = None,
    flat: Flat | None = None,
) -> dict[str, Pose]:
    """The pose at each state, by the state's id; `known` are those of an earlier revision, kept where they still hold.

    A pose that is kept is the same object, so that what depends on it is quickly known to be the same too.
    """
    kept: dict[str, Pose] = {}
    if earlier is not None and known is not None and piece.layers == earlier.layers:
        before = {state.id: state for state in earlier.states}
        kept = {state.id: known[state.id] for state in piece.states if state == before.get(state.id)}
    poser = _Poser(piece, flat or Flat(piece)) if len(kept) < len(piece.states) else None
    return {
        state.id: kept[state.id]
        if poser is None or state.id in kept
        else poser.pose(state, (known or {}).get(state.id, {}))
        for state in piece.states
    }


class _Poser:
    """What copies of one original look like where they stand alike is worked out once."""

    def __init__(self, piece: Piece, flat: Flat) -> None:
        self._layers = piece.layers
        self._bases = flat.bases
        self._flat = flat
        self._known: dict[object, Sequence[Look]] = {}
        # With the looks themselves, so that no others can have their identity meanwhile.
        self._same: dict[object, tuple[Sequence[Look], Sequence[Mapping[str, Any]]]] = {}

    def pose(self, state: State, before: Pose) -> Pose:
        """That of the state, with each look of the pose `before` that is still the same; that itself where all are."""
        own = self._raw(self._flat.own, state)
        for outermost in self._layers:
            lay_out(outermost, own, self._bases, self._flat.copies)
        pose: dict[str, Mapping[str, Any]] = {}
        for layer, look in zip(own, _same_looks(list(own.values()), list(own), before), strict=True):
            pose[layer] = look
            copy = self._flat.copies.get(layer)
            if copy is not None:
                pose.update(zip(copy.layers, self._inside(copy, state, own[layer], before), strict=True))
        is_same = (
            len(pose) == len(before) and all(map(is_, pose.values(), before.values())) and list(pose) == list(before)
        )
        return before if is_same else pose

    def _raw(self, layers: Sequence[str], state: State) -> dict[str, Look]:
        return {layer: {**self._bases[layer], **state.of(layer)} for layer in layers}

    def _inside(self, copy: Copy, state: State, around: Look, before: Pose) -> Sequence[Mapping[str, Any]]:
        size = tuple(around[size] for _, size, _, _ in AXES.values())
        key = (*copy.stands(state.changes), size)
        looks = self._known.get(key)
        if looks is None:
            raw = self._raw(copy.layers, state)
            group = copy.placement
            lay_out(group, {**raw, group.id: around}, self._bases)
            looks = list(raw.values())
            children = (raw[child.id] for child in group.layers)
            # What stays in its place around the copy minds where the copy is.
            if not any(child[rule] == "fixed" for child in children for *_, rule in AXES.values()):
                self._known[key] = looks
        same = (id(looks), copy.stands(before))
        if same not in self._same:
            self._same[same] = looks, _same_looks(looks, copy.layers, before)
        return self._same[same][1]


def _same_looks(looks: Sequence[Look], layers: Sequence[str], before: Pose) -> list[Mapping[str, Any]]:
    """The earlier look of each layer that looks the same: what depends on looks finds that out at once."""
    return [before[layer] if before.get(layer) == look else look for layer, look in zip(layers, looks, strict=True)]
