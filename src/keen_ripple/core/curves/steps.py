"""steps() of CSS Easing Functions Level 2, section 2.3."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.vectorised import for_float_or_array
from keen_ripple.core.errors import EasingFault

JUMPS = {"jump-start": 0, "jump-end": 0, "jump-both": 1, "jump-none": -1}
ALIASES = {"start": "jump-start", "end": "jump-end"}


@dataclass(frozen=True)
class Steps:
    """`count` flat treads; `jump` says at which ends the curve jumps. Values stay on the treads outside 0–1."""

    count: int
    jump: str = "jump-end"

    def __post_init__(self) -> None:
        least = 2 if self.jump == "jump-none" else 1
        if self.count < least:
            raise EasingFault(
                f"steps() has {self.count} steps.",
                value=self.css(),
                remedy=f"{self.jump} needs a whole number of at least {least}.",
            )

    @for_float_or_array
    def __call__(self, u: Floats) -> Floats:
        jumps = self.count + JUMPS[self.jump]
        step = np.floor(u * self.count)
        if self.jump in ("jump-start", "jump-both"):
            step = step + 1.0
        step = np.where((u >= 0.0) & (step < 0.0), 0.0, step)
        step = np.where((u <= 1.0) & (step > jumps), float(jumps), step)
        return step / jumps

    def css(self) -> str:
        return f"steps({self.count}, {self.jump})"

    def trace(self) -> tuple[Floats, Floats]:
        edges = np.arange(self.count + 1) / self.count
        middles = self(edges[:-1] + 0.5 / self.count)
        before = np.concatenate(([0.0], middles))
        after = np.concatenate((middles, [1.0]))
        return np.repeat(edges, 2), np.column_stack((before, after)).ravel()
