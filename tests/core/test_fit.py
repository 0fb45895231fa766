"""Fitting few lines to many points."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from scipy.optimize import linprog

from keen_ripple.core.curves import parse_easing
from keen_ripple.core.curves.fit import fit_lines


@pytest.mark.parametrize("tolerance", [0.1, 0.01, 0.001])
def test_stays_within_the_tolerance_with_few_knots(tolerance: float) -> None:
    t = np.linspace(0.0, 1.0, 2000)
    wave = np.sin(12 * t) * np.exp(-2 * t)
    knots = fit_lines(t, wave, tolerance)
    assert np.max(np.abs(np.interp(t, *knots.T) - wave)) <= tolerance * (1 + 1e-9)
    assert knots[0].tolist() == [0.0, wave[0]]
    assert knots[-1].tolist() == [1.0, wave[-1]]
    # A chord of a curve with |f″| ≤ 148 spans at least √(8·tolerance/148).
    assert len(knots) <= 2 + 1 / np.sqrt(8 * tolerance / 148)


def test_a_line_is_two_knots() -> None:
    t = np.linspace(0.0, 1.0, 50)
    assert len(fit_lines(t, 3 * t - 1, 1e-6)) == 2


def test_both_sides_of_a_jump_are_kept() -> None:
    t = np.array([0.0, 0.5, 0.5, 1.0])
    assert fit_lines(t, np.array([0.0, 0.0, 1.0, 1.0]), 0.01).tolist() == [[0, 0], [0.5, 0], [0.5, 1], [1, 1]]


def test_columns_are_fitted_together() -> None:
    t = np.linspace(0.0, 1.0, 500)
    both = np.column_stack((t**2, np.cos(5 * t)))
    knots = fit_lines(t, both, (0.01, 0.002))
    for column, tolerance in ((0, 0.01), (1, 0.002)):
        error = np.abs(np.interp(t, knots[:, 0], knots[:, column + 1]) - both[:, column])
        assert np.max(error) <= tolerance * (1 + 1e-9)


def one_polyline_fits(t: np.ndarray, values: np.ndarray, tolerance: float, knots: list[int]) -> bool:
    """Whether lines between these points of time can stay within the tolerance, by linear programming."""
    hats = np.array([np.interp(t, t[knots], unit) for unit in np.eye(len(knots))]).T
    slack = np.full(len(t), tolerance)
    slack[[0, -1]] = 0.0
    limits = np.concatenate((values + slack, slack - values))
    free = [(None, None)] * len(knots)
    return linprog(np.zeros(len(knots)), np.vstack((hats, -hats)), limits, bounds=free).status == 0


def fewest(t: np.ndarray, values: np.ndarray, tolerance: float) -> int:
    """The optimum, by trying all choices of knots."""
    inner = range(1, len(t) - 1)
    return next(
        count + 2
        for count in range(len(t) - 1)
        for chosen in combinations(inner, count)
        if one_polyline_fits(t, values, tolerance, [0, *chosen, len(t) - 1])
    )


@pytest.mark.parametrize("tolerance", [0.1, 0.03])
@pytest.mark.parametrize("easing", ["ease", "cubic-bezier(0.6, -0.5, 0.4, 1.6)", "overshoot", "elastic(1)"])
def test_hardly_more_knots_than_the_fewest_possible(easing: str, tolerance: float) -> None:
    t = np.linspace(0.0, 1.0, 11)
    values = np.asarray(parse_easing(easing)(t))
    assert len(fit_lines(t, values, tolerance)) <= fewest(t, values, tolerance) + 1
