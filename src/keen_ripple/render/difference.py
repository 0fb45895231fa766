"""Whether two poses look the same, whatever their values: a turned circle does."""

from __future__ import annotations

import numpy as np

from keen_ripple.core.document import Piece
from keen_ripple.core.flow.poses import Pose
from keen_ripple.render.draw import draw_pose

# Large enough to see what moved, small enough to be drawn after every edit.
LONGEST_SIDE_PX = 240
# What an edge may differ by that falls on pixels otherwise: the edge of a turned circle by up to 7 of 255.
SEEN = 8


def differing(piece: Piece, a: Pose, b: Pose) -> float:
    """The share of pixels (0–1) by which two poses differ visibly, on white and in small."""
    scale = min(LONGEST_SIDE_PX / max(piece.width, piece.height), 1.0)
    first, second = (draw_pose(piece, pose, scale, "white").astype(np.int16) for pose in (a, b))
    return float((np.abs(first - second).max(axis=2) > SEEN).mean())
