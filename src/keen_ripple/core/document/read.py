"""From JSON to a piece, and back: every fault with its place, its value and its remedy."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from typing import Any

from pydantic import ValidationError

from keen_ripple.core.document.piece import FORMAT, Piece
from keen_ripple.core.document.references import reference_faults
from keen_ripple.core.errors import DocumentFault, Fault
from keen_ripple.core.properties import KINDS
from keen_ripple.core.values.paint import GRADIENTS

REMEDIES = {
    "missing": "Add it.",
    "extra_forbidden": "Remove it, or mend its spelling.",
    "greater_than_equal": "Give {ge:g} or more.",
    "greater_than": "Give more than {gt:g}.",
    "less_than_equal": "Give {le:g} or less.",
    "literal_error": "Choose {expected}.",
    "float_type": "Give a number.",
    "int_type": "Give a whole number.",
    "int_from_float": "Give a whole number.",
    "finite_number": "Give a finite number.",
    "string_pattern_mismatch": "Use lower-case letters and digits, in words joined by single hyphens.",
    "string_too_short": "Write at least one character.",
    "union_tag_invalid": "Choose {expected_tags}.",
    "union_tag_not_found": "Add the field kind.",
}

# What pydantic writes into a location after a field that takes several kinds of value.
UNIONS: dict[Any, tuple[str, ...]] = {"timing": ("curve", "spring"), "fill": ("colour", *GRADIENTS)}


def read_piece(document: Any) -> Piece:
    """The piece that a JSON value describes. Raises DocumentFault, which holds every fault found."""
    return read_text(json.dumps(document))


def read_text(text: str) -> Piece:
    """The same from JSON text: only there do models so strict take a list for a tuple."""
    try:
        piece = Piece.model_validate_json(text)
    except ValidationError as error:
        _refuse_newer(json.loads(text))
        raise DocumentFault.of([_fault(detail) for detail in error.errors()]) from None
    faults = list(reference_faults(piece))
    if faults:
        raise DocumentFault.of(faults)
    return piece


def written(piece: Piece) -> dict[str, Any]:
    """The way back: the document with what it says, and not what it leaves to the defaults."""
    return piece.model_dump(mode="json", by_alias=True, exclude_unset=True)


def _refuse_newer(document: Any) -> None:
    version = document.get("format") if isinstance(document, Mapping) else None
    if isinstance(version, int) and version > FORMAT:
        raise DocumentFault(
            f"This piece has format {version}, newer than this program's {FORMAT}.",
            place="/format",
            value=version,
            remedy="Open it with a newer Keen Ripple.",
        ) from None


def pointer(parts: Iterable[Any]) -> str:
    """A JSON pointer, RFC 6901."""
    return "".join("/" + str(part).replace("~", "~0").replace("/", "~1") for part in parts)


def _fault(detail: Any) -> Fault:
    # Discriminated unions put the chosen kind into the location; it is no place in the document.
    loc, steps = detail["loc"], []
    for i, part in enumerate(loc):
        before = loc[i - 1] if i else None
        if part not in (KINDS if isinstance(before, int) else UNIONS.get(before, ())):
            steps.append(part)
    place, value = pointer(steps), detail["input"]
    own = detail.get("ctx", {}).get("error")
    if isinstance(own, Fault):
        return own.at(place)
    remedy = REMEDIES.get(detail["type"], f"{detail['msg']}.").format(**detail.get("ctx", {}))
    name = steps[-1] if steps else "The piece"
    return Fault(_message(detail["type"], name, value), place=place, value=value, remedy=remedy)


def _message(kind: str, name: Any, value: Any) -> str:
    if kind == "missing":
        return f"{name} is missing."
    if kind == "extra_forbidden":
        return f"There is no field {name}."
    text = json.dumps(value, ensure_ascii=False)
    return f"{name} is {text if len(text) <= 60 else text[:57] + '…'}."
