"""The path of a layer: where its pivot is at equal times of a run."""

from __future__ import annotations

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.errors import Fault
from keen_ripple.core.measures.geometry import placed
from keen_ripple.core.timeline import Timeline, sample

MOST_POINTS = 4000


def motion_path(timeline: Timeline, layer_id: str, every_ms: float) -> Floats:
    """Where the pivot of the layer is in the piece's px: rows (x, y) at 0, every_ms, 2·every_ms … and at the end.

    The moments cover the first round. Raises Fault for an unknown layer, and where there would be too many points.
    """
    end = timeline.run.total_ms
    if not every_ms > 0.0 or end / every_ms > MOST_POINTS:
        least = max(end / MOST_POINTS, 0.1)
        raise Fault(
            f"A point every {every_ms:g} ms cannot be had.", value=every_ms, remedy=f"Ask for {least:.1f} or more."
        )
    moments = np.append(np.arange(0.0, end, every_ms), float(end))
    if timeline.run.loop_ms is not None:
        # The end of a loop is its beginning again: just before, where it came from is still seen.
        moments[-1] -= 1e-6
    return np.array([_pivot(timeline, pose, layer_id) for pose in sample(timeline, moments.tolist())])


def _pivot(timeline: Timeline, pose: dict[str, dict[str, float]], layer_id: str) -> tuple[float, float]:
    for layer, matrix in placed(timeline.piece.layers, pose):
        if layer.id == layer_id:
            look = pose[layer_id]
            x, y, w = matrix @ (look["pivot_x"] * look["width"], look["pivot_y"] * look["height"], 1.0)
            return x / w, y / w
    known = ", ".join(pose)
    raise Fault(f"There is no layer {layer_id!r}.", value=layer_id, remedy=f"Known: {known}.")
