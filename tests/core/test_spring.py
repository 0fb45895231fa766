"""Springs against a numerical solver."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from keen_ripple.core.curves import Linear, Settle, Spring, parse_easing
from keen_ripple.core.curves.presets import SPRINGS
from keen_ripple.core.errors import Fault

CASES = {
    "under": Spring(420, 24),
    "under, slow": Spring(2, 0.6, 1.5),
    "under, thrown": Spring(170, 12, 1, 14),
    "under, pulled back": Spring(170, 12, 1, -14),
    "barely under": Spring(100, 20 - 1e-7),
    "critical": Spring(100, 20),
    "critical, thrown": Spring(100, 20, 1, 30),
    "barely over": Spring(100, 20 + 1e-7),
    "over": Spring(100, 60),
    "over, heavy": Spring(100, 90, 3),
    "over, thrown": Spring(100, 60, 1, 200),
    "over, pulled back": Spring(100, 25, 1, -8),
    "taken over": Spring(170, 12, 1, 3, 0.6),
    "taken over beyond its rest": Spring(170, 12, 1, -9, 1.4),
    "taken over at its rest": Spring(100, 20, 1, 5, 1.0),
    "over, taken over": Spring(100, 60, 1, 30, -0.5),
    **{name: Spring(**values) for name, values in SPRINGS.items()},
}
every = pytest.mark.parametrize("spring", CASES.values(), ids=CASES.keys())


def solve(spring: Spring, until_s: float):
    def pull(_: float, y: np.ndarray) -> list[float]:
        return [y[1], (-spring.stiffness * (y[0] - 1.0) - spring.damping * y[1]) / spring.mass]

    return solve_ivp(
        pull,
        (0.0, until_s),
        [spring.start, spring.velocity],
        method="DOP853",
        rtol=1e-12,
        atol=1e-13,
        dense_output=True,
    )


@every
def test_equals_the_solver(spring: Spring) -> None:
    until = spring.settling_time_s() * 1.3
    t = np.linspace(0.0, until, 400)
    position, speed = solve(spring, until).sol(t)
    assert np.max(np.abs(spring.position(t) - position)) <= 1e-8
    assert np.max(np.abs(spring.speed(t) - speed)) <= 1e-8 * max(1.0, np.max(np.abs(speed)))


@every
@pytest.mark.parametrize("tolerance", [0.05, 0.001, 1e-5])
def test_settling_time_is_the_last_crossing(spring: Spring, tolerance: float) -> None:
    settled = spring.settling_time_s(tolerance)
    solution = solve(spring, settled * 2 + 0.1)
    t = np.arange(0.0, settled * 2, 0.0001)
    outside = t[np.abs(solution.sol(t)[0] - 1.0) > tolerance]
    assert abs(outside[-1] - settled) <= 0.001


@every
def test_peak_is_the_greatest_progress(spring: Spring) -> None:
    t_s, value = spring.peak()
    t = np.linspace(0.0, spring.settling_time_s(), 20_001)
    if math.isinf(t_s):
        assert value == 1.0
        assert np.max(spring.position(t)) <= 1.0 + 1e-12
    else:
        assert value == pytest.approx(np.max(spring.position(t)), abs=1e-6)
        assert t_s == 0.0 or abs(spring.speed(t_s)) <= 1e-6 * spring.stiffness


@every
def test_exact_ends_as_a_curve(spring: Spring) -> None:
    settle = Settle.of(spring)
    assert settle(0.0) == spring.start
    assert settle(1.0) == 1.0
    assert settle.duration_ms == math.ceil(spring.settling_time_s() * 1000)


@every
def test_css_is_within_a_thousandth(spring: Spring) -> None:
    settle = Settle.of(spring)
    u = np.linspace(0.0, 1.0, 20_001)[:-1]
    css = settle.css()
    assert np.max(np.abs(parse_easing(css)(u) - settle(u))) <= 0.001
    assert isinstance(parse_easing(css), Linear)


@pytest.mark.parametrize(("overshoot", "settling_s"), [(0.08, 0.4), (0.3, 1.0), (0.001, 0.25), (0.6, 3.0)])
def test_fit_is_the_inverse(overshoot: float, settling_s: float) -> None:
    spring = Spring.fit(overshoot, settling_s)
    assert spring.peak()[1] - 1.0 == pytest.approx(overshoot, rel=1e-6)
    assert spring.settling_time_s() == pytest.approx(settling_s, abs=1e-6)


@pytest.mark.parametrize("bounce", [-0.6, 0.0, 0.3, 0.9])
@pytest.mark.parametrize("duration_s", [0.12, 1.7])
def test_lasting_settles_then_and_swings_as_asked(bounce: float, duration_s: float) -> None:
    spring = Spring.lasting(duration_s, bounce)
    assert spring.settling_time_s() == pytest.approx(duration_s, abs=1e-6)
    ratio = spring.damping / (2 * math.sqrt(spring.stiffness))
    assert (spring.peak()[1] > 1.0) == (ratio < 1.0) == (bounce > 0.0)
    # With damping ratio ζ the overshoot is e^(−πζ/√(1 − ζ²)).
    if bounce > 0.0:
        assert ratio == pytest.approx(1.0 - bounce)
        assert spring.peak()[1] - 1.0 == pytest.approx(math.exp(-math.pi * ratio / math.sqrt(1.0 - ratio**2)))


@every
def test_faster_is_the_same_motion_in_less_time(spring: Spring) -> None:
    t = np.linspace(0.0, spring.settling_time_s(), 300)
    assert np.max(np.abs(spring.faster(2.5).position(t / 2.5) - spring.position(t))) < 1e-9


@pytest.mark.parametrize("values", [(0.0, 0.1), (-1.0, 0.1), (1.0, 1.0), (1.0, -1.0)])
def test_what_no_spring_can_do_is_refused(values: tuple[float, float]) -> None:
    with pytest.raises(Fault, match="No spring lasts") as caught:
        Spring.lasting(*values)
    assert caught.value.remedy


@pytest.mark.parametrize("values", [(0, 1), (1, 0), (1, 1, 0), (-3, 1), (math.inf, 1), (1, 1, 1, math.nan)])
def test_impossible_springs_are_refused(values: tuple[float, ...]) -> None:
    with pytest.raises(Fault, match=r"spring"):
        Spring(*values)
