"""Motion as CSS animations: one @keyframes per layer where its lanes allow it.

What CSS can say exactly (a move along one curve) is said so, curve and all. Where the parts of one CSS value move along
different curves at once, as x and y of `translate` may, its keyframes are the knots of the tape.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from itertools import pairwise
from typing import Any

import numpy as np

from keen_ripple.core.curves import Easing
from keen_ripple.core.flow.track import Progress, Track, looks_at
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.animation import ASIDE_MS, INSTANT, Animation, Keyframe
from keen_ripple.handoff.curves import blends_apart, css_of, nearness
from keen_ripple.handoff.declaration import Declaration, Look
from keen_ripple.handoff.forms import changes_form, frames_of_forms
from keen_ripple.handoff.joined import joined_of, to_join
from keen_ripple.handoff.names import css_name
from keen_ripple.handoff.parts import Part, marks
from keen_ripple.handoff.rounds import rounds_of

Span = tuple[float, float, Easing | None]

# Two knots that are not so far apart are a jump.
SHORTEST_MS = 1.0


def animations_of(timeline: Timeline, part: Part, calm: bool = False) -> list[Animation]:
    """The animations that play an element of a layer; with `calm` only its opacity and colours.

    In a free placement those of its own run, from when that begins, and those of the piece around it.
    """
    voice = timeline.voice_of(part.layer.id)
    within = animations_of(voice.timeline, replace(part, pages=()), calm) if voice else []
    begins, free = (int(voice.begins_ms) if voice else 0), f"{timeline.piece.id}_free"
    later = [replace(own, name=css_name(free, own.name), delay_ms=own.delay_ms + begins) for own in within]
    return [*_own(timeline, part, calm), *later, *(() if calm else part.pages)]


def _own(timeline: Timeline, part: Part, calm: bool) -> list[Animation]:
    tracks = {track.property.name: track for track in timeline.tracks_of(part.layer.id)}
    joined = [] if calm else to_join(timeline, part)
    if joined:
        part = replace(part, declarations=tuple(d for d in part.declarations if d not in joined))
    moving = [d for d in part.declarations if (d.calm or not calm) and tracks.keys() & set(d.shows)]
    rest = {**timeline.rest[part.layer.id], **marks(timeline, part.layer.id)}
    rounds = [] if calm else list(rounds_of(timeline, part))
    return [
        *animations_along(timeline, part.css_name(timeline), tracks, moving, rest, "_calm" * calm),
        *rounds,
        *joined_of(timeline, part, joined),
    ]


def animations_along(
    timeline: Timeline,
    stem: str,
    tracks: Mapping[str, Track],
    moving: Sequence[Declaration],
    rest: Look,
    ending: str = "",
) -> list[Animation]:
    """What these tracks, by property, do with the declarations that show them; `rest` is the look without them."""
    run, found = timeline.run, list[Animation]()
    if run.total_ms == 0:
        return found
    stretches = [("", 0, run.total_ms)] if not run.lead_in_ms or run.loop_ms is None else []
    stretches = stretches or [("_lead-in", 0, run.lead_in_ms), ("", run.lead_in_ms, run.total_ms)]
    for suffix, from_ms, to_ms in stretches:
        endless = run.loop_ms is not None and run.plays != 1 and to_ms == run.total_ms
        plays = run.plays if endless else 1
        for group in _groups(moving, tracks, from_ms, to_ms):
            number = len([a for a in found if a.delay_ms == from_ms])
            name = f"{stem}{suffix}{f'_{number + 1}' if number else ''}{ending}"
            frames = tuple(_frames(timeline, rest, tracks, group, from_ms, to_ms, endless))
            found.append(Animation(name, int(from_ms), int(to_ms - from_ms), plays, frames))
    return found


@dataclass(frozen=True)
class _Group:
    """CSS properties that one @keyframes can carry; without `spans` their keyframes come from the tape. What changes
    its form stays `alone`."""

    declarations: list[Declaration]
    spans: set[Span] | None
    alone: bool = False


def _groups(moving: Sequence[Declaration], tracks: Mapping[str, Track], from_ms: int, to_ms: int) -> list[_Group]:
    groups: list[_Group] = []
    for declaration in moving:
        spans = {
            (move.start_ms, move.end_ms, move.easing)
            for name in declaration.shows
            if name in tracks
            for move in tracks[name].moves
            # A cut at the very end belongs to what comes after, unless nothing does.
            if from_ms <= move.start_ms and move.end_ms <= to_ms
        }
        if not spans:
            continue
        own = [tracks[name] for name in declaration.shows if name in tracks]
        if len(own) == 1 and changes_form(own[0]):
            groups.append(_Group([declaration], spans, alone=True))
            continue
        if not _one_at_a_time(spans) or any(map(blends_apart, own)) or _products(declaration, tracks):
            groups.append(_Group([declaration], None))
            continue
        open_ = (g for g in groups if g.spans is not None and not g.alone)
        home = next((g for g in open_ if g.spans is not None and _one_at_a_time(g.spans | spans)), None)
        if home and home.spans is not None:
            home.declarations.append(declaration)
            home.spans.update(spans)
        else:
            groups.append(_Group([declaration], spans))
    return groups


def _one_at_a_time(spans: Iterable[Span]) -> bool:
    ordered = sorted(spans, key=lambda span: span[:2])
    return all(a[1] <= b[0] for a, b in pairwise(ordered))


def _frames(
    timeline: Timeline,
    rest: Look,
    tracks: Mapping[str, Track],
    group: _Group,
    from_ms: int,
    to_ms: int,
    endless: bool,
) -> Iterator[Keyframe]:
    names = {name for declaration in group.declarations for name in declaration.shows}
    own = [track for name, track in tracks.items() if name in names]
    space, text = timeline.piece.blend, partial(css_of, near=nearness(timeline, own))
    if group.alone:
        [declaration], [track] = group.declarations, own
        stretch = (from_ms, to_ms)
        yield from frames_of_forms(track, declaration, rest, space, stretch, endless, text)
        return
    if group.spans is None:
        plan = _plan_of_tape(timeline, own, from_ms, to_ms)
        [declaration] = group.declarations
        plan = list(_between(plan, _products(declaration, tracks), declaration.near))
    else:
        plan = _plan_of_spans(group.spans, from_ms, to_ms, endless, text)
    # All at once where there are many.
    knots = Progress(np.array([at_ms for _, at_ms, _, _ in plan])) if group.spans is None else None
    values = {
        track.property.name: looks_at(track, knots)
        if knots
        else [_value(track, at, before) for _, at, before, _ in plan]
        for track in own
    }
    for index, (t_ms, _, _, easing) in enumerate(plan):
        look = {**rest, **{name: each[index] for name, each in values.items()}}
        yield Keyframe(t_ms - from_ms, {d.css: d.text(look, space) for d in group.declarations}, easing)


PlanStep = tuple[float, float, bool, str | None]
Plan = list[PlanStep]
"""(time of the keyframe, moment whose look it shows, whether just before it, curve until the next)."""


def _plan_of_spans(spans: set[Span], from_ms: int, to_ms: int, endless: bool, text: Callable[[Easing], str]) -> Plan:
    """Keyframes where moves start and end. A rest that ends in a cut steps at its end."""
    cuts = {start for start, end, _ in spans if start == end}
    easings = {start: easing for start, end, easing in spans if easing is not None}
    arrivals = {end for start, end, easing in spans if easing is not None}
    moments = sorted({from_ms, to_ms, *(t for start, end, _ in spans for t in (start, end))})
    instant = (to_ms - from_ms) * INSTANT
    plan: Plan = []
    for index, t in enumerate(moments):
        last = t == to_ms
        if t in cuts and (t in arrivals or (last and endless)):
            # The look just before the cut; at the end of a loop the next round shows the new one.
            plan.append((t if last and endless else t - instant, t, True, None if last and endless else "step-end"))
            if last and endless:
                continue
        easing = easings.get(t)
        following = moments[index + 1] if index + 1 < len(moments) else None
        curve = text(easing) if easing else ("step-end" if following in cuts else None)
        plan.append((t, t, False, None if last else curve))
    return plan


def _plan_of_tape(timeline: Timeline, tracks: Sequence[Track], from_ms: int, to_ms: int) -> Plan:
    """A keyframe at each knot of any of the tracks, straight lines between."""
    keys = {(track.layer, track.property.name) for track in tracks}
    knots = [
        segment.start_ms + track.times_ms
        for segment in timeline.run.segments
        if segment.kind == "travel"
        for track in timeline.legs[segment.leg].tape
        if (track.layer, track.property) in keys
    ]
    moments = np.unique(np.round(np.concatenate([*knots, [from_ms, to_ms]]), 3))
    plan: Plan = []
    # Two knots of a track at one time are a jump: its old value is shown until just before it.
    jumps = {float(t) for times in knots for t in np.round(times[1:][np.diff(times) == 0.0], 3)}
    for t in moments[(moments >= from_ms) & (moments <= to_ms)].tolist():
        jump = t in jumps
        if jump and t > from_ms:
            plan.append((t - (to_ms - from_ms) * INSTANT, t - ASIDE_MS, False, None))
        plan.append((t, t + ASIDE_MS if jump and t < to_ms else t, False, None))
    return plan


def _products(declaration: Declaration, tracks: Mapping[str, Track]) -> list[tuple[Track, Track]]:
    """What a CSS property multiplies while both of it move: it goes along the curve of neither."""
    pairs = [(tracks[a], tracks[b]) for a, b in declaration.products if a in tracks and b in tracks]
    return [pair for pair in pairs if _move_at_once(*pair)]


def _move_at_once(one: Track, other: Track) -> bool:
    return any(a.start_ms < b.end_ms and b.start_ms < a.end_ms for a in one.moves for b in other.moves)


def _between(plan: Plan, products: Sequence[tuple[Track, Track]], near: float) -> Iterator[PlanStep]:
    """With as many moments between two knots as keep lines near to the product of two lines, which is farthest from a
    line in the middle, by a quarter of both changes."""
    moments = Progress(np.array([at_ms for _, at_ms, _, _ in plan]))
    parts = np.ones(len(plan) - 1)
    for pair in products:
        changes = [np.diff(np.array(looks_at(track, moments), dtype=np.float64)) for track in pair]
        parts = np.maximum(parts, np.ceil(np.sqrt(np.abs(changes[0] * changes[1]) / (4.0 * near))))
    yield plan[0]
    for (before, after), count in zip(pairwise(plan), parts.astype(int).tolist(), strict=True):
        if after[0] - before[0] > SHORTEST_MS:
            steps = (before[0] + (after[0] - before[0]) * n / count for n in range(1, count))
            yield from ((t, t, False, None) for t in steps)
        yield after


def _value(track: Track, t: float, before: bool) -> Any:
    """The value at a moment, or just before the cuts of that moment; as authored where nothing moves."""
    value = track.first
    for move in track.moves:
        if move.start_ms < t < move.end_ms:
            return looks_at(track, Progress(np.array([t])))[0]
        if move.end_ms < t or (move.end_ms == t and not (before and move.easing is None)):
            value = move.end
    return value
