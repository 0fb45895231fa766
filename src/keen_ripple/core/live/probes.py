"""Values with which a piece is asked where its parameters go: each unlike all others, and within its range."""

from __future__ import annotations

import base64
import struct
from collections.abc import Callable
from typing import Any, NamedTuple

from keen_ripple.core.document.parameters import Parameter
from keen_ripple.core.document.undercurrents import fits
from keen_ripple.core.properties import BY_NAME

# Of times: what takes no time is another motion, a cut; and what is much shorter or longer is another piece.
SHORTEST_MS, LONGEST_MS, TIMES = 1.0, 600_000.0, 8.0
# Where there is none.
USUAL_MS = 1000.0
# Of the range, or of the value where there is no range.
SHARES = (0.29, 0.63, 0.47)


class Probes(NamedTuple):
    """Two to compare, one to try what was found by them, and both ends where there are any; `own` is what it has."""

    first: Any
    second: Any
    third: Any
    low: Any
    high: Any
    own: Any


def range_of(parameter: Parameter, value: Any) -> tuple[float | None, float | None]:
    """Between what a number (in the unit of what it sets) or a time (ms) may be, which is `value` by itself; None where
    there is no end.
    """
    if parameter.kind == "time":
        own = float(value or USUAL_MS)
        return max(float(int(own / TIMES)), SHORTEST_MS), min(own * TIMES, LONGEST_MS)
    rows = [BY_NAME[bind.property] for bind in parameter.bind if bind.property in BY_NAME]
    lows, highs = [row.low for row in rows if row.low is not None], [row.high for row in rows if row.high is not None]
    return max(lows, default=None), min(highs, default=None)


def probes_of(parameter: Parameter, number: int, value: Any) -> Probes:
    """Of the parameter with this number, counted from 0, which has this value by itself."""
    if parameter.kind in UNMEASURED:
        first, second, third = (UNMEASURED[parameter.kind](number, n) for n in range(3))
        return Probes(first, second, third, third, third, value)
    ends = range_of(parameter, value)
    if parameter.kind == "time":
        # Far from each other: rounding tells nothing about what lies between.
        (least, most), shares = (end or 0.0 for end in ends), (0.0, 1.0, 0.47)
    else:
        own = float(value) if isinstance(value, int | float) else 1.0
        (least, most), shares = _around(own, *ends), SHARES
    found = [_fitting(parameter, least + share * (most - least)) for share in shares]
    low, high = (_fitting(parameter, end) if end is not None else found[2] for end in ends)
    return Probes(found[0], found[1], found[2], low, high, value)


def _around(own: float, low: float | None, high: float | None) -> tuple[float, float]:
    """Not far from a value, and within its range."""
    far = max(abs(own), 1.0)
    least = own - far if low is None else max(own - far, low)
    most = own + far if high is None else min(own + far, high)
    return least, most


def _fitting(parameter: Parameter, value: float) -> float | int:
    """Whole where it has to be."""
    names = [str(bind.property) for bind in parameter.bind if bind.property in BY_NAME and not bind.parameter]
    whole = parameter.kind == "time" or not all(fits(name, value) for name in names)
    return round(value) if whole else round(value, 4)


def _picture(number: int, n: int) -> str:
    """What has the head of a picture of 1 × 1 px: no more of it is looked at."""
    head = b"\x89PNG\r\n\x1a\n" + struct.pack(">I4s2I5B", 13, b"IHDR", 1, 1, 8, 6, 0, 0, 0)
    return f"data:image/png;base64,{base64.b64encode(head + bytes((number, n))).decode()}"


# What has no range, by its kind: of the parameter with a number the n-th probe.
UNMEASURED: dict[str, Callable[[int, int], str]] = {
    "text": lambda number, n: f"probe {number} {n}",
    "colour": lambda number, n: f"#{0x20 + 3 * number:02x}{(0x31, 0x7F, 0x52)[n]:02x}c4d0",
    "picture": _picture,
}
