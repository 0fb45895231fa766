"""CSS animations: their keyframes, and how they are played."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from keen_ripple.core.curves.numbers import css_number

PLACES = 5
# Two values at one moment need two keyframes: apart by this share of the duration, two steps of the last place printed.
INSTANT = 2e-7
# Knots are rounded to a thousandth of a ms: so far from one, it is certain which side of its jump is seen.
ASIDE_MS = 0.001


@dataclass(frozen=True)
class Keyframe:
    t_ms: float
    values: dict[str, str]
    easing: str | None = None


@dataclass(frozen=True)
class Animation:
    """One @keyframes rule, and how it is played: from `delay_ms` on, once or for ever."""

    name: str
    delay_ms: int
    duration_ms: int
    # How often it is played; None for ever.
    plays: int | None
    keyframes: tuple[Keyframe, ...]
    # The section whose scrolling it follows instead of time.
    section: str | None = None
    # How it goes on from keyframes that do not say so.
    easing: str = "linear"

    def shorthand(self) -> str:
        if self.section is not None:
            # Along a way any length is all of it; browsers that follow no scrolling stay at its beginning.
            return f"{self.name} 1000000s linear both"
        delay = f" {self.delay_ms}ms" if self.delay_ms else ""
        # What is played several times comes to rest where it began, which is where its element stands without it.
        count = "infinite" if self.plays is None else self.plays if self.plays > 1 else "both"
        return f"{self.name} {self.duration_ms}ms {self.easing}{delay} {count}"

    def lines(self) -> Iterator[str]:
        yield f"@keyframes {self.name} {{"
        for frame in self.keyframes:
            body = [f"{css}: {text};" for css, text in frame.values.items()]
            if frame.easing:
                body.append(f"animation-timing-function: {frame.easing};")
            yield f"  {css_number(frame.t_ms / self.duration_ms * 100.0, PLACES)}% {{ {' '.join(body)} }}"
        yield "}"


def keyframes_of(animations: Iterable[Animation]) -> Iterator[str]:
    """The rules of several, as lines."""
    return (line for animation in animations for line in animation.lines())
