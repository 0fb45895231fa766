"""From JSON to a piece, and back: every fault with its place, its value and its remedy."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from keen_ripple.core.document.fields import FONT, ID, MEDIUM, PICTURE, VALUES
from keen_ripple.core.document.json_text import check_value, pointer
from keen_ripple.core.document.piece import FORMAT, Piece
from keen_ripple.core.document.references import reference_faults
from keen_ripple.core.errors import MOST_FAULTS, DocumentFault, Fault, quoted
from keen_ripple.core.limits import LONGEST_DOCUMENT
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
    "bool_type": "Write true or false.",
    "string_type": "Write a text.",
    "tuple_type": "Give a list.",
    "list_type": "Give a list.",
    "dict_type": "Give an object.",
    "model_type": "Give an object.",
    "model_attributes_type": "Give an object.",
    "string_too_short": "Write at least one character.",
    "string_too_long": "Write at most {max_length} characters.",
    "too_long": "Give at most {max_length}.",
    "too_short": "Give at least {min_length}.",
    "union_tag_invalid": "Choose {expected_tags}.",
    "union_tag_not_found": "Add the field kind.",
}
PATTERNS = {
    FONT: "Bring in a TTF, OTF or WOFF2 file; it is kept as a data: URL of WOFF2 in base64.",
    ID: "Use lower-case letters and digits, in words joined by single hyphens.",
    PICTURE: "Choose a PNG, JPEG or WebP file; it is kept as a data: URL in base64.",
    MEDIUM: "Choose a GIF, APNG, WebP, MP4, WebM or Lottie file; it is kept as a data: URL in base64.",
}

# What pydantic writes into a location after a field that takes several kinds of value.
PAINTS = ("colour", *GRADIENTS)
UNIONS: dict[Any, tuple[str, ...]] = {"timing": ("curve", "spring"), "fill": PAINTS, "stroke": PAINTS}


def read_piece(document: Any) -> Piece:
    """The piece that a JSON value describes. Raises DocumentFault, which holds the faults found."""
    try:
        text = json.dumps(document)
    except (RecursionError, TypeError):
        check_value(document)
        raise
    return read_text(text)


def read_text(text: str) -> Piece:
    """The same from JSON text: only there do models so strict take a list for a tuple."""
    if len(text) > LONGEST_DOCUMENT:
        raise DocumentFault(
            f"The piece has {len(text) / 1e6:.1f} million characters.",
            remedy=f"Use smaller pictures, or fewer: it may have {LONGEST_DOCUMENT // 1_000_000} million.",
        )
    try:
        piece = Piece.model_validate_json(text)
    except ValidationError as error:
        document = json.loads(text)
        check_value(document)
        _refuse_newer(document)
        details = error.errors(include_url=False)[:MOST_FAULTS]
        raise DocumentFault.of([as_fault(detail) for detail in details]) from None
    faults = list(reference_faults(piece))
    if faults:
        raise DocumentFault.of(faults)
    return piece


def written(piece: Piece) -> dict[str, Any]:
    """The way back: the document with what it says, and not what it leaves to the defaults."""
    return piece.model_dump(mode="json", by_alias=True, exclude_unset=True)


def _refuse_newer(document: Any) -> None:
    version = document.get("format") if isinstance(document, Mapping) else None
    if type(version) is int and version > FORMAT:
        raise DocumentFault(
            f"This piece has format {version}, newer than this program's {FORMAT}.",
            place="/format",
            value=version,
            remedy="Open it with a newer Keen Ripple.",
        ) from None


def as_fault(detail: Any) -> Fault:
    """One error of pydantic, told with its place in the document and a remedy."""
    # Discriminated unions put the chosen kind into the location; it is no place in the document.
    loc, steps = detail["loc"], []
    for i, part in enumerate(loc):
        before = loc[i - 1] if i else None
        of_a_copy = VALUES if i > 1 and loc[i - 2] == "values" else ()
        if part not in (KINDS if isinstance(before, int) else UNIONS.get(before, of_a_copy)):
            steps.append(part)
    place, value = pointer(steps), detail["input"]
    own = detail.get("ctx", {}).get("error")
    if isinstance(own, Fault):
        return own.at(place)
    name = steps[-1] if steps else "The piece"
    return Fault(_message(detail["type"], name, value), place=place, value=value, remedy=_remedy(detail))


def _remedy(detail: Any) -> str:
    limits = detail.get("ctx", {})
    if detail["type"] == "string_pattern_mismatch":
        return PATTERNS.get(limits["pattern"], "Mend it.")
    return REMEDIES.get(detail["type"], f"{detail['msg']}.").format(**limits)


def _message(kind: str, name: Any, value: Any) -> str:
    if kind == "missing":
        return f"{name} is missing."
    if kind == "extra_forbidden":
        return f"There is no field {quoted(name)}."
    if kind in ("too_long", "too_short"):
        return f"{name} has {len(value)} entries."
    if kind == "string_too_long":
        return f"{name} has {len(value)} characters."
    shown = quoted(value) if isinstance(value, str) else json.dumps(value, ensure_ascii=False)
    return f"{name} is {shown if len(shown) <= 60 else shown[:57] + '…'}."
