"""A stylesheet and a fragment of markup for design systems: it plays by itself, or goes where an attribute says."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from html import escape

from keen_ripple.core.curves import Settle
from keen_ripple.core.document import Transition
from keen_ripple.core.flow.run import Run, Segment, with_common_loop
from keen_ripple.core.flow.track import Track
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.animation import Animation, keyframes_of
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css, outermost
from keen_ripple.handoff.carried import flipbooks_of
from keen_ripple.handoff.cross_fades import (
    PLAYING,
    cross_fades,
    left_by_state,
    left_in_run,
    look_animations,
    stands_in_the_way,
)
from keen_ripple.handoff.curves import css_of, nearness
from keen_ripple.handoff.format import Files, in_file
from keen_ripple.handoff.forms import changes_form
from keen_ripple.handoff.html import HTML
from keen_ripple.handoff.joined import to_join
from keen_ripple.handoff.keyframes import animations_of
from keen_ripple.handoff.markup import Drawn, elements_of, indented
from keen_ripple.handoff.names import class_names, css_name, in_comment
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.parts import Part, marks, parts_of
from keen_ripple.handoff.report import Report, held
from keen_ripple.handoff.stylesheet import Scope, played_by, said, style_of, written


@dataclass(frozen=True)
class Css:
    name: str = "css"
    endings: Mapping[str, str] = field(default_factory=lambda: {"css": "text/css", "markup.html": "text/html"})
    takes: Collection[str] = ()

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        drawn, by_itself = beyond_css(timeline), held(timeline)
        told = HTML.report(timeline, options)
        if not _is_driven(timeline, drawn):
            return replace(told, holds=by_itself)
        states = len(timeline.piece.states)
        by_state = f" With data-state it stands in one of {states} states, and goes from one to the other."
        # What waits for somebody is gone by the attribute.
        return Report(by_itself + by_state, HTML.notes(timeline), (), (*told.said, *_jumps(timeline, drawn)))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        drawn = flipbooks_of(timeline)
        left = _left(timeline, drawn)
        markup = in_file(_fragment(timeline, drawn, left))
        return {"css": in_file(_stylesheet(timeline, drawn, left)), "markup.html": markup}


CSS = Css()


def _left(timeline: Timeline, drawn: Collection[str]) -> Collection[str]:
    """The looks that cross-fades leave, as they play or as an attribute sets them off."""
    if drawn or not _is_driven(timeline, drawn) or stands_in_the_way(timeline):
        return left_in_run(timeline)
    return left_by_state(timeline)


def _is_driven(timeline: Timeline, drawn: Collection[str]) -> bool:
    return WHOLE not in drawn and timeline.rehearsal is None


def _stylesheet(timeline: Timeline, drawn: Drawn, left: Collection[str]) -> Iterator[str]:
    piece, driven = timeline.piece, _is_driven(timeline, drawn)
    yield "/*"
    yield f" * {in_comment(piece.name)}. Its markup is in {piece.id}.markup.html."
    yield f" * {held(timeline)}"
    if driven:
        states = [state.id for state in piece.states]
        yield " *"
        yield f" * States: {', '.join(states)}. Attributes say where it stands, and from where it came:"
        yield f" *   element.dataset.from = '{states[0]}';"
        yield f" *   element.dataset.state = '{states[-1]}';"
    yield " */"
    scope = Scope(f".{piece.id}")
    yield from style_of(timeline, drawn, scope, left)
    if driven:
        yield from _driven(timeline, drawn, left)


def _fragment(timeline: Timeline, drawn: Drawn, left: Collection[str]) -> Iterator[str]:
    piece = timeline.piece
    yield f'<div class="{piece.id}" role="img" aria-label="{escape(piece.name)}">'
    yield from indented(elements_of(timeline, drawn, left), 2)
    yield "</div>"


def way_alone(timeline: Timeline, way: Transition) -> Timeline:
    """One transition as a run of its own, from the state that it leaves."""
    leg = timeline.legs[way.id]
    segment = Segment("travel", way.from_, way.to, 0, leg.length_ms, transition=way.id, leg=way.id)
    piece = timeline.piece.model_copy(update={"start": way.from_, "id": css_name(f"{timeline.piece.id}_by", way.id)})
    run = with_common_loop(piece, Run(leg.length_ms, None, (segment,), way.to))
    return replace(timeline, piece=piece, run=run, voices=())


def _jumps(timeline: Timeline, drawn: Collection[str]) -> Iterator[str]:
    """What does not go smoothly from state to state."""
    names = {state.id: state.name for state in timeline.piece.states}
    layers = {layer.id: layer.name for layer in said(timeline.piece.layers, drawn)}
    for layer in outermost(timeline.piece.layers, drawn):
        yield f"{layer.name} follows no data-state: it is drawn into pictures."
    ways = [way_alone(timeline, way) for way in timeline.piece.transitions]
    anew = [part.layer.name for part in _parts(timeline, drawn) if any(to_join(alone, part) for alone in ways)]
    yield from (f"{name} begins its rounds anew as data-state changes." for name in dict.fromkeys(anew))
    for way, alone in zip(timeline.piece.transitions, ways, strict=True):
        where = f"from {names[way.from_]} to {names[way.to]}"
        for layer_id, what in beyond_css(alone).items():
            if layer_id == WHOLE:
                yield f"It jumps {where}: {what}."
            elif layer_id in layers:
                yield f"{layers[layer_id]} jumps {where}: {what}."


def _parts(timeline: Timeline, drawn: Collection[str]) -> list[Part]:
    """What CSS moves."""
    layers = said(timeline.piece.layers, drawn)
    return [part for layer in layers if timeline.voice_of(layer.id) is None for part in parts_of(timeline, layer)]


def _looks(timeline: Timeline, part: Part) -> dict[str, dict[str, str]]:
    """By state what differs between states."""
    mark, space = marks(timeline, part.layer.id), timeline.piece.blend
    poses = {state: {**pose[part.layer.id], **mark} for state, pose in timeline.poses.items()}
    texts = {d.css: [d.text(look, space) for look in poses.values()] for d in part.declarations}
    return {state: {css: each[n] for css, each in texts.items() if len(set(each)) > 1} for n, state in enumerate(poses)}


def _driven(timeline: Timeline, drawn: Drawn, left: Collection[str]) -> Iterator[str]:
    """The looks of all states, and the ways between them."""
    piece, root, names = timeline.piece, f".{timeline.piece.id}", class_names(timeline.piece.layers)
    # A look that is left follows no attribute.
    inside = f'[data-look="{PLAYING}"] ' if left else ""
    parts = _parts(timeline, drawn)
    standing = {state.id: _standing(timeline, state.id) for state in piece.states} if piece.undercurrents else {}
    for part in parts:
        for state, rounds in _rounds(timeline, part, standing).items():
            at = f'="{state}"' if state else ""
            playing = played_by(rounds) or {"animation": "none"}
            yield from written(f"{root}[data-state{at}] {inside}{part.selector(names)}", playing)
            yield from keyframes_of(rounds if state else ())
    for part in parts:
        for state, look in _looks(timeline, part).items():
            if look:
                yield from written(f'{root}[data-state="{state}"] {inside}{part.selector(names)}', look)
    if left:
        yield from written(f"{root}[data-state] [data-look]", {"animation": "none"})
    springs: dict[str, str] = {}
    rules = [rule for way in piece.transitions for rule in _way(timeline, way, parts, springs, inside, standing)]
    if springs:
        yield from written(root, {name: text for text, name in springs.items()})
    yield from rules
    for way in piece.transitions:
        if way.from_ in left:
            yield from _fade(timeline, way)
    if rules:
        none = {"transition": "none !important", "animation": "none !important"}
        yield "@media (prefers-reduced-motion: reduce) {"
        yield from indented(written(f"{root}[data-state] :is([data-layer], [data-mask])", none), 2)
        yield "}"


def _rounds(timeline: Timeline, part: Part, standing: Mapping[str, Timeline]) -> dict[str, list[Animation]]:
    """What goes round on its own, by state, where that matters, or whatever the state; nothing where it is all that
    plays anyway."""
    rounds: list[Animation] = []
    if timeline.courses_of(part.layer.id):
        found = {state: animations_of(still, part) for state, still in standing.items()}
        unnamed = [[replace(each, name="") for each in own] for own in found.values()]
        if any(own != unnamed[0] for own in unnamed):
            return found
        rounds = animations_of(replace(timeline, run=standing[timeline.piece.start].run), part)
    return {} if animations_of(timeline, part) == rounds else {"": rounds}


def _goes_round(still: Timeline, part: Part, tracks: Sequence[Track]) -> bool:
    """Whether what these tracks move goes round in the state before: no transition begins from there."""
    moved = {track.property.name for track in tracks}
    declared = {declaration.css for declaration in part.declarations if moved & set(declaration.shows)}
    rounds = animations_of(still, part) if still.courses_of(part.layer.id) else []
    return any(declared & animation.keyframes[0].values.keys() for animation in rounds)


def _standing(timeline: Timeline, state: str) -> Timeline:
    """A state at rest, in which undercurrents go round."""
    piece = timeline.piece.model_copy(update={"start": state, "id": css_name(f"{timeline.piece.id}_in", state)})
    return replace(timeline, piece=piece, run=with_common_loop(piece, Run(0, None, (), state)), voices=())


def _fade(timeline: Timeline, way: Transition) -> Iterator[str]:
    """The shares of both looks in a cross-fade that an attribute sets off."""
    alone, came = way_alone(timeline, way), f'[data-state="{way.to}"][data-from="{way.from_}"]'
    for state in (PLAYING, way.from_) if cross_fades(alone) else ():
        motion = look_animations(alone, state)
        yield from written(f'.{timeline.piece.id}{came} [data-look="{state}"]', played_by(motion))
        yield from keyframes_of(motion)


def _way(
    timeline: Timeline,
    way: Transition,
    parts: Sequence[Part],
    springs: dict[str, str],
    inside: str,
    standing: Mapping[str, Timeline],
) -> Iterator[str]:
    """How one transition is gone: as CSS transitions, or by keyframes where these cannot say it."""
    piece, alone, names = timeline.piece, way_alone(timeline, way), class_names(timeline.piece.layers)
    first = next(other for other in piece.transitions if other.to == way.to)
    for part in parts:
        tracks = alone.tracks_of(part.layer.id)
        by_keyframes = to_join(alone, part) or any(map(changes_form, tracks))
        by_keyframes = by_keyframes or (way.from_ in standing and _goes_round(standing[way.from_], part, tracks))
        moves = None if by_keyframes else _transitions(alone, part, tracks, springs)
        motion = animations_of(alone, part) if moves is None else []
        differs = any(_looks(timeline, part).values())
        rule = played_by(motion) or ({"transition": ", ".join(moves or ["none"])} if differs else {})
        if rule:
            # Said without from where, it comes as it does by the first way; not so what would play at the very start.
            came = "" if way is first and not motion else f'[data-from="{way.from_}"]'
            selector = f'.{piece.id}[data-state="{way.to}"]{came} {inside}{part.selector(names)}'
            yield from written(selector, rule)
        yield from keyframes_of(motion)


def _transitions(alone: Timeline, part: Part, tracks: Sequence[Track], springs: dict[str, str]) -> list[str] | None:
    """One for each CSS property that moves; None where the parts of one go different ways."""
    near, found = nearness(alone, tracks), list[str]()
    for declaration in part.declarations:
        spans = {
            (move.start_ms, move.end_ms, move.easing)
            for track in tracks
            if track.property.name in declaration.shows
            for move in track.moves
        }
        if len(spans) > 1:
            return None
        for start, end, easing in spans:
            text = css_of(easing, near) if easing else "linear"
            if isinstance(easing, Settle):
                text = f"var({springs.setdefault(text, f'--spring-{len(springs) + 1}')})"
            delay = f" {start:g}ms" if start else ""
            found.append(f"{declaration.css} {end - start:g}ms {text}{delay}")
    return found
