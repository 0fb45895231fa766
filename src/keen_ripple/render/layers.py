"""Layers, one upon another: transforms, opacity, blur, shadows, masks, and what each kind shows."""

from __future__ import annotations

import base64
from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache
from typing import Any

import numpy as np
import skia

from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.document.piece import FontFamily
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.measures.geometry import local_matrix
from keen_ripple.core.values import Fade, Shadow
from keen_ripple.media import MediumFault, reel_of
from keen_ripple.render.filters import colour_matrices
from keen_ripple.render.paints import argb, fill
from keen_ripple.render.shapes import OUTWARDS, Line, box, outline, rrect, stroke, written
from keen_ripple.render.text import draw_text

Look = Mapping[str, Any]
SMOOTH = skia.SamplingOptions(skia.FilterMode.kLinear, skia.MipmapMode.kLinear)


Fonts = Sequence[FontFamily]
"""What the piece brings."""


def draw_layers(canvas: skia.Canvas, layers: Sequence[LayerBase], pose: Pose, fonts: Fonts) -> None:
    """Layers of one group, in painting order; a mask cuts all that follow it there."""
    canvas.save()
    for index, layer in enumerate(layers):
        if layer.masks_by_content:
            _draw_masked(canvas, layer, layers[index + 1 :], pose, fonts)
            break
        if layer.mask:
            cut = outline(layer.kind, pose[layer.id])
            cut.transform(_matrix(pose[layer.id]))
            canvas.clipPath(cut, skia.ClipOp.kIntersect, True)
        else:
            _draw_layer(canvas, layer, pose, fonts)
    canvas.restore()


def _draw_masked(canvas: skia.Canvas, mask: LayerBase, layers: Sequence[LayerBase], pose: Pose, fonts: Fonts) -> None:
    """As much of the layers as the mask is opaque, or bright (CSS Masking Level 1, section 7.10.1)."""
    canvas.saveLayer()
    draw_layers(canvas, layers, pose, fonts)
    bright = skia.LumaColorFilter.Make() if mask.mask == "brightness" else None
    canvas.saveLayer(paint=skia.Paint(BlendMode=skia.BlendMode.kDstIn, ColorFilter=bright))
    _draw_layer(canvas, mask, pose, fonts)
    canvas.restore()
    canvas.restore()


def _matrix(look: Look) -> skia.Matrix:
    return skia.Matrix.MakeAll(*local_matrix(look).ravel().tolist())


def _draw_layer(canvas: skia.Canvas, layer: LayerBase, pose: Pose, fonts: Fonts) -> None:
    look = pose[layer.id]
    opacity = look["opacity"] * look["visible"]
    if opacity <= 0.0:
        return
    outside = canvas.save()
    canvas.concat(_matrix(look))
    filters = _filters(layer.kind, look)
    if opacity < 1.0 or filters is not None:
        canvas.saveLayer(_reach(layer, look), skia.Paint(Alphaf=opacity, ImageFilter=filters))
    KINDS[layer.kind](canvas, look, fonts)
    if layer.layers:
        draw_layers(canvas, layer.layers, pose, fonts)
    canvas.restoreToCount(outside)


def _reach(layer: LayerBase, look: Look) -> skia.Rect | None:
    """As far as it is seen, where that is plainly known: a smaller part of the canvas takes less time."""
    if layer.kind not in ("rectangle", "ellipse") or layer.layers or look["shadows"] or look["blur"] > 0.0:
        return None
    around = look["stroke_width"] + 1.0
    return skia.Rect.MakeLTRB(-around, -around, look["width"] + around, look["height"] + around)


def _filters(kind: str, look: Look) -> skia.ImageFilter | None:
    """Blur, the shadows of what is no box, and colour filters, one after another as CSS filters are."""
    found = skia.ImageFilters.Blur(look["blur"], look["blur"]) if look["blur"] > 0.0 else None
    for shadow in look.get("shadows", ()) if kind in ("path", "text") else ():
        if not shadow.inset:
            # The blur of a box's shadow is twice a standard deviation.
            deviation = shadow.blur / 2.0
            found = skia.ImageFilters.DropShadow(shadow.x, shadow.y, deviation, deviation, argb(shadow.colour), found)
    for matrix in colour_matrices(look):
        found = skia.ImageFilters.ColorFilter(skia.ColorFilters.Matrix(matrix), found)
    return found


def _faded(canvas: skia.Canvas, value: Any, draw: Callable[[Any], None]) -> None:
    """Draws a value; of two that fade into each other both, added up."""
    if not isinstance(value, Fade):
        draw(value)
        return
    added(canvas, [(value.from_, 1.0 - value.share), (value.to, value.share)], draw)


def added(canvas: skia.Canvas, parts: Sequence[tuple[Any, float]], draw: Callable[[Any], None]) -> None:
    """Draws each part by its share (0–1) and adds them up, so that what is the same in all of them stays whole."""
    [(first, whole), *others] = parts
    if not others and whole == 1.0:
        draw(first)
        return
    canvas.saveLayer()
    for part, share in parts:
        canvas.saveLayer(paint=skia.Paint(Alphaf=share, BlendMode=skia.BlendMode.kPlus))
        draw(part)
        canvas.restore()
    canvas.restore()


def _group(canvas: skia.Canvas, look: Look, fonts: Fonts) -> None:
    """Nothing of its own."""


def _box(canvas: skia.Canvas, look: Look, kind: str) -> None:
    shape = rrect(kind, look)
    shadows: Sequence[Shadow] = look["shadows"]
    for shadow in reversed(shadows):
        if not shadow.inset:
            _cast(canvas, kind, look, shadow)
    _faded(canvas, look["fill"], lambda paint: canvas.drawRRect(shape, fill(paint, look["width"], look["height"])))
    for shadow in reversed(shadows):
        if shadow.inset:
            _cast_inside(canvas, kind, look, shadow)
    path = box(kind, look, OUTWARDS[look["stroke_align"]] * look["stroke_width"])
    line = stroke(look, path)
    if line is None:
        return
    if _plain(look):
        inner = rrect(kind, look, -look["stroke_width"])
        canvas.drawDRRect(shape, inner, skia.Paint(AntiAlias=True, Color=argb(look["stroke"])))
    else:
        _drawn_along(canvas, path, line, look)


def _drawn_along(canvas: skia.Canvas, path: skia.Path, line: Line, look: Look) -> None:
    """A stroke, its paint laid over the box of the layer, of a path over its view and stretched with it."""
    width, height = (look.get(f"view_{side}", look[side]) for side in ("width", "height"))
    stretched = (look["width"] / width if width else 1.0, look["height"] / height if height else 1.0)

    def draw(paint: Any) -> None:
        canvas.drawPath(path, fill(paint, width, height, stretched, **line))

    _faded(canvas, look["stroke"], draw)


def _plain(look: Look) -> bool:
    """A whole stroke inside in one colour, which follows the box and never leaves it."""
    whole = look["trim_start"] == 0.0 and look["trim_end"] == 1.0
    coloured = isinstance(look["stroke"], str)
    return bool(coloured and look["stroke_align"] == "inside" and not look["stroke_dash"] and whole)


def _cast(canvas: skia.Canvas, kind: str, look: Look, shadow: Shadow) -> None:
    """The shadow of a box, beside it and not under it: CSS Backgrounds Level 3, section 6.1."""
    canvas.save()
    canvas.clipRRect(rrect(kind, look), skia.ClipOp.kDifference, True)
    canvas.translate(shadow.x, shadow.y)
    canvas.drawRRect(rrect(kind, look, shadow.spread), _blurred(canvas, shadow))
    canvas.restore()


def _cast_inside(canvas: skia.Canvas, kind: str, look: Look, shadow: Shadow) -> None:
    """All around a hole that is as much smaller as the shadow spreads."""
    hole = rrect(kind, look, -shadow.spread)
    far = 4.0 * (abs(shadow.x) + abs(shadow.y) + shadow.blur + abs(shadow.spread)) + 10.0
    around = skia.RRect.MakeRect(skia.Rect.MakeLTRB(-far, -far, look["width"] + far, look["height"] + far))
    canvas.save()
    canvas.clipRRect(rrect(kind, look), skia.ClipOp.kIntersect, True)
    canvas.translate(shadow.x, shadow.y)
    canvas.drawDRRect(around, hole, _blurred(canvas, shadow))
    canvas.restore()


def _blurred(canvas: skia.Canvas, shadow: Shadow) -> skia.Paint:
    paint = skia.Paint(AntiAlias=True, Color=argb(shadow.colour))
    deviation = shadow.blur / 2.0
    if shadow.blur > 0.0 and _leans(canvas.getTotalMatrix()):
        paint.setImageFilter(skia.ImageFilters.Blur(deviation, deviation))
    elif shadow.blur > 0.0:
        paint.setMaskFilter(skia.MaskFilter.MakeBlur(skia.kNormal_BlurStyle, deviation))
    return paint


def _leans(matrix: skia.Matrix) -> bool:
    """Whether right angles do not stay right. A mask is blurred as if they did, which is far off where they do not."""
    a, c, b, d = (matrix.get(index) for index in (0, 1, 3, 4))
    return bool(matrix.hasPerspective() or abs(a * c + b * d) > 1e-6 * (abs(a * d) + abs(b * c)))


def _path(canvas: skia.Canvas, look: Look) -> None:
    canvas.save()
    canvas.scale(look["width"] / look["view_width"], look["height"] / look["view_height"])
    view = (look["view_width"], look["view_height"])
    _faded(canvas, look["fill"], lambda paint: canvas.drawPath(written(look), fill(paint, *view)))
    canvas.restore()
    # The outline stretches with its box, its stroke does not.
    stretched = outline("path", look)
    line = stroke(look, stretched)
    if line is not None:
        _drawn_along(canvas, stretched, line, look)


def _text(canvas: skia.Canvas, look: Look, fonts: Fonts) -> None:
    def set_in(paint: Any) -> None:
        ink = fill(paint, look["width"], look["height"])
        _faded(canvas, look["text"], lambda text: draw_text(canvas, text, look, ink, fonts))

    _faded(canvas, look["fill"], set_in)


def _picture(canvas: skia.Canvas, look: Look, read: Callable[[str], skia.Image | None] | None = None) -> None:
    decode = read or _decoded
    shape = rrect("picture", look)
    for shadow in reversed(look["shadows"]):
        if not shadow.inset:
            _cast(canvas, "picture", look, shadow)
    canvas.save()
    canvas.clipRRect(shape, skia.ClipOp.kIntersect, True)
    _faded(canvas, look["source"], lambda source: _fitted(canvas, decode(source), look))
    canvas.restore()


def _medium(canvas: skia.Canvas, look: Look) -> None:
    _picture(canvas, look, lambda source: _frame(source, look["playhead"]))


def _frame(source: str, t_ms: float) -> skia.Image | None:
    """What a medium shows at a moment of it; None for what cannot be read."""
    try:
        pixels = reel_of(source).at(t_ms)
    except MediumFault:
        return None
    if (alpha := pixels[..., 3:]).min() < 255:
        # Smaller, what is transparent must not lend its colour to what is beside it.
        faded = (pixels[..., :3].astype(np.uint16) * alpha + 127) // 255
        pixels = np.concatenate((faded.astype(np.uint8), alpha), axis=-1)
    return skia.Image.fromarray(
        np.ascontiguousarray(pixels), colorType=skia.kRGBA_8888_ColorType, alphaType=skia.kPremul_AlphaType
    )


def _fitted(canvas: skia.Canvas, image: skia.Image | None, look: Look) -> None:
    if image is None:
        return
    left, top, across, down = fitted(look, image.width(), image.height())
    width, height = image.width() * across, image.height() * down
    canvas.drawImageRect(image, skia.Rect.MakeXYWH(left, top, width, height), SMOOTH)


def fitted(look: Look, width: float, height: float) -> tuple[float, float, float, float]:
    """Where a picture of that size begins in the box of its layer (px), and how much larger it is across and down."""
    across, down = look["width"] / width, look["height"] / height
    if look["fit"] != "fill":
        across = down = max(across, down) if look["fit"] == "cover" else min(across, down)
    left, top = (look["width"] - width * across) * look["focus_x"], (look["height"] - height * down) * look["focus_y"]
    return left, top, across, down


def pixels_of(source: str) -> np.ndarray[Any, np.dtype[np.uint8]] | None:
    """The picture of a data: URL, (height, width, 4) RGBA, not premultiplied; None for what is none."""
    image = _decoded(source)
    return None if image is None else np.asarray(image.toarray(colorType=skia.kRGBA_8888_ColorType))


@lru_cache(maxsize=64)
def _decoded(source: str) -> skia.Image | None:
    """The picture of a data: URL; None for what is none."""
    return skia.Image.MakeFromEncoded(skia.Data.MakeWithCopy(base64.b64decode(source.partition(",")[2])))


KINDS: dict[str, Callable[[skia.Canvas, Look, Fonts], None]] = {
    "group": _group,
    "placement": _group,
    "rectangle": lambda canvas, look, _: _box(canvas, look, "rectangle"),
    "ellipse": lambda canvas, look, _: _box(canvas, look, "ellipse"),
    "path": lambda canvas, look, _: _path(canvas, look),
    "text": _text,
    "picture": lambda canvas, look, _: _picture(canvas, look),
    "medium": lambda canvas, look, _: _medium(canvas, look),
}
