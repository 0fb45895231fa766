"""The CSS of a piece: how its layers look at rest, and what plays by itself."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from keen_ripple.core.document import Piece, walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.scrolling import tops_of
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.animation import Animation, keyframes_of
from keen_ripple.handoff.beyond_css import WHOLE
from keen_ripple.handoff.carried import drawn_part
from keen_ripple.handoff.cross_fades import IN_STACK, PLAYING, STACK, look_animations
from keen_ripple.handoff.css_paints import RESTING, colour
from keen_ripple.handoff.css_text import px
from keen_ripple.handoff.flipbook import Flipbook
from keen_ripple.handoff.fonts import font_faces
from keen_ripple.handoff.keyframes import animations_of
from keen_ripple.handoff.markup import DRAWN, Drawn, indented
from keen_ripple.handoff.masks import rules_of_masks
from keen_ripple.handoff.names import class_names, css_name
from keen_ripple.handoff.parts import Part, cuts_by_filter, marks, moved, parts_of, seen_first

# Every layer, in the box of its group.
PLACED = {"position": "absolute", "left": "0", "top": "0", "overflow": "visible"}


@dataclass(frozen=True)
class Scope:
    """Where rules hold: inside of an element of their own, or in all of a page that has nothing else."""

    root: str
    alone: bool = False

    def rule(self, selector: str, declarations: Mapping[str, str]) -> list[str]:
        """Of elements inside; of several selectors, each."""
        inside = selector if self.alone else ", ".join(f"{self.root} {part}" for part in selector.split(", "))
        return written(inside, declarations)

    def root_rule(self, declarations: Mapping[str, str]) -> list[str]:
        return written(self.root, declarations)


def written(selector: str, declarations: Mapping[str, str]) -> list[str]:
    """A rule of CSS, as lines."""
    return [f"{selector} {{", *(f"  {css}: {text};" for css, text in declarations.items()), "}"]


def style_of(timeline: Timeline, drawn: Drawn, scope: Scope, left: Collection[str] = ()) -> Iterator[str]:
    """Fonts, looks, keyframes, and what is calmer where motion is unwanted, as lines; with the looks of states that
    cross-fades leave."""
    piece = timeline.piece
    layers = [] if WHOLE in drawn else list(said(piece.layers, drawn))
    names, first = class_names(piece.layers), seen_first(timeline)
    yield from font_faces(timeline)
    ground = {"background-color": colour(piece.ground, RESTING)} if piece.ground else {}
    if piece.clips:
        ground["overflow"] = "hidden"
    size = {"position": "relative", "width": px(piece.width), "height": px(piece.height)}
    yield from scope.root_rule({**size, **ground})
    left = () if WHOLE in drawn else left
    yield from scope.rule("[data-layer], [data-left]" if left else "[data-layer]", PLACED)
    yield from _scrolling(piece, scope)
    # The elements that masks cut lie around many others: their rules come last.
    parts = sorted((part for layer in layers for part in parts_of(timeline, layer)), key=lambda part: part.is_mask)
    parts += [drawn_part(layer, drawn[layer.id], timeline) for layer, _ in walk(piece.layers) if layer.id in drawn]
    for part in parts:
        for registered in part.registered:
            yield from registered.lines()
    animations = {part.css_name(timeline): animations_of(timeline, part) for part in parts}
    for part in parts:
        rest = {**part.fixed, **rest_of(timeline, part, first[part.layer.id])}
        rule = {**rest, **played_by(animations[part.css_name(timeline)])}
        yield from scope.rule(part.selector(names), rule) if rule else ()
    for part in parts:
        yield from keyframes_of(animations[part.css_name(timeline)])
    if WHOLE in drawn:
        yield from _whole(piece, drawn[WHOLE], scope)
    masks = [layer for layer, _ in walk(piece.layers) if cuts_by_filter(timeline, layer)]
    for selector, declarations in rules_of_masks(piece, [] if WHOLE in drawn else masks):
        yield from scope.rule(selector, declarations)
    moving = [part for part in parts if animations[part.css_name(timeline)]]
    yield from _looks(timeline, left, scope)
    for state in left:
        yield from _left(timeline, state, parts, animations, names, scope)
    yield from _calmer(timeline, moving, names, scope, left)


def _looks(timeline: Timeline, left: Collection[str], scope: Scope) -> Iterator[str]:
    """The looks that lie over each other, and what each of them has its share by."""
    if not left:
        return
    yield from scope.rule("[data-looks]", STACK)
    yield from scope.rule("[data-look]", IN_STACK)
    for state in (PLAYING, *left):
        motion = look_animations(timeline, state)
        unseen = {"opacity": "0"} if state != PLAYING else {}
        rule = {**unseen, **played_by(motion)}
        yield from scope.rule(f'[data-look="{state}"]', rule) if rule else ()
        yield from keyframes_of(motion)


def _left(
    timeline: Timeline,
    state: str,
    parts: Sequence[Part],
    animations: Mapping[str, Sequence[Animation]],
    names: Mapping[str, str],
    scope: Scope,
) -> Iterator[str]:
    """A look that is left stands still: what of it is other than where the piece begins."""
    first = seen_first(timeline)
    for part in parts:
        layer, marked = part.layer.id, marks(timeline, part.layer.id)
        one, other = ({**pose[layer], **marked} for pose in (first, timeline.poses[state]))
        told = {d.css: (d.text(one, RESTING), d.text(other, RESTING)) for d in part.declarations if d.css != "d"}
        rule = {css: after for css, (before, after) in told.items() if before != after}
        rule |= {"animation": "none"} if animations[part.css_name(timeline)] else {}
        yield from scope.rule(f'[data-look="{state}"] {part.selector(names)}', rule) if rule else ()


def said(layers: Sequence[LayerBase], drawn: Collection[str]) -> Iterator[LayerBase]:
    """The layers that CSS says, without those that are drawn and what lies in them."""
    for layer in layers:
        if layer.id not in drawn:
            yield layer
            yield from said(layer.layers, drawn)


def _whole(piece: Piece, book: Flipbook, scope: Scope) -> Iterator[str]:
    motion = list(book.animations(css_name(piece.id, DRAWN)))
    yield from scope.rule(f".{DRAWN}", {**book.look(), **played_by(motion)})
    yield from keyframes_of(motion)
    yield from _where_calm(scope.rule(f".{DRAWN}", {"animation": "none"}) if motion else [])


def _where_calm(rules: Sequence[str]) -> Iterator[str]:
    """Where motion is unwanted."""
    if rules:
        yield "@media (prefers-reduced-motion: reduce) {"
        yield from indented(rules, 2)
        yield "}"


def _calmer(
    timeline: Timeline,
    moving: Sequence[Part],
    classes: Mapping[str, str],
    scope: Scope,
    left: Collection[str],
) -> Iterator[str]:
    """Where motion is unwanted, things stand where they come to rest; opacity and colours go on."""
    rules: list[str] = []
    for part in moving:
        still = calm_of(timeline, part)
        if not still and not part.pages:
            continue
        animations = animations_of(timeline, part, calm=True)
        rules += scope.rule(part.selector(classes), {**still, **(played_by(animations) or {"animation": "none"})})
        rules += scope.rule(f"[data-look] {part.selector(classes)}", still) if left else []
        rules += keyframes_of(animations)
    yield from _where_calm(rules)


def calm_of(timeline: Timeline, part: Part) -> dict[str, str]:
    """Where what would move from its place otherwise stands."""
    layer = part.layer.id
    names, look = moved(timeline, layer), {**_at_rest(timeline, layer), **marks(timeline, layer)}
    places = [d for d in part.declarations if not d.calm and names & set(d.shows)]
    return {d.css: d.text(look, RESTING) for d in places}


def _at_rest(timeline: Timeline, layer: str) -> Mapping[str, Any]:
    """Where a layer comes to rest; in a free placement all that this moves does so by itself."""
    look, voice = timeline.poses[timeline.run.final_state][layer], timeline.voice_of(layer)
    if voice is None:
        return look
    own = _at_rest(voice.timeline, layer)
    return {**look, **{name: own[name] for name in moved(voice.timeline, layer)}}


def played_by(animations: Sequence[Animation]) -> dict[str, str]:
    """How the animations of a layer are played: by time, or by the scrolling through a section."""
    if not animations:
        return {}
    played = {"animation": ", ".join(animation.shorthand() for animation in animations)}
    sections = [animation.section for animation in animations]
    if any(sections):
        # From where the top of the section meets that of the screen to where its end does.
        played["animation-timeline"] = ", ".join(f"--{section}" if section else "auto" for section in sections)
        across = "exit-crossing 0% exit-crossing 100%"
        played["animation-range"] = ", ".join(across if section else "normal" for section in sections)
    return played


def _scrolling(piece: Piece, scope: Scope) -> Iterator[str]:
    """A content that is longer than its screen, its sections, and what stays in its place."""
    if not piece.sections:
        return
    names = ", ".join(f"--{section.id}" for section in piece.sections)
    yield from scope.root_rule({"overflow-y": "auto", "timeline-scope": names})
    height = sum(section.height for section in piece.sections)
    yield from scope.rule(".content", {"position": "relative", "height": px(height)})
    for section, top in zip(piece.sections, tops_of(piece).values(), strict=True):
        box = {"position": "absolute", "top": px(top), "left": "0", "right": "0", "height": px(section.height)}
        yield from scope.rule(f'[data-section="{section.id}"]', {**box, "view-timeline-name": f"--{section.id}"})
    yield from scope.rule(".pinned", {"position": "sticky", "top": "0", "height": "0"})


def rest_of(timeline: Timeline, part: Part, look: Mapping[str, Any]) -> dict[str, str]:
    """The declarations of an element whose layer stands as it looks, without what CSS begins with."""
    return part.resting({**look, **marks(timeline, part.layer.id)})
