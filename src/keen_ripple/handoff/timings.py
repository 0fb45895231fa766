"""All timings of a piece, transition by transition and lane by lane: what tokens and timing sheets are made of."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from keen_ripple.core.curves import Easing, Linear, Named, Settle
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.document import Transition, walk
from keen_ripple.core.flow.media import rest_ms
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.properties import BY_NAME
from keen_ripple.core.timeline import Timeline
from keen_ripple.core.values import ConicGradient, LinearGradient, RadialGradient
from keen_ripple.handoff.report import BY_ITSELF


@dataclass(frozen=True)
class Row:
    """One property of one layer in a transition: from where to where, when (ms from its start), along which curve."""

    layer: str
    layer_name: str
    property: str
    label: str
    start: str
    end: str
    start_ms: int
    duration_ms: int
    # None for what changes at once.
    easing: Easing | None


@dataclass(frozen=True)
class Timing:
    """A transition with its rows, in the order of the layers."""

    transition: Transition
    title: str
    cue: str
    length_ms: int
    # Of a cross-fade its curve: all layers fade along it, and there are no rows.
    fade: Easing | None
    rows: tuple[Row, ...]


def timings_of(timeline: Timeline) -> list[Timing]:
    """Of all transitions as they are written, whether they are played by themselves or not."""
    states = {state.id: state.name for state in timeline.piece.states}
    names = {layer.id: layer.name for layer, _ in walk(timeline.piece.layers)}
    found = []
    for transition in timeline.piece.transitions:
        leg = timeline.legs[transition.id]
        rows = () if leg.fade else tuple(_row(move, names[move.layer]) for move in leg.moves)
        title = f"{states[transition.from_]} → {states[transition.to]}"
        found.append(Timing(transition, title, _cue(timeline, transition), leg.length_ms, leg.fade, rows))
    return found


def _cue(timeline: Timeline, transition: Transition) -> str:
    rest = rest_ms(timeline.piece, transition)
    if transition.cue == "hold":
        return f"by itself after {rest} ms"
    waited = f", {rest} ms later" if rest else ""
    return f"{'by itself, on' if transition.cue in BY_ITSELF else 'on'} {transition.cue}{waited}"


def _row(move: Move, name: str) -> Row:
    row = BY_NAME[move.property]
    start, end = (said(move.property, value) for value in (move.start, move.end))
    length = round(move.end_ms - move.start_ms)
    return Row(move.layer, name, move.property, row.label, start, end, round(move.start_ms), length, move.easing)


def said(name: str, value: Any) -> str:
    """A value in a few words: what is long is only named."""
    row = BY_NAME[name]
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return f"{css_number(value, 3)}{f' {row.unit}' if row.unit not in ('', '°') else row.unit}"
    if name == "path":
        return "outline"
    if name == "source":
        return "picture"
    if name == "shadows":
        return (
            "; ".join(
                f"{css_number(s.x)} {css_number(s.y)} {css_number(s.blur)} {css_number(s.spread)} px {s.colour}"
                for s in value
            )
            or "none"
        )
    if isinstance(value, str):
        return value
    if isinstance(value, LinearGradient | RadialGradient | ConicGradient):
        return f"{value.kind} gradient, {' '.join(stop.colour for stop in value.stops)}"
    if name == "font_axes":
        return ", ".join(f"{place.axis} {css_number(place.value)}" for place in value) or "none"
    return ", ".join(css_number(item, 3) for item in value) if isinstance(value, tuple) and value else "none"


def curve(easing: Easing | None) -> str:
    """A curve as it was meant: a spring by its physics, the product's own curves by name, others as CSS."""
    if easing is None:
        return "at once"
    if isinstance(easing, Settle):
        return spring(easing)
    if isinstance(easing, Named):
        return easing.text()
    if isinstance(easing, Linear) and len(easing.css()) > 60:
        return f"{len(easing.points) - 1} straight lines"
    return easing.css()


def spring(settle: Settle) -> str:
    physics = settle.spring
    parts = [f"stiffness {css_number(physics.stiffness, 3)}", f"damping {css_number(physics.damping, 3)}"]
    if physics.mass != 1.0:
        parts.append(f"mass {css_number(physics.mass, 3)}")
    if physics.velocity:
        parts.append(f"velocity {css_number(physics.velocity, 3)}")
    return f"spring, {', '.join(parts)}"
