"""What is written for browsers that blend otherwise looks the same in them."""

from __future__ import annotations

from bisect import bisect_right

import numpy as np
import pytest

from keen_ripple.core.blends.colours import SPACES, ColourBetween
from keen_ripple.core.colour import parse_colour
from keen_ripple.core.timeline import sample
from keen_ripple.handoff.curves import blends_apart
from keen_ripple.handoff.keyframes import animations_of
from keen_ripple.handoff.parts import parts_of
from support import piece, timeline_in, way

CURVE = {"kind": "curve", "duration_ms": 400, "easing": "cubic-bezier(0.4, 0, 0.2, 1)"}
NEAR, FAR = ("#1f7a70", "#237d74"), ("#1f4fd9", "#e0b010")


@pytest.mark.parametrize("blend, colours, apart", [("oklab", FAR, True), ("oklab", NEAR, False), ("srgb", FAR, False)])
def test_colours_are_the_same_where_keyframes_blend_in_srgb(blend: str, colours: tuple[str, str], apart: bool) -> None:
    document = piece(blend=blend, transitions=[way("a", "b", CURVE, hold_ms=50), way("b", "a", CURVE)])
    document["layers"][0]["fill"] = colours[0]
    document["states"][1]["changes"]["box"]["fill"] = colours[1]
    timeline = timeline_in(document)
    [track] = [track for track in timeline.tracks if track.property.name == "fill"]
    assert blends_apart(track) is apart
    [part] = parts_of(timeline, timeline.piece.layers[0])
    [frames] = [each.keyframes for each in animations_of(timeline, part) if "background" in each.keyframes[0].values]
    assert all(frame.easing != CURVE["easing"] for frame in frames) is apart
    if not apart:
        return
    times = [frame.t_ms for frame in frames]
    moments = np.linspace(1.0, timeline.run.total_ms - 1.0, 200)
    for t, pose in zip(moments, sample(timeline, moments), strict=True):
        index = bisect_right(times, t) - 1
        share = (t - times[index]) / (times[index + 1] - times[index])
        texts = [frame.values["background"] for frame in frames[index : index + 2]]
        [row] = ColourBetween.of(SPACES["srgb"], *texts).rows(np.array([share]))
        assert row[:3] == pytest.approx(parse_colour(pose["box"]["fill"])[:3], abs=2.0), t
