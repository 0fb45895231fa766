"""The layers of originals as they are called in a flat piece: `placement/layer`."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from operator import is_
from typing import Any

from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.document.renaming import renamed_parts
from keen_ripple.core.flow.copies import Flat, every_layer
from keen_ripple.core.flow.free import inner_id


class Called:
    """Layers by ids and names that tell them from those of other copies; those of `before`, an earlier revision, are
    kept where they come from the same ones.
    """

    def __init__(self, before: Flat | None) -> None:
        self._earlier = before.by_id if before else {}
        self._copies = before.copies if before else {}
        self._bases: dict[int, tuple[int, ...]] = {}

    def of(self, layers: Sequence[LayerBase], placement: LayerBase) -> tuple[LayerBase, ...]:
        """The layers of an original as those of a placement."""
        old = self._copies.get(placement.id)
        if old is not None and old.placement.name == placement.name and old.bases == self._bases_of(layers):
            return tuple(old.placement.layers)
        return tuple(self._one(layer, placement) for layer in layers)

    def _bases_of(self, layers: Sequence[LayerBase]) -> tuple[int, ...]:
        """By which it is known what comes from these: a layer has its base, the same object, from its original."""
        if id(layers) not in self._bases:
            self._bases[id(layers)] = tuple(id(layer.base) for layer in every_layer(layers))
        return self._bases[id(layers)]

    def _one(self, layer: LayerBase, placement: LayerBase) -> LayerBase:
        # The base is worked out before the layer is copied, so that all copies have the same object.
        base, own, name = layer.base, inner_id(placement.id, layer.id), f"{placement.name} › {layer.name}"
        inner = tuple([self._one(each, placement) for each in layer.layers])
        old = self._earlier.get(own)
        if old is not None and old.base is base and old.name == name and _are_same(old.layers, inner):
            return old
        told: dict[str, Any] = {"id": own, "name": name, "layers": inner}
        if isinstance(layer.piece, Piece):
            told["piece"] = self._carried(layer.piece, placement)
        return layer.model_copy(update=told)

    def _carried(self, leader: Piece, placement: LayerBase) -> Piece:
        """The piece that plays a free placement, which lies in another placement."""
        parts = renamed_parts(leader, partial(inner_id, placement.id))
        return leader.model_copy(
            update={**parts, "layers": tuple(self._one(layer, placement) for layer in leader.layers)}
        )


def _are_same(some: Sequence[object], others: Sequence[object]) -> bool:
    return len(some) == len(others) and all(map(is_, some, others))
