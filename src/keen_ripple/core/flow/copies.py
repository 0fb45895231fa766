"""Copies: placements that have been laid flat. Where two of one original stand alike, their layers look and move alike.

So what is worked out for the layers of one is taken over for those of the other. That two stand alike is known by the
identity of what it depends on: of bases and looks, which copies share.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from copy import copy as copy_of
from typing import Any, NamedTuple

from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase


class Copy(NamedTuple):
    """A placement, with all layers in it in painting order; those of one original have the same bases."""

    placement: LayerBase
    layers: tuple[str, ...]
    bases: tuple[int, ...]

    def stands(self, *parts: Mapping[str, Any]) -> tuple[object, ...]:
        """The same for copies that stand alike: of whose layers these parts, such as poses, have the same objects.

        Holds as long as the parts do.
        """
        return (self.bases, *(tuple(map(id, map(part.get, self.layers))) for part in parts))


class Flat:
    """The layers of a flat piece in painting order, and its copies by their ids.

    A copy that lies in another is not named: it belongs to that.
    """

    def __init__(self, piece: Piece) -> None:
        self.piece = piece
        self.layers = tuple(every_layer(piece.layers))
        self.copies = {layer.id: _copy(layer) for layer in placements_in(piece.layers)}
        inner = {layer for copy in self.copies.values() for layer in copy.layers}
        self.by_id = {layer.id: layer for layer in self.layers}
        self.bases = {layer.id: layer.base for layer in self.layers}
        # The layers that lie in no copy.
        self.own = tuple(layer.id for layer in self.layers if layer.id not in inner)
        self._alike: dict[int, tuple[object, Mapping[str, int]]] = {}

    def following(self, piece: Piece, poses: Iterable[Mapping[str, Any]]) -> Flat:
        """The same for another revision with the same layers; these poses may still be met."""
        other = copy_of(self)
        other.piece = piece
        other._alike = {id(pose): self._alike[id(pose)] for pose in poses if id(pose) in self._alike}
        return other

    def alike(self, pose: Mapping[str, Any]) -> Mapping[str, int]:
        """A number for each copy in a pose, the same for those that stand alike."""
        if id(pose) not in self._alike:
            numbers: dict[object, int] = {}
            found = {name: numbers.setdefault(copy.stands(pose), len(numbers)) for name, copy in self.copies.items()}
            # With the pose itself, so that no other can have its identity meanwhile.
            self._alike[id(pose)] = pose, found
        return self._alike[id(pose)][1]


def every_layer(layers: Iterable[LayerBase]) -> Iterator[LayerBase]:
    """As `walk`, without places: they take most of its time, and nobody asks for them here."""
    for layer in layers:
        yield layer
        if layer.layers:
            yield from every_layer(layer.layers)


def placements_in(layers: Iterable[LayerBase]) -> Iterator[LayerBase]:
    """The placements among flat layers; not those in others."""
    for layer in layers:
        if layer.kind == "placement" and layer.layers:
            yield layer
        elif layer.layers:
            yield from placements_in(layer.layers)


def _copy(placement: LayerBase) -> Copy:
    inner = list(every_layer(placement.layers))
    return Copy(placement, tuple([each.id for each in inner]), tuple([id(each.base) for each in inner]))
