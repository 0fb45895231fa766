"""The parts of a piece with its layers called by other ids."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from keen_ripple.core.document.piece import Piece, State
from keen_ripple.core.document.transitions import Lane, Stagger, Transition
from keen_ripple.core.document.undercurrents import Undercurrent

Rename = Callable[[str], str]


def renamed_parts(piece: Piece, of: Rename) -> dict[str, tuple[Any, ...]]:
    """What a piece says of its layers, by their other ids: its states, transitions and undercurrents, by field."""
    return {
        "states": tuple(_renamed_state(state, of) for state in piece.states),
        "transitions": tuple(renamed_transition(own, of) for own in piece.transitions),
        "undercurrents": tuple(renamed_undercurrent(own, of) for own in piece.undercurrents),
    }


def _renamed_state(state: State, of: Rename) -> State:
    """A state whose differences are those of the layers by their other ids."""
    return state.model_copy(update={"changes": {of(layer): look for layer, look in state.changes.items()}})


def renamed_transition(own: Transition, of: Rename) -> Transition:
    """A transition whose cue, lanes and staggers name layers by their other ids."""
    cue_layer = of(own.cue_layer) if own.cue_layer else own.cue_layer
    lanes = tuple(renamed_lane(lane, of) for lane in own.lanes)
    staggers = tuple(_renamed_stagger(stagger, of) for stagger in own.staggers)
    return own.model_copy(update={"cue_layer": cue_layer, "lanes": lanes, "staggers": staggers})


def renamed_lane(lane: Lane, of: Rename) -> Lane:
    """A lane of a layer by its other id, which counts from a lane of one by its other id too."""
    anchor = lane.anchor
    if anchor is not None and anchor.layer is not None:
        anchor = anchor.model_copy(update={"layer": of(anchor.layer)})
    return lane.model_copy(update={"layer": of(lane.layer), "anchor": anchor})


def renamed_undercurrent(own: Undercurrent, of: Rename) -> Undercurrent:
    """An undercurrent that is called otherwise itself, and moves layers by their other ids."""
    courses = tuple(course.model_copy(update={"layer": of(course.layer)}) for course in own.courses)
    return own.model_copy(update={"id": of(own.id), "courses": courses})


def _renamed_stagger(stagger: Stagger, of: Rename) -> Stagger:
    return stagger.model_copy(update={"layers": tuple(map(of, stagger.layers))})
