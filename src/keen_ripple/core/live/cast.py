"""A cast: a piece on its stage, and its free placements, each on a stage of its own from when it is first seen."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from keen_ripple.core.document import Piece
from keen_ripple.core.flow.finer import finer_of, reaches_of
from keen_ripple.core.flow.free import FreeCopy, begins_in, free_copies
from keen_ripple.core.flow.poses import poses_of
from keen_ripple.core.flow.run import Run, run_of
from keen_ripple.core.flow.scrolling import farthest
from keen_ripple.core.live.hearing import Event, Heard
from keen_ripple.core.live.overlap import carried_run, leaves_early
from keen_ripple.core.live.stage import Stage

# What became of an event that several pieces heard, and none heeded: the first of these that one of them says.
MOST_TELLING = ("resting", "other-key", "elsewhere", "unseen", "gone", "not-awaited")


class Cast:
    """Plays a piece with all that lives in it, on one axis of time; `copy` is the placement in which it stands."""

    def __init__(self, piece: Piece, origin_ms: float = 0.0, copy: str | None = None) -> None:
        self.stage = Stage(piece, leavings(piece), origin_ms)
        self.stage.sees = self.is_seen
        self.stage.stands = self._stands if any(t.cue == "reaches" for t in piece.transitions) else None
        self.now_ms = origin_ms
        self.copy = copy
        self.voices: list[Cast] = []
        self.heard: list[Heard] = []
        self.scrolls: list[tuple[float, float]] = []
        self._waiting = free_copies(piece, self.stage.poses)
        self._said = 0
        self._begin()

    @property
    def all(self) -> Iterator[Cast]:
        """It, and those in it, from the outside in."""
        yield self
        for voice in self.voices:
            yield from voice.all

    def play_until(self, t_ms: float) -> None:
        """Takes what starts by itself up to a moment, which belongs to it."""
        # Whether a tap that turns out to be a single one is heeded depends on what all the others show then.
        for due in sorted(due for each in self.all if (due := each.stage.due_ms) is not None and due <= t_ms):
            self._play(due)
        self._play(t_ms)
        self._gather()

    def hear(self, event: Event) -> None:
        """What somebody does now: heard by each piece around the layer, from the outside in, whoever heeds it.

        What is done on no layer is heard by the outermost piece; a key by all of them.
        """
        if event.cue == "scroll":
            self.scrolls.append((event.t_ms, min(max(event.y or 0.0, 0.0), farthest(self.stage.piece))))
            return
        self._hear(event)
        self._begin()
        self._gather()

    def is_seen(self, layer: str, t_ms: float) -> bool:
        """Whether nothing hides a layer: neither it nor what is around it, wherever each of them lives."""
        around = self.stage.ears.around.get(layer, ())
        return bool(around) and all(self._is_shown(each, t_ms) for each in around)

    def _is_shown(self, layer: str, t_ms: float) -> bool:
        owner = self._of(layer)
        if owner is not None:
            return owner._is_shown(layer, t_ms)
        return self.stage.shows(layer, t_ms)

    def _of(self, layer: str) -> Cast | None:
        return next((voice for voice in self.voices if layer.startswith(f"{voice.copy}/")), None)

    def next_ms(self) -> float | None:
        """When something happens by itself after now; None if nothing ever does."""
        stage = self.stage
        alone = stage.following()
        moments = [stage.due_ms, stage.reached_ms, stage.departure_ms(alone) if alone is not None else None]
        moments += [voice.next_ms() for voice in self.voices]
        return min((m for m in moments if m is not None and m > self.now_ms), default=None)

    def _play(self, t_ms: float) -> None:
        # Whoever waits for arrivals is there when they happen, and when something leaves at once what it has reached.
        if self.stage.stands is not None:
            self._step(self.now_ms)
        while self.stage.stands is not None and (following := self.next_ms()) is not None and following <= t_ms:
            self._step(following)
        self._step(t_ms)

    def _step(self, t_ms: float) -> None:
        self.stage.play_until(t_ms)
        self._begin()
        for voice in self.voices:
            voice._play(t_ms)
        if self.stage.stands is not None:
            self.stage.play_until(t_ms)
            self._begin()
            for voice in self.voices:
                voice._play(t_ms)
        self.now_ms = max(self.now_ms, t_ms)

    def _stands(self, copy: str, state: str) -> float | None:
        voice = next((voice for voice in self.voices if voice.copy == copy), None)
        if voice is None or voice.stage.state != state or voice.stage.reached_ms > voice.now_ms:
            return None
        return voice.stage.reached_ms

    def _hear(self, event: Event) -> None:
        self.stage.hear(event)
        for voice in self.voices:
            if event.cue == "key" or (event.layer is not None and voice.holds(event.layer)):
                voice._hear(event)

    def holds(self, layer: str) -> bool:
        """Whether the layer is the placement, or lies in it."""
        return layer == self.copy or layer.startswith(f"{self.copy}/")

    def _begin(self) -> None:
        """Those that are seen by now, and were not before, begin to live."""
        if not self._waiting:
            return
        stage = self.stage
        ways = [(stage.origin_ms, stage.piece.start, stage.piece.start)]
        ways += [(segment.start_ms, segment.from_, segment.to) for segment in stage.segments]
        still: list[FreeCopy] = []
        for copy in self._waiting:
            begins = begins_in(copy, ways, stage.state)
            if begins is None:
                still.append(copy)
            else:
                voice = Cast(copy.piece, begins, copy.layer)
                for each in voice.all:
                    each.stage.sees = self.stage.sees
                self.voices.append(voice)
        self._waiting = still

    def _gather(self) -> None:
        """What all have heard since it was last said, once for each event."""
        found: dict[tuple[Any, ...], list[Heard]] = {}
        for cast in self.all:
            for heard in cast.stage.heard[cast._said :]:
                event = heard.event
                # What is half of a double tap to one is a tap to another.
                cue = "tap" if event.cue == "double-tap" else event.cue
                told = replace(heard, copy=cast.copy)
                found.setdefault((event.t_ms, cue, event.layer, event.key), []).append(told)
            cast._said = len(cast.stage.heard)
        for each in found.values():
            heeded = [heard for heard in each if heard.transition or heard.reason == "second-tap"]
            self.heard += heeded or [min(each, key=lambda heard: MOST_TELLING.index(heard.reason))]


def leavings(piece: Piece) -> dict[str, int] | None:
    """How often each state is left by itself before the piece rests, as often as in its run; None for ever.

    Whoever acts begins the count anew.
    """
    if piece.plays is None:
        return None
    run = _run_of(piece)
    counts: Counter[str] = Counter()
    for segment in run.segments:
        if segment.kind == "travel":
            counts[segment.from_] += piece.plays if segment.start_ms >= run.lead_in_ms else 1
    return dict(counts)


def _run_of(piece: Piece) -> Run:
    if not leaves_early(piece):
        return run_of(piece)
    poses = poses_of(piece)
    return carried_run(piece, poses, finer_of(piece, reaches_of(piece, poses, {})))[0]
