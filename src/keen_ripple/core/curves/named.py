"""Curves that carry the names of animation principles, each in closed form.

`anticipation` and `overshoot` are the cubic with p(0) = p′(0) = 0 and p(1) = 1 that dips once by a given amount,
forwards and turned round; `bounce` is a ball that falls and loses the same share of its speed at each touch;
`elastic` is a decaying cosine that crosses its goal for the last time at the very end.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.fit import CSS_TOLERANCE, as_linear
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.curves.vectorised import for_float_or_array
from keen_ripple.core.errors import EasingFault

# name → (parameter's meaning, default, lowest, highest)
PARAMETERS = {
    "anticipation": ("how far it goes back first, as a share of the way", 0.1, 0.0, 2.0),
    "overshoot": ("how far it goes beyond, as a share of the way", 0.1, 0.0, 2.0),
    "bounce": ("the share of speed kept at each touch", 0.5, 0.0, 0.8),
    "elastic": ("the number of swings", 3.0, 1.0, 12.0),
}
BOUNCES = 4
# Elastic swings have decayed to this at the end.
FADED = 0.001


@dataclass(frozen=True)
class Named:
    """One of the four, with its parameter; exact at 0 and 1, and resting there outside."""

    name: str
    amount: float

    def __post_init__(self) -> None:
        meaning, _, low, high = PARAMETERS[self.name]
        if not low <= self.amount <= high:
            raise EasingFault(
                f"{self.name}() has {css_number(self.amount)}: {meaning}.",
                value=self.amount,
                remedy=f"Give a number from {low:g} to {high:g}.",
            )

    @for_float_or_array
    def __call__(self, u: Floats) -> Floats:
        inside = np.clip(u, 0.0, 1.0)
        p = {"anticipation": self._dip, "overshoot": self._beyond, "bounce": self._fall, "elastic": self._swing}
        return np.where(u <= 0.0, 0.0, np.where(u >= 1.0, 1.0, p[self.name](inside)))

    def text(self) -> str:
        """How it is written in a piece."""
        default = PARAMETERS[self.name][1]
        return self.name if self.amount == default else f"{self.name}({css_number(self.amount)})"

    def css(self) -> str:
        return as_linear(self, CSS_TOLERANCE).css()

    def trace(self) -> tuple[Floats, Floats]:
        u = np.unique(np.concatenate((np.linspace(0.0, 1.0, 1537), self._touches if self.name == "bounce" else [])))
        return u, np.asarray(self(u))

    @cached_property
    def _strength(self) -> float:
        """s of u²·((s + 1)·u − s), whose least value −4s³/27(s + 1)² is minus the amount."""
        s = np.roots([4.0, -27.0 * self.amount, -54.0 * self.amount, -27.0 * self.amount])
        return float(max(root.real for root in s if abs(root.imag) < 1e-9))

    def _dip(self, u: Floats) -> Floats:
        return np.asarray(u * u * ((self._strength + 1.0) * u - self._strength))

    def _beyond(self, u: Floats) -> Floats:
        return 1.0 - self._dip(1.0 - u)

    @cached_property
    def _touches(self) -> Floats:
        """When the ground is touched, from the first fall to the end."""
        spans = np.concatenate(([1.0], 2.0 * self.amount ** np.arange(1, BOUNCES + 1)))
        return np.asarray(np.cumsum(spans) / np.sum(spans))

    def _fall(self, u: Floats) -> Floats:
        starts = np.concatenate(([-self._touches[0]], self._touches))
        arc = np.clip(np.searchsorted(starts, u, side="right") - 1, 0, BOUNCES)
        span = starts[arc + 1] - starts[arc]
        middle = (starts[arc] + starts[arc + 1]) / 2.0
        # Heights of arcs go with the square of their spans; the first fall is half an arc of height 1.
        height = (span / (2.0 * self._touches[0])) ** 2
        with np.errstate(divide="ignore", invalid="ignore"):
            return np.where(span > 0.0, 1.0 - height * (1.0 - ((u - middle) / (span / 2.0)) ** 2), 1.0)

    def _swing(self, u: Floats) -> Floats:
        decay = -np.log(FADED)
        return np.asarray(1.0 - np.exp(-decay * u) * np.cos(2.0 * np.pi * (self.amount - 0.75) * u))
