"""Undercurrents as CSS animations: what goes round on its own."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import Enum
from typing import Any

import numpy as np

from keen_ripple.core.curves import parse_easing
from keen_ripple.core.document.undercurrents import Course, Undercurrent, value_of
from keen_ripple.core.flow.run import Run
from keen_ripple.core.flow.track import Progress, Track, looks_at
from keen_ripple.core.flow.undercurrents import course_tape
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.animation import ASIDE_MS, INSTANT, Animation, Keyframe
from keen_ripple.handoff.curves import css_of, nearness
from keen_ripple.handoff.declaration import Declaration
from keen_ripple.handoff.names import css_name
from keen_ripple.handoff.parts import Part, marks


class Presence(Enum):
    """Whether an undercurrent runs while its piece does."""

    ALWAYS = "always"
    AT_TIMES = "at times"
    NEVER = "never"


def presence(run: Run, undercurrent: Undercurrent) -> Presence:
    """Told by the states that a run goes through, and the one that it comes to rest in."""
    ends = [(segment.from_, segment.to) for segment in run.segments]
    if run.loop_ms is None or run.plays is not None:
        ends.append((run.final_state, run.final_state))
    found = {undercurrent.runs(*each) for each in ends}
    return Presence.AT_TIMES if len(found) > 1 else Presence.ALWAYS if True in found else Presence.NEVER


def rounds_of(timeline: Timeline, part: Part) -> Iterator[Animation]:
    """What the undercurrents of a piece that always run do with an element of a layer; each goes round on its own."""
    found: dict[str, tuple[Undercurrent, list[Course]]] = {}
    for undercurrent, course, _ in timeline.courses_of(part.layer.id):
        if presence(timeline.run, undercurrent) != Presence.ALWAYS:
            continue
        found.setdefault(undercurrent.id, (undercurrent, []))[1].append(course)
    for undercurrent, own in found.values():
        for number, (courses, declarations) in enumerate(_together(part, own)):
            suffix = f"_{number + 1}" if number else ""
            name = f"{css_name(part.css_name(timeline), undercurrent.id)}{suffix}"
            motion = _Round(timeline, part, undercurrent, courses, declarations)
            alike = _are_alike(courses)
            frames = tuple(motion.key_by_key() if alike else motion.knot_by_knot())
            ahead = undercurrent.ahead_ms(courses[0]) if alike else 0
            yield Animation(name, -ahead, undercurrent.period_ms, None, frames, undercurrent.section)


def _together(part: Part, courses: Sequence[Course]) -> list[tuple[list[Course], list[Declaration]]]:
    """Courses that move the same CSS properties, with these."""
    found: dict[tuple[int, ...], list[Declaration]] = {}
    for declaration in part.declarations:
        moving = tuple(n for n, course in enumerate(courses) if course.property in declaration.shows)
        if moving:
            found.setdefault(moving, []).append(declaration)
    return [([courses[n] for n in moving], declarations) for moving, declarations in found.items()]


def _are_alike(courses: Sequence[Course]) -> bool:
    """Whether all have their keys at the same times, with the same curves."""
    return len({(course.offset_ms, tuple((key.at_ms, key.easing) for key in course.keys)) for course in courses}) == 1


@dataclass(frozen=True)
class _Round:
    """What courses of one undercurrent do with CSS properties of an element."""

    timeline: Timeline
    part: Part
    undercurrent: Undercurrent
    courses: Sequence[Course]
    declarations: Sequence[Declaration]

    def key_by_key(self) -> Iterator[Keyframe]:
        """Courses with the same times and curves; from the beginning of the period."""
        period, keys = self.undercurrent.period_ms, self.courses[0].keys
        near = nearness(self.timeline, [track for _, track in self._tracks()])
        for index, key in enumerate(keys):
            easing = css_of(parse_easing(key.easing), near) if key.at_ms < period else None
            yield Keyframe(key.at_ms, self._key(index), easing)
        if keys[-1].at_ms < period:
            yield Keyframe(period, self._key(0))

    def knot_by_knot(self) -> Iterator[Keyframe]:
        """What goes its own way in each: straight lines between the knots of all of them, as the piece starts."""
        timeline, period = self.timeline, float(self.undercurrent.period_ms)
        names = {course.property for course in self.courses}
        tape = course_tape(self.undercurrent, timeline.piece.blend, timeline.finer)
        knots = [track.times_ms for track in tape if track.layer == self.part.layer.id and track.property in names]
        jumps = {float(t) for times in knots for t in np.round(times[1:][np.diff(times) == 0.0], 3)}
        for t in np.unique(np.round(np.concatenate([*knots, [0.0, period]]), 3)).tolist():
            if t in jumps and 0.0 < t < period:
                yield Keyframe(t - period * INSTANT, self._at(t - ASIDE_MS), "step-end")
            aside = -ASIDE_MS if t == period else ASIDE_MS if t in jumps or not t else 0.0
            yield Keyframe(t, self._at(t + aside))

    def _tracks(self) -> list[tuple[Course, Track]]:
        courses = self.timeline.courses_of(self.part.layer.id)
        return [(course, track) for _, course, track in courses if course in self.courses]

    def _key(self, index: int) -> dict[str, str]:
        return self._written({own.property: value_of(own.property, own.keys[index].value) for own in self.courses})

    def _at(self, t_ms: float) -> dict[str, str]:
        """So many ms after the start."""
        look = {}
        for course, track in self._tracks():
            within = (t_ms + self.undercurrent.ahead_ms(course)) % self.undercurrent.period_ms
            [look[course.property]] = looks_at(track, Progress(np.array([within])))
        return self._written(look)

    def _written(self, look: Mapping[str, Any]) -> dict[str, str]:
        layer = self.part.layer.id
        shown = {**self.timeline.rest[layer], **marks(self.timeline, layer), **look}
        return {d.css: d.text(shown, self.timeline.piece.blend) for d in self.declarations}
