"""What the page plays: everything the core computed of a piece, and what of it an edit changed."""

from __future__ import annotations

import base64
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from keen_ripple.core.document import read_piece
from keen_ripple.core.legs import Leg
from keen_ripple.core.poses import Pose
from keen_ripple.core.readings import leg_reading
from keen_ripple.core.seam import seam_of
from keen_ripple.core.tape import TapeTrack
from keen_ripple.core.timeline import Timeline, timeline_of


def compute(document: Any, before: Timeline | None = None) -> Timeline:
    """Everything the page shows of a document. Raises DocumentFault and RunFault."""
    return timeline_of(read_piece(document), before)


def answer(after: Timeline, before: Timeline | None = None) -> dict[str, Any]:
    """What differs from `before`, as JSON: changed poses and transitions, and the run with its seam."""
    seam = seam_of(after)
    old_poses: Mapping[str, Pose] = before.poses if before else {}
    old_legs: Mapping[str, Leg] = before.legs if before else {}
    return {
        "poses": _changed_poses(after.poses, old_poses),
        "run": {
            **after.run.to_json(),
            "total_ms": after.run.total_ms,
            "final_state": after.run.final_state,
            "transitions": [segment.transition for segment in after.run.segments],
        },
        "seam": seam.to_json() if seam else None,
        "transitions": {
            key: {**leg_reading(leg), "tape": packed(leg.tape)}
            for key, leg in after.legs.items()
            if old_legs.get(key) is not leg
        },
    }


def packed(tape: Sequence[TapeTrack]) -> dict[str, Any]:
    """A tape as one base64 text of little-endian Float32: for each track its times, then its rows."""
    numbers = [part for track in tape for part in (track.times_ms, track.rows.ravel())]
    data = np.concatenate(numbers) if numbers else np.empty(0)
    return {
        "tracks": [[t.layer, t.property, len(t.times_ms), t.rows.shape[1]] for t in tape],
        "data": base64.b64encode(data.astype("<f4").tobytes()).decode("ascii"),
    }


def _changed_poses(after: Mapping[str, Pose], before: Mapping[str, Pose]) -> dict[str, Any]:
    changed: dict[str, Any] = {}
    for state, pose in after.items():
        old = before.get(state, {})
        looks = {layer: look for layer, look in pose.items() if old.get(layer) != look}
        if looks or state not in before:
            changed[state] = looks
    return changed
