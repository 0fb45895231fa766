"""Reading a document that was edited: only what the edit touched is checked anew.

Edits share with the document before them all that they leave alone, and most of them touch a value of one state, one
layer or one transition. What they touch is read as in a whole document; whatever else they do, the whole is read.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping, Sequence
from typing import Any, TypeVar

from pydantic import ValidationError

from keen_ripple.core.document.fields import Model
from keen_ripple.core.document.layers import MODELS, LayerBase
from keen_ripple.core.document.looks import Look
from keen_ripple.core.document.piece import Piece, State
from keen_ripple.core.document.read import read_text
from keen_ripple.core.document.references import reference_faults
from keen_ripple.core.document.transitions import Transition
from keen_ripple.core.errors import DocumentFault
from keen_ripple.core.limits import MOST_LAYERS

M = TypeVar("M", bound=Model)
Json = Mapping[str, Any]


def read_edited(text: Callable[[], str], document: Json, before: Json, piece: Piece) -> Piece:
    """The piece that `document` describes, whose `text` is no longer than it may be; `piece` was read from `before`.
    Raises DocumentFault.

    Its parts are those of `piece` wherever the two documents are the same object.
    """
    if _differing(document, before) - {"layers", "states", "transitions"}:
        return read_text(text())
    try:
        layers = _each(document.get("layers", ()), before.get("layers", ()), piece.layers, _layer)
        states = _each(document["states"], before["states"], piece.states, _state)
        old, new = before.get("transitions", ()), document.get("transitions", ())
        transitions = _each(new, old, piece.transitions, lambda json, _, __: _read(Transition, json))
    except (ValidationError, TypeError, LookupError):
        # Told with its place in the whole.
        return read_text(text())
    if layers is None or states is None or transitions is None:
        return read_text(text())
    found = {"layers": layers, "states": states, "transitions": transitions}
    parts = {name: part for name, part in found.items() if document.get(name) is not before.get(name)}
    edited = piece.model_copy(update=parts)
    faults = list(reference_faults(edited, piece))
    if faults:
        raise DocumentFault.of(faults)
    return edited


def _differing(one: Json, other: Json) -> set[str]:
    """The names of what is there in one of them only, or is not the same object."""
    return {name for name in one.keys() | other.keys() if one.get(name, one) is not other.get(name, other)}


def _each(new: Any, old: Any, models: Sequence[M], read: Any) -> tuple[M, ...] | None:
    """The models of a list of which single entries were replaced; None where it has become another list."""
    if new is old:
        return tuple(models)
    if not isinstance(new, list) or len(new) != len(old) or len(old) != len(models):
        return None
    return tuple(
        model if entry is earlier else read(entry, earlier, model)
        for entry, earlier, model in zip(new, old, models, strict=True)
    )


def _layer(json: Any, before: Json, layer: LayerBase) -> LayerBase:
    if "layers" not in json:
        return _read(MODELS[json["kind"]], json)
    # How deep groups may lie in each other is for the whole to know.
    if _differing(json, before) - {"layers"}:
        raise LookupError
    inner = _each(json["layers"], before["layers"], layer.layers, _layer)
    if inner is None:
        raise LookupError
    return layer.model_copy(update={"layers": inner})


def _state(json: Any, before: Json, state: State) -> State:
    changes, earlier = json.get("changes"), before.get("changes")
    others = {name for name in _differing(json, before) if name != "changes"}
    if others or not isinstance(changes, dict) or not isinstance(earlier, dict) or len(changes) > MOST_LAYERS:
        return _read(State, json)
    looks = {
        layer: state.changes[layer] if look is earlier.get(layer) else _read(Look, look)
        for layer, look in changes.items()
    }
    return state.model_copy(update={"changes": looks})


def _read(kind: type[M], value: Any) -> M:
    """As JSON, since only there do models so strict take a list for a tuple. Raises ValidationError."""
    return kind.model_validate_json(json.dumps(value))
