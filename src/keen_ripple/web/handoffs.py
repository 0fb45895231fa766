"""Files for others."""

from __future__ import annotations

import json

from flask import Blueprint, Response, request
from flask.typing import ResponseReturnValue

from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.timeline import Timeline, timeline_of_rehearsal
from keen_ripple.handoff import AS_IT_IS, FORMATS, Format, Options
from keen_ripple.handoff.frames import part_of, played
from keen_ripple.handoff.lottie import LOTTIE
from keen_ripple.jobs import ALL, FILES, MEASURED, Order
from keen_ripple.jobs.making import zipped
from keen_ripple.jobs.orders import Acted
from keen_ripple.measured.elements import HOLD
from keen_ripple.store import pieces
from keen_ripple.web import rehearsals, revisions
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.contract.handed import HandoffMeasured, HandoffReport, Handoffs, OfRun, Refusal
from keen_ripple.web.database import connection
from keen_ripple.web.jobs import jobs, made, order_of, told_of
from keen_ripple.web.security import of_others

ZIP = "application/zip"

blueprint = Blueprint("handoffs", __name__, url_prefix="/api/pieces/<piece_id>/handoff")


@blueprint.get("")
def reports(piece_id: str) -> ResponseReturnValue:
    """What each format would hold of the piece, what it would leave out, and why it would be refused."""
    timeline = revisions.current_timeline(piece_id)
    return Handoffs(formats=[reported(form, timeline) for form in FORMATS.values()]).told()


@blueprint.get("/<name>/report")
def report(piece_id: str, name: str) -> ResponseReturnValue:
    """The same of one format, with options, and of what is asked for."""
    timeline = revisions.current_timeline(piece_id)
    _, acted = _played(piece_id)
    return reported(_known(name), _of(timeline, acted), _options()).told()


@blueprint.post("/<name>/job")
def begin(piece_id: str, name: str) -> ResponseReturnValue:
    """Begins to make its files, unless they are there or being made; with `again` where that was stopped or failed."""
    return _begun(order_of(piece_id, FILES, _known(name).name, _options(), _played(piece_id)[1]))


@blueprint.post("/<name>/measured")
def measured(piece_id: str, name: str) -> ResponseReturnValue:
    """Begins to measure how far its files are from what the core computes."""
    return _begun(order_of(piece_id, MEASURED, _known(name).name, _options(), _played(piece_id)[1]))


@blueprint.post("/all.zip")
def begin_all(piece_id: str) -> ResponseReturnValue:
    """Begins to make all formats that can say the piece."""
    return _begun(order_of(piece_id, ALL))


def _begun(order: Order) -> ResponseReturnValue:
    return told_of(jobs().ask(order, again="again" in request.args)).told(202)


@blueprint.get("/<name>/measured")
def how_far(piece_id: str, name: str) -> ResponseReturnValue:
    """How far the files are from what the core computes, or why that is not known."""
    order = order_of(piece_id, MEASURED, _known(name).name, _options(), _played(piece_id)[1])
    return HandoffMeasured(**json.loads(made(order)["json"])).told()


def reported(form: Format, timeline: Timeline, options: Options = AS_IT_IS) -> HandoffReport:
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
        part=_part(form, timeline),
    )


def _part(form: Format, timeline: Timeline) -> OfRun | None:
    """Of what shows moving pictures, or frames as they do."""
    if "fps" not in form.takes and form.name != LOTTIE.name:
        return None
    part = part_of(played(timeline).run)
    return OfRun(begin_ms=part.begin_ms, end_ms=part.end_ms, again=part.again)


@blueprint.get("/all.zip")
def everything(piece_id: str) -> Response:
    """All formats that can say the piece, in one zip."""
    content = made(order_of(piece_id, ALL))["zip"]
    return Response(content, mimetype=ZIP, headers=_as(f"{piece_id}.zip"))


@blueprint.get("/<name>")
def download(piece_id: str, name: str) -> Response:
    """The piece in one format, as a download; several files as a zip."""
    form, (of, acted) = _known(name), _played(piece_id)
    stem = f"{piece_id}.{of}" if of else piece_id
    files = made(order_of(piece_id, FILES, name, _options(), acted))
    if len(files) > 1:
        return Response(zipped(stem, files), mimetype=ZIP, headers=_as(f"{stem}.{name}.zip"))
    [(ending, content)] = files.items()
    return Response(content, mimetype=form.endings[ending], headers=_as(f"{stem}.{ending}"))


def _as(filename: str) -> dict[str, str]:
    return {"Content-Disposition": f'attachment; filename="{filename}"'}


@blueprint.get("/<name>/<ending>")
def looked_at(piece_id: str, name: str, ending: str) -> Response:
    """One file of a format, to be looked at: whatever it holds, it can reach nothing of the application."""
    form = _known(name)
    if ending not in form.endings:
        raise RequestFault(f"{name} has no file {ending!r}.", value=ending, remedy=f"Known: {', '.join(form.endings)}.")
    content = made(order_of(piece_id, FILES, name, _options(), _played(piece_id)[1]))[ending]
    if "held" in request.args and ending in ("html", "svg"):
        content = _held(content)
    return of_others(Response(content, mimetype=form.endings[ending]))


# The page that frames it says at which moment (ms) it stands still. It never plays: Chromium goes on showing where a
# motion was that is held later, if it stands as without motion there.
LISTENS = f"""<script>
const hold = (t) => {{ {HOLD} }};
hold(0);
addEventListener('message', ({{ source, data: t }}) => {{ if (source === parent) hold(t); }});
</script>""".encode()


def _held(content: bytes) -> bytes:
    """A page or an SVG that can be held, beside the stage."""
    before, end, after = content.rpartition(b"</body>" if b"</body>" in content else b"</svg>")
    return before + LISTENS + end + after


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
