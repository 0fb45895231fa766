"""What every curve offers, whatever it is made of."""

from __future__ import annotations

from typing import Any, Protocol

from keen_ripple.core.arrays import Floats


class Easing(Protocol):
    """Progress of time in, progress of the motion out; both dimensionless, the output may leave 0–1.

    Curves are hashable values: two that are equal move alike, so what is computed of one can be kept for all.
    """

    def __call__(self, u: Any) -> Any:
        """A float for a float, an array of its shape for an array."""
        ...

    def __hash__(self) -> int: ...

    def css(self) -> str:
        """The curve as a CSS `<easing-function>`, exact, or within 0.001 where CSS has no such curve."""
        ...

    def trace(self) -> tuple[Floats, Floats]:
        """Points (u, progress) on the curve from u = 0 to 1, so dense that straight lines between them are off
        by less than 2e-5; a jump is two points at one u."""
        ...
