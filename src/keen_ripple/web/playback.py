"""What the page plays: everything the core computed of a piece, and what of it an edit changed."""

from __future__ import annotations

import base64
from collections.abc import Mapping, Sequence
from typing import Any
from weakref import WeakKeyDictionary

import numpy as np

from keen_ripple.core.document import Piece
from keen_ripple.core.flow.legs import Leg, tapes_of
from keen_ripple.core.flow.parameters import value_of
from keen_ripple.core.flow.placing import Library, flat_layers, placements_of
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.flow.tape import TapeTrack
from keen_ripple.core.flow.undercurrents import course_tape
from keen_ripple.core.measures.readings import leg_reading
from keen_ripple.core.measures.seam import SeamTold, is_alike_at_seam
from keen_ripple.core.timeline import Timeline, Voice
from keen_ripple.render import measured_seam
from keen_ripple.web.contract.answers import (
    Computed,
    RunningUndercurrent,
    RunningVoice,
    RunReading,
    TransitionReading,
)
from keen_ripple.web.contract.originals import Original, OriginalParameter, OriginalState, OriginalTrait
from keen_ripple.web.contract.parts import PackedTape
from keen_ripple.web.lettering import lettering


def answer(after: Timeline, before: Timeline | None = None) -> Computed:
    """What differs from `before`, the run with its seam always included. Raises TooMuchFault."""
    return Computed(**differences(after, before))


def differences(after: Timeline, before: Timeline | None = None) -> dict[str, Any]:
    """The same by the names of `Computed`: changed poses and transitions, and the run with its seam.

    The tape of a changed transition holds only the tracks that changed; its moves name all that it has. Raises
    TooMuchFault.
    """
    tapes_of(after.legs)
    old_poses: Mapping[str, Pose] = before.poses if before else {}
    old_legs: Mapping[str, Leg] = before.legs if before else {}
    return {
        **_layers(after, before),
        **lettering(after, before),
        "poses": _changed_poses(after.poses, old_poses),
        "run": _run(after),
        "seam": _seam(after, before),
        "transitions": {
            key: _transition(leg, old_legs.get(key)) for key, leg in after.legs.items() if old_legs.get(key) is not leg
        },
    }


def _layers(after: Timeline, before: Timeline | None) -> dict[str, Any]:
    """What is drawn, where that is more than the document says; None where it has become just that."""
    if after.piece is after.written:
        return {"layers": None, "originals": {}} if before is not None and before.piece is not before.written else {}
    originals = {"originals": {name: _original(piece, after.library) for name, piece in after.library.items()}}
    if before is not None and before.piece.layers == after.piece.layers:
        return originals
    return {"layers": flat_layers(after.piece), **originals}


def parameters_of(piece: Piece, library: Library) -> list[OriginalParameter]:
    """What copies of a piece may set, with what it has itself; `library` has what stands in it."""
    standing = {layer.id: library.get(layer.piece) for layer, _ in placements_of(piece)}
    found = []
    for own in piece.parameters:
        inner = standing.get(own.bind[0].layer or "") if own.kind == "state" else None
        value = value_of(piece, own)
        states = _states(inner) if inner is not None else []
        found.append(OriginalParameter(id=own.id, name=own.name, kind=own.kind, value=value, states=states))
    return found


def _states(piece: Piece) -> list[OriginalState]:
    return [OriginalState(id=state.id, name=state.name) for state in piece.states]


def _original(piece: Piece, library: Library) -> Original:
    return Original(
        name=piece.name,
        start=piece.start,
        states=_states(piece),
        parameters=parameters_of(piece, library),
        traits=[
            OriginalTrait(
                id=trait.id,
                name=trait.name,
                shows=trait.option().id,
                options=[OriginalState(id=option.id, name=option.name) for option in trait.options],
            )
            for trait in piece.traits
        ],
    )


def is_same_run(after: Timeline, before: Timeline) -> bool:
    """Whether the page knows the run already."""
    return _run(after) == _run(before)


def _transition(leg: Leg, old: Leg | None) -> TransitionReading:
    return {**leg_reading(leg), "tape": packed(_fresh(leg, old))}


_runs: WeakKeyDictionary[Timeline, RunReading] = WeakKeyDictionary()


def _run(timeline: Timeline) -> RunReading:
    """The run with what else goes on in it; worked out once."""
    if timeline not in _runs:
        run = timeline.run
        _runs[timeline] = RunReading(
            lead_in_ms=run.lead_in_ms,
            loop_ms=run.loop_ms,
            total_ms=run.total_ms,
            final_state=run.final_state,
            segments=[segment.to_json() for segment in run.segments],
            transitions=[segment.transition for segment in run.segments],
            legs=[segment.leg for segment in run.segments],
            plays=run.plays,
            common_loop_ms=run.common_loop_ms,
            common_from_ms=run.common_from_ms,
            undercurrents=[
                RunningUndercurrent(
                    id=u.id,
                    period_ms=u.period_ms,
                    section=u.section,
                    states=u.states,
                    tape=packed(course_tape(u, timeline.piece.blend, timeline.finer)),
                )
                for u in timeline.piece.undercurrents
            ],
            voices=[_voice(voice) for voice in timeline.voices],
        )
    return _runs[timeline]


def _voice(voice: Voice) -> RunningVoice:
    timeline = voice.timeline
    moved: dict[str, set[str]] = {}
    for leg in timeline.legs.values():
        for move in leg.moves:
            moved.setdefault(move.layer, set()).add(move.property)
    return RunningVoice(
        placement=voice.layer,
        begins_ms=voice.begins_ms,
        run=_run(timeline),
        tapes={name: packed(tape) for name, tape in tapes_of(timeline.legs).items()},
        poses={
            state: {layer: {name: pose[layer][name] for name in names} for layer, names in moved.items()}
            for state, pose in timeline.poses.items()
        },
    )


# Most edits leave the seam as it is, and it takes a third of the time of an answer.
_seams: WeakKeyDictionary[Timeline, SeamTold | None] = WeakKeyDictionary()


def _seam(after: Timeline, before: Timeline | None) -> SeamTold | None:
    known = before in _seams and is_alike_at_seam(after, before) if before else False
    if before and known:
        found = _seams[before]
    else:
        seam = measured_seam(after)
        found = seam.to_json() if seam else None
    _seams[after] = found
    return found


def _fresh(leg: Leg, old: Leg | None) -> list[TapeTrack]:
    """The tracks that the page does not have yet."""
    known = {id(track) for track in old.tape} if old else set()
    return [track for track in leg.tape if id(track) not in known]


def packed(tape: Sequence[TapeTrack]) -> PackedTape:
    """A tape as the page reads it."""
    numbers = [part for track in tape for part in (track.times_ms, track.rows.ravel())]
    data = np.concatenate(numbers) if numbers else np.empty(0)
    return {
        "tracks": [(t.layer, t.property, len(t.times_ms), t.rows.shape[1], t.form) for t in tape],
        "data": base64.b64encode(data.astype("<f4").tobytes()).decode("ascii"),
    }


def _changed_poses(after: Mapping[str, Pose], before: Mapping[str, Pose]) -> dict[str, Pose]:
    changed: dict[str, Pose] = {}
    for state, pose in after.items():
        old = before.get(state, {})
        looks = {layer: look for layer, look in pose.items() if old.get(layer) != look} if old is not pose else {}
        if looks or state not in before:
            changed[state] = looks
    return changed
