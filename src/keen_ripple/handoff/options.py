"""What may be chosen of a hand-off, and what of it each format takes."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, fields

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.errors import Fault

MOST_FPS, LEAST_SCALE, MOST_SCALE, LATEST_MS = 120.0, 0.05, 8.0, 3_600_000.0


@dataclass(frozen=True)
class Options:
    """`fps` pictures per second (1–120; None for what suits the format); `scale` px for each px of the piece (0.05–8);
    `ground` a CSS colour in place of the piece's own, or `none`; `dither` where a format has few colours; `at` the
    moment of one picture, ms (None for what suits).

    Raises Fault for what is out of range.
    """

    fps: float | None = None
    scale: float = 1.0
    ground: str | None = None
    dither: bool = False
    at: float | None = None

    def __post_init__(self) -> None:
        if self.fps is not None and not 1.0 <= self.fps <= MOST_FPS:
            asked = f"{css_number(self.fps)} pictures per second."
            raise Fault(asked, place="/fps", remedy=f"Choose 1 to {MOST_FPS:g}.")
        if not LEAST_SCALE <= self.scale <= MOST_SCALE:
            remedy = f"Choose {LEAST_SCALE:g} to {MOST_SCALE:g} px for each px of the piece."
            raise Fault(f"A scale of {css_number(self.scale)}.", place="/scale", remedy=remedy)
        if self.at is not None and not 0.0 <= self.at <= LATEST_MS:
            asked = f"A moment of {css_number(self.at)} ms."
            raise Fault(asked, place="/at", remedy=f"Choose 0 to {LATEST_MS:.0f} ms.")
        if self.ground is not None:
            parse_colour(self.ground)

    @property
    def chosen(self) -> list[str]:
        """The names of those that are not left as they are."""
        return [field.name for field in fields(self) if getattr(self, field.name) != field.default]

    def check(self, form: str, takes: Collection[str]) -> None:
        """Raises Fault for the first that the format does not have."""
        for name in self.chosen:
            if name not in takes:
                has = f"It has {', '.join(sorted(takes))}." if takes else "It has none."
                raise Fault(f"{form} has no {name} to choose.", place=f"/{name}", remedy=has)


AS_IT_IS = Options()
OF_PICTURES = frozenset({"fps", "scale", "ground"})
