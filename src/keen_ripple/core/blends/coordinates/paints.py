"""Coordinates of paints that are not all plain colours.

Gradients of one kind share their stops, and lie side by side with those of other kinds, each kind with the share by
which it is seen. A plain colour is a gradient of the first kind with that colour at every stop, and no weight for where
those lie: it takes the place of what it meets.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.colours import Space
from keen_ripple.core.blends.coordinates.colours import TOLERANCES, name_of, premultiplied, shown
from keen_ripple.core.blends.coordinates.passing import AsTheyAre
from keen_ripple.core.blends.coordinates.plain import faded
from keen_ripple.core.blends.paints import NUMBERS, with_places
from keen_ripple.core.colour import colour_text
from keen_ripple.core.values import Gradient, Paint, Stop
from keen_ripple.core.values.paint import GRADIENTS

MODELS: dict[str, Any] = dict(GRADIENTS)


@dataclass(frozen=True)
class Kind:
    """Gradients of one kind: (share, weight, numbers times weight, places of stops times weight, colours)."""

    name: str
    space: Space
    stops: int
    # Where stops are added to those that have fewer; empty where all have the same number.
    places: tuple[tuple[float, int], ...]

    @staticmethod
    def of(name: str, paints: Sequence[Gradient], space: Space) -> Kind:
        counts = {len(paint.stops) for paint in paints}
        if len(counts) == 1:
            return Kind(name, space, counts.pop(), ())
        places: Counter[float] = Counter()
        for paint in paints:
            places |= Counter(stop.at for stop in paint.stops)
        return Kind(name, space, places.total(), tuple(sorted(places.items())))

    @cached_property
    def numbers(self) -> list[str]:
        return [name for name in NUMBERS if name in MODELS[self.name].model_fields]

    @property
    def width(self) -> int:
        return 2 + len(self.numbers) + 5 * self.stops

    @property
    def tolerances(self) -> tuple[float, ...]:
        numbers = tuple(NUMBERS[name][0] for name in self.numbers)
        colours = (*(self.space.tolerance,) * 3, TOLERANCES[3]) * self.stops
        return (0.002, 0.002, *numbers, *(0.002,) * self.stops, *colours)

    def place(self, paint: Paint) -> Floats:
        if isinstance(paint, str):
            nowhere = np.zeros(1 + len(self.numbers) + self.stops)
            return np.concatenate(([1.0], nowhere, np.tile(premultiplied(self.space, paint), self.stops)))
        stops = with_places(paint.stops, Counter(dict(self.places))) if self.places else paint.stops
        numbers = [getattr(paint, name) for name in self.numbers]
        colours = [premultiplied(self.space, stop.colour) for stop in stops]
        return np.concatenate(([1.0, 1.0, *numbers, *(stop.at for stop in stops)], *colours))

    def paint(self, row: Floats) -> tuple[Any, float]:
        """What is seen of this kind, and by which share."""
        share, weight = float(row[0]), float(row[1])
        if share <= 0.0:
            return "none", 0.0
        colours = [colour_text(c) for c in shown(self.space, row[-4 * self.stops :].reshape(-1, 4) / share)]
        if weight == 0.0:
            return colours[0], share
        count = len(self.numbers)
        lying = (row[2 : 2 + count + self.stops] / weight).tolist()
        at = np.maximum.accumulate(np.clip(lying[count:], 0.0, 1.0)).tolist()
        stops = tuple(Stop(at=place, colour=colour) for place, colour in zip(at, colours, strict=True))
        fields = {name: max(value, NUMBERS[name][1]) for name, value in zip(self.numbers, lying[:count], strict=True)}
        return MODELS[self.name](kind=self.name, **fields, stops=stops), share


@dataclass(frozen=True)
class PaintCoordinates(AsTheyAre):
    """The rows of all kinds side by side."""

    kinds: tuple[Kind, ...]

    @staticmethod
    def of(values: tuple[Paint, ...], space: Space) -> PaintCoordinates:
        gradients = [value for value in values if not isinstance(value, str)]
        kinds = dict.fromkeys(gradient.kind for gradient in gradients)
        return PaintCoordinates(tuple(Kind.of(k, [g for g in gradients if g.kind == k], space) for k in kinds))

    @property
    def shared(self) -> bool:  # type: ignore[override]
        return len(self.kinds) > 1 or any(kind.places for kind in self.kinds)

    @property
    def tolerances(self) -> tuple[float, ...]:  # type: ignore[override]
        return tuple(tolerance for kind in self.kinds for tolerance in kind.tolerances)

    @property
    def form(self) -> Any:
        kinds = [{"gradient": kind.name, "numbers": kind.numbers, "stops": kind.stops} for kind in self.kinds]
        return {"kind": "paint", "kinds": kinds, "space": name_of(self.kinds[0].space)}

    def place(self, value: Paint) -> Floats:
        own = self.kinds[0].name if isinstance(value, str) else value.kind
        return np.concatenate([k.place(value) if k.name == own else np.zeros(k.width) for k in self.kinds])

    def value(self, row: Floats) -> Any:
        ends = np.cumsum([kind.width for kind in self.kinds])
        parts = np.split(row, ends[:-1])
        return faded([kind.paint(part) for kind, part in zip(self.kinds, parts, strict=True)])
