"""A value on its way, taken over where it is and as fast as it is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.spring import Spring

Place = tuple[float, ...]


class Coordinates(Protocol):
    """Where values lie: a place is a row of numbers (columns,), and motion between places is straight."""

    @property
    def form(self) -> Any:
        """JSON from which the runtime knows what a place shows; None for a number."""
        ...

    @property
    def shared(self) -> bool:
        """Whether two values are brought to each other in another way than without the others."""
        ...

    @property
    def tolerances(self) -> tuple[float, ...] | None:
        """How far a tape may be off, by column of its rows; None where the property's own tolerance says it."""
        ...

    @property
    def row_form(self) -> Any:
        """What the rows of a tape hold; see `Between.form`."""
        ...

    def __hash__(self) -> int: ...

    def place(self, value: Any) -> Floats:
        """Where one of the values lies."""
        ...

    def rows(self, places: Floats) -> Floats:
        """Places (n, columns) as the rows of a tape."""
        ...

    def value(self, row: Floats) -> Any:
        """What such a row shows, as a value of the property."""
        ...


class AsTheyAre:
    """Coordinates whose tapes hold places as they are, with their own form."""

    form: Any = None
    tolerances: tuple[float, ...] | None = None
    shared: bool = False

    @property
    def row_form(self) -> Any:
        return self.form

    def rows(self, places: Floats) -> Floats:
        return places


@dataclass(frozen=True)
class Passing:
    """A place in the middle of a motion, and its speed per second where a spring takes that over.

    The spring then says how place and speed die away, over `seconds` of time.
    """

    coordinates: Coordinates
    place: Place
    speed: Place = ()
    spring: Spring | None = None
    seconds: float = 0.0

    @property
    def value(self) -> Any:
        """What is shown there."""
        return self.coordinates.value(self.coordinates.rows(np.array([self.place]))[0])

    def towards(self, end: Any) -> PassingBetween:
        """What lies between this place and a value."""
        return PassingBetween(self, self.coordinates.place(end))


def begun(lie: Coordinates, value: Any) -> Any:
    """A value at rest, from which a motion begins; as a place where the way has to mind the other values."""
    return Passing(lie, tuple(lie.place(value).tolist())) if lie.shared else value


def settled(value: Any) -> Any:
    """A value of a property: of a place in mid-motion, what is shown there."""
    return value.value if isinstance(value, Passing) else value


@dataclass(frozen=True, eq=False)
class PassingBetween:
    """From a place in mid-motion to the place of a value; thrown by its speed where it has one.

    Progress is the share of the way, of a thrown one that of the time.
    """

    start: Passing
    end: Floats

    @property
    def form(self) -> Any:
        return self.start.coordinates.row_form

    @property
    def tolerances(self) -> tuple[float, ...] | None:
        return self.start.coordinates.tolerances

    def places(self, progress: Floats) -> Floats:
        """Places at the given progress (n,), shape (n, columns)."""
        start, p = np.array(self.start.place), progress[:, None]
        if self.start.spring is None:
            return np.asarray(start * (1.0 - p) + self.end * p)
        rest, throw = self.start.spring.responses(p * self.start.seconds)
        moving = self.end + (start - self.end) * rest + np.array(self.start.speed) * throw
        return np.where(p >= 1.0, self.end, moving)

    def rows(self, progress: Floats) -> Floats:
        return self.start.coordinates.rows(self.places(progress))

    def value(self, row: Floats) -> Any:
        return self.start.coordinates.value(row)
