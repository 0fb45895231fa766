"""Errors to status and JSON, in one place."""

from __future__ import annotations

from typing import Any

from flask import Flask, jsonify
from flask.typing import ResponseReturnValue
from werkzeug.exceptions import HTTPException

from keen_ripple.core.errors import DocumentFault, Fault
from keen_ripple.store.history import NothingToDo, Stale
from keen_ripple.store.pieces import Missing

STATUS: dict[type[Fault], int] = {Stale: 409, Missing: 404, NothingToDo: 409}


class RequestFault(Fault):
    """A request that is not what the API takes."""


STATUS[RequestFault] = 400


def install(app: Flask) -> None:
    app.register_error_handler(Fault, _fault)
    app.register_error_handler(HTTPException, _http)


def _fault(fault: Fault) -> ResponseReturnValue:
    body: dict[str, Any] = {"error": {"kind": type(fault).__name__, **_one(fault)}}
    if isinstance(fault, DocumentFault):
        body["error"]["all"] = [_one(each) for each in fault.all or (fault,)]
    if isinstance(fault, Stale):
        body["error"] |= {"revision": fault.revision, "changes": fault.changes}
    return jsonify(body), STATUS.get(type(fault), 422)


def _one(fault: Fault) -> dict[str, Any]:
    value = fault.value if isinstance(fault.value, str | int | float | bool | None | list | dict) else str(fault.value)
    return {"message": fault.message, "place": fault.place, "value": value, "remedy": fault.remedy}


def _http(error: HTTPException) -> ResponseReturnValue:
    fault = {"kind": "Http", "message": error.description, "place": "", "value": None, "remedy": ""}
    return jsonify({"error": fault}), error.code or 500
