"""Errors to status and JSON, in one place."""

from __future__ import annotations

from typing import Any

from flask import Flask, current_app
from flask.typing import ResponseReturnValue
from werkzeug.exceptions import HTTPException

from keen_ripple.core.errors import DocumentFault, Fault, brief
from keen_ripple.jobs import QueueAway, QueueFault, QueueFull, Unmade
from keen_ripple.store import DatabaseError, fault_of
from keen_ripple.store.faults import Busy, DiskFull, StoreFault
from keen_ripple.store.history import NothingToDo, Stale
from keen_ripple.store.pieces import Missing, Used
from keen_ripple.web.contract.answers import ErrorTold, Failure, FaultTold, OtherEdit
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.drawing import TooManyPictures

STATUS: dict[type[Fault], int] = {Stale: 409, Missing: 404, NothingToDo: 409, Used: 409}
STATUS |= {DiskFull: 507, Busy: 503, StoreFault: 500, TooManyPictures: 503, RequestFault: 400}
STATUS |= {QueueAway: 503, QueueFull: 507, QueueFault: 500, Unmade: 503}


def install(app: Flask) -> None:
    app.register_error_handler(Fault, _fault)
    app.register_error_handler(HTTPException, _http)
    app.register_error_handler(DatabaseError, lambda error: _fault(fault_of(error)))
    app.register_error_handler(Exception, _unforeseen)


def _fault(fault: Fault) -> ResponseReturnValue:
    more: dict[str, Any] = {}
    if isinstance(fault, DocumentFault):
        more["all"] = tuple(FaultTold(**_one(each)) for each in fault.all or (fault,))
    if isinstance(fault, Stale):
        more |= {"revision": fault.revision, "changes": tuple(OtherEdit(**change) for change in fault.changes)}
    error = ErrorTold(kind=type(fault).__name__, **_one(fault), **more)
    return Failure(error=error).told(STATUS.get(type(fault), 422))


def _one(fault: Fault) -> dict[str, Any]:
    return {"message": fault.message, "place": fault.place, "value": brief(fault.value), "remedy": fault.remedy}


def _http(error: HTTPException) -> ResponseReturnValue:
    return _said("Http", error.description or "", "", error.code or 500)


def _unforeseen(error: Exception) -> ResponseReturnValue:
    """A fault of ours: told without its inside, which goes to the log."""
    current_app.logger.exception("A request could not be answered.", exc_info=error)
    return _said("Unforeseen", "Keen Ripple could not do this; nothing was stored.", "Try something else.", 500)


def _said(kind: str, message: str, remedy: str, status: int) -> ResponseReturnValue:
    return Failure(error=ErrorTold(kind=kind, message=message, place="", value=None, remedy=remedy)).told(status)
