"""A stylesheet and a fragment of markup for design systems: it plays by itself, or goes where an attribute says."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field, replace
from html import escape
from typing import Any

from keen_ripple.core.curves import Settle
from keen_ripple.core.document import Transition
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.run import Run, Segment
from keen_ripple.core.flow.track import Track
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css, outermost
from keen_ripple.handoff.css_values import DECLARATIONS, TRIMMED, Declaration, trimmed
from keen_ripple.handoff.flipbook import flipbook_of
from keen_ripple.handoff.format import Files
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
        drawn, states = beyond_css(timeline), len(timeline.piece.states)
        by_state = f" With data-state it stands in one of {states} states, and goes from one to the other."
        by_itself = held(timeline)
        notes = HTML.report(timeline, options)
        if WHOLE in drawn or timeline.rehearsal is not None:
            return replace(notes, holds=by_itself)
        jumps = tuple(_jumps(timeline, drawn))
        fonts = tuple(note for note in notes.leaves_out if "waits for" not in note and "never reached" not in note)
        return Report(by_itself + by_state, fonts, (), (*notes.said, *jumps))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        drawn = {layer: flipbook_of(timeline, layer) for layer in beyond_css(timeline)}
        return {"css": _bytes(_stylesheet(timeline, drawn)), "markup.html": _bytes(_fragment(timeline, drawn))}


CSS = Css()


def _bytes(lines: Iterator[str]) -> bytes:
    return ("\n".join(lines) + "\n").encode()


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
            elif layer_id in layers and "in some states only" not in what:
                yield f"{layers[layer_id]} jumps {where}: {what}."


def _driven(timeline: Timeline, drawn: Drawn) -> Iterator[str]:
    """The looks of all states, and the ways between them."""
    piece, root = timeline.piece, f".{timeline.piece.id}"
    names = class_names(piece.layers)
    layers = [layer for layer in said(piece.layers, drawn) if timeline.voice_of(layer.id) is None]
    for layer in layers:
        if any(_by_time(timeline, layer)):
            rounds = played_by(_rounds(timeline, layer)) or {"animation": "none"}
            yield from written(f"{root}[data-state] .{names[layer.id]}", rounds)
    for state in piece.states:
        for layer in layers:
            look = {d.css: d.text(_look(timeline, layer, state.id), piece.blend) for d in _differing(timeline, layer)}
            if look:
                yield from written(f'{root}[data-state="{state.id}"] .{names[layer.id]}', look)
    springs: dict[str, str] = {}
    rules = [rule for way in piece.transitions for rule in _way(timeline, way, layers, springs)]
    if springs:
        yield from written(root, {name: text for text, name in springs.items()})
    yield from rules
    if rules:
        still = f"{root}[data-state] [data-layer]"
        yield "@media (prefers-reduced-motion: reduce) {"
        yield from indented(written(still, {"transition": "none !important", "animation": "none !important"}), 2)
        yield "}"


def _by_time(timeline: Timeline, layer: LayerBase) -> list[Animation]:
    rounds = {animation.name for animation in _rounds(timeline, layer)}
    return [animation for animation in animations_of(timeline, layer) if animation.name not in rounds]


def _rounds(timeline: Timeline, layer: LayerBase) -> list[Animation]:
    """What goes round on its own, whatever the state."""
    return animations_of(replace(timeline, run=Run(0, None, (), timeline.piece.start)), layer)


def _look(timeline: Timeline, layer: LayerBase, state: str) -> Mapping[str, Any]:
    look = timeline.poses[state][layer.id]
    trim = any("trim_end" in each and trimmed(each) for each in timeline.looks_of(layer.id))
    return {**look, TRIMMED: True} if trim else look


def _differing(timeline: Timeline, layer: LayerBase) -> list[Declaration]:
    """The CSS properties in which the states of a layer differ."""
    looks = [_look(timeline, layer, state.id) for state in timeline.piece.states]
    return [d for d in DECLARATIONS[layer.kind] if len({d.text(look, timeline.piece.blend) for look in looks}) > 1]


def _way(timeline: Timeline, way: Transition, layers: list[LayerBase], springs: dict[str, str]) -> Iterator[str]:
    """How one transition is gone, layer by layer: as CSS transitions, or where these cannot say it by keyframes."""
    alone, names = way_alone(timeline, way), class_names(timeline.piece.layers)
    first = next(other for other in timeline.piece.transitions if other.to == way.to)
    came = f'[data-from="{way.from_}"]'
    for layer in layers:
        tracks = [track for track in alone.tracks if track.layer == layer.id]
        parts = _transitions(alone, layer, tracks, springs)
        motion = played_by(animations_of(alone, layer)) if parts is None else {}
        rule = motion or ({"transition": ", ".join(parts or ["none"])} if _differing(timeline, layer) else {})
        if rule:
            # Said without from where, it comes as it does by the first way; not so what would play at the very start.
            root = f'.{timeline.piece.id}[data-state="{way.to}"]' + ("" if way is first and not motion else came)
            yield from written(f"{root} .{names[layer.id]}", rule)
        if motion:
            for animation in animations_of(alone, layer):
                yield from animation.lines()


def _transitions(alone: Timeline, layer: LayerBase, tracks: list[Track], springs: dict[str, str]) -> list[str] | None:
    """One for each CSS property that moves; None where the parts of one go different ways."""
    near, parts = nearness(alone, tracks), []
    for declaration in DECLARATIONS[layer.kind]:
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
