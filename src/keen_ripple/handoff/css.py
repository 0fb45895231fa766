"""A stylesheet and a fragment of markup for design systems: it plays by itself, or goes where an attribute says."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from html import escape

from keen_ripple.core.curves import Settle
from keen_ripple.core.document import Transition
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.run import Run, Segment
from keen_ripple.core.flow.track import Track
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import TEXT_CHANGES, WHOLE, beyond_css, outermost
from keen_ripple.handoff.css_values import DECLARATIONS, MASK, TRIMMED, Declaration, trimmed
from keen_ripple.handoff.flipbook import flipbooks_of
from keen_ripple.handoff.format import Files, in_file
from keen_ripple.handoff.html import HTML
from keen_ripple.handoff.keyframes import Animation, animations_of, css_of, nearness
from keen_ripple.handoff.markup import Drawn, elements_of, indented
from keen_ripple.handoff.names import class_names, in_comment
from keen_ripple.handoff.options import Options
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
        if WHOLE in drawn or timeline.rehearsal is not None:
            return replace(told, holds=by_itself)
        states = len(timeline.piece.states)
        by_state = f" With data-state it stands in one of {states} states, and goes from one to the other."
        # What waits for somebody is gone by the attribute.
        left_out = (*HTML.notes(timeline), *_texts(timeline, drawn))
        return Report(by_itself + by_state, left_out, (), (*told.said, *_jumps(timeline, drawn)))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        drawn = flipbooks_of(timeline)
        return {"css": in_file(_stylesheet(timeline, drawn)), "markup.html": in_file(_fragment(timeline, drawn))}


CSS = Css()


def _stylesheet(timeline: Timeline, drawn: Drawn) -> Iterator[str]:
    piece = timeline.piece
    driven = WHOLE not in drawn and timeline.rehearsal is None
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
    yield from style_of(timeline, drawn, scope)
    if driven:
        yield from _driven(timeline, drawn)


def _fragment(timeline: Timeline, drawn: Drawn) -> Iterator[str]:
    piece = timeline.piece
    yield f'<div class="{piece.id}" role="img" aria-label="{escape(piece.name)}">'
    yield from indented(elements_of(timeline, drawn), 2)
    yield "</div>"


def way_alone(timeline: Timeline, way: Transition) -> Timeline:
    """One transition as a run of its own, from the state that it leaves."""
    leg = timeline.legs[way.id]
    segment = Segment("travel", way.from_, way.to, 0, leg.length_ms, transition=way.id, leg=way.id)
    piece = timeline.piece.model_copy(update={"start": way.from_, "id": f"{timeline.piece.id}--{way.id}"})
    return replace(timeline, piece=piece, run=Run(leg.length_ms, None, (segment,), way.to), voices=())


def _jumps(timeline: Timeline, drawn: Collection[str]) -> Iterator[str]:
    """What does not go smoothly from state to state."""
    names = {state.id: state.name for state in timeline.piece.states}
    layers = {layer.id: layer.name for layer in said(timeline.piece.layers, drawn)}
    for layer in outermost(timeline.piece.layers, drawn):
        yield f"{layer.name} follows no data-state: it is drawn into pictures."
    for way in timeline.piece.transitions:
        where = f"from {names[way.from_]} to {names[way.to]}"
        for layer_id, what in beyond_css(way_alone(timeline, way)).items():
            if layer_id == WHOLE:
                yield f"It jumps {where}: {what}."
            elif layer_id in layers and what != TEXT_CHANGES and "in some states only" not in what:
                yield f"{layers[layer_id]} jumps {where}: {what}."


def _texts(timeline: Timeline, drawn: Collection[str]) -> Iterator[str]:
    """Texts that CSS cannot change."""
    for layer in said(timeline.piece.layers, drawn):
        if layer.kind == "text" and len({look["text"] for look in timeline.looks_of(layer.id)}) > 1:
            yield f"{layer.name}: its text differs by state. Write it into its element yourself."


@dataclass(frozen=True)
class _Target:
    """What CSS moves: the element of a layer, or the one that a mask cuts."""

    layer: LayerBase
    selector: str
    declarations: tuple[Declaration, ...]
    is_mask: bool = False

    def animations(self, timeline: Timeline) -> list[Animation]:
        return animations_of(timeline, self.layer, mask=self.is_mask)

    def looks(self, timeline: Timeline) -> dict[str, dict[str, str]]:
        """By state what differs between states."""
        trim = any("trim_end" in each and trimmed(each) for each in timeline.looks_of(self.layer.id))
        marks = {TRIMMED: True} if trim else {}
        poses = {state: {**pose[self.layer.id], **marks} for state, pose in timeline.poses.items()}
        space = timeline.piece.blend
        texts = {d.css: [d.text(look, space) for look in poses.values()] for d in self.declarations}
        return {
            state: {css: each[n] for css, each in texts.items() if len(set(each)) > 1} for n, state in enumerate(poses)
        }


def _targets(timeline: Timeline, drawn: Drawn) -> Iterator[_Target]:
    names = class_names(timeline.piece.layers)
    for layer in said(timeline.piece.layers, drawn):
        if timeline.voice_of(layer.id) is not None:
            continue
        yield _Target(layer, f".{names[layer.id]}", DECLARATIONS[layer.kind])
        if layer.mask is True:
            yield _Target(layer, f'[data-mask="{layer.id}"]', MASK, is_mask=True)


def _driven(timeline: Timeline, drawn: Drawn) -> Iterator[str]:
    """The looks of all states, and the ways between them."""
    piece, root = timeline.piece, f".{timeline.piece.id}"
    still = replace(timeline, run=Run(0, None, (), piece.start))
    targets = list(_targets(timeline, drawn))
    for target in targets:
        # What goes round on its own does so whatever the state.
        rounds = target.animations(still)
        if target.animations(timeline) != rounds:
            yield from written(f"{root}[data-state] {target.selector}", played_by(rounds) or {"animation": "none"})
    for target in targets:
        for state, look in target.looks(timeline).items():
            if look:
                yield from written(f'{root}[data-state="{state}"] {target.selector}', look)
    springs: dict[str, str] = {}
    rules = [rule for way in piece.transitions for rule in _way(timeline, way, targets, springs)]
    if springs:
        yield from written(root, {name: text for text, name in springs.items()})
    yield from rules
    if rules:
        none = {"transition": "none !important", "animation": "none !important"}
        yield "@media (prefers-reduced-motion: reduce) {"
        yield from indented(written(f"{root}[data-state] :is([data-layer], [data-mask])", none), 2)
        yield "}"


def _way(timeline: Timeline, way: Transition, targets: Sequence[_Target], springs: dict[str, str]) -> Iterator[str]:
    """How one transition is gone: as CSS transitions, or by keyframes where these cannot say it."""
    alone = way_alone(timeline, way)
    first = next(other for other in timeline.piece.transitions if other.to == way.to)
    for target in targets:
        tracks = [track for track in alone.tracks if track.layer == target.layer.id]
        parts = _transitions(alone, target, tracks, springs)
        motion = target.animations(alone) if parts is None else []
        differs = any(target.looks(timeline).values())
        rule = played_by(motion) or ({"transition": ", ".join(parts or ["none"])} if differs else {})
        if rule:
            # Said without from where, it comes as it does by the first way; not so what would play at the very start.
            came = "" if way is first and not motion else f'[data-from="{way.from_}"]'
            yield from written(f'.{timeline.piece.id}[data-state="{way.to}"]{came} {target.selector}', rule)
        for animation in motion:
            yield from animation.lines()


def _transitions(
    alone: Timeline, target: _Target, tracks: Sequence[Track], springs: dict[str, str]
) -> list[str] | None:
    """One for each CSS property that moves; None where the parts of one go different ways."""
    near, parts = nearness(alone, tracks), []
    for declaration in target.declarations:
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
            parts.append(f"{declaration.css} {end - start:g}ms {text}{delay}")
    return parts
