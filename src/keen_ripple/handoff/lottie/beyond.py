"""What the shapes and transforms of Lottie cannot say of a piece: such layers are drawn into pictures, and named."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.document.piece import FontFamily
from keen_ripple.core.properties import GROUPED
from keen_ripple.core.timeline import Timeline
from keen_ripple.core.values import Fade
from keen_ripple.handoff.beyond_css import WHOLE
from keen_ripple.handoff.cross_fades import cross_fades
from keen_ripple.handoff.css_paints import premultiplied
from keen_ripple.handoff.frames import part_of
from keen_ripple.handoff.lottie.carried import leans
from keen_ripple.handoff.lottie.looks import Look, Looks, looks_of
from keen_ripple.handoff.lottie.shapes import Shapes, ends_of, is_trimmed, stretch_of

# Looks per second that are enough to know, beside those where moves begin and end.
SELDOM = 8.0
NEUTRAL = {"blur": 0.0, "hue": 0.0, "brightness": 1.0, "contrast": 1.0, "saturation": 1.0}


def beyond_shapes(timeline: Timeline) -> dict[str, str]:
    """By the layers that have to be drawn, or the whole piece, the reason; told by a few looks of each move."""
    if cross_fades(timeline):
        return {WHOLE: "it cross-fades"}
    looks = looks_of(timeline, part_of(timeline.run), SELDOM)
    return dict(_found(looks, timeline.piece.layers))


def _found(looks: Looks, layers: Sequence[LayerBase]) -> Iterator[tuple[str, str]]:
    for layer in layers:
        own = looks.of(layer.id)
        if layer.mask is True or not is_seen(own):
            continue
        reason = why_drawn(layer, own, looks.timeline.piece.fonts)
        if reason:
            yield layer.id, reason
        else:
            yield from _found(looks, layer.layers)


def is_seen(looks: Sequence[Look]) -> bool:
    return any(look["opacity"] * look["visible"] > 0.0 for look in looks)


def why_drawn(layer: LayerBase, looks: Sequence[Look], fonts: Sequence[FontFamily]) -> str | None:
    """What of a layer with these looks has to be drawn, if anything."""
    return next(_reasons(layer.kind, looks, Shapes(layer.id, layer.kind, looks, fonts)), None)


def _reasons(kind: str, looks: Sequence[Look], shapes: Shapes) -> Iterator[str]:
    if any(look[name] != value for look in looks for name, value in NEUTRAL.items()):
        yield "it is blurred or filtered"
    if any(look["perspective"] and (look["rotation_x"] or look["rotation_y"]) for look in looks):
        yield "it is seen in perspective"
    elif any(map(leans, looks)):
        yield "it leans, which not all players show"
    if kind in GROUPED:
        return
    if kind == "medium":
        yield "it plays a medium"
    if any(look["shadows"] for look in looks):
        yield "it casts shadows"
    for name in ("text", "source"):
        if len({look.get(name) for look in looks}) > 1:
            yield f"its {'text' if name == 'text' else 'picture'} changes"
    if any(isinstance(value, Fade) for look in looks for value in look.values()):
        yield "a part of it fades into another"
    elif kind != "picture":
        yield from _of_shapes(kind, looks, shapes)


def _of_shapes(kind: str, looks: Sequence[Look], shapes: Shapes) -> Iterator[str]:
    for paint in ("fill", "stroke"):
        if paint in looks[0]:
            yield from _of_paint(kind, looks, paint)
    if shapes.bends and len(shapes.structures()) > 1:
        yield "its outline changes its points"
    if kind == "text":
        return
    drawn = [look for look in looks if look["stroke"] != "none"]
    for name in ("stroke_cap", "stroke_join", "stroke_align", "fill_rule"):
        if len({look[name] for look in drawn if name in look}) > 1:
            yield "its stroke changes its kind"
    if len({len(look["stroke_dash"]) for look in drawn}) > 1:
        yield "its stroke becomes dashed"
    if kind == "path" and any(map(is_trimmed, drawn)) and any(len(each) > 1 for each in shapes.structures()):
        yield "several outlines of it are trimmed together"


def _of_paint(kind: str, looks: Sequence[Look], name: str) -> Iterator[str]:
    paints = [look[name] for look in looks]
    if all(isinstance(paint, str) for paint in paints):
        return
    if len({(type(paint), 0 if isinstance(paint, str) else len(premultiplied(paint.stops))) for paint in paints}) > 1:
        yield "a gradient of it changes its kind"
    elif any(ends_of(look[name], look["width"], look["height"]) is None for look in looks):
        yield "a gradient of it is neither straight nor a circle"
    elif kind == "path" and any(abs(across - down) > 1e-3 for across, down in map(stretch_of, looks)):
        yield "a gradient is stretched with its outline"
