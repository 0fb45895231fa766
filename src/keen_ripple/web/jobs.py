"""Jobs as the page sees them: begun, looked at, stopped; and what they made, for whoever waits for it."""

from __future__ import annotations

import threading
from collections.abc import Mapping

from flask import Blueprint, current_app, request
from flask.typing import ResponseReturnValue

from keen_ripple.handoff import AS_IT_IS, Options
from keen_ripple.jobs import Job, Jobs, Order
from keen_ripple.jobs.orders import Acted
from keen_ripple.store import pieces
from keen_ripple.store.pieces import Missing
from keen_ripple.web.contract.handed import JobTold, Refusal
from keen_ripple.web.database import connection
from keen_ripple.web.drawing import TooManyPictures

LONGEST_S = 600.0
# Fewer than there are threads that answer.
_waiting = threading.BoundedSemaphore(8)

blueprint = Blueprint("jobs", __name__, url_prefix="/api/jobs")


@blueprint.get("/<job_id>")
def look(job_id: str) -> ResponseReturnValue:
    return told_of(_there(jobs().look(job_id))).told()


@blueprint.delete("/<job_id>")
def stop(job_id: str) -> ResponseReturnValue:
    """It ends as stopped, unless it has ended already."""
    return told_of(_there(jobs().stop(job_id))).told()


def jobs() -> Jobs:
    found: Jobs = current_app.extensions["jobs"]
    return found


def order_of(piece_id: str, what: str, name: str = "", options: Options = AS_IT_IS, acted: Acted = None) -> Order:
    """Of a piece as it is stored now, with all that stands in it. Raises Missing."""
    return Order(pieces.bundle_of(connection(), piece_id), what, name, options, acted)


def made(order: Order) -> Mapping[str, bytes]:
    """Its files, once they are there. Raises what kept it from being made, and TooManyPictures."""
    if not _waiting.acquire(blocking=False):
        raise TooManyPictures("Too many files are waited for.", remedy="Ask again in a moment.")
    try:
        is_gone = request.environ.get("waitress.client_disconnected", lambda: False)
        return jobs().made(order, LONGEST_S, is_gone)
    finally:
        _waiting.release()


def told_of(job: Job) -> JobTold:
    fault = None if job.fault is None else Refusal(**job.fault)
    return JobTold(
        id=job.id,
        state=job.state,
        share=job.share,
        left_s=job.left_s,
        ahead=jobs().ahead_of(job),
        is_left_alone=jobs().is_left_alone(job),
        sizes=dict(job.sizes),
        fault=fault,
    )


def _there(job: Job | None) -> Job:
    if job is None:
        raise Missing("There is no such job.", remedy="Begin it again.")
    return job
