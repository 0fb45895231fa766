"""The timeline: all moves of a run on one axis of time, ready to be asked for any moment."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.document import Piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.finer import Finer, Reaches, finer_of, reaches_of
from keen_ripple.core.flow.legs import Leg, legs_of
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.placing import NO_LIBRARY, Library, placed
from keen_ripple.core.flow.poses import Pose, poses_of
from keen_ripple.core.flow.run import Run, Segment, run_of
from keen_ripple.core.flow.sampling import Numbers, posed
from keen_ripple.core.flow.track import Progress, Track, looks_at, tracks_of
from keen_ripple.core.flow.undercurrents import course_tracks
from keen_ripple.core.live.overlap import carried_run, leaves_early
from keen_ripple.core.live.rehearse import Rehearsal


@dataclass(frozen=True, eq=False)
class Timeline:
    """`piece` is flat: its placements hold the layers of their originals. `rest` is the pose at the start; `tracks` are
    the properties that change during the run, and only those.
    """

    piece: Piece
    poses: Mapping[str, Pose]
    run: Run
    legs: Mapping[str, Leg]
    reaches: Reaches
    finer: Mapping[str, Finer]
    # The document, in which placements have not been laid flat, and the pieces that stand in it.
    written: Piece
    library: Library = field(default_factory=dict)
    # Of a rehearsal: what happened in it, whose cross-fades may have been interrupted.
    rehearsal: Rehearsal | None = None

    @property
    def rest(self) -> Pose:
        """The pose of the start."""
        return self.poses[self.piece.start]

    def pose(self, state: str) -> Pose:
        """The pose of a state. Raises Fault for one that the piece does not have."""
        if state not in self.poses:
            known = ", ".join(self.poses)
            raise Fault(f"There is no state {state!r}.", place="/state", value=state, remedy=f"Known: {known}.")
        return self.poses[state]

    @cached_property
    def tracks(self) -> tuple[Track, ...]:
        """Each property that changes during the run, with its moves in order; worked out once."""
        moves = (
            move.later(segment.start_ms)
            for segment in self.run.segments
            if segment.leg in self.legs
            for move in self.legs[segment.leg].moves_on_axis()
        )
        return tracks_of(moves, self.rest, self.piece.blend)

    @cached_property
    def numbers(self) -> Numbers:
        """The tracks of numbers, laid out so that all are sampled in one product; worked out once."""
        return Numbers(self.tracks)


def frames(timeline: Timeline, fps: float) -> tuple[tuple[Track, ...], Floats]:
    """Every number that moves in the first round, at each of its frames: tracks, and values (tracks, frames)."""
    return timeline.numbers.tracks, timeline.numbers.at(Progress(np.array(frame_times(timeline.run, fps))))


def timeline_of(piece: Piece, before: Timeline | None = None, library: Library = NO_LIBRARY) -> Timeline:
    """Everything that can be known of a piece's motion; `library` has the pieces that are placed in it.

    Raises RunFault where it cannot be played, PlacingFault where it cannot be put together.

    What `before`, the timeline of an earlier revision, has worked out already is taken over where it still holds.
    """
    written, piece = piece, placed(piece, library)
    poses = poses_of(piece, before.piece, before.poses) if before else poses_of(piece)
    earlier = {id(pose): before.reaches[state] for state, pose in before.poses.items()} if before else {}
    reaches = reaches_of(piece, poses, earlier)
    finer = finer_of(piece, reaches)
    legs = legs_of(piece, poses, before.legs if before else {}, finer)
    if leaves_early(piece):
        run, carried = carried_run(piece, poses, finer)
        return Timeline(piece, poses, run, {**legs, **carried}, reaches, finer, written, library)
    run = run_of(piece, {t.id: legs[t.id].length_ms for t in piece.transitions})
    return Timeline(piece, poses, run, legs, reaches, finer, written, library)


def timeline_of_rehearsal(rehearsal: Rehearsal) -> Timeline:
    """A rehearsal as a run that ends when it does, so that it can be drawn, laid out and handed over like one."""
    piece = rehearsal.piece
    poses = poses_of(piece)
    reaches = reaches_of(piece, poses, {})
    finer = finer_of(piece, reaches)
    segments = _segments(rehearsal)
    begun = [segment.start_ms for segment in segments]
    moves: dict[str, list[Move]] = {segment.leg: [] for segment in segments}
    for move in rehearsal.moves:
        # What plays from the start on has been set off by nothing.
        segment = segments[max(bisect_right(begun, move.start_ms) - 1, 0)]
        moves[segment.leg].append(move.later(-segment.start_ms))
    ways = {transition.id: transition for transition in piece.transitions}
    legs = {}
    for segment in segments:
        before, after, length = poses[segment.from_], poses[segment.to], math.ceil(segment.end_ms - segment.start_ms)
        own = tuple(moves[segment.leg])
        legs[segment.leg] = Leg(ways[segment.transition], before, after, piece.blend, own, length, {}, finer=finer)
    run = Run(math.ceil(rehearsal.end_ms), None, segments, rehearsal.state)
    return Timeline(piece, poses, run, legs, reaches, finer, piece, rehearsal=rehearsal)


def _segments(rehearsal: Rehearsal) -> tuple[Segment, ...]:
    """Each with a leg of its own, since the same transition may go another way each time."""
    found = [s for s in rehearsal.segments if s.start_ms <= rehearsal.end_ms]
    return tuple(
        replace(s, end_ms=min(s.end_ms, rehearsal.end_ms), leg=f"{s.transition}~{n}") for n, s in enumerate(found, 1)
    )


Look = dict[str, Any]


def sample(timeline: Timeline, times_ms: Iterable[float]) -> list[dict[str, Look]]:
    """The pose at each moment, in the order asked; loops go round, ends stay, undercurrents run on.

    In the middle of a cross-fade it is the new look: see `cross_fade_at`.
    """
    asked = list(times_ms)
    moments = np.array([timeline.run.within(t) for t in asked])
    order = np.argsort(moments, kind="stable")
    sorted_poses = posed(timeline.rest, timeline.tracks, timeline.numbers, moments[order])
    poses = [sorted_poses[place] for place in np.argsort(order, kind="stable")]
    for undercurrent, track in course_tracks(timeline.piece):
        phases = np.array(asked) % undercurrent.period_ms
        order = np.argsort(phases, kind="stable")
        for index, value in zip(order, looks_at(track, Progress(phases[order])), strict=True):
            if undercurrent.runs(*timeline.run.states_at(moments[index])):
                poses[index][track.layer][track.property.name] = value
    return poses


def cross_fade_at(timeline: Timeline, t_ms: float) -> tuple[Pose, float] | None:
    """The look that a cross-fade leaves, and the share (0–1) by which the new one is seen; None outside of them."""
    moment = timeline.run.within(t_ms)
    for segment in timeline.run.segments:
        fade = timeline.legs[segment.leg].fade if segment.kind == "travel" else None
        if fade is not None and segment.start_ms <= moment < segment.end_ms:
            share = float(fade(min((moment - segment.start_ms) / (segment.end_ms - segment.start_ms), 1.0)))
            return timeline.poses[segment.from_], min(max(share, 0.0), 1.0)
    return None


def left_at(timeline: Timeline, t_ms: float) -> list[tuple[Pose, float]]:
    """The looks that cross-fades have left and that are still seen then, each with its share (0–1)."""
    if timeline.rehearsal is not None:
        return timeline.rehearsal.faded_at(t_ms)
    found = cross_fade_at(timeline, t_ms)
    return [] if found is None else [(found[0], 1.0 - found[1])]


def frame_times(run: Run, fps: float) -> list[float]:
    """The moments of the frames of the first round: a loop ends before it shows its first frame again."""
    moments = every(run.total_ms, fps)
    return moments[:-1] if run.loop_ms is not None else moments


def every(length_ms: float, fps: float) -> list[float]:
    """The moments of the frames before `length_ms`, and that moment itself."""
    count = math.ceil(length_ms * fps / 1000.0 - 1e-9)
    return [*(index * 1000.0 / fps for index in range(count)), float(length_ms)]
