"""Timings with names, for every piece."""

from __future__ import annotations

from flask import Blueprint, jsonify
from flask.typing import ResponseReturnValue

from keen_ripple.store import atomic, presets
from keen_ripple.web.database import connection
from keen_ripple.web.errors import RequestFault
from keen_ripple.web.requests import body, field, timing

blueprint = Blueprint("presets", __name__, url_prefix="/api/presets")

LONGEST_NAME = 40


@blueprint.get("")
def show() -> ResponseReturnValue:
    found = presets.all_presets(connection())
    return jsonify({"presets": [{"name": name, "timing": timing} for name, timing in found]})


@blueprint.post("")
def keep() -> ResponseReturnValue:
    """{name, timing} → kept, in place of what had the name before."""
    wish = body()
    name, kept = field(wish, "name", str).strip(), timing(wish)
    if not 0 < len(name) <= LONGEST_NAME:
        remedy = f"Give it 1 to {LONGEST_NAME} characters."
        raise RequestFault("A preset needs a name.", place="/name", value=name, remedy=remedy)
    conn = connection()
    with atomic(conn):
        presets.put(conn, name, kept.model_dump(mode="json", exclude_unset=True))
    return jsonify({"name": name}), 201


@blueprint.delete("/<name>")
def remove(name: str) -> ResponseReturnValue:
    conn = connection()
    with atomic(conn):
        presets.remove(conn, name)
    return jsonify({"name": name})
