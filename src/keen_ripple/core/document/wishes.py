"""Springs by what is seen of them: the nearest that a piece can hold, and what held it back."""

from __future__ import annotations

import math

from keen_ripple.core import curves
from keen_ripple.core.document.transitions import LONGEST_SPRING_S, STIFFEST, Spring
from keen_ripple.core.errors import Fault

MOST_OVERSHOOT = 0.99
# A little less than a spring may take, for what rounding its numbers adds.
LONGEST_MS = int(LONGEST_SPRING_S * 1000) - 10
PLACES = 6


def spring_wished(
    overshoot: float, settling_ms: float, mass: float = 1.0, velocity: float = 0.0
) -> tuple[Spring, str | None]:
    """The spring that overshoots by that share and settles in that time (whole ms), and why it is another one if it is.

    Mass and start speed (progress per second) are kept. Raises Fault where no spring of that speed does it.
    """
    held: list[str] = []
    if not 0.0 <= overshoot <= MOST_OVERSHOOT:
        overshoot = min(max(overshoot, 0.0), MOST_OVERSHOOT)
        held.append(f"A spring overshoots by 0 to {MOST_OVERSHOOT:.0%}.")
    least = _least_ms(overshoot, mass, velocity)
    if settling_ms < least:
        settling_ms = least
        held.append(
            f"With an overshoot of {overshoot * 100.0:.3g}% it takes at least {least} ms: "
            f"stiffness and damping end at {STIFFEST:,.0f}."
        )
    elif settling_ms > LONGEST_MS:
        settling_ms = LONGEST_MS
        held.append(f"A spring has to settle within {LONGEST_SPRING_S:.0f} s.")
    # A hair less: springs last whole ms, rounded up.
    found = curves.Spring.fit(overshoot, (settling_ms - 1e-3) / 1000.0, mass, velocity)
    return _written(found), " ".join(held) or None


def _least_ms(overshoot: float, mass: float, velocity: float) -> int:
    """How soon it can settle with the stiffest spring there is; what a start speed changes in that is left out."""
    slow = curves.Spring.fit(overshoot, 1.0, mass)
    faster = min(math.sqrt(STIFFEST / slow.stiffness), STIFFEST / slow.damping)
    return max(math.ceil(1000.0 / faster + 1e-3), 1)


def _written(spring: curves.Spring) -> Spring:
    if max(spring.stiffness, spring.damping) > STIFFEST:
        raise Fault(
            "No spring of this speed is stiff enough.", remedy="Give it more time, less mass or a lower start speed."
        )
    numbers = {"stiffness": spring.stiffness, "damping": spring.damping}
    rest = {
        name: value
        for name, value, default in (("mass", spring.mass, 1.0), ("velocity", spring.velocity, 0.0))
        if value != default
    }
    return Spring(kind="spring", **{name: round(value, PLACES) for name, value in numbers.items()}, **rest)
