"""Curves as CSS has them, as near to the core's as all that moves along them needs."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from keen_ripple.core.blends.blend import Between
from keen_ripple.core.blends.colours import SPACES, ColourBetween
from keen_ripple.core.curves import Easing, Named, Settle
from keen_ripple.core.curves.fit import CSS_TOLERANCE, as_linear
from keen_ripple.core.flow.finer import AS_IT_IS
from keen_ripple.core.flow.track import Track
from keen_ripple.core.timeline import Timeline

# Curves written as lines may be off by so many times the tolerance of a tape; nearer than that no text needs to come.
LOOSER = 4.0
NEAREST = 1e-4
# Of 255: what is seen of a difference between colours.
FAR_APART = 2.0
HALFWAY = np.array([0.25, 0.5, 0.75])


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


def blends_apart(track: Track) -> bool:
    """Whether colours go through others in sRGB than in the space of the piece: not every browser blends keyframes in
    that (Firefox 153 does not), so they are given keyframes enough to look the same in both."""
    if track.property.blend != "colour" and track.property.blend != "paint":
        return False
    moves = [move for move in track.moves if move.easing and isinstance(move.start, str) and isinstance(move.end, str)]
    return any(_apart(track.blend.between(move.start, move.end), move.start, move.end) > FAR_APART for move in moves)


def _apart(own: Between, start: str, end: str) -> float:
    """Of 255."""
    plain = ColourBetween.of(SPACES["srgb"], start, end)
    return float(np.max(np.abs(own.rows(HALFWAY)[:, :3] - plain.rows(HALFWAY)[:, :3])))


def css_of(easing: Easing, near: float) -> str:
    """A curve in CSS; one that CSS has not as straight lines that stay as near as is needed."""
    return as_linear(easing, near).css() if isinstance(easing, Settle | Named) else easing.css()
