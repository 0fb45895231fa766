"""What each way of blending offers."""

from __future__ import annotations

from typing import Any, Protocol

from keen_ripple.core.arrays import Floats


class Blend(Protocol):
    """Authored values in; `mix` gives what is shown, as rows of numbers; `value` turns a row into a JSON value.

    A row of colour is (r, g, b, alpha), r, g, b in 0–255; a row of a number is (number,).
    """

    def __hash__(self) -> int: ...

    def show(self, value: Any) -> Floats:
        """The row that shows one authored value."""
        ...

    def mix(self, start: Any, end: Any, progress: Floats) -> Floats:
        """Rows at the given progress, shape (n, columns); exact at 0 and 1, going on outside them."""
        ...

    def value(self, row: Floats) -> Any: ...
