"""How much finer a tape has to be than its property says, so that tolerances count in px of the piece.

What lies in groups that are scaled up is off by as much more, and errors of nested layers add up; a turn, or a scale,
is off by its share of what it moves farthest. All of it is taken at the states, and rounded up to powers of two, so
that an edit seldom changes it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import Property

# px of the piece by which a turn or a scale may be off where it moves most.
MOST_PX = 0.05
SCALES = ("scale_x", "scale_y")


class Finer(NamedTuple):
    """Of a layer: by how much its own px are shown enlarged, and how far its content lies from its pivot (px).

    Both powers of two, at least 1; the enlargement counts the layers around it too, whose errors add to its own.
    """

    enlarged: float = 1.0
    reach_px: float = 1.0

    def share(self, row: Property) -> float:
        """The tolerance of a property as a share (0–1) of what the table says."""
        if row.unit == "px":
            return 1.0 / self.enlarged
        if row.unit == "°":
            return min(math.degrees(MOST_PX / (self.reach_px * self.enlarged)) / row.tolerance, 1.0)
        if row.name in SCALES:
            return min(MOST_PX / (self.reach_px * self.enlarged) / row.tolerance, 1.0)
        return 1.0


AS_IT_IS = Finer()

Reaches = Mapping[str, Floats]
"""State → rows (own scale, reach of its box, distance from the pivot of the group around it), one for each layer."""


def reaches_of(piece: Piece, poses: Mapping[str, Pose], known: Mapping[int, Floats]) -> dict[str, Floats]:
    """Those of each state; `known` are earlier ones by the identity of their poses."""
    found = {}
    for state, pose in poses.items():
        rows = known.get(id(pose))
        found[state] = np.array(list(_rows(piece.layers, pose, None))).reshape(-1, 3) if rows is None else rows
    return found


def finer_of(piece: Piece, reaches: Reaches) -> dict[str, Finer]:
    """For each layer, over all states. Layers that need nothing finer are left out."""
    worst = np.max(np.stack(list(reaches.values())), axis=0).tolist()
    found: dict[str, Finer] = {}
    _collect(piece.layers, iter(worst), 1.0, 0, found)
    return found


def _rows(layers: Sequence[LayerBase], pose: Pose, around: Mapping[str, Any] | None) -> Any:
    for layer in layers:
        look = pose[layer.id]
        width, height = look["width"], look["height"]
        px, py = look["pivot_x"] * width, look["pivot_y"] * height
        reach = math.hypot(max(abs(px), abs(width - px)), max(abs(py), abs(height - py)))
        lean = abs(look["skew_x"]) + abs(look["skew_y"])
        scale = max(abs(look["scale_x"]), abs(look["scale_y"])) * (1.0 if not lean else _stretch(lean))
        away = 0.0
        if around is not None:
            middle = around["pivot_x"] * around["width"], around["pivot_y"] * around["height"]
            away = math.hypot(look["x"] + px - middle[0], look["y"] + py - middle[1])
        yield scale, reach, away
        if layer.layers:
            yield from _rows(layer.layers, pose, look)


def _stretch(degrees: float) -> float:
    """What a skew lengthens at most; beyond 80° no more is asked for."""
    return 1.0 / math.cos(math.radians(min(degrees, 80.0)))


def _collect(layers: Sequence[LayerBase], rows: Any, outer: float, depth: int, found: dict[str, Finer]) -> float:
    """How far these layers reach from the pivot of the group around them."""
    farthest = 0.0
    for layer in layers:
        scale, reach, away = next(rows)
        inside = _collect(layer.layers, rows, outer * max(scale, 1.0), depth + 1, found) if layer.layers else 0.0
        reach = max(reach, inside) * max(scale, 1.0)
        finer = Finer(_power(outer * (1 + depth)), _power(reach))
        if finer != AS_IT_IS:
            found[layer.id] = finer
        farthest = max(farthest, away + reach)
    return farthest


def _power(value: float) -> float:
    return float(2.0 ** math.ceil(math.log2(max(value, 1.0))))
