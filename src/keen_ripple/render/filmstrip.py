"""Filmstrips: moments of a run on one sheet, in rows from the left, each with its time."""

from __future__ import annotations

import math
from typing import Any

import skia

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.run import Run
from keen_ripple.core.timeline import Timeline
from keen_ripple.render.draw import Pixels, draw_each
from keen_ripple.render.paints import argb
from keen_ripple.render.text import draw_text

MOST_FRAMES = 120
PAPER, STAGE, INK = "#f5f2ea", "#eaf0ec", "#15293b"
GAP, CAPTION = 10, 18
# px: how wide a frame is at most.
WIDEST = 200.0


def filmstrip(
    timeline: Timeline, frames: int, ground: str | None = None, part: tuple[float, float] | None = None
) -> Pixels:
    """Pixels (height, width, 4), RGBA, of `frames` moments at equal distances.

    A loop begins with its first moment and does not show it again; a run that ends, and a `part` of one (from, to; ms),
    is shown to its end. `ground`, a CSS colour, takes the place of the piece's own. Raises Fault for less than 2 or
    more than 120 frames, for a part that is none.
    """
    if not 2 <= frames <= MOST_FRAMES:
        raise Fault(f"{frames} frames cannot be had.", value=frames, remedy=f"Ask for 2 to {MOST_FRAMES}.")
    piece, run = timeline.piece, timeline.run
    if part is not None and not 0.0 <= part[0] < part[1] <= run.total_ms:
        raise Fault(f"No part from {part[0]:g} to {part[1]:g} ms.", remedy=f"Keep inside 0 to {run.total_ms} ms.")
    if ground is not None:
        parse_colour(ground)
    scale = min(WIDEST / piece.width, 1.0)
    width, height = max(round(piece.width * scale), 1), max(round(piece.height * scale), 1)
    columns = min(frames, max(math.ceil(math.sqrt(frames * 1.5 * height / width)), 3))
    rows = math.ceil(frames / columns)
    surface = skia.Surface(GAP + columns * (width + GAP), GAP + rows * (height + CAPTION + GAP))
    canvas = surface.getCanvas()
    canvas.clear(argb(PAPER))
    moments = _moments(run, frames, part)
    pictures = draw_each(timeline, moments, scale, ground or piece.ground or STAGE)
    for index, (t_ms, picture) in enumerate(zip(moments, pictures, strict=True)):
        x, y = GAP + index % columns * (width + GAP), GAP + index // columns * (height + CAPTION + GAP)
        canvas.drawImage(skia.Image.fromarray(picture, skia.kRGBA_8888_ColorType), x, y)
        canvas.save()
        canvas.translate(x, y + height)
        draw_text(canvas, f"{t_ms:.0f} ms", _caption(width), skia.Paint(Color=argb(INK), AntiAlias=True))
        canvas.restore()
    image: Pixels = surface.makeImageSnapshot().toarray(colorType=skia.kRGBA_8888_ColorType)
    return image


def _moments(run: Run, frames: int, part: tuple[float, float] | None) -> list[float]:
    if run.loop_ms is not None and part is None:
        return [run.lead_in_ms + run.loop_ms * index / frames for index in range(frames)]
    begin, end = part or (0.0, float(run.total_ms))
    return [begin + (end - begin) * index / (frames - 1) for index in range(frames)]


def _caption(width: float) -> dict[str, Any]:
    letters = {"font_family": "JetBrains Mono", "font_size": 10.5, "font_weight": 500.0, "letter_spacing": 0.0}
    return {
        **letters,
        "width": width,
        "height": float(CAPTION),
        "line_height": 1.3,
        "text_align": "left",
        "white_space": "pre",
    }
