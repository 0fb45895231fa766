"""Faults in what a person wrote: what is wrong, where, and what to do about it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any


class Fault(ValueError):
    """The root of all errors that a person can mend. A ValueError, so that models take it for a failed check.

    `place` is a JSON pointer (RFC 6901) into the piece, empty for the whole of it; `value` is what stood there;
    `remedy` is a sentence that says what to do.
    """

    def __init__(self, message: str, *, place: str = "", value: Any = None, remedy: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.place = place
        self.value = value
        self.remedy = remedy

    def __str__(self) -> str:
        where = f"{self.place}: " if self.place else ""
        return f"{where}{self.message} {self.remedy}".strip()

    def at(self, place: str) -> Fault:
        """The same fault, located: for parsers that do not know where their text came from."""
        return type(self)(self.message, place=place, value=self.value, remedy=self.remedy)


class DocumentFault(Fault):
    """A piece that does not follow the format. `all` holds every fault found, the first of them in this one."""

    all: tuple[Fault, ...] = ()

    @classmethod
    def of(cls, faults: Sequence[Fault]) -> DocumentFault:
        first = faults[0]
        fault = cls(first.message, place=first.place, value=first.value, remedy=first.remedy)
        fault.all = tuple(faults)
        return fault


class EasingFault(Fault):
    """Text that is no easing function of CSS."""


class ColourFault(Fault):
    """Text that is no CSS colour."""


class PathFault(Fault):
    """Text that is no SVG path data."""


class RunFault(Fault):
    """A piece whose unattended run cannot be played, such as a loop without duration."""
