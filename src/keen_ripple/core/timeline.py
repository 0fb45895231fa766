"""The timeline: all moves of a run on one axis of time, ready to be asked for any moment."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.document import Piece
from keen_ripple.core.document.shared import with_same_parts
from keen_ripple.core.document.undercurrents import Course, Undercurrent
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.copies import Flat
from keen_ripple.core.flow.finer import Finer, Reaches, finer_of, reaches_of
from keen_ripple.core.flow.free import begins_ms, free_copies
from keen_ripple.core.flow.legs import Leg, legs_of
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.placing import NO_LIBRARY, Library, placed
from keen_ripple.core.flow.poses import Pose, poses_of
from keen_ripple.core.flow.run import Run, Segment, going_on, run_of, with_common_loop
from keen_ripple.core.flow.sampling import Numbers, write_tracks
from keen_ripple.core.flow.scrolling import phase_ms, shift
from keen_ripple.core.flow.track import Progress, Track, looks_at, tracks_of
from keen_ripple.core.flow.undercurrents import course_tracks
from keen_ripple.core.live.arrivals import arriving_run, waits_for_arrivals
from keen_ripple.core.live.overlap import carried_run, leaves_early
from keen_ripple.core.live.rehearse import Rehearsal


class Voice(NamedTuple):
    """A free placement with a timeline of its own, which begins at `begins_ms` of the timeline around it."""

    layer: str
    begins_ms: float
    timeline: Timeline


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
    flat: Flat
    library: Library = field(default_factory=dict)
    # Its free placements that are seen at all, each on the axis of this one.
    voices: tuple[Voice, ...] = ()
    # Of a rehearsal: what happened in it, whose cross-fades may have been interrupted.
    rehearsal: Rehearsal | None = None

    @property
    def rest(self) -> Pose:
        """The pose of the start."""
        return self.poses[self.piece.start]

    def looks_of(self, layer: str) -> list[Mapping[str, Any]]:
        """Every look at rest that a layer may have: in the states, and in a free placement in the states of that."""
        voice = self.voice_of(layer)
        return [pose[layer] for pose in self.poses.values()] + (voice.timeline.looks_of(layer) if voice else [])

    def voice_of(self, layer: str) -> Voice | None:
        """The free placement in which a layer lies, if it lies in one."""
        return next((voice for voice in self.voices if layer.startswith(f"{voice.layer}/")), None)

    def scrolled_at(self, t_ms: float) -> float:
        """How far the content is scrolled at a moment, px: nobody scrolls but in a rehearsal."""
        return self.rehearsal.scrolled_at(t_ms) if self.rehearsal is not None else 0.0

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

    def tracks_of(self, layer: str) -> Sequence[Track]:
        """Of one layer what changes during the run."""
        return self._tracks_by_layer.get(layer, ())

    @cached_property
    def _tracks_by_layer(self) -> Mapping[str, Sequence[Track]]:
        found: dict[str, list[Track]] = {}
        for track in self.tracks:
            found.setdefault(track.layer, []).append(track)
        return found

    def courses_of(self, layer: str) -> Sequence[tuple[Undercurrent, Course, Track]]:
        """What undercurrents do with one layer, each also as a track whose times are ms inside its period."""
        return self._courses_by_layer.get(layer, ())

    @cached_property
    def _courses_by_layer(self) -> Mapping[str, Sequence[tuple[Undercurrent, Course, Track]]]:
        found: dict[str, list[tuple[Undercurrent, Course, Track]]] = {}
        for undercurrent, course, track in course_tracks(self.piece):
            found.setdefault(course.layer, []).append((undercurrent, course, track))
        return found

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
    if before is None:
        return _timeline_of(piece, placed(piece, library), None, library)
    library = {name: with_same_parts(other, before.library.get(name)) for name, other in library.items()}
    return _timeline_of(piece, placed(piece, library, before=before.flat), before, library)


def _timeline_of(written: Piece, piece: Piece, before: Timeline | None, library: Library) -> Timeline:
    if before is not None and before.piece.layers == piece.layers:
        flat = before.flat.following(piece, before.poses.values())
    else:
        flat = Flat(piece)
    poses = poses_of(piece, before.piece, before.poses, flat) if before else poses_of(piece, flat=flat)
    earlier = {id(pose): before.reaches[state] for state, pose in before.poses.items()} if before else {}
    reaches = reaches_of(piece, poses, earlier, flat)
    finer: Mapping[str, Finer] = finer_of(piece, reaches, flat)
    if before is not None and before.finer == finer:
        finer = before.finer
    legs = legs_of(piece, poses, before.legs if before else {}, finer, flat)
    if leaves_early(piece):
        run, carried = carried_run(piece, poses, finer)
        legs = {**legs, **carried}
    elif waits_for_arrivals(piece):
        run = arriving_run(piece)
    else:
        run = run_of(piece, {t.id: legs[t.id].length_ms for t in piece.transitions})
    voices = _voices(piece, poses, run, before) if any(layer.life == "free" for layer in flat.layers) else ()
    beside = [(int(voice.begins_ms), voice.timeline.run) for voice in voices]
    run = going_on(piece, with_common_loop(piece, run, beside) if voices else run, beside)
    return Timeline(piece, poses, run, legs, reaches, finer, written, flat, library, voices)


def _voices(piece: Piece, poses: Mapping[str, Pose], run: Run, before: Timeline | None) -> tuple[Voice, ...]:
    known = {voice.layer: voice.timeline for voice in before.voices} if before else {}
    found = []
    for copy in free_copies(piece, poses):
        begins = begins_ms(copy, run)
        if begins is not None:
            earlier = known.get(copy.layer)
            same = earlier is not None and earlier.piece == copy.piece
            timeline = earlier if earlier and same else _timeline_of(copy.piece, copy.piece, earlier, NO_LIBRARY)
            found.append(Voice(copy.layer, begins, timeline))
    return tuple(found)


def timeline_of_rehearsal(rehearsal: Rehearsal) -> Timeline:
    """A rehearsal as a run that ends when it does, so that it can be drawn, laid out and handed over like one."""
    origin = rehearsal.origin_ms
    voices = tuple(
        Voice(copy, voice.origin_ms - origin, timeline_of_rehearsal(voice)) for copy, voice in rehearsal.voices.items()
    )
    piece = rehearsal.piece
    poses = poses_of(piece)
    reaches = reaches_of(piece, poses, {})
    finer = finer_of(piece, reaches)
    segments = _segments(rehearsal)
    begun = [segment.start_ms for segment in segments]
    moves: dict[str, list[Move]] = {segment.leg: [] for segment in segments}
    for move in (move.later(-origin) for move in rehearsal.moves if segments):
        # What plays from the start on has been set off by nothing.
        segment = segments[max(bisect_right(begun, move.start_ms) - 1, 0)]
        moves[segment.leg].append(move.later(-segment.start_ms))
    ways = {transition.id: transition for transition in piece.transitions}
    legs = {}
    for segment in segments:
        before, after, length = poses[segment.from_], poses[segment.to], math.ceil(segment.end_ms - segment.start_ms)
        own = tuple(moves[segment.leg])
        legs[segment.leg] = Leg(ways[segment.transition], before, after, piece.blend, own, length, {}, finer=finer)
    run = Run(math.ceil(rehearsal.end_ms - origin), None, segments, rehearsal.state)
    return Timeline(piece, poses, run, legs, reaches, finer, piece, Flat(piece), voices=voices, rehearsal=rehearsal)


def _segments(rehearsal: Rehearsal) -> tuple[Segment, ...]:
    """Each with a leg of its own, since the same transition may go another way each time."""
    found, origin = [s for s in rehearsal.segments if s.start_ms <= rehearsal.end_ms], rehearsal.origin_ms
    ends = [min(s.end_ms, rehearsal.end_ms) - origin for s in found]
    return tuple(
        replace(s, start_ms=s.start_ms - origin, end_ms=end, leg=f"{s.transition}~{n}")
        for n, (s, end) in enumerate(zip(found, ends, strict=True), 1)
    )


Look = dict[str, Any]
SAMPLES_AT_ONCE = 60


def sample(timeline: Timeline, times_ms: Iterable[float]) -> list[dict[str, Look]]:
    """The pose at each moment, in the order asked; loops go round, ends stay, undercurrents run on.

    In the middle of a cross-fade it is the new look: see `cross_fade_at`.
    """
    asked = np.array(list(times_ms), dtype=np.float64)
    poses = [{layer: dict(look) for layer, look in timeline.rest.items()} for _ in asked]
    _play(timeline, asked, poses)
    shift(timeline.piece, poses, [timeline.scrolled_at(t) for t in asked.tolist()])
    return poses


def each_sample(timeline: Timeline, times_ms: Sequence[float]) -> Iterator[dict[str, Look]]:
    """The same one after another: found together, which takes half of the time, but never all held at once."""
    for first in range(0, len(times_ms), SAMPLES_AT_ONCE):
        yield from sample(timeline, times_ms[first : first + SAMPLES_AT_ONCE])


def _play(timeline: Timeline, times_ms: Floats, poses: Sequence[dict[str, Look]]) -> None:
    """Writes into the poses what the timeline moves, at the times of each; before its start it shows that."""
    moments = np.array([timeline.run.within(t) for t in times_ms.tolist()])
    order = np.argsort(moments, kind="stable")
    write_tracks([poses[index] for index in order], timeline.tracks, timeline.numbers, moments[order])
    for undercurrent, course, track in course_tracks(timeline.piece):
        where = [(t, timeline.scrolled_at(t)) for t in times_ms.tolist()]
        phases = np.array([phase_ms(timeline.piece, undercurrent, course, *each) for each in where])
        order = np.argsort(phases, kind="stable")
        for index, value in zip(order, looks_at(track, Progress(phases[order])), strict=True):
            if undercurrent.runs(*timeline.run.states_at(moments[index])):
                poses[index][track.layer][track.property.name] = value
    _play_voices(timeline, times_ms, poses)


def _play_voices(timeline: Timeline, times_ms: Floats, poses: Sequence[dict[str, Look]]) -> None:
    for voice in timeline.voices:
        begun = np.flatnonzero(times_ms >= voice.begins_ms).tolist()
        _play(voice.timeline, times_ms[begun] - voice.begins_ms, [poses[index] for index in begun])


def cross_fade_at(timeline: Timeline, t_ms: float) -> tuple[Pose, float] | None:
    """The look that a cross-fade leaves, and the share (0–1) by which the new one is seen; None outside of them."""
    moment = timeline.run.within(t_ms)
    for segment in timeline.run.segments:
        fade = timeline.legs[segment.leg].fade if segment.kind == "travel" else None
        if fade is not None and segment.start_ms <= moment < segment.end_ms:
            share = float(fade(min((moment - segment.start_ms) / (segment.end_ms - segment.start_ms), 1.0)))
            began = t_ms - (moment - segment.start_ms)
            return _with_voices(timeline, timeline.poses[segment.from_], began), min(max(share, 0.0), 1.0)
    return None


def _with_voices(timeline: Timeline, pose: Pose, t_ms: float) -> Pose:
    """A pose of the piece, with its free placements as they are at a moment."""
    if not timeline.voices:
        return pose
    look = {layer: dict(values) for layer, values in pose.items()}
    _play_voices(timeline, np.array([t_ms]), [look])
    return look


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
