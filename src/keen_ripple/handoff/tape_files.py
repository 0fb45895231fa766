"""The tape for other players: its knots as JSON, and the same in few bytes (see `compact`)."""

from __future__ import annotations

import json
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from keen_ripple.core.flow.tape import TapeTrack
from keen_ripple.core.flow.undercurrents import course_tape
from keen_ripple.core.timeline import Timeline
from keen_ripple.core.values.plain import plain
from keen_ripple.handoff.compact import pack
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.report import Report

VERSION = 1
# Places of times (ms) and values: far below every tolerance.
PLACES_MS, PLACES = 3, 5


@dataclass(frozen=True)
class Tape:
    name: str = "tape"
    takes: Collection[str] = ()
    endings: Mapping[str, str] = field(
        default_factory=lambda: {"tape.json": "application/json", "krt": "application/octet-stream"}
    )

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        knots = sum(leg.knots for leg in timeline.legs.values())
        count = len(timeline.legs)
        holds = f"{knots} knots of {count} transitions, straight lines between them, and the looks of all states."
        return Report(holds, (), ())

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        text = json.dumps(_document(timeline), ensure_ascii=False, separators=(",", ":"))
        return {"tape.json": text.encode(), "krt": pack({name: leg.tape for name, leg in timeline.legs.items()})}


TAPE = Tape()


def _document(timeline: Timeline) -> dict[str, Any]:
    """Times in ms: of legs from their start, of undercurrents inside their period."""
    piece = timeline.piece
    return {
        "tape": VERSION,
        "piece": {"id": piece.id, "name": piece.name, "width": piece.width, "height": piece.height},
        "run": timeline.run.to_json() | {"legs": [segment.leg for segment in timeline.run.segments]},
        "states": {
            state: {layer: {name: plain(value) for name, value in look.items()} for layer, look in pose.items()}
            for state, pose in timeline.poses.items()
        },
        "legs": {
            name: {"length_ms": leg.length_ms, "tracks": _tracks(leg.tape)} for name, leg in timeline.legs.items()
        },
        "undercurrents": [
            {
                "id": own.id,
                "period_ms": own.period_ms,
                "states": own.states,
                "section": own.section,
                "tracks": _tracks(course_tape(own, piece.blend, timeline.finer)),
            }
            for own in piece.undercurrents
        ],
    }


def _tracks(tape: Iterable[TapeTrack]) -> list[dict[str, Any]]:
    return [
        {
            "layer": track.layer,
            "property": track.property,
            **({"form": track.form} if track.form is not None else {}),
            "times_ms": np.round(track.times_ms, PLACES_MS).tolist(),
            "rows": np.round(track.rows, PLACES).tolist(),
        }
        for track in tape
    ]
