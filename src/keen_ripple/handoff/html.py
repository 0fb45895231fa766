"""One self-contained web page: elements, CSS keyframes, no script."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from html import escape
from typing import Any

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.document import Piece, walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.flow.scrolling import tops_of
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css
from keen_ripple.handoff.css_values import DECLARATIONS, MASK, RESTING, TRIMMED, colour, px, rest_rule, trimmed
from keen_ripple.handoff.flipbook import Flipbook, flipbook_of
from keen_ripple.handoff.fonts import font_faces, font_notes
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.frames import part_of
from keen_ripple.handoff.keyframes import Animation, animations_of
from keen_ripple.handoff.masks import masked, rules_of_masks
from keen_ripple.handoff.names import class_names
from keen_ripple.handoff.options import AS_IT_IS, Options
from keen_ripple.handoff.report import Report, report_of


@dataclass(frozen=True)
class Html:
    name: str = "html"
    endings: Mapping[str, str] = field(default_factory=lambda: {"html": "text/html"})
    takes: Collection[str] = ()

    def report(self, timeline: Timeline, options: Options = AS_IT_IS) -> Report:
        options.check(self.name, self.takes)
        names = {layer.id: layer.name for layer, _ in walk(timeline.piece.layers)} | {WHOLE: "All of it"}
        found = beyond_css(timeline)
        said = [f"{names[layer]} is drawn into pictures: {what}." for layer, what in found.items()]
        notes = [note for note in part_of(timeline.run).left_out if found and "jumps" in note]
        return replace(report_of(timeline, (), (*notes, *font_notes(timeline))), said=tuple(said))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        return {"html": self.write(timeline)}

    def write(self, timeline: Timeline) -> bytes:
        return ("\n".join(_page(timeline)) + "\n").encode("utf-8")


HTML = Html()


def _page(timeline: Timeline) -> Iterator[str]:
    piece = timeline.piece
    yield from (
        "<!doctype html>",
        '<html lang="en">',
        "<head>",
        '  <meta charset="utf-8">',
        '  <meta name="viewport" content="width=device-width, initial-scale=1">',
        f"  <title>{escape(piece.name)}</title>",
        "  <style>",
    )
    drawn = {layer: flipbook_of(timeline, layer) for layer in beyond_css(timeline)}
    yield from _indented(_style(timeline, drawn), 4)
    yield from ("  </style>", "</head>", "<body>")
    yield f'  <div class="piece" data-piece="{piece.id}" role="img" aria-label="{escape(piece.name)}">'
    yield from _indented(_content(timeline, drawn), 4)
    yield from ("  </div>", "</body>", "</html>")


Drawn = Mapping[str, Flipbook]
"""By the layers that are drawn into pictures, or for the whole piece, those pictures."""


def _style(timeline: Timeline, drawn: Drawn) -> Iterator[str]:
    piece = timeline.piece
    layers = [] if WHOLE in drawn else list(_said(piece.layers, drawn))
    names = class_names(piece.layers)
    yield from font_faces(timeline)
    yield from _rule("body", {"margin": "0"})
    ground = {"background-color": colour(piece.ground, RESTING)} if piece.ground else {}
    if piece.clips:
        ground["overflow"] = "hidden"
    size = {"position": "relative", "width": px(piece.width), "height": px(piece.height)}
    yield from _rule(".piece", {**size, **ground})
    yield from _rule("[data-layer]", {"position": "absolute", "left": "0", "top": "0", "overflow": "visible"})
    yield from _scrolling(piece)
    # A run that is over at once has shown its start to nobody.
    seen_first = timeline.rest if timeline.run.total_ms else timeline.poses[timeline.run.final_state]
    animations = {layer.id: animations_of(timeline, layer) for layer in layers}
    for layer in layers:
        played = _played(animations[layer.id])
        look = seen_first[layer.id]
        if any("trim_end" in each and trimmed(each) for each in timeline.looks_of(layer.id)):
            look = {**look, TRIMMED: True}
        yield from _rule(f".{names[layer.id]}", {**_fixed(layer), **rest_rule(layer.kind, look), **played})
    for layer in layers:
        for animation in animations[layer.id]:
            yield from animation.lines()
    names = names | {WHOLE: DRAWN}
    yield from _pictures(piece, drawn, names)
    masks = [layer for layer, _ in walk(piece.layers) if layer.masks_by_content]
    for selector, declarations in rules_of_masks(piece, [] if WHOLE in drawn else masks):
        yield from _rule(selector, declarations)
    yield from _masks(timeline, [layer for layer in layers if layer.mask is True], seen_first)
    yield from _calmer(timeline, [layer for layer in layers if animations[layer.id]], names)


# The class of the one element of a piece that is drawn whole.
DRAWN = "drawn"


def _said(layers: Sequence[LayerBase], drawn: Drawn) -> Iterator[LayerBase]:
    """The layers that CSS says, without those that are drawn and what lies in them."""
    for layer in layers:
        if layer.id not in drawn:
            yield layer
            yield from _said(layer.layers, drawn)


def _pictures(piece: Piece, drawn: Drawn, names: Mapping[str, str]) -> Iterator[str]:
    still: list[str] = []
    for layer, book in drawn.items():
        name = f"{piece.id}-{names[layer]}--drawn"
        motion = book.animation(name)
        yield from _rule(f".{names[layer]}", {**book.style(), **({"animation": motion} if motion else {})})
        yield from book.keyframes(name)
        still += _rule(f".{names[layer]}", {"animation": "none"}) if motion else []
    if still:
        yield "@media (prefers-reduced-motion: reduce) {"
        yield from _indented(still, 2)
        yield "}"


def _masks(timeline: Timeline, masks: Sequence[LayerBase], look: Pose) -> Iterator[str]:
    for layer in masks:
        animations = animations_of(timeline, layer, mask=True)
        played = _played(animations)
        [cut_out] = MASK
        shape = {"position": "absolute", "inset": "0", cut_out.css: cut_out.text(look[layer.id], RESTING)}
        yield from _rule(f'[data-mask="{layer.id}"]', {**shape, **played})
        for animation in animations:
            yield from animation.lines()


def _calmer(timeline: Timeline, moving: Sequence[LayerBase], classes: Mapping[str, str]) -> Iterator[str]:
    """Where motion is unwanted, things stand where they come to rest; opacity and colours go on."""
    rules: list[str] = []
    for layer in moving:
        names = _moved(timeline, layer.id)
        look = _at_rest(timeline, layer.id)
        places = [d for d in DECLARATIONS[layer.kind] if not d.calm and names & set(d.shows)]
        if not places:
            continue
        animations = animations_of(timeline, layer, calm=True)
        still = {d.css: d.text(look, RESTING) for d in places}
        rules += _rule(f".{classes[layer.id]}", {**still, **(_played(animations) or {"animation": "none"})})
        rules += [line for animation in animations for line in animation.lines()]
    if rules:
        yield "@media (prefers-reduced-motion: reduce) {"
        yield from _indented(rules, 2)
        yield "}"


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


def _played(animations: Sequence[Animation]) -> dict[str, str]:
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


def _scrolling(piece: Piece) -> Iterator[str]:
    """A content that is longer than its screen, its sections, and what stays in its place."""
    if not piece.sections:
        return
    names = ", ".join(f"--{section.id}" for section in piece.sections)
    yield from _rule(".piece", {"overflow-y": "auto", "timeline-scope": names})
    height = sum(section.height for section in piece.sections)
    yield from _rule(".content", {"position": "relative", "height": px(height)})
    for section, top in zip(piece.sections, tops_of(piece).values(), strict=True):
        box = {"position": "absolute", "top": px(top), "left": "0", "right": "0", "height": px(section.height)}
        yield from _rule(f'[data-section="{section.id}"]', {**box, "view-timeline-name": f"--{section.id}"})
    yield from _rule(".pinned", {"position": "sticky", "top": "0", "height": "0"})


def _fixed(layer: LayerBase) -> dict[str, str]:
    """What the kind of layer needs, whatever its state."""
    unseen = {"visibility": "hidden"} if layer.mask is True else {}
    if layer.kind == "ellipse":
        return {"border-radius": "50%", **unseen}
    if layer.kind == "text":
        # Lines begin where their letters are written from, and no weight is made up that the font does not have.
        letters = {"unicode-bidi": "plaintext", "font-synthesis": "none"}
        return {"display": "grid", "align-content": "center", **letters}
    return {"background-repeat": "no-repeat"} if layer.kind == "picture" else unseen


def _content(timeline: Timeline, drawn: Drawn) -> Iterator[str]:
    piece = timeline.piece
    if WHOLE in drawn:
        yield f'<div class="{DRAWN}" data-layer></div>'
        return
    elements = _elements(piece.layers, timeline, class_names(piece.layers), drawn)
    if not piece.sections:
        yield from elements
        return
    yield '<div class="content">'
    yield from (f'  <div data-section="{section.id}"></div>' for section in piece.sections)
    yield from _indented(elements, 2)
    yield "</div>"


def _elements(layers: Sequence[LayerBase], timeline: Timeline, names: Mapping[str, str], drawn: Drawn) -> Iterator[str]:
    """Siblings in painting order; what stands above a mask is inside an element that it cuts."""
    for index, layer in enumerate(layers):
        if layer.masks_by_content:
            above = _elements(layers[index + 1 :], timeline, names, drawn)
            yield from masked(timeline.piece, layer, _element(layer, timeline, names, drawn), above)
            return
        pinned = layer.pinned and timeline.piece.sections
        yield from ('<div class="pinned">',) if pinned else ()
        yield from _element(layer, timeline, names, drawn)
        yield from ("</div>",) if pinned else ()
        if layer.mask:
            yield f'<div data-mask="{layer.id}">'
            yield from _indented(_elements(layers[index + 1 :], timeline, names, drawn), 2)
            yield "</div>"
            return


def _element(layer: LayerBase, timeline: Timeline, names: Mapping[str, str], drawn: Drawn) -> Iterator[str]:
    mark, look = f'class="{names[layer.id]}" data-layer="{layer.id}"', layer.base
    if layer.id in drawn:
        yield f"<div {mark}></div>"
    elif layer.kind == "text":
        yield f"<div {mark}>{escape(look['text'])}</div>"
    elif layer.kind == "path":
        view = f"0 0 {css_number(look['view_width'])} {css_number(look['view_height'])}"
        yield f'<svg {mark} viewBox="{view}" preserveAspectRatio="none">'
        looks = timeline.looks_of(layer.id)
        stretched = any(at[of] != look[f"view_{of}"] for at in looks for of in ("width", "height"))
        # The outline stretches with its box, its stroke does not.
        fixed = ' vector-effect="non-scaling-stroke"' if stretched else ""
        length = ' pathLength="1"' if any(map(trimmed, looks)) else ""
        yield f'  <path{fixed}{length} d="{escape(look["path"])}"/>'
        yield "</svg>"
    elif layer.layers:
        yield f"<div {mark}>"
        yield from _indented(_elements(layer.layers, timeline, names, drawn), 2)
        yield "</div>"
    else:
        yield f"<div {mark}></div>"


def _rule(selector: str, declarations: dict[str, str]) -> list[str]:
    return [f"{selector} {{", *(f"  {css}: {text};" for css, text in declarations.items()), "}"]


def _indented(lines: Iterable[str], by: int) -> Iterator[str]:
    return (" " * by + line for line in lines)
