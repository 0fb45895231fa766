"""The seam: how far the look just before a loop closes is from the look just after."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.colour import oklab_of
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.geometry import outline_points, placed, seen
from keen_ripple.core.poses import Pose
from keen_ripple.core.run import Run, Segment
from keen_ripple.core.sampling import poses_at
from keen_ripple.core.timeline import Timeline
from keen_ripple.core.track import tracks_of

# Speeds are measured over this long on either side, in ms.
STEP_MS = 1.0
# Points at which each curve of an outline is followed.
POINTS_PER_CURVE = 9


@dataclass(frozen=True)
class Seam:
    """What jumps where a loop closes, and the layer that jumps most in each way; None where nothing does.

    `distance_px`: the greatest way of a point on an outline. `colour`: the greatest ΔE OK, alpha and opacity included.
    `speed_px_s`: the greatest change of an outline's speed in px per second.
    """

    distance_px: float = 0.0
    colour: float = 0.0
    speed_px_s: float = 0.0
    layer: str | None = None
    colour_layer: str | None = None
    speed_layer: str | None = None

    @property
    def is_open(self) -> bool:
        """Whether values differ by more than rounding."""
        return self.distance_px >= 0.05 or self.colour >= 0.005

    def to_json(self) -> dict[str, object]:
        return {
            "open": self.is_open,
            "distance_px": round(self.distance_px, 3),
            "colour": round(self.colour, 4),
            "speed_px_s": round(self.speed_px_s, 1),
            "layer": self.layer or self.colour_layer,
            "colour_layer": self.colour_layer,
            "speed_layer": self.speed_layer,
        }


def seam_of(timeline: Timeline) -> Seam | None:
    """The seam of a loop; None where the run ends. Only a cut that closes the loop leaves distance or colour open."""
    if timeline.run.loop_ms is None:
        return None
    step = _step_ms(timeline.run)
    looks = _around(timeline)
    _, before, after, _ = looks
    moving = [_outlines(timeline, pose, _stirred(timeline.piece.layers, looks)) for pose in looks]
    rows = {name: [outlines[name] for outlines in moving] for name in moving[0]}
    jumps = {name: _way(row[1], row[2]) for name, row in rows.items()}
    speeds = {name: _speed_change(row) * 1000.0 / step for name, row in rows.items()}
    shades = {layer: _shade(before[layer], look) for layer, look in after.items() if look is not before[layer]}
    (layer, distance), (colour_layer, colour), (speed_layer, speed) = map(_worst, (jumps, shades, speeds))
    return Seam(distance, colour, speed, layer, colour_layer, speed_layer)


def is_alike_at_seam(timeline: Timeline, other: Timeline) -> bool:
    """Whether two timelines close in the same way, so that they have the same seam."""
    if timeline.run.loop_ms is None or other.run.loop_ms is None:
        return False
    now, then = timeline.piece, other.piece
    looks_alike = (now.blend, now.ground, now.width, now.height) == (then.blend, then.ground, then.width, then.height)
    if not looks_alike or _step_ms(timeline.run) != _step_ms(other.run) or now.layers != then.layers:
        return False
    pairs = zip(_at_seam(timeline.run), _at_seam(other.run), strict=True)
    return all(
        a.kind == b.kind
        and a.end_ms - a.start_ms == b.end_ms - b.start_ms
        and timeline.legs.get(a.leg) is other.legs.get(b.leg)
        and timeline.poses[a.from_] == other.poses[b.from_]
        and timeline.poses[a.to] == other.poses[b.to]
        for a, b in pairs
    )


def sides_of(timeline: Timeline) -> tuple[Pose, Pose]:
    """The looks just before and just after a loop closes."""
    _, before, after, _ = _around(timeline)
    return before, after


def _step_ms(run: Run) -> float:
    return min(STEP_MS, (run.loop_ms or STEP_MS) / 4.0)


def _around(timeline: Timeline) -> tuple[Pose, Pose, Pose, Pose]:
    """The looks one step before a loop closes, at both sides of it, and one step after."""
    closing, opening = _at_seam(timeline.run)
    earlier, before = _either_side(timeline, closing, -_step_ms(timeline.run))
    later, after = _either_side(timeline, opening, _step_ms(timeline.run))
    return earlier, before, after, later


def _at_seam(run: Run) -> tuple[Segment, Segment]:
    """The last segment of a loop, and its first."""
    return run.segments[-1], next(segment for segment in run.segments if segment.end_ms > run.lead_in_ms)


def _either_side(timeline: Timeline, segment: Segment, step: float) -> list[Pose]:
    """The looks `step` ms into a segment, or before its end, and at that end of it."""
    leaving, reaching = timeline.poses[segment.from_], timeline.poses[segment.to]
    length = segment.end_ms - segment.start_ms
    if segment.kind == "hold" or length == 0:
        return [leaving, leaving]
    leg = timeline.legs[segment.leg]
    tracks = tracks_of(leg.moves_on_axis(), leaving, timeline.piece.blend)
    inside, edge = (min(step, length), 0.0) if step > 0 else (max(length + step, 0.0), float(length))
    first, second = poses_at(leaving, tracks, np.array(sorted((inside, edge))))
    moving, at_edge = (second, first) if step > 0 else (first, second)
    return [moving, at_edge if leg.carried else leaving if step > 0 else reaching]


def _stirred(layers: Sequence[LayerBase], looks: Sequence[Pose], inside: bool = False) -> frozenset[str]:
    """The layers that do not look the same all the time, and all that is inside of them."""
    found: set[str] = set()
    for layer in layers:
        stirs = inside or any(look[layer.id] != looks[0][layer.id] for look in looks[1:])
        found.update([layer.id] if stirs else [], _stirred(layer.layers, looks, stirs))
    return frozenset(found)


def _outlines(timeline: Timeline, pose: Pose, wanted: frozenset[str]) -> dict[str, Floats]:
    return {
        layer.id: seen(outline_points(layer.kind, pose[layer.id], POINTS_PER_CURVE), matrix)
        for layer, matrix in placed(timeline.piece.layers, pose)
        if layer.id in wanted
    }


def _way(a: Floats, b: Floats) -> float:
    """How far the farthest point goes; of outlines with other points, how far from the other one."""
    if a.shape == b.shape:
        return float(np.max(np.hypot(*(a - b).T)))
    between = np.hypot(*np.moveaxis(a[:, None] - b[None], -1, 0))
    return float(max(between.min(axis=0).max(), between.min(axis=1).max()))


def _speed_change(row: Sequence[Floats]) -> float:
    """In px per step; an outline that is written anew with other points has no speed."""
    earlier, before, after, later = row
    if len({points.shape for points in row}) > 1:
        return 0.0
    return _way(before - earlier, later - after)


# Below these nothing is seen: a millionth of a px, and rounding of speeds over one ms.
NOTHING = 1e-3


def _worst(amounts: Mapping[str, float]) -> tuple[str | None, float]:
    name = max(amounts, key=amounts.__getitem__, default=None)
    return (name, amounts[name]) if name is not None and amounts[name] > NOTHING else (None, 0.0)


def _shade(before: Mapping[str, Any], after: Mapping[str, Any]) -> float:
    """The distance in OKLab, premultiplied by alpha and opacity, alpha itself counted as a fourth axis."""
    seen_by = [float(look["opacity"]) * float(look["visible"]) for look in (before, after)]
    jump = abs(seen_by[0] - seen_by[1])
    for name in ("fill", "stroke"):
        if isinstance(before.get(name), str) and isinstance(after.get(name), str):
            a, b = (_premultiplied(look[name], share) for look, share in zip((before, after), seen_by, strict=True))
            jump = max(jump, float(np.linalg.norm(a - b)))
    return jump


def _premultiplied(text: str, share: float) -> Floats:
    lightness, a, b, alpha = oklab_of(text)
    return np.array([lightness, a, b, 1.0]) * alpha * share
