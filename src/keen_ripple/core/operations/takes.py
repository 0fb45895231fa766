"""Sets of timings: others made of one, and what they differ in, transition by transition."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

from keen_ripple.core.document import Piece, walk
from keen_ripple.core.document.transitions import Curve, Spring, Transition
from keen_ripple.core.document.undercurrents import Undercurrent
from keen_ripple.core.operations.retime import scaled
from keen_ripple.core.properties import BY_NAME


def varied(piece: Piece, factor: float = 1.0, timing: Curve | Spring | None = None) -> Piece:
    """The piece with other timings: all tweens go by `timing`, then everything takes `factor` times as long.

    Of a curve only the easing is taken: each tween keeps its time. Lanes with a timing of their own keep it too. Raises
    RetimeFault for a factor outside of 0.01 to 100.
    """
    ways = tuple(t if timing is None or t.style != "tween" else _going(t, timing) for t in piece.transitions)
    return scaled(piece.model_copy(update={"transitions": ways}), factor)


def _going(transition: Transition, timing: Curve | Spring) -> Transition:
    own_ms = transition.timing.length_ms()
    new = timing.model_copy(update={"duration_ms": own_ms}) if isinstance(timing, Curve) else timing
    return transition.model_copy(update={"timing": new})


class Difference(NamedTuple):
    """What pieces differ in: a transition or an undercurrent by its id, the names of its states or its own, and how it
    goes in each piece."""

    kind: Literal["transition", "undercurrent"]
    id: str
    name: str
    cells: list[str]


def differences(pieces: Sequence[Piece]) -> list[Difference]:
    """For each transition, and each undercurrent, that is not the same in all of these pieces how it goes in each, in
    no more words than tell them apart.

    The pieces have the same states and layers. What a piece does not have is a dash.
    """
    names = {state.id: state.name for piece in pieces for state in piece.states}
    layers = {layer.id: layer.name for piece in pieces for layer, _ in walk(piece.layers)}
    ways = {t.id: f"{names[t.from_]} → {names[t.to]}" for piece in pieces for t in piece.transitions}
    found = []
    for way, name in ways.items():
        own = [next((t for t in piece.transitions if t.id == way), None) for piece in pieces]
        if any(t != own[0] for t in own):
            told = [None if t is None else described(t, layers) for t in own]
            found.append(Difference("transition", way, name, _told_apart(told)))
    rounds = {u.id: u.name for piece in pieces for u in piece.undercurrents}
    for round_, name in rounds.items():
        going = [next((u for u in piece.undercurrents if u.id == round_), None) for piece in pieces]
        if any(u != going[0] for u in going):
            told = [None if u is None else _round_told(u, layers) for u in going]
            found.append(Difference("undercurrent", round_, name, _told_apart(told)))
    return found


def _round_told(own: Undercurrent, layers: Mapping[str, str]) -> list[str]:
    """In parts: its period and phase, and when its courses have their keys."""
    courses = [
        f"{layers.get(c.layer, c.layer)} {BY_NAME[c.property].label} at {', '.join(str(key.at_ms) for key in c.keys)}"
        + (f" +{c.offset_ms}" if c.offset_ms else "")
        for c in own.courses
    ]
    return [f"{own.period_ms} ms", *([f"phase {own.phase_ms}"] if own.phase_ms else []), *courses]


def _told_apart(told: Sequence[list[str] | None]) -> list[str]:
    """Lines of their parts, without those that all of them have."""
    there = [parts for parts in told if parts is not None]
    shared = set(there[0]).intersection(*there) if len(there) == len(told) else set()
    return ["–" if parts is None else " · ".join(p for p in parts if p not in shared) or "the same" for parts in told]


def described(transition: Transition, layers: Mapping[str, str]) -> list[str]:
    """In parts: what sets it off, how it goes, and what has a timing of its own, by the names of layers."""
    rests = transition.cue if transition.cue != "hold" else f"hold {transition.hold_ms}"
    early = f", {transition.early_ms} early" if transition.early_ms else ""
    goes = timing_text(transition.timing) if transition.style == "tween" else transition.style
    lanes = [
        f"{layers.get(lane.layer, lane.layer)} {_lane_text(lane.delay_ms, lane.timing)}" for lane in transition.lanes
    ]
    staggers = [f"stagger {s.each_ms if s.each_ms is not None else s.total_ms}" for s in transition.staggers]
    return [f"{rests}{early}", goes, *lanes, *staggers]


def timing_text(timing: Curve | Spring) -> str:
    """A timing in a few words, for the table of differences: ms and easing, or the spring's numbers."""
    if isinstance(timing, Curve):
        return f"{timing.duration_ms} ms {timing.easing}"
    return f"spring {timing.stiffness:.4g}/{timing.damping:.4g}/{timing.mass:.4g}, {timing.length_ms()} ms"


def _lane_text(delay_ms: int, timing: Curve | Spring | None) -> str:
    return f"+{delay_ms}" if timing is None else f"+{delay_ms} {timing_text(timing)}"
