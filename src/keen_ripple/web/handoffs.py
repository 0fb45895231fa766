"""Files for others."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Mapping, Sequence

from flask import Blueprint, Response, request
from flask.typing import ResponseReturnValue

from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.timeline import Timeline, timeline_of_rehearsal
from keen_ripple.handoff import AS_IT_IS, FORMATS, Format, Options
from keen_ripple.measured import NotMeasured, measure
from keen_ripple.store import pieces
from keen_ripple.web import rehearsals, revisions
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.contract.handed import HandoffMeasured, HandoffReport, Handoffs, Refusal
from keen_ripple.web.database import connection
from keen_ripple.web.drawing import HANDOFFS, MEASURES
from keen_ripple.web.security import of_others

ZIP = "application/zip"
# The same moment for all: the same piece gives the same bytes.
LONG_AGO = (1980, 1, 1, 0, 0, 0)

blueprint = Blueprint("handoffs", __name__, url_prefix="/api/pieces/<piece_id>/handoff")


@blueprint.get("")
def reports(piece_id: str) -> ResponseReturnValue:
    """What each format would hold of the piece, what it would leave out, and why it would be refused."""
    timeline = revisions.current_timeline(piece_id)
    return Handoffs(formats=[told_of(form, timeline) for form in FORMATS.values()]).told()


@blueprint.get("/<name>/report")
def report(piece_id: str, name: str) -> ResponseReturnValue:
    """The same of one format, with options, and of what is asked for."""
    timeline = revisions.current_timeline(piece_id)
    _, acted = _played(piece_id)
    return told_of(_known(name), _of(timeline, acted), _options()).told()


@blueprint.get("/<name>/measured")
def measured(piece_id: str, name: str) -> ResponseReturnValue:
    """How far the file is from what the core computes, or why that is not known."""
    form, (_, acted) = _known(name), _played(piece_id)
    found = json.loads(MEASURES.drawn(piece_id, measured_as_json, form.name, _options(), acted))
    return HandoffMeasured(**found).told()


def told_of(form: Format, timeline: Timeline, options: Options = AS_IT_IS) -> HandoffReport:
    """The report of a format as the page is told."""
    found = form.report(timeline, options)
    refused = [Refusal(message=fault.message, place=fault.place, remedy=fault.remedy) for fault in found.refused]
    return HandoffReport(
        name=form.name,
        endings=list(form.endings),
        holds=found.holds,
        leaves_out=found.leaves_out,
        said=found.said,
        refused=refused,
    )


@blueprint.get("/all.zip")
def everything(piece_id: str) -> Response:
    """All formats that can say the piece, in one zip."""
    piece = pieces.load(connection(), piece_id)
    headers = {"Content-Disposition": f'attachment; filename="{piece.id}.zip"'}
    return Response(HANDOFFS.drawn(piece_id, all_written, piece.id), mimetype=ZIP, headers=headers)


@blueprint.get("/<name>")
def download(piece_id: str, name: str) -> Response:
    """The piece in one format, as a download; several files as a zip."""
    form, (played, acted) = _known(name), _played(piece_id)
    stem = f"{piece_id}.{played}" if played else piece_id
    content = HANDOFFS.drawn(piece_id, written, name, _options(), stem, acted)
    ending, media_type = next(iter(form.endings.items())) if len(form.endings) == 1 else (f"{name}.zip", ZIP)
    headers = {"Content-Disposition": f'attachment; filename="{stem}.{ending}"'}
    return Response(content, mimetype=media_type, headers=headers)


@blueprint.get("/<name>/<ending>")
def looked_at(piece_id: str, name: str, ending: str) -> Response:
    """One file of a format, to be looked at: whatever it holds, it can reach nothing of the application."""
    form = _known(name)
    if ending not in form.endings:
        raise RequestFault(f"{name} has no file {ending!r}.", value=ending, remedy=f"Known: {', '.join(form.endings)}.")
    _, acted = _played(piece_id)
    content = HANDOFFS.drawn(piece_id, one_file, name, _options(), ending, acted)
    return of_others(Response(content, mimetype=form.endings[ending]))


Acted = tuple[Sequence[Event], float] | None
"""Of a rehearsal its events and its length, ms."""


def written(timeline: Timeline, name: str, options: Options, stem: str, acted: Acted) -> bytes:
    """The only file of a format, or all of them in a zip."""
    files = FORMATS[name].files(_of(timeline, acted), options)
    return next(iter(files.values())) if len(files) == 1 else _zipped(stem, files)


def measured_as_json(timeline: Timeline, name: str, options: Options, acted: Acted) -> bytes:
    """As `HandoffMeasured` tells it."""
    try:
        found = measure(_of(timeline, acted), name, options)
    except NotMeasured as fault:
        return json.dumps({"said": None, "left_out": [], "why_not": f"{fault.message} {fault.remedy}"}).encode()
    return json.dumps({"said": found.said(), "left_out": found.left_out, "why_not": None}).encode()


def all_written(timeline: Timeline, stem: str) -> bytes:
    files: dict[str, bytes] = {}
    for form in FORMATS.values():
        if not form.report(timeline, AS_IT_IS).refused:
            files |= form.files(timeline, AS_IT_IS)
    return _zipped(stem, files)


def one_file(timeline: Timeline, name: str, options: Options, ending: str, acted: Acted) -> bytes:
    return FORMATS[name].files(_of(timeline, acted), options)[ending]


def _of(timeline: Timeline, acted: Acted) -> Timeline:
    return timeline if acted is None else timeline_of_rehearsal(rehearse(timeline.piece, *acted))


def _played(piece_id: str) -> tuple[str, Acted]:
    """What is asked for: what plays by itself, or a rehearsal with its name. Raises Missing."""
    which = request.args.get("of", "")
    if not which:
        # Whether it is there at all.
        pieces.load(connection(), piece_id)
        return "", None
    name, events, until_ms = rehearsals.asked(piece_id, which, revisions.current_timeline(piece_id).piece)
    return name, (events, until_ms)


def _zipped(stem: str, files: Mapping[str, bytes]) -> bytes:
    found = io.BytesIO()
    with zipfile.ZipFile(found, "w", zipfile.ZIP_DEFLATED) as archive:
        for ending, content in files.items():
            archive.writestr(zipfile.ZipInfo(f"{stem}.{ending}", LONG_AGO), content, zipfile.ZIP_DEFLATED)
    return found.getvalue()


def _known(name: str) -> Format:
    if name not in FORMATS:
        known = ", ".join(sorted(FORMATS))
        raise RequestFault(f"There is no hand-off in the format {name!r}.", value=name, remedy=f"Known: {known}.")
    return FORMATS[name]


def _options() -> Options:
    """As they are asked for. Raises Fault for what is out of range."""
    return Options(
        fps=_number("fps", None),
        scale=_number("scale", 1.0) or 0.0,
        ground=request.args.get("ground") or None,
        dither="dither" in request.args,
        at=_number("at", None),
    )


def _number(name: str, default: float | None) -> float | None:
    text = request.args.get(name, "")
    if not text:
        return default
    try:
        return float(text)
    except ValueError:
        raise RequestFault(f"{text[:40]!r} is no number.", place=f"/{name}", value=text[:40]) from None
