"""Made pieces of every kind in a format that moves, held against the core at 24 moments.

    PYTHONPATH=tests:tests/laws python scripts/random_pieces.py FORMAT [COUNT [NUMBER]]

COUNT of them, 100 unless said, others for each NUMBER. A line for each: how far it is off, and what the report says.
Ends with 1 where one is farther off than 0.5 px, 0.01 of opacity or 2/255 of colour (pictures: 1.5/255 on average, 3 %
of pixels by more than 16).
"""

from __future__ import annotations

import sys
import time
from contextlib import suppress
from typing import Any

from hypothesis import HealthCheck, Phase, given, seed, settings
from strategies import pieces

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.handoff import AS_IT_IS, FORMATS
from keen_ripple.measured import NotMeasured, measure

MOST = {"px": 0.5, "opacity": 0.01, "colour": 2.0, "mean": 1.5, "off": 0.03}
ALL = list(HealthCheck)


def main(name: str, count: int = 100, number: int = 0) -> int:
    beyond = drawn = 0
    timelines = made(count, number)
    for index, timeline in enumerate(timelines):
        began = time.perf_counter()
        said = FORMATS[name].report(timeline, AS_IT_IS).said
        drawn += any("drawn into pictures" in line for line in said)
        try:
            worst = {kind: found.value for kind, found in measure(timeline, name, AS_IT_IS).worst.items()}
            told = ", ".join(f"{kind} {value:.3g}" for kind, value in worst.items())
        except NotMeasured as error:
            worst, told = {}, str(error)
        is_off = any(value > MOST.get(kind, float("inf")) for kind, value in worst.items())
        beyond += is_off
        print(
            f"{index}{'  BEYOND' * is_off}: {told}; {time.perf_counter() - began:.1f} s; {' '.join(said)}", flush=True
        )
    print(f"{name}: {len(timelines)} pieces, {drawn} with something drawn, {beyond} beyond")
    return 1 if beyond else 0


def made(count: int, number: int) -> list[Timeline]:
    """Always the same ones of a number, without those that cannot be played."""
    found: list[Timeline] = []

    @seed(number)
    @settings(max_examples=count, phases=(Phase.generate,), deadline=None, database=None, suppress_health_check=ALL)
    @given(pieces())
    def take(document: dict[str, Any]) -> None:
        with suppress(Fault):
            found.append(timeline_of(read_piece(document)))

    take()
    return found


if __name__ == "__main__":
    form, *numbers = sys.argv[1:]
    sys.exit(main(form, *map(int, numbers)))
