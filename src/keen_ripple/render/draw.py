"""Whole pieces: a pose, or a moment of the run, on a surface."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from typing import Any

import numpy as np
import skia

from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.timeline import Timeline, each_sample, left_at
from keen_ripple.render.layers import added, draw_layers
from keen_ripple.render.paints import argb

MOST_PIXELS = 64_000_000

Area = tuple[float, float, float, float]
Pixels = np.ndarray[Any, np.dtype[np.uint8]]


def draw_pose(piece: Piece, pose: Pose, scale: float = 1.0, ground: str | None = None) -> Pixels:
    """Pixels (height, width, 4), RGBA, not premultiplied; `ground` in place of the piece's own, `none` for none."""
    return _drawn(piece, [(pose, 1.0)], scale, ground)


def draw_at(timeline: Timeline, t_ms: float, scale: float = 1.0, ground: str | None = None) -> Pixels:
    """The same at a moment of the run; in a cross-fade both looks are added up."""
    return next(draw_each(timeline, [t_ms], scale, ground))


def draw_each(
    timeline: Timeline, times_ms: Sequence[float], scale: float = 1.0, ground: str | None = None
) -> Iterator[Pixels]:
    """The same at several moments, one after another; to find their poses together takes half of the time."""
    return (_drawn(timeline.piece, looks, scale, ground) for looks in looks_at(timeline, times_ms))


def looks_at(timeline: Timeline, times_ms: Sequence[float]) -> Iterator[list[tuple[Pose, float]]]:
    """What is seen at each moment, each with its share (0–1): in cross-fades also the looks that they leave."""
    for t_ms, pose in zip(times_ms, each_sample(timeline, times_ms), strict=True):
        left = left_at(timeline, t_ms)
        yield [*left, (pose, 1.0 - sum(share for _, share in left))]


def draw_layer(piece: Piece, layer: LayerBase, pose: Pose, area: Area, scale: float) -> Pixels:
    """One layer of a pose with all that is in it, as it lies in its group.

    `area` is (left, top, width, height) in px of that group. Shape and form as of `draw_pose`, without any ground.
    """
    left, top, *sides = area
    width, height = (max(round(side * scale), 1) for side in sides)
    surface = skia.Surface(width, height)
    canvas = surface.getCanvas()
    canvas.clear(argb("none"))
    canvas.scale(scale, scale)
    canvas.translate(-left, -top)
    # Alone, even what cuts others is seen itself.
    draw_layers(canvas, [layer.model_copy(update={"mask": False})], pose, piece.fonts)
    return np.asarray(surface.makeImageSnapshot().toarray(colorType=skia.kRGBA_8888_ColorType))


def colour_at(piece: Piece, pose: Pose, x: float, y: float) -> tuple[float, float, float, float]:
    """(r, g, b, alpha), each 0–255, of the pixel there in px of the piece; transparent outside of it."""
    if not (0.0 <= x < piece.width and 0.0 <= y < piece.height):
        return (0.0, 0.0, 0.0, 0.0)
    surface = skia.Surface(1, 1)
    canvas = surface.getCanvas()
    canvas.clear(argb(piece.ground or "none"))
    canvas.translate(-math.floor(x), -math.floor(y))
    draw_layers(canvas, piece.layers, pose, piece.fonts)
    r, g, b, alpha = surface.makeImageSnapshot().toarray(colorType=skia.kRGBA_8888_ColorType)[0, 0].tolist()
    return (float(r), float(g), float(b), float(alpha))


def png(pixels: Pixels) -> bytes:
    """The pixels as a PNG file."""
    image = skia.Image.fromarray(np.ascontiguousarray(pixels), skia.kRGBA_8888_ColorType)
    return bytes(image.encodeToData(skia.kPNG, 100))


def _drawn(piece: Piece, looks: list[tuple[Pose, float]], scale: float, ground: str | None) -> Pixels:
    width, height = (max(round(side * scale), 1) for side in (piece.width, piece.height))
    if width * height > MOST_PIXELS:
        raise Fault(
            f"The picture would be {width} × {height} px.", value=scale, remedy="Choose a scale that makes it smaller."
        )
    surface = skia.Surface(width, height)
    canvas = surface.getCanvas()
    canvas.clear(argb(ground or piece.ground or "none"))
    canvas.scale(scale, scale)
    added(canvas, looks, lambda pose: draw_layers(canvas, piece.layers, pose, piece.fonts))
    image = surface.makeImageSnapshot()
    premultiplied = image.toarray(colorType=skia.kRGBA_8888_ColorType, alphaType=skia.kPremul_AlphaType)
    # What is opaque throughout is the same either way, and dividing takes most of the time.
    if (premultiplied[..., 3] == 255).all():
        return np.asarray(premultiplied)
    return np.asarray(image.toarray(colorType=skia.kRGBA_8888_ColorType))
