"""What the page plays: everything the core computed of a piece, and what of it an edit changed."""

from __future__ import annotations

import base64
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.document import read_piece
from keen_ripple.core.poses import Pose
from keen_ripple.core.readings import transition_readings
from keen_ripple.core.run import Run
from keen_ripple.core.seam import seam_of
from keen_ripple.core.tape import TapeTrack, tape_of
from keen_ripple.core.timeline import timeline_of


@dataclass(frozen=True)
class Playback:
    """One revision, computed."""

    poses: Mapping[str, Pose]
    run: Run
    seam: dict[str, object] | None
    transitions: dict[str, dict[str, Any]]
    tape: dict[tuple[str, str], TapeTrack]


def compute(document: Any) -> Playback:
    """Everything the page shows of a document. Raises DocumentFault and RunFault."""
    timeline = timeline_of(read_piece(document))
    seam = seam_of(timeline)
    return Playback(
        timeline.poses,
        timeline.run,
        seam.to_json() if seam else None,
        transition_readings(timeline),
        {(track.layer, track.property): track for track in tape_of(timeline)},
    )


NOTHING = Playback({}, Run(0, None, (), ""), None, {}, {})


def answer(after: Playback, before: Playback = NOTHING) -> dict[str, Any]:
    """What differs from `before`, as JSON: changed poses, transitions and tracks, and the run with its seam.

    Tracks come as one base64 text of little-endian Float32: for each its times, then its rows. Times are ms and below
    2²⁰, so a Float32 holds them within 0.07 ms at worst.
    """
    changed = [track for key, track in after.tape.items() if not _same(before.tape.get(key), track)]
    numbers = [part for track in changed for part in (track.times_ms, track.rows.ravel())]
    data = np.concatenate(numbers) if numbers else np.empty(0)
    return {
        "poses": _changed_poses(after.poses, before.poses),
        "run": {
            **after.run.to_json(),
            "total_ms": after.run.total_ms,
            "final_state": after.run.final_state,
            "transitions": [segment.transition for segment in after.run.segments],
        },
        "seam": after.seam,
        "transitions": {
            key: reading for key, reading in after.transitions.items() if before.transitions.get(key) != reading
        },
        "tape": {
            "tracks": [[t.layer, t.property, len(t.times_ms), t.rows.shape[1]] for t in changed],
            "data": base64.b64encode(data.astype("<f4").tobytes()).decode("ascii"),
            "dropped": [list(key) for key in before.tape if key not in after.tape],
        },
    }


def _same(before: TapeTrack | None, after: TapeTrack) -> bool:
    return before is not None and before.same_as(after)


def _changed_poses(after: Mapping[str, Pose], before: Mapping[str, Pose]) -> dict[str, Any]:
    changed: dict[str, Any] = {}
    for state, pose in after.items():
        old = before.get(state, {})
        looks = {layer: look for layer, look in pose.items() if old.get(layer) != look}
        if looks or state not in before:
            changed[state] = looks
    return changed
