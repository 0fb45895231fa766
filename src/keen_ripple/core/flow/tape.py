"""The tape: knots of which straight lines are the motion, within the tolerance of each property.

Knots belong to curves, not to properties: a curve is simplified once in progress, for the tolerance that a distance
needs, and mapped onto every move along it. Each transition has a tape of its own; a run is a row of them.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType
from typing import Any, cast

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends import Between, Blend, Switch
from keen_ripple.core.blends.coordinates import settled
from keen_ripple.core.curves import STEADY, Easing
from keen_ripple.core.curves.fit import fit_lines
from keen_ripple.core.errors import TooMuchFault
from keen_ripple.core.flow.finer import AS_IT_IS, Finer
from keen_ripple.core.flow.moves import Move, Repeat
from keen_ripple.core.limits import MOST_KNOTS
from keen_ripple.core.properties import BY_NAME, Property, blend_of

# Traces are off by at most 2e-5 of progress, and rounding takes its share; the rest of a tolerance is for the knots.
SHARE = 0.9
TRACE_ERROR = 2e-5
# Of a tolerance, the share by which the points may leave the curve, and again the values between; how often points are
# doubled for that; and at how many places the values are looked at to tell how fast they change.
DENSE = 0.1
PLACES = 65
REFINEMENTS = 12


@dataclass(frozen=True, eq=False)
class TapeTrack:
    """Knots of one property in one transition: `times_ms` (n,) and `rows` (n, columns).

    Times never fall; equal ones are a jump. Before its first knot a track shows its first row, after its last its last.
    """

    layer: str
    property: str
    times_ms: Floats
    rows: Floats
    # What rows hold, as JSON; None for numbers and colours. See `Between.form`.
    form: Any = None

    def repeated(self, layer: str, later_ms: int) -> TapeTrack:
        """The same of another layer, later; the rows are the same object."""
        return TapeTrack(
            layer, self.property, self.times_ms + later_ms if later_ms else self.times_ms, self.rows, self.form
        )


KnownTracks = Mapping[int, TapeTrack]
"""The tracks of moves that have been taken over, by their identity."""


def tape_of(
    moves: Sequence[Move],
    colour_space: str,
    known: KnownTracks = MappingProxyType({}),
    finer: Mapping[str, Finer] = MappingProxyType({}),
    repeats: Sequence[Repeat] = (),
) -> tuple[TapeTrack, ...]:
    """The tape of one transition, a track for each of its moves, in their order; `known` ones are taken over.

    `finer` names the layers whose tolerances have to be smaller. Raises TooMuchFault.
    """
    tracks = list(map(known.get, map(id, moves)))
    alike: dict[tuple[Easing, int], list[tuple[int, Move]]] = {}
    missing = [at for at, track in enumerate(tracks) if track is None]
    repeated = _repeated(moves, repeats, missing, finer)
    for at in missing:
        if at in repeated:
            continue
        move = moves[at]
        row = BY_NAME[move.property]
        if move.easing is not None and row.blend == "linear":
            alike.setdefault((move.easing, _exponent(row, move, _share(move, finer))), []).append((at, move))
        else:
            tracks[at] = _single(move, colour_space, _share(move, finer))
    _keep_within_limit(alike)
    for key, group in alike.items():
        for (at, _), track in zip(group, _mapped(key, [move for _, move in group]), strict=True):
            tracks[at] = track
    for at, (source, later_ms) in repeated.items():
        tracks[at] = cast(TapeTrack, tracks[source]).repeated(moves[at].layer, later_ms)
    return cast(tuple[TapeTrack, ...], tuple(tracks))


def _repeated(
    moves: Sequence[Move], repeats: Sequence[Repeat], missing: Sequence[int], finer: Mapping[str, Finer]
) -> dict[int, tuple[int, int]]:
    """Of the moves that have no track yet, those that repeat others to the same tolerance: where that is, and how much
    later they are."""
    found, starts = {}, [repeat.at for repeat in repeats]
    for at in missing if repeats else ():
        repeat = repeats[bisect_right(starts, at) - 1]
        source = repeat.of + at - repeat.at
        inside = repeat.at <= at < repeat.at + repeat.length
        if inside and finer.get(moves[at].layer) == finer.get(moves[source].layer):
            found[at] = source, repeat.later_ms
    return found


def _keep_within_limit(alike: Mapping[tuple[Easing, int], Sequence[object]]) -> None:
    """Before they are laid out: they might not fit into memory."""
    if sum(len(curve_knots(easing, 2.0**exponent)) * len(group) for (easing, exponent), group in alike.items()) > (
        MOST_KNOTS
    ):
        raise too_many_knots()


def too_many_knots() -> TooMuchFault:
    """The fault of a piece whose tapes are more than can be sent and kept."""
    return TooMuchFault(
        f"The motion of this piece needs more than {MOST_KNOTS} knots.",
        place="/transitions",
        remedy="Use easings with fewer steps or stops where many layers move.",
    )


def _share(move: Move, finer: Mapping[str, Finer]) -> float:
    return finer.get(move.layer, AS_IT_IS).share(BY_NAME[move.property])


def _exponent(row: Property, move: Move, share: float) -> int:
    """The tolerance in progress, as a power of two, so that moves of different lengths share the knots of a curve."""
    return math.floor(math.log2(min(row.tolerance * share * SHARE / abs(move.end - move.start), 1.0)))


def _mapped(key: tuple[Easing, int], group: Sequence[Move]) -> Iterator[TapeTrack]:
    """The knots of one curve on every move along it, in one product."""
    easing, exponent = key
    u, p = curve_knots(easing, 2.0**exponent).T
    numbers = np.array([(m.start_ms, m.end_ms, m.start, m.end) for m in group], dtype=np.float64)
    from_ms, to_ms, start, end = numbers.T[:, :, None]
    times, values = from_ms + u * (to_ms - from_ms), start * (1.0 - p) + end * p
    for move, t, v, low, high in zip(group, times, values, values.min(axis=1), values.max(axis=1), strict=True):
        row = BY_NAME[move.property]
        if row.clamped and ((row.low is not None and low < row.low) or (row.high is not None and high > row.high)):
            t, v = _clamped(row, t, v)
        yield TapeTrack(move.layer, move.property, t, v[:, None])


def _clamped(row: Property, times: Floats, values: Floats) -> tuple[Floats, Floats]:
    """A line that is clamped gets a knot where it crosses the limit."""
    for limit in (row.low, row.high):
        if limit is None:
            continue
        side = np.sign(values - limit)
        at = np.flatnonzero(side[:-1] * side[1:] < 0)
        # A share of the line, which is in 0–1 however short the line: a slope may overflow.
        share = (limit - values[at]) / (values[at + 1] - values[at])
        times = np.insert(times, at + 1, times[at] + share * (times[at + 1] - times[at]))
        values = np.insert(values, at + 1, limit)
    return times, np.clip(values, row.low, row.high)


def _single(move: Move, colour_space: str, share: float) -> TapeTrack:
    """A cut, or a move of what is not a number."""
    row = BY_NAME[move.property]
    blend = blend_of(row, colour_space, move.start, move.end)
    if move.easing is None:
        return _cut(move, blend)
    between = blend.between(move.start, move.end)
    knots = between_knots(blend, move.start, move.end, move.easing, row.tolerance, share)
    times = move.start_ms + knots[:, 0] * (move.end_ms - move.start_ms)
    return TapeTrack(move.layer, move.property, times, knots[:, 1:], between.form)


def _cut(move: Move, blend: Blend) -> TapeTrack:
    times = np.full(2, float(move.end_ms))
    if blend.columns is None:
        rows = np.array([[0.0], [1.0]])
        return TapeTrack(move.layer, move.property, times, rows, Switch(settled(move.start), move.end).form)
    return TapeTrack(move.layer, move.property, times, np.stack((blend.show(move.start), blend.show(move.end))))


@lru_cache(maxsize=4096)
def curve_knots(easing: Easing, tolerance: float) -> Floats:
    """Knots (u, progress) of a curve within `tolerance` of progress. Kept: do not write into it."""
    return fit_lines(*easing.trace(), max(tolerance - TRACE_ERROR, tolerance / 2.0))


@lru_cache(maxsize=4096)
def between_knots(blend: Blend, start: Any, end: Any, easing: Easing, tolerance: float, share: float = 1.0) -> Floats:
    """Knots (u, columns …) of what lies between two values, within the tolerances of its columns, or `tolerance`.

    Of these only a `share` (0–1) is used. Kept: do not write into it.
    """
    between = blend.between(start, end)
    tolerances = np.array(between.tolerances or (tolerance,) * (blend.columns or 1)) * SHARE * share
    u, progress = _points(easing, between, tolerances * DENSE)
    u, rows = _refined(u, progress, between, tolerances * DENSE)
    return fit_lines(u, rows, tolerances * (1.0 - 2.0 * DENSE))


def _points(easing: Easing, between: Between, tolerances: Floats) -> tuple[Floats, Floats]:
    """Points (u, progress) of the curve, as few as the values between need to be told within these tolerances."""
    u, progress = easing.trace()
    places = np.linspace(progress.min(), progress.max(), PLACES)
    if places[0] == places[-1] or easing == STEADY:
        return u, progress
    change = np.max(np.abs(np.diff(between.rows(places), axis=0)), axis=0) / (places[1] - places[0])
    told = change > 0.0
    # Between the places it may change faster. What hardly changes at all may be told by a line.
    with np.errstate(over="ignore"):
        tolerance = np.min(tolerances[told] / change[told], initial=1.0) / 2.0
    if tolerance <= TRACE_ERROR:
        return u, progress
    u, progress = curve_knots(easing, 2.0 ** math.floor(math.log2(tolerance))).T
    return u, progress


def _refined(u: Floats, progress: Floats, between: Between, tolerances: Floats) -> tuple[Floats, Floats]:
    """Places u and what is shown there, with one more in the middle of every stretch where that leaves the straight
    line, and so on. Colours bend between the lines of a trace, most where a channel comes out of black; limits break
    them."""
    rows = between.rows(progress)
    for _ in range(REFINEMENTS):
        middle = (progress[:-1] + progress[1:]) / 2.0
        shown = between.rows(middle)
        off = np.abs(shown - (rows[:-1] + rows[1:]) / 2.0)
        bent = np.flatnonzero(np.any(off > tolerances, axis=1) & (np.diff(u) > 0.0))
        if not len(bent):
            break
        times = (u[bent] + u[bent + 1]) / 2.0
        u, progress = np.insert(u, bent + 1, times), np.insert(progress, bent + 1, middle[bent])
        rows = np.insert(rows, bent + 1, shown[bent], axis=0)
    return u, rows
