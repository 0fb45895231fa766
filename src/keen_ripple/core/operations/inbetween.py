"""In-betweens: what a new state between two others says, so that it lies on the way from one to the other."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from keen_ripple.core.blends import Blend
from keen_ripple.core.document import Piece, walk
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.track import clamp
from keen_ripple.core.properties import STILL, Property, blend_of, properties_of
from keen_ripple.core.values.plain import plain

Looks = dict[str, dict[str, Any]]
"""Layer id → property name → value, as JSON."""

STEPWISE = ("visible", "discrete", "fade")


def inbetweens(piece: Piece, start: str, end: str, shares: Sequence[float]) -> list[Looks]:
    """For each share of the way from state `start` (0) to `end` (1): the values of all that differs between the two.

    Shares outside 0–1 go on along the same line, within the range of the property. What has no middle is as in the
    nearer state. The values are those that a state would say, before any layout. Raises Fault for an unknown state.
    """
    states = {state.id: state for state in piece.states}
    for name in (start, end):
        if name not in states:
            raise Fault(f"There is no state {name!r}.", value=name, remedy=f"Known: {', '.join(states)}.")
    found: list[Looks] = [{} for _ in shares]
    for layer, _ in walk(piece.layers):
        base = layer.base
        before, after = ({**base, **states[name].of(layer.id)} for name in (start, end))
        for row in properties_of(layer.kind):
            if before[row.name] == after[row.name]:
                continue
            values = _between(row, piece.blend, before[row.name], after[row.name], shares)
            for looks, value in zip(found, values, strict=True):
                looks.setdefault(layer.id, {})[row.name] = value
    return found


def _between(row: Property, space: str, a: Any, b: Any, shares: Sequence[float]) -> list[Any]:
    if row.blend in STILL:
        if row.choices or row.blend == "placed":
            return [plain(b if share >= 0.5 else a) for share in shares]
        return [max(round(a + (b - a) * share, 3), row.low or 0.0) for share in shares]
    return _blended(row, blend_of(row, space, a, b), a, b, shares)


def _blended(row: Property, blend: Blend, a: Any, b: Any, shares: Sequence[float]) -> list[Any]:
    between = blend.between(a, b)
    # Gradients of different kinds fade into each other, which no state can say.
    if row.blend in STEPWISE or (isinstance(between.form, dict) and between.form["kind"] == "fade"):
        return [plain(b if share >= 0.5 else a) for share in shares]
    rows = between.rows(np.array(shares, dtype=np.float64))
    values = [plain(between.value(shown)) for shown in clamp(row, rows)]
    return [round(value, 3) if isinstance(value, float) else value for value in values]
