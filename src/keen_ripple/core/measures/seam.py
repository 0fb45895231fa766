"""The seam: how far the look just before a loop closes is from the look just after."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from typing_extensions import TypedDict

from keen_ripple.core.document.layers import LayerBase, walk
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.flow.run import Run, Segment
from keen_ripple.core.flow.sampling import poses_at
from keen_ripple.core.flow.track import tracks_of
from keen_ripple.core.measures.geometry import placed
from keen_ripple.core.measures.seam_looks import Look, differs_otherwise, is_plain, length_jump, shade_jump
from keen_ripple.core.measures.seam_outlines import OutlineAround
from keen_ripple.core.timeline import Timeline

# Speeds are measured over this long on either side, in ms.
STEP_MS = 1.0
# Below these both sides are the same but for rounding.
LEAST_PX = 0.05
LEAST_COLOUR = 0.005
# Below this nothing is seen: a thousandth of a px, and rounding of speeds over one ms.
NOTHING = 1e-3


class SeamTold(TypedDict):
    """`open`: whether values jump by more than rounding; px, ΔE OK, px per second, a share of pixels (0–1)."""

    open: bool
    px: float
    colour: float
    speed: float
    picture: float
    layer: str | None
    colour_layer: str | None
    speed_layer: str | None


@dataclass(frozen=True)
class Seam:
    """What jumps where a loop closes, and the layer that jumps most in each way; None where nothing does.

    `px`: the greatest way of a point on an outline, 0 where the outline lies on itself again, or the greatest
    difference of another length: stroke, blur, letters, shadow. `colour`: the greatest ΔE OK, alpha and opacity
    included. `speed`: the greatest change of an outline's speed in px per second. `picture`: the share of pixels (0–1)
    that differ, None until somebody has looked. `unsure` holds the jumps in px of what has more than an outline, a
    text or a gradient, which a picture may show to be none.
    """

    px: float = 0.0
    colour: float = 0.0
    speed: float = 0.0
    layer: str | None = None
    colour_layer: str | None = None
    speed_layer: str | None = None
    unsure: Mapping[str, float] = field(default_factory=dict)
    picture: float | None = None

    @property
    def needs_a_look(self) -> bool:
        """Whether only a picture tells if it is open."""
        return bool(self.unsure) or self.is_open

    @property
    def is_open(self) -> bool:
        """Whether both sides differ by more than rounding."""
        return self.px >= LEAST_PX or self.colour >= LEAST_COLOUR or bool(self.picture)

    def looked_at(self, picture: float) -> Seam:
        """With the share of pixels that differ; where none does, what was unsure has not jumped."""
        if not picture or not self.unsure:
            return replace(self, picture=picture, unsure={})
        layer, px = max(self.unsure.items(), key=lambda item: item[1])
        worst = (layer, px) if px > self.px else (self.layer or layer, self.px)
        return replace(self, picture=picture, unsure={}, layer=worst[0], px=worst[1])

    def to_json(self) -> SeamTold:
        """As the command line and the page are told: px, ΔE OK, px per second, a share of pixels."""
        return {
            "open": self.is_open,
            "px": round(self.px, 3),
            "colour": round(self.colour, 4),
            "speed": round(self.speed, 1),
            "picture": round(self.picture or 0.0, 4),
            "layer": self.layer or self.colour_layer,
            "colour_layer": self.colour_layer,
            "speed_layer": self.speed_layer,
        }


def seam_of(timeline: Timeline) -> Seam | None:
    """The seam of a loop by its values; None where the run ends. Only a cut that closes the loop leaves it open."""
    if timeline.run.loop_ms is None:
        return None
    step = _step_ms(timeline.run)
    looks = _around(timeline)
    _, before, after, _ = looks
    shares = [_shares(timeline.piece.layers, pose) for pose in (before, after)]
    seen_layers = frozenset(name for name in before if shares[0][name] > 0.0 or shares[1][name] > 0.0)
    wanted = _stirred(timeline.piece.layers, looks) & seen_layers
    outlines = _outlines(timeline, looks, wanted)
    kinds = {layer.id: layer.kind for layer, _ in walk(timeline.piece.layers)}
    jumps: dict[str, float] = {}
    unsure: dict[str, float] = {}
    shades: dict[str, float] = {}
    for name, outline in outlines.items():
        old, new, way = before[name], after[name], outline.way
        jumps[name], shades[name] = _jumps(old, new, (shares[0][name], shares[1][name]), outline)
        if way > NOTHING and is_plain(kinds[name], old) and is_plain(kinds[name], new):
            # A figure that lies on itself again, such as a circle that was turned, has not jumped.
            jumps[name] = max(jumps[name], way if way < LEAST_PX or outline.apart >= LEAST_PX else 0.0)
        elif way > NOTHING or differs_otherwise(old, new):
            unsure[name] = way
    speeds = {name: outline.speed_change * 1000.0 / step for name, outline in outlines.items()}
    (layer, px), (colour_layer, colour), (speed_layer, speed) = map(_worst, (jumps, shades, speeds))
    return Seam(px, colour, speed, layer, colour_layer, speed_layer, unsure)


def _jumps(before: Look, after: Look, shares: tuple[float, float], outline: OutlineAround) -> tuple[float, float]:
    """In px besides the outline, and in colour; without a look at them where both sides are the same."""
    same = before == after
    length = 0.0 if same else length_jump(before, after, outline.length)
    return length, 0.0 if same and shares[0] == shares[1] else shade_jump(before, after, shares)


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
        # A hold looks the same however long it is.
        and (a.kind == "hold" or a.end_ms - a.start_ms == b.end_ms - b.start_ms)
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


def _outlines(timeline: Timeline, looks: Sequence[Pose], wanted: frozenset[str]) -> dict[str, OutlineAround]:
    """The outline of each of the layers in the four looks."""
    rows = zip(*(placed(timeline.piece.layers, pose) for pose in looks), strict=True)
    return {
        row[0][0].id: OutlineAround(
            row[0][0].kind, [pose[row[0][0].id] for pose in looks], [matrix for _, matrix in row]
        )
        for row in rows
        if row[0][0].id in wanted
    }


def _shares(layers: Sequence[LayerBase], pose: Pose, around: float = 1.0) -> dict[str, float]:
    """By how much each layer shows (0–1): its opacity with that of the groups around it."""
    found: dict[str, float] = {}
    for layer in layers:
        look = pose[layer.id]
        found[layer.id] = around * float(look["opacity"]) * float(look["visible"])
        found |= _shares(layer.layers, pose, found[layer.id])
    return found


def _worst(amounts: Mapping[str, float]) -> tuple[str | None, float]:
    name = max(amounts, key=amounts.__getitem__, default=None)
    return (name, amounts[name]) if name is not None and amounts[name] > NOTHING else (None, 0.0)
