"""The looks of a piece at so many moments that straight lines between them are its motion."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise
from typing import Any, NamedTuple

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves import CubicBezier
from keen_ripple.core.timeline import Timeline, sample
from keen_ripple.handoff.frames import Part

Look = Mapping[str, Any]
Marks = np.ndarray[Any, np.dtype[np.bool_]]
# Moments at first, per second; how often the stretches between are halved where a line is not the motion.
RATE, HALVINGS = 60.0, 11
# Just before a move begins, ms: what is farther off there than a tolerance is a jump.
ASIDE_MS = 0.01
JUMP_MS = 2.5 * ASIDE_MS


@dataclass(frozen=True, eq=False)
class Moving:
    """One value of a file: numbers that go with the look of a layer, each within `tolerance`."""

    layer: str
    of: Callable[[Look], Sequence[float]]
    tolerance: float
    # How its numbers stand in the file.
    write: Callable[[list[float]], Any]
    # The steps in which a look tells it.
    grain: float = 0.0


def number(layer: str, of: Callable[[Look], float], tolerance: float) -> Moving:
    """A value of one number."""
    return Moving(layer, lambda look: (of(look),), tolerance, lambda row: row[0])


def numbers(layer: str, of: Callable[[Look], Sequence[float]], tolerance: float) -> Moving:
    """A value that is a list of numbers."""
    return Moving(layer, of, tolerance, list)


def shares(layer: str, of: Callable[[Look], Sequence[float]], tolerance: float, grain: float) -> Moving:
    """The same of shares, 0–1: what lies within the tolerance of an end is not beyond it."""
    return Moving(layer, of, tolerance, lambda row: [min(max(share, 0), 1) for share in row], grain)


class Span(NamedTuple):
    """When a layer moves along one curve, ms."""

    start_ms: float
    end_ms: float
    easing: CubicBezier


@dataclass(frozen=True, eq=False)
class Looks:
    """The looks of all layers at `moments`, which rise."""

    timeline: Timeline
    part: Part
    moments: Floats
    looks: Sequence[Mapping[str, Look]]
    _rows: dict[Moving, Floats] = field(default_factory=dict, init=False)

    def of(self, layer: str) -> list[Look]:
        """All looks of a layer, of one that never changes the one."""
        return [look[layer] for look in (self.looks if layer in self.moved else self.looks[:1])]

    def rows(self, moving: Moving) -> Floats:
        """Its numbers at all moments, shape (moments, columns); worked out once."""
        if moving not in self._rows:
            if moving.layer in self.moved:
                rows = [moving.of(look[moving.layer]) for look in self.looks]
            else:
                rows = [moving.of(self.looks[0][moving.layer])] * len(self.looks)
            self._rows[moving] = np.array(rows, dtype=np.float64)
        return self._rows[moving]

    @cached_property
    def moved(self) -> frozenset[str]:
        """The layers that ever look otherwise than at first."""
        first = self.looks[0]
        return frozenset(layer for layer in first if any(look[layer] != first[layer] for look in self.looks))

    @cached_property
    def _spans(self) -> dict[str, list[Span]]:
        found: dict[str, set[Span]] = {}
        for timeline, later in _timelines(self.timeline):
            for track in timeline.tracks:
                for move in track.moves:
                    if isinstance(move.easing, CubicBezier):
                        span = Span(move.start_ms + later, move.end_ms + later, move.easing)
                        found.setdefault(track.layer, set()).add(span)
        return {layer: sorted(spans, key=lambda span: span[:2]) for layer, spans in found.items()}

    def spans(self, layer: str) -> list[Span]:
        """When anything of a layer moves along a cubic-bezier()."""
        return self._spans.get(layer, [])


def looks_of(timeline: Timeline, part: Part, rate: float = RATE) -> Looks:
    """So many per second, and where moves begin and end."""
    count = int(part.length_ms * rate / 1000.0) + 2
    edges = {
        edge + later
        for each, later in _timelines(timeline)
        for track in each.tracks
        for move in track.moves
        for edge in (move.start_ms, move.end_ms)
    }
    edges |= {segment.start_ms for segment in timeline.run.segments}
    beside = [edge - ASIDE_MS for edge in edges]
    moments = np.array([*np.linspace(part.begin_ms, part.end_ms, count), *edges, *beside])
    # At the end of what goes round stands the look before it begins again.
    end = part.end_ms - ASIDE_MS if part.again else part.end_ms
    inside = moments[(moments > part.begin_ms) & (moments < end)]
    moments = np.unique(np.round([part.begin_ms, *inside, end], 5))
    return Looks(timeline, part, moments, sample(timeline, moments.tolist()))


def _timelines(timeline: Timeline, later: float = 0.0) -> list[tuple[Timeline, float]]:
    """The piece and its free placements, each with when it begins."""
    inside = [pair for voice in timeline.voices for pair in _timelines(voice.timeline, later + voice.begins_ms)]
    return [(timeline, later), *inside]


def finer(looks: Looks, values: Collection[Moving]) -> Looks:
    """With moments in between wherever one of the values leaves the line by more than a quarter of its tolerance."""
    values = [value for value in values if value.layer in looks.moved]
    new = _middles(looks.moments, _changing(looks))
    for _ in range(HALVINGS):
        if not len(new):
            break
        between = Looks(looks.timeline, looks.part, new, sample(looks.timeline, new.tolist()))
        at = np.searchsorted(looks.moments, new)
        off = np.zeros(len(new), dtype=bool)
        for value in values:
            known = looks.rows(value)
            line = (known[at - 1] + known[at]) / 2.0
            near = max(value.tolerance / 4.0, value.grain)
            off |= np.any(np.abs(between.rows(value) - line) > near, axis=1)
        kept = np.flatnonzero(off)
        looks = _joined(looks, between, kept, values)
        starts, ends = looks.moments[:-1], looks.moments[1:]
        new = _middles(looks.moments, np.isin(starts, new[kept]) | np.isin(ends, new[kept]))
    return looks


def _joined(
    looks: Looks, between: Looks, kept: np.ndarray[Any, np.dtype[np.intp]], values: Collection[Moving]
) -> Looks:
    """With some of the moments in between, and what is known of the values at all of them."""
    moments = np.concatenate((looks.moments, between.moments[kept]))
    order = np.argsort(moments, kind="stable")
    every = [*looks.looks, *(between.looks[index] for index in kept)]
    joined = Looks(looks.timeline, looks.part, moments[order], [every[index] for index in order])
    for value in values:
        joined._rows[value] = np.concatenate((looks.rows(value), between.rows(value)[kept]))[order]
    return joined


def _changing(looks: Looks) -> Marks:
    """The stretches in which anything moves: all moves begin and end at a moment."""
    return np.array([now != then for now, then in pairwise(looks.looks)], dtype=bool)


def _middles(moments: Floats, wanted: Marks) -> Floats:
    """The middles of these stretches; not of jumps."""
    starts, ends = moments[:-1], moments[1:]
    wanted = wanted & (ends - starts > JUMP_MS)
    return np.asarray((starts[wanted] + ends[wanted]) / 2.0)
