"""What each way of blending offers."""

from __future__ import annotations

from typing import Any, Protocol

from keen_ripple.core.arrays import Floats


class Between(Protocol):
    """Two values of one property, made ready once, then asked for any progress."""

    @property
    def form(self) -> Any:
        """JSON from which a reader of rows knows what they hold; None for a number, and for a colour."""
        ...

    @property
    def tolerances(self) -> tuple[float, ...] | None:
        """How far a tape may be off, by column; None where the property's own tolerance says it."""
        ...

    def rows(self, progress: Floats) -> Floats:
        """Rows at the given progress, shape (n, columns); exact at 0 and 1, going on outside them."""
        ...

    def value(self, row: Floats) -> Any:
        """What a row shows, as a value of the property."""
        ...


class Blend(Protocol):
    """`columns` is the length of a row where all values have the same, else None.

    A row of a number is (number,), that of a colour (r, g, b, alpha) with r, g, b in 0–255.
    """

    @property
    def columns(self) -> int | None:
        """How many numbers a row has; None where that depends on the two values."""
        ...

    def __hash__(self) -> int: ...

    def show(self, value: Any) -> Floats:
        """The row that shows one value; only where `columns` is given."""
        ...

    def between(self, start: Any, end: Any) -> Between:
        """What lies between any two values of the property."""
        ...


class Varied:
    """What blends share whose rows depend on the values they lie between."""

    columns = None

    def show(self, value: Any) -> Floats:
        raise TypeError("values of this kind have no row of their own")
