"""Values made of several numbers and colours."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.colours import ColourBetween

Build = Callable[[list[float], list[str]], Any]
"""From the numbers and the colours of a row to a value."""


@dataclass(frozen=True)
class Column:
    """One number of a composite value: where it starts and ends, its limits, and how far a tape may be off."""

    start: float
    end: float
    tolerance: float
    low: float = -np.inf
    high: float = np.inf


@dataclass(frozen=True, eq=False)
class Composite:
    """Rows hold the numbers, then four columns for each colour."""

    columns: Sequence[Column]
    colours: Sequence[ColourBetween]
    build: Build
    form: Any

    @property
    def tolerances(self) -> tuple[float, ...]:
        numbers = tuple(column.tolerance for column in self.columns)
        return numbers + tuple(t for colour in self.colours for t in colour.tolerances)

    def rows(self, progress: Floats) -> Floats:
        p = progress[:, None]
        start, end, low, high = self._numbers
        numbers = np.clip(start * (1.0 - p) + end * p, low, high)
        return np.column_stack((numbers, *(colour.rows(progress) for colour in self.colours)))

    @cached_property
    def _numbers(self) -> Floats:
        return np.array([(c.start, c.end, c.low, c.high) for c in self.columns]).reshape(-1, 4).T

    def value(self, row: Floats) -> Any:
        count = len(self.columns)
        colours = [
            colour.value(row[count + 4 * index : count + 4 * index + 4]) for index, colour in enumerate(self.colours)
        ]
        return self.build(row[:count].tolist(), colours)
