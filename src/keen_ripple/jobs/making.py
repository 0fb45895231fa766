"""An order becomes files."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from keen_ripple.core.document import read_piece
from keen_ripple.core.document.bundle import unbundled
from keen_ripple.core.live.events import read_events
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.timeline import Timeline, timeline_of, timeline_of_rehearsal
from keen_ripple.handoff import AS_IT_IS, FORMATS, Files, Options
from keen_ripple.handoff.progress import Tell, along, told_to
from keen_ripple.jobs.orders import ALL, MEASURED

# The same moment for all: the same piece gives the same bytes.
LONG_AGO = (1980, 1, 1, 0, 0, 0)
KEPT = 4


def make(order: bytes, source: Files | None, tell: Tell) -> Files:
    """The files of an `Order` as JSON, by their endings; `source` are those that are to be measured, if they are there.
    Raises Fault for what is refused."""
    asked = json.loads(order)
    timeline, options = _timeline(asked["bundle"]), Options(**asked["options"])
    acted = asked["acted"]
    if acted is not None:
        timeline = timeline_of_rehearsal(rehearse(timeline.piece, read_events(acted["events"]), acted["until"]))
    with told_to(tell):
        if asked["what"] == MEASURED:
            return {"json": json.dumps(_measured(timeline, asked["format"], options, source)).encode()}
        if asked["what"] == ALL:
            return {"zip": zipped(timeline.piece.id, _all(timeline))}
        return FORMATS[asked["format"]].files(timeline, options)


@lru_cache(maxsize=KEPT)
def _timeline(bundle: str) -> Timeline:
    document, library = unbundled(json.loads(bundle))
    return timeline_of(read_piece(document), library={name: read_piece(other) for name, other in library.items()})


def _measured(timeline: Timeline, name: str, options: Options, source: Files | None) -> Mapping[str, Any]:
    """As `HandoffMeasured` tells it."""
    from keen_ripple.measured import NotMeasured, measure

    try:
        found = measure(timeline, name, options, source)
    except NotMeasured as fault:
        return {"said": None, "left_out": [], "why_not": f"{fault.message} {fault.remedy}"}
    return {"said": found.said(), "left_out": found.left_out, "why_not": None}


def _all(timeline: Timeline) -> Files:
    """Of all formats that can say the piece."""
    files: dict[str, bytes] = {}
    for form in along([form for form in FORMATS.values() if not form.report(timeline, AS_IT_IS).refused]):
        files |= form.files(timeline, AS_IT_IS)
    return files


def zipped(stem: str, files: Files) -> bytes:
    """One archive, in which they are called after the piece."""
    found = io.BytesIO()
    with zipfile.ZipFile(found, "w", zipfile.ZIP_DEFLATED) as archive:
        for ending, content in files.items():
            archive.writestr(zipfile.ZipInfo(f"{stem}.{ending}", LONG_AGO), content, zipfile.ZIP_DEFLATED)
    return found.getvalue()
