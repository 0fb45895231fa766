"""The damped spring m·x″ + c·x′ + k·(x − 1) = 0 with x(0) = x₀, x′(0) = v₀, in closed form; x₀ is 0 unless given.

With a = c/2m and q = a² − k/m the distance from rest is, in all three dampings,

    y(t) = x(t) − 1 = e^(−a·t) · [ y₀·C(t) + (v₀ + a·y₀)·S(t) ],   y₀ = x₀ − 1

    q < 0   C = cos ωt,    S = sin ωt / ω,    ω = √−q
    q = 0   C = 1,         S = t
    q > 0   C = cosh rt,   S = sinh rt / r,   r = √q

(the textbook solution of the linear oscillator, e.g. Kreyszig, Advanced Engineering Mathematics, section 2.4). The
form with two roots divides by zero at q = 0; this one is continuous across it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.vectorised import for_float_or_array
from keen_ripple.core.errors import Fault


@dataclass(frozen=True)
class Spring:
    """A spring that pulls progress from `start`, which is 0, to 1.

    stiffness > 0 and damping > 0 per unit of `mass` > 0, as in physics; `velocity` is the progress per second at the
    start. One that takes over a motion may start elsewhere. Times are seconds. `position` and `speed` take a float or
    an array, for t ≥ 0; before 0 nothing moves.
    """

    stiffness: float
    damping: float
    mass: float = 1.0
    velocity: float = 0.0
    start: float = 0.0

    def __post_init__(self) -> None:
        for name in ("stiffness", "damping", "mass"):
            value = getattr(self, name)
            if not (math.isfinite(value) and value > 0.0):
                raise Fault(f"The spring's {name} is {value}.", value=value, remedy=f"Give a {name} above 0.")
        if not (math.isfinite(self.velocity) and math.isfinite(self.start)):
            raise Fault("The spring's start speed is not a number.", remedy="Give a finite start speed.")

    @classmethod
    def fit(cls, overshoot: float, settling_time_s: float, mass: float = 1.0, velocity: float = 0.0) -> Spring:
        """The spring that overshoots by the fraction 0 ≤ `overshoot` < 1 and settles to 0.001 at that time (s > 0).

        Without start speed the overshoot fixes the damping ratio, ζ = −ln o / √(π² + ln² o), 1 for none; time then only
        scales the frequency. With a `velocity` (progress per second) both are found together, by halving. Raises Fault
        where no spring does both.
        """
        if not (0.0 <= overshoot < 1.0 and settling_time_s > 0.0 and mass > 0.0):
            raise Fault(
                f"No spring overshoots by {overshoot:g} and settles in {settling_time_s:g} s.",
                value=[overshoot, settling_time_s],
                remedy="Give an overshoot from 0 to less than 1 and a settling time above 0.",
            )
        if velocity == 0.0:
            found = cls._of_ratio(_ratio_of(overshoot), settling_time_s)
        else:
            found = _thrown(overshoot, settling_time_s, velocity)
        return cls(found.stiffness * mass, found.damping * mass, mass, velocity)

    @classmethod
    def lasting(cls, duration_s: float, bounce: float = 0.0) -> Spring:
        """The spring of mass 1 that settles to 0.001 at that time, with −1 < `bounce` < 1.

        The damping ratio is 1 − bounce from 0 upwards, where 0 just does not swing; 1/(1 + bounce) below.
        """
        if not (-1.0 < bounce < 1.0 and duration_s > 0.0):
            raise Fault(
                f"No spring lasts {duration_s} s with a bounce of {bounce}.",
                value=[duration_s, bounce],
                remedy="Give a duration above 0 and a bounce between −1 and 1.",
            )
        return cls._of_ratio(1.0 - bounce if bounce >= 0.0 else 1.0 / (1.0 + bounce), duration_s)

    @classmethod
    def _of_ratio(cls, ratio: float, settling_time_s: float) -> Spring:
        """Time only scales the frequency."""
        frequency = cls(1.0, 2.0 * ratio).settling_time_s() / settling_time_s
        return cls(frequency**2, 2.0 * ratio * frequency)

    def faster(self, factor: float) -> Spring:
        """The same motion in 1/`factor` of the time."""
        return Spring(self.stiffness * factor**2, self.damping * factor, self.mass, self.velocity * factor, self.start)

    @for_float_or_array
    def position(self, t_s: Floats) -> Floats:
        """Progress x(t); 0 at the start, 1 at rest."""
        t = np.maximum(t_s, 0.0)
        y = self.start - 1.0
        return 1.0 + _decayed(self._a, self._q, t, y, self.velocity + self._a * y)

    @for_float_or_array
    def speed(self, t_s: Floats) -> Floats:
        """Progress per second, x′(t)."""
        t = np.maximum(t_s, 0.0)
        return _decayed(self._a, self._q, t, self.velocity, self._pull)

    def responses(self, t_s: Floats) -> tuple[Floats, Floats]:
        """(what is left of a distance of 1, what a speed of 1 per second makes of it) after times t ≥ 0, at rest at 0.

        A spring is linear: from any distance y₀ and speed v₀ it is at y₀ · the one + v₀ · the other.
        """
        a = self._a
        return _decayed(a, self._q, t_s, 1.0, a), _decayed(a, self._q, t_s, 0.0, 1.0)

    def response_speeds(self, t_s: Floats) -> tuple[Floats, Floats]:
        """How fast both `responses` are, per second: A′ = −k/m·B, and B′ = A − c/m·B."""
        rest, throw = self.responses(t_s)
        return -self._k * throw, rest - 2.0 * self._a * throw

    def thrown_s(self, tolerance: float = 0.001) -> float:
        """When it is still, whatever it was thrown with: the least T after which distance and speed together leave
        less than the tolerance, of a distance of 1 or of the speed that alone would swing as far without damping.

        The same for all throws, so that whoever takes a motion over needs no search for its end.
        """
        return _thrown_s(self.stiffness / self.mass, self.damping / self.mass, tolerance)

    def peak(self) -> tuple[float, float]:
        """(t_s, value) of the greatest progress; (inf, 1.0) for a spring that nears 1 without passing it."""
        value, t = max([(self.start, 0.0), *((float(self.position(t)), t) for t in self._turns()[:2])])
        return (t, value) if value > 1.0 else (math.inf, 1.0)

    def settling_time_s(self, tolerance: float = 0.001) -> float:
        """The least T with |x(t) − 1| ≤ tolerance for all t ≥ T."""
        return _settling_time_s(self, tolerance)

    @property
    def _a(self) -> float:
        return self.damping / (2.0 * self.mass)

    @property
    def _k(self) -> float:
        return self.stiffness / self.mass

    @property
    def _q(self) -> float:
        return self._a**2 - self._k

    @property
    def _pull(self) -> float:
        """x″ + a·x′ at the start: the factor of S in the speed."""
        return (1.0 - self.start) * self._k - self._a * self.velocity

    def _turns(self) -> tuple[float, ...]:
        """The first moments t > 0 with x′ = 0: two if it swings, at most one if it does not."""
        # x′ = 0 where v₀·C + ((1 − x₀)·k/m − a·v₀)·S = 0.
        pull = self._pull
        if self._q < 0.0:
            w = math.sqrt(-self._q)
            first = math.atan2(-self.velocity * w, pull) % math.pi / w
            first = first or math.pi / w
            return first, first + math.pi / w
        r = math.sqrt(self._q)
        if pull == 0.0 or self.velocity == 0.0:
            return ()
        ratio = -self.velocity / pull  # = tanh(r·t)/r, or t itself where r = 0
        if ratio <= 0.0 or r * ratio >= 1.0:
            return ()
        return (math.atanh(r * ratio) / r if r else ratio,)


def _ratio_of(overshoot: float) -> float:
    """The damping ratio of a spring that starts from rest."""
    if overshoot == 0.0:
        return 1.0
    log = math.log(overshoot)
    return -log / math.hypot(math.pi, log)


# Of the search below: frequencies in 1/s, damping ratios, and how near it has to come.
FREQUENCIES = (1e-2, 1e5)
RATIOS = (1e-3, 1e2)
HALVINGS = 60
NEAR_S, NEAR_OVERSHOOT = 5e-4, 5e-4


def _thrown(overshoot: float, settling_time_s: float, velocity: float) -> Spring:
    """The spring of mass 1 with a start speed: for each frequency the ratio that overshoots so far, and of these the
    one that settles in time. The more frequent the sooner it settles, and the more damped the less far it goes."""

    def of_frequency(frequency: float) -> Spring:
        low, high = RATIOS
        for _ in range(HALVINGS):
            ratio = math.sqrt(low * high)
            spring = Spring(frequency**2, 2.0 * ratio * frequency, velocity=velocity)
            low, high = (ratio, high) if spring.peak()[1] - 1.0 > overshoot else (low, ratio)
        return Spring(frequency**2, 2.0 * high * frequency, velocity=velocity)

    low, high = FREQUENCIES
    for _ in range(HALVINGS):
        middle = math.sqrt(low * high)
        low, high = (middle, high) if of_frequency(middle).settling_time_s() > settling_time_s else (low, middle)
    found = of_frequency(high)
    off = abs(found.settling_time_s() - settling_time_s), abs(found.peak()[1] - 1.0 - overshoot)
    if off[0] > NEAR_S or off[1] > NEAR_OVERSHOOT:
        raise Fault(
            f"With a start speed of {velocity:g} no spring overshoots by {overshoot:.1%} and settles in "
            f"{settling_time_s * 1000.0:.0f} ms.",
            value=[overshoot, settling_time_s],
            remedy="Set the start speed to 0, or ask for another overshoot or time.",
        )
    return found


def _decayed(a: float, q: float, t: Floats, at_c: float, at_s: float) -> Floats:
    """e^(−a·t)·[at_c·C(t) + at_s·S(t)], with the growing part of cosh and sinh taken into the exponent."""
    if q < 0.0:
        w = math.sqrt(-q)
        wave = at_c * np.cos(w * t) + at_s * t * np.sinc(w * t / math.pi)
        return np.asarray(np.exp(-a * t) * wave)
    r = math.sqrt(q)
    slow = (a * a - q) / (a + r)  # a − r without cancellation
    fading = np.exp(-2.0 * r * t)
    sinh = -np.expm1(-2.0 * r * t) / (2.0 * r) if r else t
    return np.asarray(np.exp(-slow * t) * (at_c * (1.0 + fading) / 2.0 + at_s * sinh))


@lru_cache(maxsize=4096)
def _settling_time_s(spring: Spring, tolerance: float) -> float:
    def off(t: float) -> float:
        return float(abs(spring.position(t) - 1.0))

    start = _last_turn_outside(spring, tolerance, off)
    # From `start` on |y| falls through the tolerance once and stays below it.
    end = _first_inside(spring, start, tolerance, off)
    for _ in range(200):
        middle = (start + end) / 2.0
        if middle in (start, end):
            break
        start, end = (middle, end) if off(middle) > tolerance else (start, middle)
    return end


@lru_cache(maxsize=4096)
def _thrown_s(stiffness: float, damping: float, tolerance: float) -> float:
    """Of mass 1. Searched in steps far shorter than a swing, then by halving."""
    spring, frequency = Spring(stiffness, damping), math.sqrt(stiffness)

    def left(t: Floats) -> Floats:
        rest, throw = spring.responses(t)
        return np.asarray(np.abs(rest) + frequency * np.abs(throw))

    end = 1.0 / frequency
    while np.any(left(np.linspace(end, 2.0 * end, 64)) > tolerance):
        end *= 2.0
    t = np.linspace(0.0, end, 4096)
    last = int(np.flatnonzero(left(t) > tolerance)[-1])
    low, high = float(t[last]), float(t[last + 1])
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (middle, high) if left(np.array([middle]))[0] > tolerance else (low, middle)
    return high


def _last_turn_outside(spring: Spring, tolerance: float, off: Callable[[float], float]) -> float:
    """The last moment of standing still, or the start, at which progress is off by more than the tolerance."""
    turns = spring._turns()
    if len(turns) < 2:
        return next((t for t in turns if off(t) > tolerance), 0.0)
    first, half = turns[0], turns[1] - turns[0]
    if off(first) <= tolerance:
        return 0.0
    # Turns shrink by a constant factor; step back over what rounding may have added.
    count = int(math.log(off(first) / tolerance) / (spring._a * half)) + 1
    while count and off(first + count * half) <= tolerance:
        count -= 1
    return first + count * half


def _first_inside(spring: Spring, start: float, tolerance: float, off: Callable[[float], float]) -> float:
    later = next((t for t in spring._turns() if t > start), None)
    if spring._q < 0.0:
        half = math.pi / math.sqrt(-spring._q)
        return later if later is not None and off(later) <= tolerance else start + half
    step = 1.0 / spring._a
    while off(start + step) > tolerance or off(start + 2.0 * step) > tolerance:
        step *= 2.0
    return start + step
