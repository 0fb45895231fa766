"""The elements that show a layer, each with what CSS says of it: its own, and what lies in it or around it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from keen_ripple.core.document import walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import BY_NAME
from keen_ripple.core.timeline import Timeline
from keen_ripple.core.values import Fade, Gradient
from keen_ripple.handoff.animation import Animation
from keen_ripple.handoff.css_lines import TRIMMED, is_drawn_along, line_around, shape_of, trimmed
from keen_ripple.handoff.css_paints import RESTING
from keen_ripple.handoff.css_text import css_string
from keen_ripple.handoff.css_values import BOX, CAST, DECLARATIONS, IN_SPACE, INITIAL, MASK, OUTLINE, resting_shadows
from keen_ripple.handoff.declaration import Declaration, Look
from keen_ripple.handoff.moving_fill import Registered, moving_fill
from keen_ripple.handoff.names import css_name
from keen_ripple.handoff.svg_paints import still_paints

# One of several texts or pictures, over the others and as large; their shares add up.
OVER = {"grid-area": "1 / 1", "mix-blend-mode": "plus-lighter"}
COVERING = {"position": "absolute", "inset": "0"}
# A stroke that is drawn along the outline of a box lies over it, and beyond it.
LINED = {**COVERING, "width": "100%", "height": "100%", "overflow": "visible"}
OF_TEXT = {**OVER, "align-self": "center", "min-width": "min-content", "unicode-bidi": "plaintext"}
OF_PICTURE = {
    **COVERING,
    "mix-blend-mode": "plus-lighter",
    "border-radius": "inherit",
    "background-size": "inherit",
    "background-position": "inherit",
    "background-repeat": "no-repeat",
}
BOXES = ("rectangle", "ellipse")
CHANGING = {"text": "text", "picture": "source"}
"""By the kind of layer what of it may change into another."""


@dataclass(frozen=True)
class Part:
    """An element that shows something of a layer. `within` is its selector inside of the layer's own, with a space
    before it; `name` tells it from the others of the layer, and is empty for its own."""

    layer: LayerBase
    name: str = ""
    within: str = ""
    declarations: tuple[Declaration, ...] = ()
    fixed: Mapping[str, str] = field(default_factory=dict)
    registered: tuple[Registered, ...] = ()
    # Gradients of SVG that it is painted with, by the property; in its svg they have the names that `paint_name` gives.
    paints: Mapping[str, Gradient] = field(default_factory=dict)
    # By which it steps through pictures of what it shows.
    pages: tuple[Animation, ...] = ()

    @property
    def is_mask(self) -> bool:
        """Whether it is the element that the layer cuts, which is around what is above it."""
        return self.name == "mask"

    def selector(self, names: Mapping[str, str]) -> str:
        """In the stylesheet of a piece whose layers have these classes."""
        return f'[data-mask="{self.layer.id}"]' if self.is_mask else f".{names[self.layer.id]}{self.within}"

    def css_name(self, timeline: Timeline) -> str:
        """With which the names of its keyframes begin."""
        own = css_name(timeline.piece.id, self.layer.id)
        return f"{own}_{self.name}" if self.name else own

    def painted(self, timeline: Timeline) -> Part:
        """The same, painted with those of its gradients that SVG can show."""
        paints = still_paints(self.layer.kind, looks_shown(timeline, self.layer.id))
        texts = {name: f"url(#{self.paint_name(timeline, name)})" for name in paints}
        shows = tuple(_always(d.css, texts[d.css]) if d.css in texts else d for d in self.declarations)
        return replace(self, declarations=shows, paints=paints)

    def paint_name(self, timeline: Timeline, name: str) -> str:
        return f"{self.css_name(timeline)}_{name}"

    def resting(self, look: Look) -> dict[str, str]:
        """The CSS of such a look, without what is CSS's own default or cannot be seen."""
        # Outlines stand in the elements themselves.
        rule = {d.css: d.text(look, RESTING) for d in self.declarations if d.css != "d"}
        if "box-shadow" in rule and look.get("stroke") == "none":
            rule["box-shadow"] = resting_shadows(look)
        return {css: text for css, text in rule.items() if INITIAL.get(css) != text}


def parts_of(timeline: Timeline, layer: LayerBase) -> list[Part]:
    """Its own element first."""
    if layer.mask is True and cuts_by_filter(timeline, layer):
        return _cutting(layer)
    own = Part(layer, declarations=DECLARATIONS[layer.kind], fixed=_fixed(layer))
    values = changing_values(timeline, layer)
    if len(values) > 1:
        return [_without(own, values), *_each(layer, values)]
    if layer.mask is True:
        return [own, Part(layer, "mask", declarations=MASK, fixed=COVERING)]
    if layer.kind == "path":
        return [own.painted(timeline), Part(layer, "outline", " > path", (OUTLINE,))]
    return _of_box(timeline, own) if layer.kind in BOXES else [own]


def cuts_by_filter(timeline: Timeline, layer: LayerBase) -> bool:
    """Whether it is a mask for which a filter is needed: by what it shows, or by an outline that CSS cannot cut by."""
    if layer.masks_by_content or layer.mask is not True or layer.kind == "path":
        return bool(layer.mask)
    looks = looks_shown(timeline, layer.id)
    return any(look[name] for look in looks for name in TURNED) or any(
        look["scale_x"] != 1.0 or look["scale_y"] != 1.0 for look in looks
    )


def cuts_in_motion(timeline: Timeline, layers: Sequence[LayerBase], mask: LayerBase) -> bool:
    """Whether a mask among siblings needs a filter, and it or what it cuts moves: WebKit shows nothing of that."""
    if not cuts_by_filter(timeline, mask):
        return False
    return any(moved(timeline, layer.id) for layer, _ in walk(layers[layers.index(mask) :]))


TURNED = ("rotation", "skew_x", "skew_y", "rotation_x", "rotation_y")


def _cutting(layer: LayerBase) -> list[Part]:
    """The elements of an outline that cuts by a filter: it is opaque, however it is filled."""
    shows = [d for d in DECLARATIONS[layer.kind] if d.css in PLACING]
    fill = "fill" if layer.kind == "path" else "background"
    own = Part(layer, declarations=tuple(shows), fixed={**_fixed(layer), "visibility": "visible", fill: "#000"})
    return [own, Part(layer, "outline", " > path", (OUTLINE,))] if layer.kind == "path" else [own]


PLACING = {d.css for d in BOX if d.css != "opacity"} | {"border-radius", "fill-rule"}


def _of_box(timeline: Timeline, own: Part) -> list[Part]:
    layer, looks = own.layer, looks_shown(timeline, own.layer.id)
    fill = moving_fill([look["fill"] for look in looks], own.css_name(timeline))
    if fill is not None:
        shows = (*(d for d in own.declarations if d.css != "background"), *fill.declarations)
        own = replace(own, declarations=shows, registered=fill.registered)
    if not is_lined(timeline, layer):
        return [own]
    shows = tuple(CAST if d.css == "box-shadow" else d for d in own.declarations)
    within, line = f" > svg > {shape_of(layer.kind, looks)}", line_around(layer.kind, looks)
    drawn = Part(layer, "line", within, line, {"fill": "none"}).painted(timeline)
    return [replace(own, declarations=shows), Part(layer, "svg", " > svg", fixed=LINED), drawn]


def _always(css: str, text: str) -> Declaration:
    return Declaration(css, (), lambda _look, _space: text)


def seen_first(timeline: Timeline) -> Pose:
    """The looks at the beginning: a run that is over at once has shown its start to nobody."""
    return timeline.rest if timeline.run.total_ms else timeline.poses[timeline.run.final_state]


def is_lined(timeline: Timeline, layer: LayerBase) -> bool:
    """Whether it is a box with a stroke that is no border inside of it."""
    return layer.kind in BOXES and any(map(is_drawn_along, looks_shown(timeline, layer.id)))


def _without(own: Part, values: Iterable[str]) -> Part:
    """The element of a layer whose texts or pictures are elements of their own."""
    if own.layer.kind == "picture":
        shows = tuple(d for d in own.declarations if d.css != "background-image")
        return replace(own, declarations=shows, fixed={**own.fixed, "isolation": "isolate"})
    columns = {"grid-template-columns": "100%", "isolation": "isolate"}
    return replace(own, fixed={**own.fixed, **columns})


def _each(layer: LayerBase, values: Iterable[str]) -> Iterator[Part]:
    name = CHANGING[layer.kind]
    for number, value in enumerate(values, 1):
        fixed = OF_TEXT if layer.kind == "text" else {**OF_PICTURE, "background-image": f"url({css_string(value)})"}
        share = Declaration("opacity", (name,), _share(name, value), calm=True)
        yield Part(layer, f"{name}-{number}", f" > :nth-child({number})", (share,), fixed)


def _share(name: str, value: str) -> Callable[[Look, str], str]:
    return lambda look, _: f"{share_of(value, look[name]):.4g}"


def share_of(value: str, seen: Any) -> float:
    """By how much a value is seen, 0–1, in what may be several that fade into each other."""
    if isinstance(seen, Fade):
        return share_of(value, seen.from_) * (1.0 - seen.share) + share_of(value, seen.to) * seen.share
    return float(value == seen)


def changing_values(timeline: Timeline, layer: LayerBase) -> list[str]:
    """All texts, or all pictures, that it shows one after another; those of other layers do not change so."""
    name = CHANGING.get(layer.kind)
    if name is None:
        return []
    return list(dict.fromkeys(look[name] for look in timeline.looks_of(layer.id)))


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


def marks(timeline: Timeline, layer: str) -> dict[str, bool]:
    """What of a layer is written in one way always, since it is so once."""
    looks = looks_shown(timeline, layer)
    is_trimmed = any("trim_end" in look and trimmed(look) for look in looks)
    goes_into_space = len({look["perspective"] for look in looks}) > 1
    return {**({TRIMMED: True} if is_trimmed else {}), **({IN_SPACE: True} if goes_into_space else {})}


def moved(timeline: Timeline, layer: str) -> set[str]:
    """The properties of a layer that are moved by states, by undercurrents, or in a free placement."""
    voice = timeline.voice_of(layer)
    own = {track.property.name for track in timeline.tracks_of(layer)}
    courses = {course.property for _, course, _ in timeline.courses_of(layer)}
    return own | courses | (moved(voice.timeline, layer) if voice else set())


def twice_moved(timeline: Timeline) -> Iterator[tuple[str, str]]:
    """Layers of free placements, and the CSS properties of them that the piece around moves too."""
    for voice in timeline.voices:
        yield from twice_moved(voice.timeline)
        yield from sorted(_moved_css(timeline) & _moved_css(voice.timeline))


def _moved_css(timeline: Timeline) -> set[tuple[str, str]]:
    """By layer the CSS properties that a timeline moves."""
    courses = [course for own in timeline.piece.undercurrents for course in own.courses]
    return {(track.layer, track.property.css) for track in timeline.tracks} | {
        (course.layer, BY_NAME[course.property].css) for course in courses
    }


def looks_shown(timeline: Timeline, layer: str) -> list[Look]:
    """Its looks in all states, and with what undercurrents bring it to."""
    looks: list[Look] = list(timeline.looks_of(layer))
    voice = timeline.voice_of(layer)
    for each in [timeline, *([voice.timeline] if voice else [])]:
        for _, course, track in each.courses_of(layer):
            values = [track.first, *(move.end for move in track.moves)]
            looks += [{**timeline.rest[layer], course.property: value} for value in values]
    return looks
