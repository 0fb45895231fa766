"""Timings with names, for every piece."""

from __future__ import annotations

from flask import Blueprint, jsonify
from flask.typing import ResponseReturnValue
from pydantic import TypeAdapter, ValidationError

from keen_ripple.core.document.transitions import Curve, Spring, Timing
from keen_ripple.store import atomic, presets
from keen_ripple.web.database import connection
from keen_ripple.web.errors import RequestFault
from keen_ripple.web.requests import body, field

blueprint = Blueprint("presets", __name__, url_prefix="/api/presets")

TIMING: TypeAdapter[Curve | Spring] = TypeAdapter(Timing)
LONGEST_NAME = 40


@blueprint.get("")
def show() -> ResponseReturnValue:
    found = presets.all_presets(connection())
    return jsonify({"presets": [{"name": name, "timing": timing} for name, timing in found]})


@blueprint.post("")
def keep() -> ResponseReturnValue:
    """{name, timing} → kept, in place of what had the name before."""
    wish = body()
    name, timing = field(wish, "name", str).strip(), field(wish, "timing", dict)
    if not 0 < len(name) <= LONGEST_NAME:
        remedy = f"Give it 1 to {LONGEST_NAME} characters."
        raise RequestFault("A preset needs a name.", place="/name", value=name, remedy=remedy)
    try:
        TIMING.validate_python(timing)
    except ValidationError as error:
        remedy = "Send a curve or a spring as a transition has it."
        raise RequestFault("This is no timing.", place="/timing", value=timing, remedy=remedy) from error
    conn = connection()
    with atomic(conn):
        presets.put(conn, name, timing)
    return jsonify({"name": name}), 201


@blueprint.delete("/<name>")
def remove(name: str) -> ResponseReturnValue:
    conn = connection()
    with atomic(conn):
        presets.remove(conn, name)
    return jsonify({"name": name})
