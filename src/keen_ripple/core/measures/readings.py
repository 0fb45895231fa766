"""What the page shows of transitions: how long they take, along which curve, and who moves when."""

from __future__ import annotations

import math

from typing_extensions import TypedDict

from keen_ripple.core.curves import Easing, Settle
from keen_ripple.core.document.spans import Led
from keen_ripple.core.document.transitions import Curve, Spring
from keen_ripple.core.flow.legs import Leg
from keen_ripple.core.flow.tape import curve_knots

# A curve is drawn at some hundred pixels: this is a tenth of one of them.
DRAWN = 0.001


class SpringReading(TypedDict):
    """Peak as progress, and times in ms; `peak_ms` is None where the spring never passes its goal."""

    settling_ms: int
    peak: float
    peak_ms: float | None
    overshoot: float


class TimingReading(TypedDict):
    """How long one timing takes, and its curve as points (time 0–1, progress)."""

    own_ms: int
    curve: list[tuple[float, float]]
    spring: SpringReading | None


class LegReading(TimingReading):
    """`length_ms` is that with all lanes; `moves`: layer, property, start and end in ms inside the transition.

    `fade`: of a cross-fade, knots (ms, share of the new look). `lanes`: for each lane of the document, None where it
    has the timing of the transition.
    """

    length_ms: int
    moves: list[tuple[str, str, float, float]]
    fade: list[tuple[float, float]] | None
    lanes: list[TimingReading | None]


def leg_reading(leg: Leg) -> LegReading:
    """The length of a transition, the spans of its moves, and its curves ready to be drawn."""
    written = (lane for lane in leg.transition.lanes if not isinstance(lane, Led))
    return {
        "length_ms": leg.length_ms,
        "moves": [(m.layer, m.property, m.start_ms, m.end_ms) for m in leg.moves],
        "fade": _fade_knots(leg),
        **timing_reading(leg.transition.timing),
        "lanes": [timing_reading(lane.timing) if lane.timing else None for lane in written],
    }


def _fade_knots(leg: Leg) -> list[tuple[float, float]] | None:
    """(ms, share of the new look) of a cross-fade, within 0–1."""
    if leg.fade is None:
        return None
    knots = curve_knots(leg.fade, DRAWN)
    return [(round(u * leg.length_ms, 3), min(max(round(p, 4), 0.0), 1.0)) for u, p in knots.tolist()]


def timing_reading(timing: Curve | Spring) -> TimingReading:
    """How long one timing takes, its curve, and what its spring does."""
    easing = timing.progress()
    return {
        "own_ms": timing.length_ms(),
        "curve": curve_points(easing),
        "spring": spring_reading(easing) if isinstance(easing, Settle) else None,
    }


def curve_points(easing: Easing) -> list[tuple[float, float]]:
    """(u, progress) for drawing, u from 0 to 1."""
    return [(round(u, 4), round(p, 4)) for u, p in curve_knots(easing, DRAWN).tolist()]


def spring_reading(settle: Settle) -> SpringReading:
    """What a spring does."""
    peak_s, peak = settle.spring.peak()
    reached = math.isfinite(peak_s)
    return {
        "settling_ms": settle.duration_ms,
        "peak": round(peak, 4),
        "peak_ms": round(peak_s * 1000.0, 1) if reached else None,
        "overshoot": round(max(peak - 1.0, 0.0), 4),
    }
