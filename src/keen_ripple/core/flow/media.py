"""Media: what waits for the end of one rests until it has played from where it stands."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from keen_ripple.core.curves import Easing, parse_easing
from keen_ripple.core.document import Piece, Transition, walk
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.poses import Pose

STEADY: Easing = parse_easing("linear")


def rest_ms(piece: Piece, transition: Transition) -> int:
    """How long the state rests before the transition starts by itself: the rest of its medium, and its hold."""
    return _left_ms(piece, transition) + transition.hold_ms


def rest_leg(transition: Transition) -> str:
    """The name of the leg in which a medium plays until the transition starts; none for other transitions."""
    return f"{transition.id}~rest" if transition.cue == "media-end" else ""


def playing_on(piece: Piece, transition: Transition, reached_ms: float = 0.0) -> Move | None:
    """The motion of the medium that the transition waits for, from the moment its state is reached."""
    left = _left_ms(piece, transition)
    if not left or transition.cue_layer is None:
        return None
    start, end = _playhead(piece, transition), float(_length_ms(piece, transition))
    return Move(transition.cue_layer, "playhead", reached_ms, reached_ms + left, STEADY, start, end)


def played(piece: Piece, pose: Pose, transition: Transition) -> Pose:
    """The pose from which the transition starts: with its medium at its end, if it waits for one."""
    if transition.cue != "media-end" or transition.cue_layer is None:
        return pose
    look: Mapping[str, Any] = {**pose[transition.cue_layer], "playhead": float(_length_ms(piece, transition))}
    return {**pose, transition.cue_layer: look}


def _left_ms(piece: Piece, transition: Transition) -> int:
    if transition.cue != "media-end":
        return 0
    return max(math.ceil(_length_ms(piece, transition) - _playhead(piece, transition)), 0)


def _length_ms(piece: Piece, transition: Transition) -> int:
    return next(int(layer.length_ms) for layer, _ in walk(piece.layers) if layer.id == transition.cue_layer)


def _playhead(piece: Piece, transition: Transition) -> float:
    """Where the medium stands in the state that the transition leaves."""
    state = next(state for state in piece.states if state.id == transition.from_)
    layer = next(layer for layer, _ in walk(piece.layers) if layer.id == transition.cue_layer)
    return float(state.of(layer.id).get("playhead", layer.base["playhead"]))
