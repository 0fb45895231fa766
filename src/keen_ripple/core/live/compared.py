"""A kept rehearsal beside itself: what the same events came to when it was kept, and what they come to now."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Literal

from typing_extensions import TypedDict

from keen_ripple.core.document import Piece
from keen_ripple.core.live.rehearse import Rehearsal

# Times may differ by this much, ms: nobody sees less.
TOLERANCE_MS = 0.5


class Arrival(TypedDict):
    """A state that is reached, by which transition, and when (ms)."""

    state: str
    name: str
    transition: str
    at_ms: float


class Change(TypedDict):
    """What is another than it was: a state reached sooner or later by so many ms, no more, or newly; or gone."""

    kind: Literal["later", "sooner", "not-reached", "newly-reached", "state-gone", "layer-gone"]
    what: str
    by_ms: float


def arrivals(rehearsal: Rehearsal) -> list[Arrival]:
    """The states that are reached, in the order of time; those that are left on the way too, when they are left."""
    names = {state.id: state.name for state in rehearsal.piece.states}
    return [
        {"state": s.to, "name": names[s.to], "transition": s.transition, "at_ms": s.end_ms}
        for s in rehearsal.segments
        if s.kind == "travel"
    ]


def changes(piece: Piece, rehearsal: Rehearsal, before: Sequence[Arrival]) -> Iterator[Change]:
    """How it differs from what was kept, in the order of time; what follows from the first difference is left out."""
    known = {state.id for state in piece.states}
    gone = dict.fromkeys(arrival["name"] for arrival in before if arrival["state"] not in known)
    for name in gone:
        yield {"kind": "state-gone", "what": name, "by_ms": 0.0}
    layers = dict.fromkeys(str(heard.event.layer) for heard in rehearsal.heard if heard.reason == "gone")
    for layer in layers:
        yield {"kind": "layer-gone", "what": layer, "by_ms": 0.0}
    now = arrivals(rehearsal)
    for index in range(max(len(now), len(before))):
        one = now[index] if index < len(now) else None
        other = before[index] if index < len(before) else None
        if one is None or other is None or one["state"] != other["state"]:
            if other is not None and other["state"] in known:
                yield {"kind": "not-reached", "what": other["name"], "by_ms": other["at_ms"]}
            if one is not None:
                yield {"kind": "newly-reached", "what": one["name"], "by_ms": one["at_ms"]}
            return
        late = one["at_ms"] - other["at_ms"]
        if abs(late) > TOLERANCE_MS:
            yield {"kind": "later" if late > 0 else "sooner", "what": one["name"], "by_ms": abs(late)}
            return
