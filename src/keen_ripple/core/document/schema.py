"""The JSON Schema of the document, made by the models."""

from __future__ import annotations

from typing import Any

from keen_ripple.core.document.piece import Piece


def json_schema() -> dict[str, Any]:
    """JSON Schema, draft 2020-12, of a piece as it is written."""
    schema = Piece.model_json_schema(by_alias=True, mode="validation")
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema}
