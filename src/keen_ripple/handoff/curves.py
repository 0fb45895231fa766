"""Curves as CSS has them, as near to the core's as all that moves along them needs."""

from __future__ import annotations

from collections.abc import Sequence

from keen_ripple.core.curves import Easing, Named, Settle
from keen_ripple.core.curves.fit import CSS_TOLERANCE, as_linear
from keen_ripple.core.flow.finer import AS_IT_IS
from keen_ripple.core.flow.track import Track
from keen_ripple.core.timeline import Timeline

# Curves written as lines may be off by so many times the tolerance of a tape; nearer than that no text needs to come.
LOOSER = 4.0
NEAREST = 1e-4


def nearness(timeline: Timeline, tracks: Sequence[Track]) -> float:
    """How near to its curve, in progress, all that these tracks move has to stay."""
    near = CSS_TOLERANCE
    for track in tracks:
        if track.property.blend != "linear":
            continue
        farthest = max((abs(move.end - move.start) for move in track.moves if move.easing), default=0.0)
        share = timeline.finer.get(track.layer, AS_IT_IS).share(track.property)
        near = min(near, LOOSER * track.property.tolerance * share / max(farthest, 1e-9))
    return max(near, NEAREST)


def css_of(easing: Easing, near: float) -> str:
    """A curve in CSS; one that CSS has not as straight lines that stay as near as is needed."""
    return as_linear(easing, near).css() if isinstance(easing, Settle | Named) else easing.css()
