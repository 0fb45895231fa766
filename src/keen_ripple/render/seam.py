"""The seam of a loop, by its values and, where these leave it open, by how it looks."""

from __future__ import annotations

from keen_ripple.core.measures.seam import Seam, seam_of, sides_of
from keen_ripple.core.timeline import Timeline


def measured_seam(timeline: Timeline) -> Seam | None:
    """None where the run ends."""
    seam = seam_of(timeline)
    if seam is None or not seam.needs_a_look:
        return seam
    from keen_ripple.render.difference import differing

    return seam.looked_at(differing(timeline.piece, *sides_of(timeline)))
