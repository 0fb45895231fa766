"""Pairs of icons of a package, halfway from one to the other: no new crossings, and area is left."""

from __future__ import annotations

import random
import re
from pathlib import Path

import numpy as np
import pytest
import skia

from keen_ripple.core.blends import blend_named
from keen_ripple.core.outlines import crossings, subpaths
from keen_ripple.render.shapes import written

ICONS = Path(__file__).parents[2] / "frontend" / "node_modules" / "bootstrap-icons" / "icons"
PAIRS = 60


def outlines() -> list[str]:
    found = [" ".join(re.findall(r' d="([^"]+)"', file.read_text())) for file in sorted(ICONS.glob("*.svg"))]
    return [data for data in found if 0 < len(data) < 4000]


def crossed(data: str) -> int:
    return crossings([path.polygon for path in subpaths(data)])


def filled(data: str) -> float:
    """What is painted, in px² of the icon's own size of 16."""
    surface = skia.Surface(192, 192)
    canvas = surface.getCanvas()
    canvas.scale(8, 8)
    canvas.translate(4, 4)
    canvas.drawPath(written({"path": data, "fill_rule": "nonzero"}), skia.Paint(AntiAlias=True))
    return float(surface.makeImageSnapshot().toarray()[:, :, 3].sum()) / 255 / 64


@pytest.fixture(scope="module")
def pairs() -> list[tuple[str, str, str]]:
    rng = random.Random(5)
    chosen = [rng.sample(outlines(), 2) for _ in range(PAIRS)]
    blend = blend_named("path", "oklab")
    return [(a, b, blend.between(a, b).value(np.array([0.5]))) for a, b in chosen]


def test_hardly_any_halfway_shape_crosses_more_than_its_ends(pairs: list[tuple[str, str, str]]) -> None:
    worse = [1 for a, b, middle in pairs if crossed(middle) > max(crossed(a), crossed(b))]
    assert len(worse) <= 0.05 * PAIRS


def test_no_halfway_shape_has_collapsed(pairs: list[tuple[str, str, str]]) -> None:
    assert [1 for a, b, middle in pairs if filled(middle) < 0.4 * min(filled(a), filled(b))] == []


def test_both_ends_keep_their_area(pairs: list[tuple[str, str, str]]) -> None:
    blend = blend_named("path", "oklab")
    for a, b, _ in pairs:
        between = blend.between(a, b)
        for end, share in ((a, 0.0), (b, 1.0)):
            assert filled(between.value(np.array([share]))) == pytest.approx(filled(end), rel=0.01)
