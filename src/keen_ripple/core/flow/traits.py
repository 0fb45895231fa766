"""A piece with an option of each of its traits: its base with what the options say, below the states."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase


def with_traits(piece: Piece, chosen: Mapping[str, str]) -> Piece:
    """The piece with these options, by the ids of its traits; of the others those that it shows.

    Where two traits speak of the same property, the later one has the last word. What the piece has no option for is
    left out: a copy stays playable, whatever becomes of its original. The same object where it has no traits.
    """
    if not piece.traits:
        return piece
    told: dict[str, dict[str, Any]] = {}
    for trait in piece.traits:
        for layer, look in trait.option(chosen.get(trait.id)).changes.items():
            told.setdefault(layer, {}).update({name: getattr(look, name) for name in look.model_fields_set})
    return piece.model_copy(update={"layers": _with(piece.layers, told), "traits": ()})


def _with(layers: tuple[LayerBase, ...], told: Mapping[str, Mapping[str, Any]]) -> tuple[LayerBase, ...]:
    """The layers with other values; those of which nothing is said are the same objects."""
    found = []
    for layer in layers:
        inner = _with(layer.layers, told) if layer.layers else layer.layers
        same = layer.id not in told and all(a is b for a, b in zip(inner, layer.layers, strict=True))
        found.append(layer if same else layer.with_values({**told.get(layer.id, {}), "layers": inner}))
    return tuple(found)
