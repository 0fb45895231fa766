"""Rehearsal: a piece and a list of timed events give what is seen, the same every time."""

from __future__ import annotations

import math
from collections.abc import Container, Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from keen_ripple.core.document import Piece, Transition, walk
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.errors import RunFault
from keen_ripple.core.flow.finer import finer_of, reaches_of
from keen_ripple.core.flow.media import playing_on, rest_ms
from keen_ripple.core.flow.moves import Move, length_ms
from keen_ripple.core.flow.poses import Pose, poses_of
from keen_ripple.core.flow.run import Segment, leaves_first
from keen_ripple.core.flow.sampling import poses_at
from keen_ripple.core.flow.tape import TapeTrack, tape_of
from keen_ripple.core.flow.track import Track, tracks_of
from keen_ripple.core.live.interrupt import Motion, held, sent
from keen_ripple.core.properties import moving_of


@dataclass(frozen=True)
class Event:
    """What somebody does: a cue at a moment, on a layer or on the whole piece."""

    t_ms: float
    cue: str
    layer: str | None = None


@dataclass(frozen=True)
class Rehearsal:
    """What was played until `end_ms`, when `state` was on stage; `unheeded` are events that nothing waited for."""

    piece: Piece
    rest: Pose
    moves: tuple[Move, ...]
    segments: tuple[Segment, ...]
    state: str
    end_ms: float
    unheeded: tuple[Event, ...]

    def tracks(self) -> tuple[Track, ...]:
        """The properties that changed, over the whole of what was played."""
        return tracks_of(self.moves, self.rest, self.piece.blend)

    def tape(self) -> tuple[TapeTrack, ...]:
        """A track for each move; of several tracks of one property, the one that began last is seen."""
        poses = poses_of(self.piece)
        return tape_of(self.moves, self.piece.blend, finer=finer_of(self.piece, reaches_of(self.piece, poses, {})))

    def sample(self, times_ms: Iterable[float]) -> list[dict[str, dict[str, Any]]]:
        """The pose at each moment, in the order asked."""
        moments = np.array(list(times_ms), dtype=np.float64)
        order = np.argsort(moments, kind="stable")
        poses = poses_at(self.rest, self.tracks(), moments[order])
        return [poses[place] for place in np.argsort(order, kind="stable")]


def rehearse(piece: Piece, events: Sequence[Event], until_ms: float) -> Rehearsal:
    """Plays a piece from its start: its own cues, and the events, in the order of their times, up to `until_ms`.

    Events in the middle of a transition are heeded by transitions from the state that it leads to, if those need no
    hold. Raises RunFault for states that follow each other endlessly in no time.
    """
    stage = Stage(piece)
    unheeded = []
    for event in sorted(events, key=lambda event: event.t_ms):
        if event.t_ms > until_ms:
            break
        stage.play_until(event.t_ms)
        transition = stage.heeding(event)
        if transition is None:
            unheeded.append(event)
        else:
            stage.take(transition, event.t_ms)
    stage.play_until(until_ms)
    return stage.rehearsal(until_ms, tuple(unheeded))


# More transitions at one moment than this are taken for an endless loop.
MOST_AT_ONCE = 1000


@dataclass
class Stage:
    """What is on stage, moment by moment: the state that is shown or aimed at, and the motions under way."""

    piece: Piece
    state: str = ""
    began_ms: float = 0.0
    reached_ms: float = 0.0
    first: bool = True
    poses: dict[str, Pose] = field(default_factory=dict)
    motions: dict[tuple[str, str], Motion] = field(default_factory=dict)
    moves: list[Move] = field(default_factory=list)
    segments: list[Segment] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.state = self.piece.start
        self.poses = poses_of(self.piece)
        self._play_media()

    def play_until(self, t_ms: float) -> None:
        """Takes the transitions that start by themselves up to a moment, which belongs to them."""
        at_once = 0
        while (transition := self.following()) is not None:
            departure = self.departure_ms(transition)
            if departure > t_ms:
                return
            at_once = at_once + 1 if departure == self.began_ms else 0
            if at_once > MOST_AT_ONCE:
                raise RunFault(
                    f"From {self.state!r} on states follow each other in no time.",
                    place="/transitions",
                    value=self.state,
                    remedy="Give one of them a hold, or one of their transitions a duration.",
                )
            self.take(transition, departure)

    def following(self) -> Transition | None:
        """The transition that will start by itself."""
        return leaves_first(self.piece, self.state, self.first)

    def departure_ms(self, transition: Transition) -> float:
        """When it will: after its hold, or early, but not before the state is aimed at at all."""
        return max(self.reached_ms + rest_ms(self.piece, transition) - transition.early_ms, self.began_ms)

    def heeding(self, event: Event) -> Transition | None:
        """The transition that an event sets off: the first written that waits for it."""
        for transition in self.piece.transitions:
            waits = transition.from_ == self.state and transition.cue == event.cue
            aimed = transition.cue_layer is None or transition.cue_layer == event.layer
            rested = transition.hold_ms == 0 or event.t_ms >= self.reached_ms + transition.hold_ms
            if waits and aimed and rested:
                return transition
        return None

    def take(self, transition: Transition, now_ms: float) -> list[Move]:
        """Starts a transition, also in the middle of others. Gives the moves that are under way from now on."""
        spans, goal = Spans(transition), self.poses[transition.to]
        interrupted = any(motion.move.end_ms > now_ms for motion in self.motions.values())
        cancelled: list[Move] = []
        begun: list[Move] = []
        superseded: set[tuple[str, str]] = set()
        for layer, name, shown in list(self._shown(now_ms)):
            running = self._running(layer, name, now_ms)
            span = spans.of(layer, name)
            if transition.style == "cross-fade":
                span = span._replace(start_ms=0, end_ms=0, easing=None)
            motion = sent(layer, name, now_ms, shown, goal[layer][name], span, running, self.piece.blend)
            if motion is running and motion is not None:
                continue
            self.motions.pop((layer, name), None)
            if running is not None:
                superseded.add((layer, name))
            if motion is not None:
                self.motions[layer, name] = motion
                begun += held(motion, now_ms, shown)
            elif running is not None:
                cancelled.append(Move(layer, name, now_ms, now_ms, None, shown, shown))
        if self.reached_ms < now_ms:
            self._segment("hold", self.state, self.state, self.reached_ms, now_ms, transition)
        elif self.segments and self.segments[-1].end_ms > now_ms:
            self.segments[-1] = _cut_short(self.segments[-1], now_ms)
        ends = [motion.move.end_ms for motion in self.motions.values()]
        self.moves = [*_still_to_come(self.moves, superseded, now_ms), *begun, *cancelled]
        # States are reached in whole ms.
        end = math.ceil(max([now_ms, *ends]) - 1e-9) if interrupted else now_ms + length_ms(transition)
        self._segment("travel", self.state, transition.to, now_ms, end, transition)
        self.state, self.began_ms, self.reached_ms, self.first = transition.to, now_ms, end, False
        self._play_media()
        under_way = [m.move for m in self.motions.values() if m.move.end_ms > now_ms or m.move.start_ms >= now_ms]
        return [*cancelled, *under_way]

    def _play_media(self) -> None:
        """Media whose end is waited for in the state play on from the moment that it is reached."""
        for transition in self.piece.transitions:
            if transition.from_ != self.state:
                continue
            move = playing_on(self.piece, transition, self.reached_ms)
            if move is not None:
                self.motions[move.layer, move.property] = Motion(move, move.start)
                self.moves.append(move)

    def rehearsal(self, end_ms: float, unheeded: tuple[Event, ...]) -> Rehearsal:
        """What was played until `end_ms`, with the events that nothing waited for."""
        rest = self.poses[self.piece.start]
        return Rehearsal(self.piece, rest, tuple(self.moves), tuple(self.segments), self.state, end_ms, unheeded)

    def _shown(self, now_ms: float) -> Iterator[tuple[str, str, Any]]:
        """Every property that can move, with its value now."""
        pose = self.poses[self.state]
        for layer, _ in walk(self.piece.layers):
            for row in moving_of(layer.kind):
                motion = self.motions.get((layer.id, row.name))
                still = motion is None or motion.move.end_ms <= now_ms
                value = pose[layer.id][row.name] if motion is None or still else motion.value(now_ms, self.piece.blend)
                yield layer.id, row.name, value

    def _running(self, layer: str, name: str, now_ms: float) -> Motion | None:
        motion = self.motions.get((layer, name))
        return motion if motion is not None and motion.move.end_ms > now_ms else None

    def _segment(self, kind: Any, from_: str, to: str, start: float, end: float, transition: Transition) -> None:
        self.segments.append(Segment(kind, from_, to, start, end, transition.id))


def _still_to_come(moves: Sequence[Move], superseded: Container[tuple[str, str]], now_ms: float) -> Iterator[Move]:
    """Without what waits for its delay and will never begin."""
    for move in moves:
        if move.start_ms < now_ms or (move.layer, move.property) not in superseded:
            yield move


def _cut_short(segment: Segment, now_ms: float) -> Segment:
    return replace(segment, end_ms=now_ms)
