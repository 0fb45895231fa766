"""Design tokens in the format of the W3C's Design Tokens Community Group (DTCG, 2025.10): `duration`, `cubicBezier` and
`transition`. What has no type there (springs, steps, curves of several parts) is an extension, with its text in CSS.
"""

from __future__ import annotations

import json
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from typing import Any

from keen_ripple.core.curves import CubicBezier, Easing, Settle, Steady
from keen_ripple.core.curves.linear import Linear
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.report import Report
from keen_ripple.handoff.timings import Row, Timing, curve, timings_of

EXTENSION = "app.keen-ripple"
"""Of this product alone; tools that do not know it leave it as it is."""


@dataclass(frozen=True)
class Tokens:
    name: str = "tokens"
    takes: Collection[str] = ()
    endings: Mapping[str, str] = field(default_factory=lambda: {"tokens.json": "application/json"})

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        timings = timings_of(timeline)
        others = {row.easing for timing in timings for row in timing.rows if row.easing and _bezier(row.easing) is None}
        holds = f"Durations and curves of {len(timings)} transitions."
        if others:
            curves = "; ".join(sorted(map(curve, others)))
            holds += f" What is no type of these tokens stands in an extension, with its linear(): {curves}."
        return Report(holds, (), ())

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        return {"tokens.json": (json.dumps(_document(timeline), ensure_ascii=False, indent=2) + "\n").encode()}


TOKENS = Tokens()


def _document(timeline: Timeline) -> dict[str, Any]:
    piece = timeline.piece
    timings = timings_of(timeline)
    groups = {timing.transition.id: _group(timing, f"{piece.id}.{timing.transition.id}") for timing in timings}
    return {piece.id: {"$description": f"{piece.name}: how long its transitions take, and how.", **groups}}


def _group(timing: Timing, path: str) -> dict[str, Any]:
    """One set of tokens where everything moves alike, else one for each layer and property."""
    described = {"$description": f"{timing.title}, {timing.cue}"}
    if timing.fade is not None:
        return {**described, **_tokens(path, 0, timing.length_ms, timing.fade)}
    ways = {(row.start_ms, row.duration_ms, row.easing) for row in timing.rows}
    if len(ways) == 1:
        return {**described, **_tokens(path, *ways.pop())}
    layers: dict[str, Any] = {}
    for row in timing.rows:
        layers.setdefault(row.layer, {"$description": row.layer_name})[row.property] = _lane(row, path)
    return {**described, "duration": _duration(timing.length_ms), **({"layers": layers} if layers else {})}


def _lane(row: Row, path: str) -> dict[str, Any]:
    return _tokens(f"{path}.layers.{row.layer}.{row.property}", row.start_ms, row.duration_ms, row.easing)


def _tokens(path: str, delay_ms: int, duration_ms: int, easing: Easing | None) -> dict[str, Any]:
    duration, delay = _duration(duration_ms), _duration(delay_ms)
    bezier = _bezier(easing)
    if bezier is None and easing is not None:
        return {"duration": {**duration, "$extensions": {EXTENSION: _extension(easing)}}, "delay": delay}
    points = bezier or [0.0, 0.0, 1.0, 1.0]
    parts = {name: f"{{{path}.{name}}}" for name in ("duration", "delay")}
    transition = {"$type": "transition", "$value": {**parts, "timingFunction": f"{{{path}.curve}}"}}
    return {
        "duration": duration,
        "delay": delay,
        "curve": {"$type": "cubicBezier", "$value": points},
        "transition": transition,
    }


def _duration(ms: int) -> dict[str, Any]:
    return {"$type": "duration", "$value": {"value": ms, "unit": "ms"}}


def _bezier(easing: Easing | None) -> list[float] | None:
    if isinstance(easing, CubicBezier):
        return [easing.x1, easing.y1, easing.x2, easing.y2]
    return [0.0, 0.0, 1.0, 1.0] if isinstance(easing, Steady) or easing == Linear() else None


def _extension(easing: Easing) -> dict[str, Any]:
    said: dict[str, Any] = {"curve": curve(easing), "css": easing.css()}
    if isinstance(easing, Settle):
        physics = easing.spring
        said["spring"] = {name: getattr(physics, name) for name in ("stiffness", "damping", "mass", "velocity")}
    return said
