"""SVG path data as outlines, and in canonical text."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from fontTools.misc.transform import Transform
from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.recordingPen import RecordingPen
from fontTools.pens.transformPen import TransformPen
from fontTools.svgLib.path import parse_path

from keen_ripple.core.errors import PathFault, quoted
from keen_ripple.core.limits import FARTHEST, LONGEST_PATH, MOST_COMMANDS

Affine = tuple[float, float, float, float, float, float]
"""(a, b, c, d, e, f) as in CSS matrix(): x′ = a·x + c·y + e, y′ = b·x + d·y + f."""

# The grammar of path data, SVG 2, section 9.3.9: one group of operands of each command.
SPACE = re.compile(r"[ \t\n\f\r]*")
BETWEEN = re.compile(r"[ \t\n\f\r]*(?:,[ \t\n\f\r]*)?")
NUMBER, FLAG = r"([+-]?(?:\d*\.\d+|\d+)(?:[eE][+-]?\d+)?)", "([01])"
OPERANDS = {"M": "NN", "L": "NN", "H": "N", "V": "N", "C": "N" * 6, "S": "N" * 4, "Q": "N" * 4, "T": "NN"} | {
    "A": "NNNFFNN"
}
GROUPS = {
    letter: re.compile(BETWEEN.pattern.join(NUMBER if kind == "N" else FLAG for kind in kinds))
    for letter, kinds in OPERANDS.items()
}


@lru_cache(maxsize=2048)
def canonical(data: str) -> str:
    """The same outline in one way of writing, so that nothing else can be hidden in it.

    Raises PathFault for what SVG refuses, and for outlines with more, or farther, points than can be played.
    """
    if len(data) > LONGEST_PATH:
        raise _fault(data, f"has {len(data)} characters", f"Simplify it to at most {LONGEST_PATH}.")
    commands = list(_commands(data))
    if not commands:
        raise _fault(data, "is empty")
    if len(commands) > MOST_COMMANDS:
        raise _fault(data, f"has {len(commands)} commands", f"Simplify it to at most {MOST_COMMANDS}.")
    return " ".join(commands)


def _commands(data: str) -> Iterator[str]:
    at = _past(SPACE, data, 0)
    letter = ""
    while at < len(data):
        letter = data[at]
        if letter in "Zz" and at > 0:
            yield "Z"
            at = _past(SPACE, data, at + 1)
            continue
        group = GROUPS.get(letter.upper())
        if group is None or (letter not in "Mm" and not data[:at].strip(" \t\n\f\r")):
            raise _fault(data, f"cannot be read from character {at + 1} on: {quoted(data[at : at + 12])}")
        found = group.match(data, _past(SPACE, data, at + 1))
        if found is None:
            raise _fault(data, f"lacks numbers after the {letter} at character {at + 1}")
        while found:
            yield letter + " ".join(found.groups())
            # What follows a move without a letter is lines.
            letter = {"M": "L", "m": "l"}.get(letter, letter)
            at = found.end()
            found = group.match(data, _past(BETWEEN, data, at))
        at = _past(SPACE, data, at)


def _past(pattern: re.Pattern[str], data: str, at: int) -> int:
    found = pattern.match(data, at)
    return found.end() if found else at


@lru_cache(maxsize=2048)
def parse(data: str) -> RecordingPen:
    """The outline that SVG path data draws, arcs as cubics. Raises PathFault as `canonical` does."""
    pen = RecordingPen()
    try:
        parse_path(canonical(data), pen)
    except (ValueError, ArithmeticError, IndexError) as error:  # of numbers that no arithmetic can hold
        raise _fault(data, "has points that are no numbers") from error
    for _, operands in pen.value:
        for x, y in operands:
            if not (abs(x) <= FARTHEST and abs(y) <= FARTHEST):
                raise _fault(data, f"has a point at {x:g}, {y:g}", f"Keep all points within {FARTHEST:g} px.")
    return pen


def bounds(data: str, matrix: Affine) -> tuple[float, float, float, float]:
    """(left, top, right, bottom) of the outline under the matrix; exact also for curves."""
    pen = BoundsPen(None)
    parse(data).replay(TransformPen(pen, Transform(*matrix)))
    left, top, right, bottom = pen.bounds or (0.0, 0.0, 0.0, 0.0)
    return (float(left), float(top), float(right), float(bottom))


def contour_bounds(data: str) -> list[tuple[float, float, float, float]]:
    """(left, top, right, bottom) of each contour, in the order written."""
    pens: list[BoundsPen] = []
    for command, points in parse(data).value:
        if command == "moveTo":
            pens.append(BoundsPen(None))
        getattr(pens[-1], command)(*points)
    found = [pen.bounds for pen in pens if pen.bounds]
    return [(float(left), float(top), float(right), float(bottom)) for left, top, right, bottom in found]


def _fault(data: str, what: str, remedy: str = "Write commands such as M0 0 L20 0 L20 10 Z.") -> PathFault:
    return PathFault(f"The path {quoted(data, 40)} {what}.", value=data, remedy=remedy)
