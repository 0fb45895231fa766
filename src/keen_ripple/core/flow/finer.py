"""How much finer a tape has to be than its property says, so that tolerances count in px of the piece.

What lies in groups that are scaled up is off by as much more, and errors of nested layers add up; a turn, or a scale,
is off by its share of what it moves farthest. All of it is taken at the states, and rounded up to powers of two, so
that an edit seldom changes it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from itertools import chain
from typing import Any, NamedTuple

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.copies import Copy, Flat
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

Row = tuple[float, float, float]
# What places the middle of a layer, from which what lies in it is as far away as it is.
MIDDLE = ("pivot_x", "pivot_y", "width", "height")
Reaches = Mapping[str, Floats]
"""State → rows (own scale, reach of its box, distance from the pivot of the group around it), one for each layer."""


def reaches_of(
    piece: Piece, poses: Mapping[str, Pose], known: Mapping[int, Floats], flat: Flat | None = None
) -> dict[str, Floats]:
    """Those of each state; `known` are earlier ones by the identity of their poses."""
    flat = flat or Flat(piece)
    found = {}
    for state, pose in poses.items():
        rows = known.get(id(pose))
        if rows is None:
            numbers = chain.from_iterable(_rows(piece.layers, pose, None, flat, {}))
            rows = np.fromiter(numbers, dtype=np.float64).reshape(-1, 3)
        found[state] = rows
    return found


def finer_of(piece: Piece, reaches: Reaches, flat: Flat | None = None) -> dict[str, Finer]:
    """For each layer, over all states. Layers that need nothing finer are left out."""
    worst = np.max(np.stack(list(reaches.values())), axis=0)
    collector = _Collector(worst, (flat or Flat(piece)).copies)
    collector.collect(piece.layers, 1.0, 0)
    return collector.found


def _rows(
    layers: Sequence[LayerBase],
    pose: Pose,
    around: Mapping[str, Any] | None,
    flat: Flat,
    alike: dict[object, list[Row]],
) -> list[Row]:
    """Of these layers and all that is in them, in painting order; those of copies that stand alike are `alike`."""
    rows: list[Row] = []
    for layer in layers:
        look = pose[layer.id]
        rows.append(_row(look, around))
        if layer.id in flat.copies:
            key = flat.alike(pose)[layer.id], *[look[name] for name in MIDDLE]
            if key not in alike:
                alike[key] = _rows(layer.layers, pose, look, flat, alike)
            rows += alike[key]
        elif layer.layers:
            rows += _rows(layer.layers, pose, look, flat, alike)
    return rows


def _row(look: Mapping[str, Any], around: Mapping[str, Any] | None) -> Row:
    width, height = look["width"], look["height"]
    px, py = look["pivot_x"] * width, look["pivot_y"] * height
    reach = math.hypot(max(abs(px), abs(width - px)), max(abs(py), abs(height - py)))
    lean = abs(look["skew_x"]) + abs(look["skew_y"])
    scale = max(abs(look["scale_x"]), abs(look["scale_y"])) * (1.0 if not lean else _stretch(lean))
    if around is None:
        return scale, reach, 0.0
    middle = around["pivot_x"] * around["width"], around["pivot_y"] * around["height"]
    return scale, reach, math.hypot(look["x"] + px - middle[0], look["y"] + py - middle[1])


def _stretch(degrees: float) -> float:
    """What a skew lengthens at most; beyond 80° no more is asked for."""
    return 1.0 / math.cos(math.radians(min(degrees, 80.0)))


class _Collector:
    """Goes through the layers in painting order, with their rows."""

    def __init__(self, rows: Floats, copies: Mapping[str, Copy]) -> None:
        self.found: dict[str, Finer] = {}
        self._rows = rows
        self._at = 0
        self._copies = copies
        self._known: dict[object, tuple[list[tuple[int, Finer]], float]] = {}

    def collect(self, layers: Sequence[LayerBase], outer: float, depth: int) -> float:
        """How far these layers reach from the pivot of the group around them."""
        farthest = 0.0
        for layer in layers:
            scale, reach, away = self._rows[self._at].tolist()
            self._at += 1
            around = outer * max(scale, 1.0)
            inside = self._inside(layer, around, depth + 1) if layer.layers else 0.0
            reach = max(reach, inside) * max(scale, 1.0)
            finer = Finer(_power(outer * (1 + depth)), _power(reach))
            if finer != AS_IT_IS:
                self.found[layer.id] = finer
            farthest = max(farthest, away + reach)
        return farthest

    def _inside(self, layer: LayerBase, outer: float, depth: int) -> float:
        copy = self._copies.get(layer.id)
        if copy is None:
            return self.collect(layer.layers, outer, depth)
        end = self._at + len(copy.layers)
        key = copy.bases, outer, depth, self._rows[self._at : end].tobytes()
        if key not in self._known:
            farthest = self.collect(layer.layers, outer, depth)
            found = [(at, self.found[inner]) for at, inner in enumerate(copy.layers) if inner in self.found]
            self._known[key] = found, farthest
            return farthest
        self._at = end
        alike, farthest = self._known[key]
        self.found.update([(copy.layers[at], own) for at, own in alike])
        return farthest


def _power(value: float) -> float:
    return float(2.0 ** math.ceil(math.log2(max(value, 1.0))))
