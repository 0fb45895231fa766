"""A spring as a curve: its motion from the start to the moment it has settled."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.fit import CSS_TOLERANCE, as_linear
from keen_ripple.core.curves.spring import Spring
from keen_ripple.core.curves.vectorised import for_float_or_array


@dataclass(frozen=True)
class Settle:
    """Progress over the settling time of a spring, in whole ms rounded up; exactly 1 from its end on."""

    spring: Spring
    duration_ms: int

    @staticmethod
    @lru_cache(maxsize=4096)
    def of(spring: Spring) -> Settle:
        """The curve of a spring from rest to its goal, over its settling time."""
        return Settle(spring, math.ceil(spring.settling_time_s() * 1000.0 - 1e-9))

    @for_float_or_array
    def __call__(self, u: Floats) -> Floats:
        return np.where(u >= 1.0, 1.0, self._moving(u))

    def css(self) -> str:
        return as_linear(self, CSS_TOLERANCE).css()

    def trace(self) -> tuple[Floats, Floats]:
        # Crowded at the start, where a spring bends most.
        u = np.linspace(0.0, 1.0, self.density() + 1) ** 2
        # Settled means within 0.001: the last step onto 1 is a jump.
        return np.append(u, 1.0), np.append(self._moving(u), 1.0)

    def _moving(self, u: Floats) -> Floats:
        return np.asarray(self.spring.position(u * (self.duration_ms / 1000.0)))

    def density(self) -> int:
        """How many steps of √u keep chords within 1e-5.

        A chord over h is off by h²/8·|x″|. With u = s² a step is h = 2√u/n, and |x″| decays about as e^(−7u), so that
        u·|x″(u)| stays below 0.06 of its bound at the start.
        """
        seconds = self.duration_ms / 1000.0
        frequency = self.spring.stiffness / self.spring.mass
        drag = self.spring.damping / self.spring.mass
        bend = (frequency * abs(1.0 - self.spring.start) + drag * abs(self.spring.velocity)) * seconds**2
        return int(np.clip(math.sqrt(0.06 * bend / 2e-5), 192, 65536))
