"""A rehearsal held against what it was: so that a pipeline says when somebody's taps come to something else."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from keen_ripple.core.document.json_text import parsed
from keen_ripple.core.errors import DocumentFault, Fault, quoted
from keen_ripple.core.limits import LATEST_EVENT_MS

# Numbers may differ by this much, in their own units: printed ones are rounded.
TOLERANCE = 1e-3
MISSING = object()
REMEDY = "Give lines as `rehearse` prints them."

# A moment as it is printed: {"t_ms", "layers": {layer: {property: value}}}.
Line = Mapping[str, Any]


@dataclass(frozen=True)
class Difference:
    """What is seen of a property at a moment (ms), and what was expected."""

    t_ms: float
    layer: str
    property: str
    found: Any
    expected: Any

    def __str__(self) -> str:
        found, expected = _told(self.found), _told(self.expected)
        return f"at {self.t_ms:g} ms {self.layer} {self.property} is {found}, and was {expected}"


def expected_lines(text: bytes) -> list[Line]:
    """The moments that lines of UTF-8 text describe, in their order. Raises DocumentFault, which names the line."""
    lines = [_line(number, line) for number, line in enumerate(text.splitlines(), 1) if line.strip()]
    if not lines:
        raise DocumentFault("Nothing is expected: there is no line.", remedy=REMEDY)
    return lines


def differences(found: Sequence[Line], expected: Sequence[Line]) -> Iterator[Difference]:
    """Where the two differ, moment by moment; both have the same moments."""
    for now, before in zip(found, expected, strict=True):
        looks, old = now["layers"], before["layers"]
        for layer in dict.fromkeys([*old, *looks]):
            one, other = looks.get(layer, {}), old.get(layer, {})
            for name in dict.fromkeys([*other, *one]):
                values = one.get(name, MISSING), other.get(name, MISSING)
                if not _alike(*values):
                    yield Difference(before["t_ms"], layer, name, *values)


def _line(number: int, text: bytes) -> Line:
    try:
        value = parsed(text)
    except Fault as fault:
        raise DocumentFault(f"Line {number}: {fault.message}", place=fault.place, remedy=fault.remedy) from None
    moment = value.get("t_ms") if isinstance(value, dict) else None
    if isinstance(moment, bool) or not isinstance(moment, int | float) or not 0 <= moment <= LATEST_EVENT_MS:
        raise DocumentFault(f"Line {number} has no t_ms from 0 to {LATEST_EVENT_MS}.", remedy=REMEDY)
    layers = value.get("layers")
    if not isinstance(layers, dict) or not all(isinstance(look, dict) for look in layers.values()):
        raise DocumentFault(f"Line {number} has no layers with their values.", remedy=REMEDY)
    return dict(value)


def _told(value: Any) -> str:
    if value is MISSING:
        return "not there"
    return quoted(int(value) if isinstance(value, float) and value.is_integer() else value)


def _alike(one: Any, other: Any) -> bool:
    if isinstance(one, bool) or isinstance(other, bool):
        return one is other
    if isinstance(one, int | float) and isinstance(other, int | float):
        return abs(one - other) <= TOLERANCE
    if isinstance(one, dict) and isinstance(other, dict):
        return one.keys() == other.keys() and all(_alike(one[name], other[name]) for name in one)
    if isinstance(one, list) and isinstance(other, list):
        return len(one) == len(other) and all(map(_alike, one, other))
    return bool(one == other)
