"""cubic-bezier() of CSS Easing Functions Level 2, section 2.2."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.curves.vectorised import for_float_or_array
from keen_ripple.core.errors import EasingFault

KEYWORDS = {
    "ease": (0.25, 0.1, 0.25, 1.0),
    "ease-in": (0.42, 0.0, 1.0, 1.0),
    "ease-out": (0.0, 0.0, 0.58, 1.0),
    "ease-in-out": (0.42, 0.0, 0.58, 1.0),
}


@dataclass(frozen=True)
class CubicBezier:
    """A cubic from (0, 0) to (1, 1) with the handles (x1, y1) and (x2, y2); 0 ≤ x ≤ 1, any y.

    Outside 0–1 it goes on along the tangent at its end, as CSS says.
    """

    x1: float
    y1: float
    x2: float
    y2: float

    def __post_init__(self) -> None:
        for name, x in (("first", self.x1), ("third", self.x2)):
            if not 0.0 <= x <= 1.0:
                raise EasingFault(
                    f"The {name} number of cubic-bezier() is {css_number(x)}, outside 0 to 1.",
                    value=self.css(),
                    remedy="Time cannot run backwards: keep both x values between 0 and 1.",
                )

    @for_float_or_array
    def __call__(self, u: Floats) -> Floats:
        s = self._parameter(np.clip(u, 0.0, 1.0))
        inside = _cubic(s, self.y1, self.y2)
        # Exact at both ends, whatever the solver left over.
        inside = np.where(u <= 0.0, 0.0, np.where(u >= 1.0, 1.0, inside))
        before, after = self._end_slopes()
        return inside + np.where(u < 0.0, u * before, 0.0) + np.where(u > 1.0, (u - 1.0) * after, 0.0)

    def css(self) -> str:
        points = (self.x1, self.y1, self.x2, self.y2)
        for keyword, known in KEYWORDS.items():
            if points == known:
                return keyword
        return f"cubic-bezier({', '.join(map(css_number, points))})"

    def trace(self) -> tuple[Floats, Floats]:
        # Even steps of the parameter crowd where the curve bends, also where it stands upright.
        swing = max(1.0, abs(self.y1), abs(self.y2), abs(self.y2 - self.y1))
        s = np.linspace(0.0, 1.0, int(720 * swing**0.5) + 1)
        return _cubic(s, self.x1, self.x2), _cubic(s, self.y1, self.y2)

    def _parameter(self, u: Floats) -> Floats:
        """Solves x(s) = u by Newton's method, kept inside a shrinking bracket (x is monotone)."""
        low, high, s = np.zeros_like(u), np.ones_like(u), u.copy()
        for _ in range(60):
            error = _cubic(s, self.x1, self.x2) - u
            if not np.any(np.abs(error) > 1e-13):
                break
            low, high = np.where(error < 0.0, s, low), np.where(error > 0.0, s, high)
            slope = _cubic_slope(s, self.x1, self.x2)
            with np.errstate(divide="ignore", invalid="ignore"):
                newton = s - error / slope
            # Ends included: who has arrived stays.
            inside = (newton >= low) & (newton <= high)
            s = np.where(inside, newton, (low + high) / 2.0)
        return s

    def _end_slopes(self) -> tuple[float, float]:
        """dy/dx at 0 and at 1; by the next handle where one lies on its end, by the other end where both do.

        Flat where it stands upright.
        """

        def slope(x: float, y: float, x_next: float, y_next: float) -> float:
            if x > 0.0:
                return y / x
            if y == 0.0 and x_next > 0.0:
                return y_next / x_next
            return 1.0 if y == y_next == 0.0 else 0.0

        return (
            slope(self.x1, self.y1, self.x2, self.y2),
            slope(1.0 - self.x2, 1.0 - self.y2, 1.0 - self.x1, 1.0 - self.y1),
        )


def _cubic(s: Floats, a: float, b: float) -> Floats:
    """The Bernstein cubic with the ordinates 0, a, b, 1."""
    r = 1.0 - s
    return 3.0 * r * r * s * a + 3.0 * r * s * s * b + s * s * s


def _cubic_slope(s: Floats, a: float, b: float) -> Floats:
    r = 1.0 - s
    return 3.0 * r * r * a + 6.0 * r * s * (b - a) + 3.0 * s * s * (1.0 - b)
