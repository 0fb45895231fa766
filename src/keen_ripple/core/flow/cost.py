"""What motion costs to work out: bounded, so that whatever is accepted is answered within about a second.

The unit is the tape of one number. What moves between the same two values along the same curve as something else is
worked out once, and counts as a number.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from keen_ripple.core.blends.coordinates import OutlineCoordinates, settled
from keen_ripple.core.curves import Easing
from keen_ripple.core.errors import TooMuchFault
from keen_ripple.core.flow.families import Families
from keen_ripple.core.flow.moves import Moves
from keen_ripple.core.limits import (
    CHARACTERS_IN_TIME_OF_ONE_NUMBER,
    MOST_MOVES,
    NUMBERS_IN_TIME_OF_ONE_COLOUR,
    NUMBERS_IN_TIME_OF_ONE_OUTLINE,
)
from keen_ripple.core.properties import BY_NAME
from keen_ripple.core.values import Fade, Gradient

NUMBERS = ("linear", "visible", "perspective", "discrete")


Key = tuple[str, Any, Any, Easing]


@dataclass(frozen=True)
class Cost:
    """Of one transition: how many moves there are, and what those weigh that are no numbers, each pair of values
    once."""

    moves: int
    heavy: Mapping[Key, int]


def cost_of(moves: Moves) -> Cost:
    """What the tape of these moves costs; what only repeats others adds to their number alone."""
    heavy = dict[Key, int]()
    for move in moves.once():
        blend = BY_NAME[move.property].blend
        if move.easing is not None and blend not in NUMBERS:
            weight = max(_weight(blend, settled(move.start)), _weight(blend, move.end))
            heavy[blend, move.start, move.end, move.easing] = weight
    return Cost(len(moves.all), heavy)


class Budget:
    """How much of it the transitions of one piece have taken so far."""

    def __init__(self) -> None:
        self._moves = 0
        self._heavy: dict[Key, int] = {}

    def take(self, cost: Cost) -> None:
        """Counts one more transition. Raises TooMuchFault where it becomes too much."""
        self._moves += cost.moves
        self._heavy.update(cost.heavy)
        _keep_within_limit(self._moves + sum(self._heavy.values()))

    def check_families(self, families: Families) -> None:
        """What it costs to bring outlines to each other; not counted, since their ways cost less then.

        Raises TooMuchFault.
        """
        outlines = {
            lie.values for own in families.values() for lie in own.values() if isinstance(lie, OutlineCoordinates)
        }
        _keep_within_limit(sum(_weight("path", outline) for family in outlines for outline in family))


def _keep_within_limit(taken: int) -> None:
    if taken > MOST_MOVES:
        raise TooMuchFault(
            f"The transitions move more than {MOST_MOVES} values; a colour counts as "
            f"{NUMBERS_IN_TIME_OF_ONE_COLOUR}, each outline of a path as {NUMBERS_IN_TIME_OF_ONE_OUTLINE}.",
            place="/transitions",
            value=taken,
            remedy="Change less from state to state, or split the piece.",
        )


def _weight(blend: str, value: Any) -> int:
    if blend == "path":
        outlines = str(value).upper().count("M")
        return NUMBERS_IN_TIME_OF_ONE_OUTLINE * outlines + len(value) // CHARACTERS_IN_TIME_OF_ONE_NUMBER
    return NUMBERS_IN_TIME_OF_ONE_COLOUR * max(_colours(value), 1)


def _colours(value: Any) -> int:
    if isinstance(value, Fade):
        return _colours(value.from_) + _colours(value.to)
    if isinstance(value, Gradient):
        return len(value.stops)
    return len(value) if isinstance(value, tuple) else 1
