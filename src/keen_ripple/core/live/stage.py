"""What is on stage, moment by moment: the state that is shown or aimed at, and the motions under way."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Container, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

import numpy as np

from keen_ripple.core.blends.coordinates import Coordinates, coordinates_of
from keen_ripple.core.curves import Easing
from keen_ripple.core.document import Piece, Transition, walk
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.errors import RunFault
from keen_ripple.core.flow.media import playing_on, rest_ms
from keen_ripple.core.flow.moves import Move, length_ms
from keen_ripple.core.flow.poses import Pose, poses_of
from keen_ripple.core.flow.run import Segment, leaves_first
from keen_ripple.core.live.hearing import Ears, Event, Heard
from keen_ripple.core.live.interrupt import Motion, held, sent, switched
from keen_ripple.core.properties import moving_of

# More transitions at one moment than this are taken for an endless loop.
MOST_AT_ONCE = 1000


@dataclass(frozen=True, eq=False)
class Fading:
    """A look that is left by a cross-fade: what takes its place is seen by the share that the easing says."""

    start_ms: float
    end_ms: float
    easing: Easing
    look: Pose

    def share(self, t_ms: float) -> float:
        """By how much what came after it is seen, 0–1."""
        u = (t_ms - self.start_ms) / (self.end_ms - self.start_ms)
        return min(max(float(self.easing(u)), 0.0), 1.0) if u < 1.0 else 1.0


@dataclass
class Stage:
    """Plays a piece from its start, which it shows at `origin_ms`. `plays` says how often each state is left by itself
    before the piece rests."""

    piece: Piece
    plays: Mapping[str, int] | None = None
    origin_ms: float = 0.0
    state: str = ""
    began_ms: float = 0.0
    reached_ms: float = 0.0
    first: bool = True
    poses: dict[str, Pose] = field(default_factory=dict)
    motions: dict[tuple[str, str], Motion] = field(default_factory=dict)
    moves: list[Move] = field(default_factory=list)
    segments: list[Segment] = field(default_factory=list)
    fades: list[Fading] = field(default_factory=list)
    heard: list[Heard] = field(default_factory=list)
    # A tap that may become half of a double tap.
    pending: Event | None = None
    left: Counter[str] = field(default_factory=Counter)
    # Where pieces live in each other, all of them have a say in what is seen: asked instead of `is_seen`.
    # When a free placement reached a state in which it stands now; None where it does not.
    stands: Callable[[str, str], float | None] | None = None
    sees: Callable[[str, float], bool] | None = None

    def __post_init__(self) -> None:
        self.state = self.piece.start
        self.began_ms = self.reached_ms = self.origin_ms
        self.poses = poses_of(self.piece)
        self._play_media()

    def is_seen(self, layer: str, now_ms: float) -> bool:
        """Whether nothing hides a layer: neither it nor what is around it."""
        around = self.ears.around.get(layer, ())
        return bool(around) and all(self.shows(each, now_ms) for each in around)

    def shows(self, layer: str, now_ms: float) -> bool:
        """Whether a layer by itself is there to be seen now, whatever is around it."""
        if layer not in self.poses[self.state]:
            return True
        return all(float(self.value_at(layer, name, now_ms)) > 0.0 for name in ("opacity", "visible"))

    @cached_property
    def ears(self) -> Ears:
        """Which transitions wait for what."""
        return Ears(self.piece)

    def hear(self, event: Event) -> None:
        """What somebody does now; everything up to that moment has been played."""
        now = event.t_ms
        pending = self.pending
        if event.cue != "tap":
            return self._heed(event, now)
        if pending is not None:
            self.pending = None
            if pending.layer == event.layer:
                return self._heed(replace(event, cue="double-tap"), now)
            self._heed(pending, now)
        if self.ears.waits_for_second_tap(event, self.state) and self._is_seen(event.layer, now):
            self.pending = event
            self.heard.append(Heard(event, now, self.state, None, "second-tap"))
        else:
            self._heed(event, now)

    @property
    def due_ms(self) -> float | None:
        """When a tap that may become half of a double tap is heard as a single one, if there is one."""
        return self.pending.t_ms + self.piece.double_tap_ms if self.pending is not None else None

    def play_until(self, t_ms: float) -> None:
        """Takes what starts by itself up to a moment, which belongs to it."""
        while self.pending is not None and (due := self.due_ms) is not None and due <= t_ms:
            pending = self.pending
            self._follow_until(due)
            self.pending = None
            self._heed(pending, due)
        self._follow_until(t_ms)

    def _follow_until(self, t_ms: float) -> None:
        at_once = 0
        while (transition := self.following()) is not None:
            departure = self.departure_ms(transition)
            if departure > t_ms:
                return
            at_once = at_once + 1 if departure == self.began_ms else 0
            if at_once > MOST_AT_ONCE:
                raise RunFault(
                    f"{self._chain()} follow each other in no time.",
                    place="/transitions",
                    value=self.state,
                    remedy="Give one of them a hold, or one of their transitions a duration.",
                )
            self.left[self.state] += 1
            self.take(transition, departure)

    def _chain(self) -> str:
        """The states that were met last, by name, up to where the first of them comes again."""
        names = {state.id: state.name for state in self.piece.states}
        met = [self.state]
        for segment in reversed(self.segments):
            met.append(segment.from_)
            if segment.from_ == self.state:
                break
        return " → ".join(names[state] for state in reversed(met))

    def following(self) -> Transition | None:
        """The transition that will start by itself."""
        if self.plays is not None and self.left[self.state] >= self.plays.get(self.state, self.piece.plays or 1):
            return None
        alone = leaves_first(self.piece, self.state, self.first)
        arrived = [
            own for own in self.piece.transitions if own.from_ == self.state and self._arrived_ms(own) is not None
        ]
        ready = [own for own in self.piece.transitions if own is alone or own in arrived] if arrived else [alone]
        return min(filter(None, ready), key=self.departure_ms, default=None)

    def _arrived_ms(self, transition: Transition) -> float | None:
        if transition.cue != "reaches" or self.stands is None:
            return None
        return self.stands(str(transition.cue_layer), str(transition.cue_state))

    def departure_ms(self, transition: Transition) -> float:
        """When it will: after its hold, or early, but not before the state is aimed at at all."""
        arrived = self._arrived_ms(transition)
        earliest = self.began_ms if arrived is None else max(self.began_ms, arrived)
        return max(self.reached_ms + rest_ms(self.piece, transition) - transition.early_ms, earliest)

    def _heed(self, event: Event, now_ms: float) -> None:
        state = self.state
        if not self._is_seen(event.layer, now_ms):
            is_there = event.layer in self.ears.around
            self.heard.append(Heard(event, now_ms, state, None, "unseen" if is_there else "gone"))
            return
        transition, reason, missing = self.ears.judged(event, state, now_ms - self.reached_ms)
        self.heard.append(Heard(event, now_ms, state, transition.id if transition else None, reason, missing))
        if transition is not None:
            self.left.clear()
            self.take(transition, now_ms, by_itself=False)

    def _is_seen(self, layer: str | None, now_ms: float) -> bool:
        return layer is None or (self.sees or self.is_seen)(layer, now_ms)

    def take(self, transition: Transition, now_ms: float, by_itself: bool = True) -> list[Move]:
        """Starts a transition, also in the middle of others. Gives the moves that are under way from now on."""
        spans, goal = Spans(transition), self.poses[transition.to]
        interrupted = any(motion.move.end_ms > now_ms for motion in self.motions.values())
        cancelled: list[Move] = []
        begun: list[Move] = []
        superseded: set[tuple[str, str]] = set()
        fades = transition.style == "cross-fade"
        if fades and transition.timing.length_ms():
            end = now_ms + transition.timing.length_ms()
            self.fades.append(Fading(now_ms, end, transition.timing.progress(), self.look_at(now_ms)))
        for (layer, name), lie in self._varying.items():
            running, to = self._running(layer, name, now_ms), goal[layer][name]
            shown = self.value_at(layer, name, now_ms)
            if fades:
                motion = switched(layer, name, now_ms, shown, to, lie)
            else:
                motion = sent(layer, name, now_ms, shown, to, spans.of(layer, name), running, lie)
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
            self.segments[-1] = replace(self.segments[-1], end_ms=now_ms)
        ends = [motion.move.end_ms for motion in self.motions.values()]
        self.moves = [*_still_to_come(self.moves, superseded, now_ms), *begun, *cancelled]
        longest = max([now_ms, *ends]) - now_ms
        if by_itself:
            # What nobody set off goes by whole ms, so that loops close.
            longest = math.ceil(longest - 1e-6)
        end = now_ms + (longest if interrupted else length_ms(transition))
        self._segment("travel", self.state, transition.to, now_ms, end, transition)
        self.state, self.began_ms, self.reached_ms, self.first = transition.to, now_ms, end, False
        self._play_media()
        under_way = [m.move for m in self.motions.values() if m.move.end_ms > now_ms or m.move.start_ms >= now_ms]
        return [*cancelled, *under_way]

    def look_at(self, now_ms: float) -> Pose:
        """The whole pose that is shown now."""
        look = {layer: dict(values) for layer, values in self.poses[self.state].items()}
        for (layer, name), motion in self.motions.items():
            if motion.move.end_ms > now_ms:
                look[layer][name] = motion.value(now_ms)
        return look

    def value_at(self, layer: str, name: str, now_ms: float) -> Any:
        """What is shown of one property now."""
        motion = self._running(layer, name, now_ms)
        return self.poses[self.state][layer][name] if motion is None else motion.value(now_ms)

    def _play_media(self) -> None:
        """Media whose end is waited for in the state play on from the moment that it is reached."""
        for transition in self.piece.transitions:
            if transition.from_ != self.state:
                continue
            move = playing_on(self.piece, transition, self.reached_ms)
            if move is not None:
                key = move.layer, move.property
                self.motions[key] = Motion(move, self._varying[key], np.array([move.start]))
                self.moves.append(move)

    @cached_property
    def _varying(self) -> dict[tuple[str, str], Coordinates]:
        """What can be in motion at all, and where its values lie."""
        return varying(self.piece, self.poses)

    def _running(self, layer: str, name: str, now_ms: float) -> Motion | None:
        motion = self.motions.get((layer, name))
        return motion if motion is not None and motion.move.end_ms > now_ms else None

    def _segment(self, kind: Any, from_: str, to: str, start: float, end: float, transition: Transition) -> None:
        self.segments.append(Segment(kind, from_, to, start, end, transition.id))


def varying(
    piece: Piece, poses: Mapping[str, Pose], also: Container[tuple[str, str]] = ()
) -> dict[tuple[str, str], Coordinates]:
    """By layer and property, in the order of painting: what the states differ in, the playheads of media that are
    waited for, and what is wanted `also`; with the coordinates in which the values of all states lie."""
    found = {}
    playing = {t.cue_layer for t in piece.transitions if t.cue == "media-end"}
    for layer, _ in walk(piece.layers):
        for row in moving_of(layer.kind):
            values = tuple(dict.fromkeys(pose[layer.id][row.name] for pose in poses.values()))
            awaited = row.name == "playhead" and layer.id in playing
            if len(values) > 1 or awaited or (layer.id, row.name) in also:
                found[layer.id, row.name] = coordinates_of(row.blend, piece.blend, values)
    return found


def _still_to_come(moves: Sequence[Move], superseded: Container[tuple[str, str]], now_ms: float) -> Iterator[Move]:
    """Without what waits for its delay and will never begin."""
    for move in moves:
        if move.start_ms < now_ms or (move.layer, move.property) not in superseded:
            yield move
