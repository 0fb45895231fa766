"""The CSS of a piece: how its layers look at rest, and what plays by itself."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from keen_ripple.core.document import Piece, walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.flow.scrolling import tops_of
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import WHOLE
from keen_ripple.handoff.css_values import DECLARATIONS, MASK, RESTING, TRIMMED, colour, px, rest_rule, trimmed
from keen_ripple.handoff.fonts import font_faces
from keen_ripple.handoff.keyframes import Animation, animations_of
from keen_ripple.handoff.markup import DRAWN, Drawn, indented
from keen_ripple.handoff.masks import COVERING, rules_of_masks
from keen_ripple.handoff.names import class_names

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


def style_of(timeline: Timeline, drawn: Drawn, scope: Scope) -> Iterator[str]:
    """Fonts, looks, keyframes, and what is calmer where motion is unwanted, as lines."""
    piece = timeline.piece
    layers = [] if WHOLE in drawn else list(said(piece.layers, drawn))
    names, first = class_names(piece.layers), seen_first(timeline)
    yield from font_faces(timeline)
    ground = {"background-color": colour(piece.ground, RESTING)} if piece.ground else {}
    if piece.clips:
        ground["overflow"] = "hidden"
    size = {"position": "relative", "width": px(piece.width), "height": px(piece.height)}
    yield from scope.root_rule({**size, **ground})
    yield from scope.rule("[data-layer]", PLACED)
    yield from _scrolling(piece, scope)
    animations = {layer.id: animations_of(timeline, layer) for layer in layers}
    for layer in layers:
        played = played_by(animations[layer.id])
        rest = rest_of(timeline, layer, first[layer.id])
        yield from scope.rule(f".{names[layer.id]}", {**fixed(layer), **rest, **played})
    for layer in layers:
        for animation in animations[layer.id]:
            yield from animation.lines()
    names = names | {WHOLE: DRAWN}
    yield from _pictures(piece, drawn, names, scope)
    masks = [layer for layer, _ in walk(piece.layers) if layer.masks_by_content]
    for selector, declarations in rules_of_masks(piece, [] if WHOLE in drawn else masks):
        yield from scope.rule(selector, declarations)
    yield from _masks(timeline, [layer for layer in layers if layer.mask is True], first, scope)
    yield from _calmer(timeline, [layer for layer in layers if animations[layer.id]], names, scope)


def said(layers: Sequence[LayerBase], drawn: Collection[str]) -> Iterator[LayerBase]:
    """The layers that CSS says, without those that are drawn and what lies in them."""
    for layer in layers:
        if layer.id not in drawn:
            yield layer
            yield from said(layer.layers, drawn)


def _pictures(piece: Piece, drawn: Drawn, names: Mapping[str, str], scope: Scope) -> Iterator[str]:
    still: list[str] = []
    for layer, book in drawn.items():
        name = f"{piece.id}-{names[layer]}--drawn"
        motion = book.animation(name)
        yield from scope.rule(f".{names[layer]}", {**book.style(), **({"animation": motion} if motion else {})})
        yield from book.keyframes(name)
        still += scope.rule(f".{names[layer]}", {"animation": "none"}) if motion else []
    if still:
        yield "@media (prefers-reduced-motion: reduce) {"
        yield from indented(still, 2)
        yield "}"


def _masks(timeline: Timeline, masks: Sequence[LayerBase], look: Pose, scope: Scope) -> Iterator[str]:
    for layer in masks:
        animations = animations_of(timeline, layer, mask=True)
        played = played_by(animations)
        yield from scope.rule(f'[data-mask="{layer.id}"]', {**COVERING, **cut_by(look[layer.id]), **played})
        for animation in animations:
            yield from animation.lines()


def cut_by(look: Mapping[str, Any]) -> dict[str, str]:
    """How a mask cuts the element around what is above it."""
    [cut_out] = MASK
    return {cut_out.css: cut_out.text(look, RESTING)}


def _calmer(timeline: Timeline, moving: Sequence[LayerBase], classes: Mapping[str, str], scope: Scope) -> Iterator[str]:
    """Where motion is unwanted, things stand where they come to rest; opacity and colours go on."""
    rules: list[str] = []
    for layer in moving:
        still = calm_of(timeline, layer)
        if not still:
            continue
        animations = animations_of(timeline, layer, calm=True)
        rules += scope.rule(f".{classes[layer.id]}", {**still, **(played_by(animations) or {"animation": "none"})})
        rules += [line for animation in animations for line in animation.lines()]
    if rules:
        yield "@media (prefers-reduced-motion: reduce) {"
        yield from indented(rules, 2)
        yield "}"


def calm_of(timeline: Timeline, layer: LayerBase) -> dict[str, str]:
    """Where a layer stands that would move from its place otherwise."""
    names, look = _moved(timeline, layer.id), _at_rest(timeline, layer.id)
    places = [d for d in DECLARATIONS[layer.kind] if not d.calm and names & set(d.shows)]
    return {d.css: d.text(look, RESTING) for d in places}


def _moved(timeline: Timeline, layer: str) -> set[str]:
    voice = timeline.voice_of(layer)
    courses = [course for u in timeline.piece.undercurrents for course in u.courses if course.layer == layer]
    own = {track.property.name for track in timeline.tracks if track.layer == layer}
    return own | {course.property for course in courses} | (_moved(voice.timeline, layer) if voice else set())


def _at_rest(timeline: Timeline, layer: str) -> Mapping[str, Any]:
    """Where a layer comes to rest; in a free placement all that this moves does so by itself."""
    look, voice = timeline.poses[timeline.run.final_state][layer], timeline.voice_of(layer)
    if voice is None:
        return look
    own = _at_rest(voice.timeline, layer)
    return {**look, **{name: own[name] for name in _moved(voice.timeline, layer)}}


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


def seen_first(timeline: Timeline) -> Pose:
    """The looks at the beginning: a run that is over at once has shown its start to nobody."""
    return timeline.rest if timeline.run.total_ms else timeline.poses[timeline.run.final_state]


def rest_of(timeline: Timeline, layer: LayerBase, look: Mapping[str, Any]) -> dict[str, str]:
    """The declarations of a layer that stands as it looks, without what CSS begins with."""
    if any("trim_end" in each and trimmed(each) for each in timeline.looks_of(layer.id)):
        look = {**look, TRIMMED: True}
    return rest_rule(layer.kind, look)


def fixed(layer: LayerBase) -> dict[str, str]:
    """What the kind of layer needs, whatever its state."""
    unseen = {"visibility": "hidden"} if layer.mask is True else {}
    if layer.kind == "ellipse":
        return {"border-radius": "50%", **unseen}
    if layer.kind == "text":
        # Lines begin where their letters are written from, and no weight is made up that the font does not have.
        letters = {"unicode-bidi": "plaintext", "font-synthesis": "none"}
        return {"display": "grid", "align-content": "center", **letters}
    return {"background-repeat": "no-repeat"} if layer.kind == "picture" else unseen
