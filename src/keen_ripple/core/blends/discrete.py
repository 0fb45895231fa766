"""Values with nothing in between: switched at once, or faded into each other."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.blend import Varied
from keen_ripple.core.values import Fade
from keen_ripple.core.values.plain import plain


@dataclass(frozen=True)
class Switch:
    """The new value from the first moment of the motion. Rows hold 0 for the old one, 1 for the new."""

    start: Any
    end: Any
    tolerances = (0.0,)

    @property
    def form(self) -> Any:
        return {"kind": "switch", "values": [plain(self.start), plain(self.end)]}

    def rows(self, progress: Floats) -> Floats:
        return np.ones((len(progress), 1))

    def value(self, row: Floats) -> Any:
        return self.end if row[0] >= 0.5 else self.start


@dataclass(frozen=True)
class FadeBetween:
    """Both at once, the new one by its share. Rows hold the share, 0–1."""

    start: Any
    end: Any
    tolerances = (0.002,)

    @property
    def form(self) -> Any:
        return {"kind": "fade", "values": [plain(self.start), plain(self.end)]}

    def rows(self, progress: Floats) -> Floats:
        return np.clip(np.reshape(progress, (-1, 1)), 0.0, 1.0)

    def value(self, row: Floats) -> Any:
        share = float(row[0])
        if share in (0.0, 1.0):
            return self.end if share else self.start
        return Fade(self.start, self.end, share)


class DiscreteBlend(Varied):
    def between(self, start: Any, end: Any) -> Switch:
        return Switch(start, end)


class FadeBlend(Varied):
    def between(self, start: Any, end: Any) -> FadeBetween:
        return FadeBetween(start, end)


DISCRETE = DiscreteBlend()
FADE = FadeBlend()
