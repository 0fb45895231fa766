"""What came out of measuring."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

from keen_ripple.core.errors import Fault


class NotMeasured(Fault):
    """Nothing here can play the file; the message says why, the remedy how to have it."""


@dataclass(frozen=True)
class Worst:
    """The largest deviation of one kind, and where: the name of the layer, if it is of one, and the moment (ms)."""

    value: float
    at_ms: float = 0.0
    layer: str = ""

    def or_more(self, value: float, at_ms: float, layer: str = "") -> Worst:
        return Worst(value, at_ms, layer) if value > self.value else self


@dataclass(frozen=True)
class Measured:
    """The largest deviations at so many moments, by what they are of, in the units that are named there.

    Of elements: `px` of their boxes, `opacity` (0–1) and `colour` (of 255). Of pictures: `mean` of all pixels (of 255),
    and the share of pixels that are `off` by more than 16 of 255. `left_out` names what was not measured so.
    """

    by: str
    moments: int
    worst: dict[str, Worst]
    left_out: tuple[str, ...] = ()

    def to_json(self) -> dict[str, Any]:
        """As it is printed, and as the page is told."""
        worst = {kind: asdict(each) for kind, each in self.worst.items()}
        return {"by": self.by, "moments": self.moments, "worst": worst, "left_out": list(self.left_out)}

    def said(self) -> str:
        """In a sentence."""
        parts = []
        for kind, worst in self.worst.items():
            of = f" ({worst.layer} at {worst.at_ms:.0f} ms)" if worst.layer else ""
            parts.append(f"{UNITS[kind].format(worst.value)}{of}")
        return f"At most {', '.join(parts)}, at {self.moments} moments in {self.by}."


UNITS = {
    "px": "{:.2f} px",
    "opacity": "{:.4f} of opacity",
    "colour": "{:.1f}/255 of colour",
    "mean": "{:.2f}/255 in the mean",
    "off": "{:.2%} of pixels off by more than 16",
}
