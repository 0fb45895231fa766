"""Files for others."""

from __future__ import annotations

from flask import Blueprint, Response, current_app
from flask.typing import ResponseReturnValue

from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff import FORMATS, Format
from keen_ripple.store import pieces
from keen_ripple.web import revisions
from keen_ripple.web.contract.answers import HandoffReport, Handoffs, Refusal
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.database import connection

blueprint = Blueprint("handoffs", __name__, url_prefix="/api/pieces/<piece_id>/handoff")


@blueprint.get("")
def reports(piece_id: str) -> ResponseReturnValue:
    """What each format would hold of the piece, what it would leave out, and why it would be refused."""
    timeline = revisions.current_timeline(piece_id)
    return Handoffs(formats=[told_of(form, timeline) for form in FORMATS.values()]).told()


def told_of(form: Format, timeline: Timeline) -> HandoffReport:
    """The report of a format as the page is told."""
    found = form.report(timeline)
    refused = [Refusal(message=fault.message, place=fault.place, remedy=fault.remedy) for fault in found.refused]
    return HandoffReport(name=form.name, holds=found.holds, leaves_out=found.leaves_out, refused=refused)


@blueprint.get("/<name>")
def download(piece_id: str, name: str) -> Response:
    """The piece in one format, as a download."""
    if name not in FORMATS:
        known = ", ".join(sorted(FORMATS))
        raise RequestFault(f"There is no hand-off in the format {name!r}.", value=name, remedy=f"Known: {known}.")
    form = FORMATS[name]
    piece = pieces.load(connection(), piece_id)
    content = form.write(revisions.timeline_of_revision(current_app.config["DATABASE"], piece))
    headers = {"Content-Disposition": f'attachment; filename="{piece.id}.{form.ending}"'}
    return Response(content, mimetype=form.media_type, headers=headers)
