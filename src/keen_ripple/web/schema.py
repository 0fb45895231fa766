"""The format of pieces, for whoever wants to write them."""

from __future__ import annotations

from flask import Blueprint, jsonify
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import json_schema

blueprint = Blueprint("schema", __name__)


@blueprint.get("/api/schema")
def schema() -> ResponseReturnValue:
    return jsonify(json_schema())
