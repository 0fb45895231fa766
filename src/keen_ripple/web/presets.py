"""Timings with names, for every piece."""

from __future__ import annotations

from flask import Blueprint
from flask.typing import ResponseReturnValue

from keen_ripple.store import atomic, presets
from keen_ripple.web.contract import answers
from keen_ripple.web.contract.bodies import Preset, PresetName, body
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.database import connection

blueprint = Blueprint("presets", __name__, url_prefix="/api/presets")

LONGEST_NAME = 40


@blueprint.get("")
def show() -> ResponseReturnValue:
    found = presets.all_presets(connection())
    return answers.Presets(presets=[answers.KeptPreset(name=name, timing=timing) for name, timing in found]).told()


@blueprint.post("")
def keep() -> ResponseReturnValue:
    """{name, timing} → kept, in place of what had the name before."""
    wish = body(Preset)
    name = wish.name.strip()
    if not 0 < len(name) <= LONGEST_NAME:
        remedy = f"Give it 1 to {LONGEST_NAME} characters."
        raise RequestFault("A preset needs a name.", place="/name", value=name, remedy=remedy)
    conn = connection()
    with atomic(conn):
        presets.put(conn, name, wish.timing.model_dump(mode="json", exclude_unset=True))
    return answers.Named(name=name).told(201)


@blueprint.delete("")
def remove() -> ResponseReturnValue:
    """{name} → forgotten. In the body, since a name may have slashes and dots that an address would not keep."""
    name = body(PresetName).name
    conn = connection()
    with atomic(conn):
        presets.remove(conn, name)
    return answers.Named(name=name).told()
