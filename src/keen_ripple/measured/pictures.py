"""Moving pictures, decoded again: their pixels beside those that are drawn."""

from __future__ import annotations

import base64

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.pictures import APNG, GIF, WEBM, WEBP
from keen_ripple.measured.result import Measured, Worst
from keen_ripple.media import reel_of
from keen_ripple.render.draw import Pixels, draw_at

MEDIA = {form.name: form for form in (GIF, APNG, WEBP, WEBM)}
# What counts as off, of 255.
FAR = 16.0
# Each frame is seen for longer than this.
ASIDE_MS = 0.5


def measured_pictures(timeline: Timeline, name: str, files: Files, options: Options, moments: int) -> Measured:
    """At so many of its frames, each against the drawing of its moment."""
    [data] = files.values()
    reel = reel_of(f"data:{MEDIA[name].media_type};base64,{base64.b64encode(data).decode()}")
    drawn = MEDIA[name].drawn(timeline, options)
    starts = np.cumsum([0, *(frame.length_ms for frame in drawn.frames)]).tolist()
    chosen = np.unique(np.linspace(0, len(drawn.frames) - 1, moments).astype(int)).tolist()
    worst = {"mean": Worst(0.0), "off": Worst(0.0)}
    for index in chosen:
        t = drawn.frames[index].t_ms
        ours = _over_white(draw_at(drawn.timeline, t, options.scale, options.ground))
        height, width = ours.shape[:2]
        off = np.abs(_over_white(reel.at(starts[index] + ASIDE_MS))[:height, :width] - ours)
        worst["mean"] = worst["mean"].or_more(float(off.mean()), t)
        worst["off"] = worst["off"].or_more(float((off.max(axis=2) > FAR).mean()), t)
    return Measured("the decoders of media", len(chosen), worst)


def _over_white(pixels: Pixels) -> Floats:
    share = pixels[..., 3:] / 255.0
    return np.asarray(pixels[..., :3] * share + 255.0 * (1.0 - share))
