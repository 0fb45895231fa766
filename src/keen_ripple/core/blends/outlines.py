"""Outlines: point by point, once both are written with the same commands."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.blend import Varied
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.outlines import matched

TOLERANCE_PX = 0.05
OPERANDS = {"M": 2, "L": 2, "Q": 4, "C": 6, "Z": 0}


@dataclass(frozen=True, eq=False)
class OutlineBetween:
    """`commands` is a letter for each, `start` and `end` their coordinates. Rows hold progress."""

    commands: str
    start: Floats
    end: Floats

    @property
    def form(self) -> Any:
        ends = {"from": self.start.round(3).tolist(), "to": self.end.round(3).tolist()}
        return {"kind": "path", "commands": self.commands, **ends}

    @property
    def tolerances(self) -> tuple[float, ...]:
        farthest = float(np.max(np.hypot(*(self.end - self.start).reshape(-1, 2).T), initial=0.0))
        return (TOLERANCE_PX / max(farthest, TOLERANCE_PX),)

    def rows(self, progress: Floats) -> Floats:
        return np.reshape(progress, (-1, 1)).astype(np.float64)

    def value(self, row: Floats) -> str:
        return path_text(self.commands, self.start * (1.0 - row[0]) + self.end * row[0])


def path_text(commands: str, coordinates: Floats) -> str:
    """SVG path data, all coordinates absolute."""
    numbers = iter(css_number(c, 4) for c in coordinates.tolist())
    return " ".join(letter + " ".join(next(numbers) for _ in range(OPERANDS[letter])) for letter in commands)


@lru_cache(maxsize=1024)
def _between(start: str, end: str) -> OutlineBetween:
    return OutlineBetween(*matched(start, end))


class OutlineBlend(Varied):
    def between(self, start: Any, end: Any) -> OutlineBetween:
        return _between(start, end)


OUTLINE = OutlineBlend()
