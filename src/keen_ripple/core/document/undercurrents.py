"""Undercurrents: motions that go round on their own, whatever the state."""

from __future__ import annotations

import json
from functools import cache
from typing import Annotated, Any

from pydantic import Field, TypeAdapter, ValidationError

from keen_ripple.core.document.fields import EasingText, Id, Milliseconds, Model, Name, property_type
from keen_ripple.core.document.transitions import PropertyName
from keen_ripple.core.limits import MOST_COURSES, MOST_STATES
from keen_ripple.core.properties import BY_NAME


class Key(Model):
    """A value at a moment of the period, and the curve to the next."""

    at_ms: Milliseconds
    value: Any
    easing: EasingText = "linear"


class Course(Model):
    """What one property of one layer goes through in a period: numbers, colours, or gradients of one kind.

    From the last key it goes back to the first, unless a key stands at the end of the period: then it jumps there.
    It comes `offset_ms` behind the undercurrent, so that several go through the same in turn.
    """

    layer: Id
    property: PropertyName
    offset_ms: Milliseconds = 0
    keys: Annotated[tuple[Key, ...], Field(min_length=2, max_length=200)]


class Undercurrent(Model):
    """Courses with a period of their own, in step with the start of the piece.

    They run in the states named, and on the way between two of them; in all states where none are named. As the piece
    starts, `phase_ms` of the period have passed. With a `section` they follow the way scrolled through it instead of
    time: its height is their period.
    """

    id: Id
    name: Name
    period_ms: Annotated[int, Field(ge=1, le=600_000, description="Whole milliseconds.")]
    phase_ms: Milliseconds = 0
    section: Id | None = None
    states: Annotated[tuple[Id, ...], Field(max_length=MOST_STATES)] | None = None
    courses: Annotated[tuple[Course, ...], Field(min_length=1, max_length=MOST_COURSES)]

    def runs(self, from_: str, to: str) -> bool:
        """Whether it runs in a state (both the same), or between two."""
        return self.states is None or (from_ in self.states and to in self.states)

    def ahead_ms(self, course: Course) -> int:
        """How much of its period a course has behind it as the piece starts: 0 or more, less than the period."""
        return (self.phase_ms - course.offset_ms) % self.period_ms


@cache
def _adapter(name: str) -> TypeAdapter[Any]:
    return TypeAdapter(property_type(BY_NAME[name]))


def fits(name: str, value: Any) -> bool:
    """Whether this may be a value of the property."""
    try:
        value_of(name, value)
    except ValidationError:
        return False
    return True


def value_of(name: str, value: Any) -> Any:
    """What is written in a key, as the layer itself has it. Raises ValidationError."""
    if isinstance(value, dict):
        return _adapter(name).validate_json(json.dumps(value), strict=True)
    return _adapter(name).validate_python(value, strict=True)
