"""Coordinates of numbers, and of values with nothing in between."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, reduce
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.coordinates.passing import AsTheyAre
from keen_ripple.core.blends.perspective import TOLERANCE, nearness
from keen_ripple.core.values import Fade
from keen_ripple.core.values.plain import plain


@dataclass(frozen=True)
class Number(AsTheyAre):
    """The number itself."""

    def place(self, value: Any) -> Floats:
        return np.array([value], dtype=np.float64)

    def value(self, row: Floats) -> Any:
        return float(row[0])


@dataclass(frozen=True)
class Shares(Number):
    """Of what is there or not: the share by which it is seen."""

    def rows(self, places: Floats) -> Floats:
        return np.clip(places, 0.0, 1.0)

    def value(self, row: Floats) -> Any:
        share = float(row[0])
        return bool(share) if share in (0.0, 1.0) else share


@dataclass(frozen=True)
class Nearness(AsTheyAre):
    """Of distances of the eye, 1/d; 0 for none."""

    form: Any = None
    tolerances: tuple[float, ...] = (TOLERANCE,)

    @property
    def row_form(self) -> Any:
        return {"kind": "inverse"}

    def place(self, value: Any) -> Floats:
        return np.array([nearness(value)])

    def value(self, row: Floats) -> Any:
        near = float(row[0])
        return 1.0 / near if near > 0.0 else 0.0


@dataclass(frozen=True)
class Switched(AsTheyAre):
    """Values that are only switched: the number of the one that is shown."""

    values: tuple[Any, ...]
    tolerances: tuple[float, ...] = (0.0,)

    @cached_property
    def form(self) -> Any:
        return {"kind": "switch", "values": [plain(value) for value in self.values]}

    def place(self, value: Any) -> Floats:
        return np.array([self.values.index(value)], dtype=np.float64)

    def value(self, row: Floats) -> Any:
        return self.values[round(float(row[0]))]


@dataclass(frozen=True)
class FadeCoordinates(AsTheyAre):
    """Values faded into each other: the share of each."""

    values: tuple[Any, ...]

    @property
    def tolerances(self) -> tuple[float, ...]:  # type: ignore[override]
        return (0.002,) * len(self.values)

    @cached_property
    def form(self) -> Any:
        return {"kind": "fades", "values": [plain(value) for value in self.values]}

    def place(self, value: Any) -> Floats:
        return np.array([1.0 if value == known else 0.0 for known in self.values])

    def value(self, row: Floats) -> Any:
        return faded(list(zip(self.values, np.clip(row, 0.0, 1.0).tolist(), strict=True)))


def faded(shares: list[tuple[Any, float]]) -> Any:
    """Values added up by their shares, as fades inside of fades; the value itself where there is only one."""
    seen = [(value, share) for value, share in shares if share > 0.0] or shares[:1]

    def added(before: tuple[Any, float], after: tuple[Any, float]) -> tuple[Any, float]:
        whole = before[1] + after[1]
        return Fade(before[0], after[0], after[1] / whole), whole

    return reduce(added, seen)[0]
