"""The graph of a property against values and derivatives that are known."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.measures.graph import graph_of
from keen_ripple.core.timeline import Timeline, timeline_of
from support import piece, way

SPRING = {"kind": "spring", "stiffness": 200.0, "damping": 10.0}


def curve(duration_ms: int, easing: str) -> dict[str, Any]:
    return {"kind": "curve", "duration_ms": duration_ms, "easing": easing}


def moved(timing: dict[str, Any], **to: Any) -> Timeline:
    """From the base to these values in one transition."""
    states = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"box": to}}]
    return timeline_of(read_piece(piece(states=states, transitions=[way("a", "b", timing, hold_ms=100)])))


@pytest.mark.parametrize(
    ("timing", "low", "high", "fastest"),
    [
        # 100 px in 400 ms, all along.
        (curve(400, "linear"), 10, 110, 250),
        # y = t³ at its end, by control points at a third and two thirds of the way along t: 3 times as fast.
        (curve(400, "cubic-bezier(0.333333333, 0, 0.666666667, 0)"), 10, 110, 750),
        # Smoothstep 3t² - 2t³ is 1.5 times as fast in the middle.
        (curve(400, "cubic-bezier(0.333333333, 0, 0.666666667, 1)"), 10, 110, 375),
        # A step has no speed.
        (curve(400, "steps(4, jump-end)"), 10, 110, 0),
    ],
)
def test_figures_are_those_of_the_curves(timing: dict[str, Any], low: float, high: float, fastest: float) -> None:
    graph = graph_of(moved(timing, x=110), "box", "x")
    assert graph is not None
    assert (graph.low, graph.high) == (pytest.approx(low), pytest.approx(high))
    assert graph.fastest == pytest.approx(fastest, rel=1e-4, abs=1e-9)


def test_a_spring_peaks_where_its_formula_says() -> None:
    """x = 1 - e^(-ζωt)·(cos ω_d t + ζω/ω_d · sin ω_d t); it is fastest at ω_d t = arctan(ω_d/(ζω))."""
    graph = graph_of(moved(SPRING, x=110), "box", "x")
    assert graph is not None
    decay, turn = 5.0, (200.0 - 25.0) ** 0.5
    assert graph.high == pytest.approx(110 + 100 * np.exp(-decay * np.pi / turn), abs=1e-3)
    at = np.arctan2(turn, decay) / turn
    assert graph.fastest == pytest.approx(100 * 200.0 / turn * np.exp(-decay * at) * np.sin(turn * at), rel=1e-4)


def test_small_scales_keep_their_figures() -> None:
    """Tapes are off by 0.002 here, which would be speeds out of nothing."""
    graph = graph_of(moved(curve(400, "linear"), scale_x=1.004), "box", "scale_x")
    assert graph is not None
    assert graph.fastest == pytest.approx(0.01)


def test_what_is_held_inside_its_range_stands_still_there() -> None:
    graph = graph_of(moved(SPRING, width=0), "box", "width")
    assert graph is not None
    assert graph.low == 0.0
    assert np.all(graph.speeds[graph.values == 0.0][2:-2] <= 1e-9)


@pytest.mark.parametrize(("layer", "name"), [("box", "y"), ("box", "fill"), ("nowhere", "x")])
def test_nothing_is_drawn_of_what_stands_still_or_is_no_number(layer: str, name: str) -> None:
    assert graph_of(moved(curve(300, "ease"), x=50, fill="#d9503a"), layer, name) is None
