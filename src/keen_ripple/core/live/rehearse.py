"""Rehearsal: a piece and a list of timed events give what is seen, the same every time."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.document import Piece
from keen_ripple.core.flow.finer import finer_of, reaches_of
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.poses import Pose, poses_of
from keen_ripple.core.flow.run import Segment
from keen_ripple.core.flow.sampling import Numbers, write_tracks
from keen_ripple.core.flow.scrolling import Scrolls, phase_ms, scrolled_at, shift
from keen_ripple.core.flow.tape import TapeTrack, tape_of
from keen_ripple.core.flow.track import Progress, Track, looks_at, tracks_of
from keen_ripple.core.flow.undercurrents import course_tracks
from keen_ripple.core.live.cast import Cast
from keen_ripple.core.live.hearing import Event, Heard
from keen_ripple.core.live.stage import Fading


@dataclass(frozen=True)
class Rehearsal:
    """What was played until `end_ms`, when `state` was on stage; `heard` is what became of each event."""

    piece: Piece
    rest: Pose
    moves: tuple[Move, ...]
    segments: tuple[Segment, ...]
    fades: tuple[Fading, ...]
    state: str
    end_ms: float
    heard: tuple[Heard, ...]
    # When it began, and what became of its free placements from when they were first seen, by their ids; all on the
    # same axis of time.
    origin_ms: float = 0.0
    voices: Mapping[str, Rehearsal] = field(default_factory=dict)
    # Where the content stood from when on.
    scrolls: Scrolls = ()

    @property
    def unheeded(self) -> tuple[Event, ...]:
        """The events that set nothing off."""
        return tuple(h.event for h in self.heard if h.transition is None and h.reason != "second-tap")

    def tracks(self) -> tuple[Track, ...]:
        """The properties that changed, over the whole of what was played."""
        return tracks_of(self.moves, self.rest, self.piece.blend)

    def tape(self) -> tuple[TapeTrack, ...]:
        """A track for each move; of several tracks of one property, the one that began last is seen."""
        poses = poses_of(self.piece)
        finer = finer_of(self.piece, reaches_of(self.piece, poses, {}))
        return tape_of(self.moves, self.piece.blend, finer=finer)

    def sample(self, times_ms: Iterable[float]) -> list[dict[str, dict[str, Any]]]:
        """The pose at each moment, in the order asked; in a cross-fade it is the new look, see `faded_at`."""
        moments = np.array(list(times_ms), dtype=np.float64)
        poses = [{layer: dict(look) for layer, look in self.rest.items()} for _ in moments]
        self._write(moments, poses)
        shift(self.piece, poses, [self.scrolled_at(t) for t in moments.tolist()])
        return poses

    def scrolled_at(self, t_ms: float) -> float:
        """How far the content is scrolled at a moment, px."""
        return scrolled_at(self.scrolls, t_ms)

    def _write(self, moments: Floats, poses: Sequence[dict[str, dict[str, Any]]]) -> None:
        """Writes into the poses what was moved, at the moments of each, from its beginning on."""
        order = np.argsort(moments, kind="stable")
        tracks = self.tracks()
        write_tracks([poses[index] for index in order], tracks, Numbers(tracks), moments[order])
        for undercurrent, course, track in course_tracks(self.piece):
            where = [(t - self.origin_ms, self.scrolled_at(t)) for t in moments.tolist()]
            phases = np.array([phase_ms(self.piece, undercurrent, course, *each) for each in where])
            order = np.argsort(phases, kind="stable")
            for index, value in zip(order, looks_at(track, Progress(phases[order])), strict=True):
                if undercurrent.runs(*self.states_at(float(moments[index]))):
                    poses[index][track.layer][track.property.name] = value
        self._write_voices(moments, poses)

    def _write_voices(self, moments: Floats, poses: Sequence[dict[str, dict[str, Any]]]) -> None:
        for voice in self.voices.values():
            begun = np.flatnonzero(moments >= voice.origin_ms).tolist()
            voice._write(moments[begun], [poses[index] for index in begun])

    def faded_at(self, t_ms: float) -> list[tuple[Pose, float]]:
        """The looks that cross-fades have left and that are still seen, the oldest first, and each one's share of what
        is seen; the new look has the rest."""
        looks: list[tuple[Pose, float]] = []
        for fade in self.fades:
            if fade.start_ms <= t_ms:
                share = fade.share(t_ms)
                before = 1.0 - sum(weight for _, weight in looks)
                left = {layer: dict(look) for layer, look in fade.look.items()}
                self._write_voices(np.array([fade.start_ms]), [left])
                looks = [*((look, weight * (1.0 - share)) for look, weight in looks), (left, before * (1 - share))]
        return [(look, weight) for look, weight in looks if weight > 0.0]

    def states_at(self, t_ms: float) -> tuple[str, str]:
        """The states between which a moment lies; twice the same at rest."""
        index = bisect_right(self.segments, t_ms, key=lambda segment: segment.start_ms) - 1
        if index < 0:
            return self.piece.start, self.piece.start
        segment = self.segments[index]
        return (segment.from_, segment.to) if t_ms < segment.end_ms else (segment.to, segment.to)


def rehearse(piece: Piece, events: Sequence[Event], until_ms: float) -> Rehearsal:
    """Plays a piece from its start: its own cues, and the events, in the order of their times, up to `until_ms`.

    Events in the middle of a transition are heeded by transitions from the state that it leads to, if those need no
    hold. Raises RunFault for states that follow each other endlessly in no time.
    """
    cast = Cast(piece)
    for event in sorted(events, key=lambda event: event.t_ms):
        if event.t_ms > until_ms:
            break
        cast.play_until(event.t_ms)
        cast.hear(event)
    cast.play_until(until_ms)
    return _played(cast, until_ms)


def _played(cast: Cast, until_ms: float) -> Rehearsal:
    stage = cast.stage
    return Rehearsal(
        stage.piece,
        stage.poses[stage.piece.start],
        tuple(stage.moves),
        tuple(stage.segments),
        tuple(stage.fades),
        stage.state,
        until_ms,
        tuple(cast.heard),
        stage.origin_ms,
        {str(voice.copy): _played(voice, until_ms) for voice in cast.voices},
        tuple(cast.scrolls),
    )
