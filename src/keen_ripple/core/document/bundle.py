"""Bundles: a piece with all that stands in it, in one document.

A bundle is the document of the piece with one field more, `library`: the documents of the others by their ids. So every
reader of pieces takes one, and a piece in which nothing stands is its own bundle.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from keen_ripple.core.document.piece import Piece
from keen_ripple.core.document.read import read_piece
from keen_ripple.core.errors import DocumentFault

LIBRARY = "library"


def bundled(document: Mapping[str, Any], library: Mapping[str, Mapping[str, Any]]) -> dict[str, Any]:
    """The document with those that stand in it."""
    return {**document, LIBRARY: dict(library)} if library else dict(document)


def unbundled(document: Any) -> tuple[Any, dict[str, Any]]:
    """A document, and those that came with it, by their ids; nothing is read of them yet. Raises DocumentFault."""
    if not isinstance(document, Mapping) or LIBRARY not in document:
        return document, {}
    library = document[LIBRARY]
    if not isinstance(library, Mapping):
        raise DocumentFault("The library is no object.", place=f"/{LIBRARY}", remedy="Give documents by their ids.")
    return {name: value for name, value in document.items() if name != LIBRARY}, dict(library)


def placed_ids(document: Any) -> set[str]:
    """The ids of the pieces that stand in a JSON document, whether it is sound or not."""
    found: set[str] = set()
    waiting = [document.get("layers")] if isinstance(document, dict) else []
    while waiting:
        layers = waiting.pop()
        for layer in layers if isinstance(layers, list) else ():
            if isinstance(layer, dict):
                waiting.append(layer.get("layers"))
                if layer.get("kind") == "placement" and isinstance(layer.get("piece"), str):
                    found.add(layer["piece"])
    return found


def standing_in(document: Any, load: Callable[[str], Any]) -> dict[str, Any]:
    """The documents that stand in one, and those that stand in them, by their ids: as `load` gives them, which gives
    None for what is not there."""
    found: dict[str, Any] = {}
    waiting = sorted(placed_ids(document))
    for name in waiting:
        inner = load(name) if name not in found else None
        if inner is not None:
            found[name] = inner
            # The list is walked on while it grows.
            waiting += sorted(placed_ids(inner))
    return found


def holding(document: Any, names: Mapping[str, str]) -> Any:
    """The document, or the layers, in which what stands there is called by other ids."""
    if isinstance(document, list):
        return [holding(layer, names) for layer in document]
    if not isinstance(document, Mapping):
        return document
    renamed = {"piece": names.get(document["piece"], document["piece"])} if document.get("kind") == "placement" else {}
    inner = {"layers": holding(document["layers"], names)} if "layers" in document else {}
    return {**document, **renamed, **inner}


def read_library(library: Mapping[str, Any]) -> dict[str, Piece]:
    """The pieces of a library. Raises DocumentFault, with places inside of the bundle."""
    found = {}
    for name, document in library.items():
        try:
            found[name] = read_piece(document)
        except DocumentFault as fault:
            raise DocumentFault.of([each.at(f"/{LIBRARY}/{name}") for each in fault.all or (fault,)]) from None
        if found[name].id != name:
            raise DocumentFault(
                f"The piece {name!r} calls itself {found[name].id!r}.",
                place=f"/{LIBRARY}/{name}/id",
                value=found[name].id,
                remedy="Call it the same in both places.",
            )
    return found
