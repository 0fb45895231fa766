"""Faults in what a person wrote: what is wrong, where, and what to do about it."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

# Of a value no more than this many characters are quoted, and of many faults no more than this many are told.
LONGEST_QUOTE = 200
# Lists of what there is may be long.
LONGEST_REMEDY = 600
MOST_FAULTS = 50


def quoted(value: Any, longest: int = 80) -> str:
    """A value as it stands, in quotes if it is text, cut to so many characters."""
    text = repr(value[: longest + 1] if isinstance(value, str) else value)
    return text if len(text) <= longest else f"{text[: longest - 1]}…"


def brief(value: Any) -> Any:
    """A value of JSON as it is, or the beginning of its text where it is long."""
    if isinstance(value, str):
        return value if len(value) <= LONGEST_QUOTE else f"{value[: LONGEST_QUOTE - 1]}…"
    text = ""
    for part in json.JSONEncoder(ensure_ascii=False, default=str).iterencode(value):
        text += part[: LONGEST_QUOTE + 1]
        if len(text) > LONGEST_QUOTE:
            return f"{text[: LONGEST_QUOTE - 1]}…"
    return json.loads(text)


def _quoting_briefly(message: str, value: Any) -> str:
    if not isinstance(value, str) or len(value) <= LONGEST_QUOTE:
        return message
    return message.replace(repr(value), repr(brief(value))).replace(value, brief(value))


class Fault(ValueError):
    """The root of all errors that a person can mend. A ValueError, so that models take it for a failed check.

    `place` is a JSON pointer (RFC 6901) into the piece, empty for the whole of it; `value` is what stood there;
    `remedy` is a sentence that says what to do.
    """

    def __init__(self, message: str, *, place: str = "", value: Any = None, remedy: str = "") -> None:
        self.message = _quoting_briefly(message, value)
        super().__init__(self.message)
        self.place = place
        self.value = value
        self.remedy = remedy if len(remedy) <= LONGEST_REMEDY else f"{remedy[: LONGEST_REMEDY - 1]}…"

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
        """One fault that holds them all, and says what the first of them says."""
        faults = faults[:MOST_FAULTS]
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


class TooMuchFault(Fault):
    """A piece of which every part is in order, and which all together is more than can be played."""
