"""What somebody does, and whether a transition heeds it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.document.layers import LayerBase

Reason = Literal["heeded", "not-awaited", "elsewhere", "other-key", "resting", "unseen", "gone", "second-tap"]
"""Why something was heeded or not: no transition leaves the state on it; one does, on another layer, or with another
key, or when the state has rested; the layer is not seen, or is there no longer; or it waits for a second tap."""

# Where the pointer or the focus is, or what is in view, is said of each layer by itself. All else is heard by the
# groups around the layer too.
OF_ONE_LAYER = ("over", "out", "focus", "blur", "in-view", "out-of-view", "media-end")


@dataclass(frozen=True)
class Event:
    """What somebody does: a cue at a moment, on a layer or on the whole piece; `key` is that of the keyboard.

    With `scroll`, which is no cue, the content stands `y` px from its top from then on.
    """

    t_ms: float
    cue: str
    layer: str | None = None
    key: str | None = None
    y: float | None = None


@dataclass(frozen=True)
class Heard:
    """An event, what it set off, and why, or why nothing. `rest_ms` is how long the state would still have rested.

    `at_ms` is when: a tap that waited for a second one is heard later than it was made. `copy` is the free placement
    whose piece heard it; the piece itself where it is None.
    """

    event: Event
    at_ms: float
    state: str
    transition: str | None
    reason: Reason
    rest_ms: float = 0.0
    copy: str | None = None

    def to_json(self) -> dict[str, Any]:
        """As the page and the command line are told."""
        event = self.event
        return {
            "t_ms": event.t_ms,
            "cue": event.cue,
            "layer": event.layer,
            "key": event.key,
            "at_ms": self.at_ms,
            "state": self.state,
            "transition": self.transition,
            "reason": self.reason,
            "rest_ms": self.rest_ms,
            "copy": self.copy,
        }


class Ears:
    """Which transitions of a piece wait for what, and where."""

    def __init__(self, piece: Piece) -> None:
        self._piece = piece
        # Sections come into view as layers do.
        sections = {section.id: (section.id,) for section in piece.sections}
        self.around: Mapping[str, tuple[str, ...]] = {**sections, **dict(_around(piece.layers, ()))}

    def judged(self, event: Event, state: str, rested_ms: float) -> tuple[Transition | None, Reason, float]:
        """The first written transition that heeds the event in a state reached `rested_ms` ago; else why none does.

        The rest that is missing comes last.
        """
        reason: Reason = "not-awaited"
        missing = 0.0
        for transition in self._piece.transitions:
            if transition.from_ != state or transition.cue != event.cue:
                continue
            if not self.aimed(transition, event):
                reason = "elsewhere" if reason == "not-awaited" else reason
            elif transition.cue == "key" and transition.cue_key != event.key:
                reason = "other-key" if reason == "not-awaited" else reason
            elif transition.hold_ms and rested_ms < transition.hold_ms:
                reason, missing = "resting", transition.hold_ms - rested_ms
            else:
                return transition, "heeded", 0.0
        return None, reason, missing

    def aimed(self, transition: Transition, event: Event) -> bool:
        """Whether the event is on the layer that the transition listens to."""
        if event.cue in OF_ONE_LAYER:
            return transition.cue_layer == event.layer
        if transition.cue_layer is None:
            return True
        return event.layer is not None and transition.cue_layer in self.around.get(event.layer, ())

    def waits_for_second_tap(self, event: Event, state: str) -> bool:
        """Whether this tap may become the first half of a double tap."""
        double = Event(event.t_ms, "double-tap", event.layer)
        return any(
            t.from_ == state and t.cue == "double-tap" and self.aimed(t, double) for t in self._piece.transitions
        )


def _around(layers: Sequence[LayerBase], outer: tuple[str, ...]) -> list[tuple[str, tuple[str, ...]]]:
    """Each layer with itself and the groups around it, from the inside out."""
    found = []
    for layer in layers:
        own = (layer.id, *outer)
        found += [(layer.id, own), *_around(layer.layers, own)]
    return found
