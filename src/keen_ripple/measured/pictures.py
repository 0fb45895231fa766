"""Moving pictures, decoded again, and Lottie, played by another player: their pixels beside those that are drawn."""

from __future__ import annotations

import base64
import json
from collections.abc import Iterable

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.frames import part_of, played
from keen_ripple.handoff.lottie import LOTTIE, MEDIA_TYPE
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.pictures import APNG, GIF, WEBM, WEBP
from keen_ripple.handoff.progress import along
from keen_ripple.measured.result import Measured, NotMeasured, Worst
from keen_ripple.media import MediumFault, Reel, reel_of
from keen_ripple.render.draw import Pixels, draw_each

__all__ = ["LOTTIE", "MEDIA", "measured_lottie", "measured_pictures"]
MEDIA = {form.name: form for form in (GIF, APNG, WEBP, WEBM)}
# What counts as off, of 255.
FAR = 16.0
# Each frame is seen for longer than this.
ASIDE_MS = 0.5


def measured_pictures(timeline: Timeline, name: str, files: Files, options: Options, count: int) -> Measured:
    """At so many of its frames, each against the drawing of its moment."""
    [data] = files.values()
    reel = _reel(MEDIA[name].media_type, data)
    drawn = MEDIA[name].drawn(timeline, options)
    starts = np.cumsum([0, *(frame.length_ms for frame in drawn.frames)]).tolist()
    chosen = np.unique(np.linspace(0, len(drawn.frames) - 1, count).astype(int)).tolist()
    shown = drawn.timeline
    moments = [drawn.frames[index].t_ms for index in chosen]
    theirs = (reel.at(starts[index] + ASIDE_MS) for index in along(chosen))
    ours = draw_each(shown, moments, options.scale, options.ground)
    beside = zip(moments, theirs, ours, strict=True)
    return Measured("the decoders of media", len(chosen), _worst(beside))


def measured_lottie(timeline: Timeline, files: Files, count: int) -> Measured:
    """At so many of its frames, drawn by rlottie as large as that draws it."""
    [data] = files.values()
    document, shown = json.loads(data), played(timeline)
    begin = part_of(shown.run).begin_ms
    try:
        reel = _reel(MEDIA_TYPE, data)
    except MediumFault as fault:
        # It has limits for what comes from anywhere.
        why = f"Not measured: {fault.message}"
        raise NotMeasured(why, remedy="Players without such limits show it all the same.") from None
    chosen = np.unique(np.linspace(0, document["op"] - 1, count).astype(int)).tolist()

    within = [index * 1000.0 / document["fr"] for index in chosen]
    moments = [begin + t for t in within]
    theirs = (reel.at(t + ASIDE_MS) for t in along(within))
    ours = draw_each(shown, moments, reel.at(0.0).shape[1] / document["w"])
    return Measured("rlottie", len(chosen), _worst(zip(moments, theirs, ours, strict=True)))


def _reel(media_type: str, data: bytes) -> Reel:
    return reel_of(f"data:{media_type};base64,{base64.b64encode(data).decode()}")


def _worst(beside: Iterable[tuple[float, Pixels, Pixels]]) -> dict[str, Worst]:
    """Of moments, what is seen then in the file, and what is drawn."""
    worst = {"mean": Worst(0.0), "off": Worst(0.0)}
    for t, theirs, ours in beside:
        # Films have sides of even px.
        height, width = (min(sides) for sides in zip(theirs.shape[:2], ours.shape[:2], strict=True))
        off = np.abs(_over_white(theirs)[:height, :width] - _over_white(ours)[:height, :width])
        worst["mean"] = worst["mean"].or_more(float(off.mean()), t)
        worst["off"] = worst["off"].or_more(float((off.max(axis=2) > FAR).mean()), t)
    return worst


def _over_white(pixels: Pixels) -> Floats:
    share = pixels[..., 3:] / 255.0
    return np.asarray(pixels[..., :3] * share + 255.0 * (1.0 - share))
