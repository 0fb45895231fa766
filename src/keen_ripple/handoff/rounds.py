"""Undercurrents as CSS animations: what goes round on its own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from keen_ripple.core.curves import parse_easing
from keen_ripple.core.document.undercurrents import Course, Undercurrent, value_of
from keen_ripple.core.flow.track import Progress, Track, looks_at
from keen_ripple.core.flow.undercurrents import course_tape
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.animation import Animation, Keyframe
from keen_ripple.handoff.curves import css_of, nearness
from keen_ripple.handoff.declaration import Declaration
from keen_ripple.handoff.parts import Part, marks

# Knots are rounded to a thousandth of a ms: so far from one, it is certain which side of its jump is seen.
ASIDE_MS = 0.001


def rounds_of(timeline: Timeline, part: Part) -> Iterator[Animation]:
    """What the undercurrents of a piece do with an element of a layer; each goes round on its own."""
    found: dict[str, tuple[Undercurrent, list[Course]]] = {}
    for undercurrent, course, _ in timeline.courses_of(part.layer.id):
        found.setdefault(undercurrent.id, (undercurrent, []))[1].append(course)
    for undercurrent, own in found.values():
        for number, (courses, declarations) in enumerate(_together(part, own)):
            suffix = f"--{number + 1}" if number else ""
            name = f"{part.css_name(timeline)}--{undercurrent.id.replace('/', '__')}{suffix}"
            rows = _key_by_key if _are_alike(courses) else _knot_by_knot
            frames = tuple(rows(timeline, part, undercurrent, courses, declarations))
            ahead = undercurrent.ahead_ms(courses[0]) if rows is _key_by_key else 0
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


def _key_by_key(
    timeline: Timeline,
    part: Part,
    undercurrent: Undercurrent,
    courses: Sequence[Course],
    declarations: Sequence[Declaration],
) -> Iterator[Keyframe]:
    period, keys = undercurrent.period_ms, courses[0].keys
    near = nearness(timeline, [track for _, track in _tracks(timeline, part, courses)])
    for index, key in enumerate(keys):
        look = {course.property: value_of(course.property, course.keys[index].value) for course in courses}
        easing = css_of(parse_easing(key.easing), near) if key.at_ms < period else None
        yield Keyframe(key.at_ms, _written(timeline, part, look, declarations), easing)
    if keys[-1].at_ms < period:
        look = {course.property: value_of(course.property, course.keys[0].value) for course in courses}
        yield Keyframe(period, _written(timeline, part, look, declarations))


def _knot_by_knot(
    timeline: Timeline,
    part: Part,
    undercurrent: Undercurrent,
    courses: Sequence[Course],
    declarations: Sequence[Declaration],
) -> Iterator[Keyframe]:
    """What goes its own way in each: straight lines between the knots of all of them, as the piece starts."""
    period, names = float(undercurrent.period_ms), {course.property for course in courses}
    tape = course_tape(undercurrent, timeline.piece.blend, timeline.finer)
    knots = [track.times_ms for track in tape if track.layer == part.layer.id and track.property in names]
    jumps = {float(t) for times in knots for t in np.round(times[1:][np.diff(times) == 0.0], 3)}
    tracks = _tracks(timeline, part, courses)

    def look_at(t_ms: float) -> dict[str, str]:
        look = {
            course.property: _value(track, (t_ms + undercurrent.ahead_ms(course)) % period) for course, track in tracks
        }
        return _written(timeline, part, look, declarations)

    for t in np.unique(np.round(np.concatenate([*knots, [0.0, period]]), 3)).tolist():
        if t in jumps and 0.0 < t < period:
            yield Keyframe(t, look_at(t - ASIDE_MS), "step-end")
        yield Keyframe(t, look_at(t - ASIDE_MS if t == period else t + ASIDE_MS if t in jumps or not t else t))


def _tracks(timeline: Timeline, part: Part, courses: Sequence[Course]) -> list[tuple[Course, Track]]:
    return [(course, track) for _, course, track in timeline.courses_of(part.layer.id) if course in courses]


def _value(track: Track, t_ms: float) -> object:
    [value] = looks_at(track, Progress(np.array([t_ms])))
    return value


def _written(
    timeline: Timeline, part: Part, look: dict[str, object], declarations: Sequence[Declaration]
) -> dict[str, str]:
    layer = part.layer.id
    shown = {**timeline.rest[layer], **marks(timeline, layer), **look}
    return {d.css: d.text(shown, timeline.piece.blend) for d in declarations}
