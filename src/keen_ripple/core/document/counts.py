"""Whether a piece holds no more, all together, than can be played."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from keen_ripple.core.document.layers import LayerBase, walk
from keen_ripple.core.document.piece import Piece, State
from keen_ripple.core.document.traits import Option
from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import DEEPEST_GROUPS, LONGEST_PATHS, MOST_LAYERS, MOST_LOOKS


def count_faults(piece: Piece) -> Iterator[Fault]:
    """What is too much of: layers, groups in each other, looks, characters of outlines."""
    deep = _too_deep(piece.layers, "/layers", 1)
    if deep is not None:
        yield Fault(
            f"Groups lie more than {DEEPEST_GROUPS} deep in each other.", place=deep, remedy="Ungroup some of them."
        )
        return
    count = sum(1 for _ in walk(piece.layers))
    if count > MOST_LAYERS:
        yield Fault(
            f"The piece has {count} layers.", place="/layers", value=count, remedy=f"Use at most {MOST_LAYERS}."
        )
        return
    looks = count * len(piece.states)
    if looks > MOST_LOOKS:
        yield Fault(
            f"{count} layers in {len(piece.states)} states are {looks} looks.",
            place="/states",
            value=looks,
            remedy=f"Use fewer layers or states: at most {MOST_LOOKS} looks can be played.",
        )
    characters = sum(map(len, _paths(piece)))
    if characters > LONGEST_PATHS:
        yield Fault(
            f"All outlines together have {characters} characters.",
            place="/layers",
            value=characters,
            remedy=f"Simplify them to at most {LONGEST_PATHS}.",
        )


def _too_deep(layers: Sequence[LayerBase], place: str, depth: int) -> str | None:
    """Where the first group lies that is too deep in others."""
    for index, layer in enumerate(layers):
        here = f"{place}/{index}"
        if layer.kind != "group":
            continue
        if depth > DEEPEST_GROUPS:
            return here
        found = _too_deep(layer.layers, f"{here}/layers", depth + 1)
        if found is not None:
            return found
    return None


def _paths(piece: Piece) -> Iterator[str]:
    """Each outline that is written somewhere, once."""
    own = {layer.path for layer, _ in walk(piece.layers) if layer.kind == "path"}
    differing: list[State | Option] = [*piece.states, *(option for trait in piece.traits for option in trait.options)]
    told = {
        changed.path  # type: ignore[attr-defined]
        for one in differing
        for changed in one.changes.values()
        if "path" in changed.model_fields_set
    }
    yield from own | told
