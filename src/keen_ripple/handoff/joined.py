"""What several motions do with one CSS property, joined into one animation: a browser would show only one of them.

States move a property while undercurrents go round, some of these in some states only: from where they all go round
together, their common loop is written knot by knot, and what comes before it once.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.flow.track import Progress, Track, looks_at
from keen_ripple.core.flow.undercurrents import course_tape
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.animation import ASIDE_MS, INSTANT, Animation, Keyframe
from keen_ripple.handoff.declaration import Declaration
from keen_ripple.handoff.parts import Part, marks
from keen_ripple.handoff.rounds import Presence, presence

# Longer loops, or more knots, are not written into a stylesheet.
LONGEST_MS, MOST_KEYFRAMES = 120_000, 2000


def to_join(timeline: Timeline, part: Part) -> list[Declaration]:
    """The declarations of an element that are joined: all that have to be, unless that is too much."""
    found = moved_together(timeline, part)
    return [] if not found or is_too_much(timeline, part.layer.id) else found


def moved_together(timeline: Timeline, part: Part) -> list[Declaration]:
    """Those of an element that more than one motion moves, or one that is there at times only."""
    courses = timeline.courses_of(part.layer.id)
    if not courses:
        return []
    motions = {track.property.name: [("", Presence.ALWAYS)] for track in timeline.tracks_of(part.layer.id)}
    for undercurrent, course, _ in courses:
        when = presence(timeline.run, undercurrent)
        if when == Presence.ALWAYS:
            # What moved it before is never seen.
            motions[course.property] = []
        if when != Presence.NEVER:
            motions.setdefault(course.property, []).append((undercurrent.id, when))
    found = []
    for declaration in part.declarations:
        own = {motion for name in declaration.shows for motion in motions.get(name, ())}
        if len(own) > 1 or any(when == Presence.AT_TIMES for _, when in own):
            found.append(declaration)
    return found


def is_too_much(timeline: Timeline, layer: str) -> bool:
    """Whether what moves a layer goes round together too seldom to be written down, or follows more than time."""
    run, rounds = timeline.run, [undercurrent for undercurrent, _, _ in timeline.courses_of(layer)]
    if timeline.rehearsal is not None or any(own.section is not None for own in rounds):
        return True
    goes_on = any(own.runs(run.final_state, run.final_state) for own in rounds)
    if run.common_loop_ms is None and ((run.loop_ms and run.plays is None) or goes_on):
        return True
    return _end_ms(timeline) > LONGEST_MS or len(_knots(timeline, layer)[0]) > MOST_KEYFRAMES


def joined_of(timeline: Timeline, part: Part, joined: Iterable[Declaration]) -> Iterator[Animation]:
    """The animations of what is joined of an element: of each CSS property the lead-in, and the common loop."""
    begins, loop = timeline.run.common_from_ms, timeline.run.common_loop_ms
    for declaration in joined:
        name = f"{part.css_name(timeline)}_{declaration.css.strip('-')}"
        joint = _Joint(timeline, part, declaration)
        if begins:
            frames = tuple(joint.frames(0, begins, goes_on=loop is not None))
            yield Animation(f"{name}_lead-in" if loop else name, 0, begins, 1, frames)
        if loop:
            yield Animation(name, begins, loop, None, tuple(joint.frames(begins, begins + loop, goes_on=True)))


@dataclass(frozen=True)
class _Joint:
    """One CSS property of an element, with all that moves it."""

    timeline: Timeline
    part: Part
    declaration: Declaration

    def frames(self, from_ms: int, to_ms: int, goes_on: bool) -> Iterator[Keyframe]:
        """Straight lines between knots; where it jumps, the look just before too. What `goes_on` does not come to what
        is seen at its end."""
        knots, jumps = _knots(self.timeline, self.part.layer.id, self.declaration.shows)
        moments = [float(from_ms), *knots[(knots > from_ms) & (knots < to_ms)].tolist(), float(to_ms)]
        instant = (to_ms - from_ms) * INSTANT
        plan: list[tuple[float, float, str | None]] = []
        for t in moments:
            if t == to_ms and goes_on:
                plan.append((t, t - ASIDE_MS, None))
                continue
            if t in jumps and t > from_ms:
                plan.append((t - instant, t - ASIDE_MS, "step-end"))
            plan.append((t, t + ASIDE_MS if t in jumps else t, None))
        texts = self._texts([seen for _, seen, _ in plan])
        for (t, _, easing), text, following in zip(plan, texts, [*texts[1:], ""], strict=True):
            # What would jump to where it is does not.
            if easing is None or text != following:
                yield Keyframe(t - from_ms, {self.declaration.css: text}, easing)

    def _texts(self, times_ms: Sequence[float]) -> list[str]:
        timeline, layer, times = self.timeline, self.part.layer.id, np.array(times_ms)
        looks = [{**timeline.rest[layer], **marks(timeline, layer)} for _ in times_ms]
        moments = np.array([timeline.run.within(t) for t in times_ms])
        for track in timeline.tracks_of(layer):
            _write(looks, track, moments)
        for undercurrent, course, track in timeline.courses_of(layer):
            runs = [undercurrent.runs(*timeline.run.states_at(t)) for t in moments.tolist()]
            shown = [look if is_there else {} for look, is_there in zip(looks, runs, strict=True)]
            _write(shown, track, (times + undercurrent.ahead_ms(course)) % undercurrent.period_ms)
        return [self.declaration.text(look, timeline.piece.blend) for look in looks]


def _write(looks: Sequence[dict[str, Any]], track: Track, moments: Floats) -> None:
    order = np.argsort(moments, kind="stable")
    for index, value in zip(order.tolist(), looks_at(track, Progress(moments[order])), strict=True):
        looks[index][track.property.name] = value


def _end_ms(timeline: Timeline) -> int:
    return timeline.run.common_from_ms + (timeline.run.common_loop_ms or 0)


def _knots(timeline: Timeline, layer: str, names: Collection[str] | None = None) -> tuple[Floats, set[float]]:
    """Where a layer, or some properties of it, begin to go otherwise until all has gone round once, ms, and which of
    these may be jumps."""
    run, end = timeline.run, _end_ms(timeline)
    own: list[tuple[Floats, int, int | None]] = []
    for segment in run.segments:
        for track in timeline.legs[segment.leg].tape if segment.leg in timeline.legs else ():
            if track.layer == layer and (names is None or track.property in names):
                own.append((segment.start_ms + track.times_ms, run.lead_in_ms, run.loop_ms))
    for undercurrent in {each.id: each for each, _, _ in timeline.courses_of(layer)}.values():
        for course in course_tape(undercurrent, timeline.piece.blend, timeline.finer):
            if course.layer == layer and (names is None or course.property in names):
                # At the end of a round it may begin again from elsewhere.
                times = np.append(course.times_ms, course.times_ms[-1])
                own.append((times, 0, undercurrent.period_ms))
                if undercurrent.states is not None:
                    edges = np.repeat([edge for s in run.segments for edge in (s.start_ms, s.end_ms)], 2)
                    own.append((edges, run.lead_in_ms, run.loop_ms))
    every = [np.round(_repeated(*each, end), 3) for each in own]
    jumps = {t for times in every for t in np.unique(times[1:][np.diff(times) == 0.0]).tolist()}
    return np.unique(np.concatenate([*every, np.zeros(1)])), jumps


def _repeated(times_ms: Floats, from_ms: int, loop_ms: int | None, end_ms: int) -> Floats:
    """Those times that go round, again and again until an end."""
    if not loop_ms:
        return times_ms
    again, rounds = times_ms[times_ms >= from_ms], -(-(end_ms - from_ms) // loop_ms)
    return np.concatenate([times_ms[times_ms < from_ms], *(again + n * loop_ms for n in range(rounds))])
