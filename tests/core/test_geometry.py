"""Bounds of outlines, against hand-made cases and against a dense outline."""

from __future__ import annotations

import math
import random
from typing import Any

import pytest
from selenium import webdriver

from keen_ripple.core.document import read_piece
from keen_ripple.core.flow.poses import poses_of
from keen_ripple.core.measures.geometry import boxes, outline_points, placed, seen
from support import piece

PLACE = {"id": "box", "name": "Box", "x": 10, "y": 20, "width": 40, "height": 30}
RADII = ("radius_top_left", "radius_top_right", "radius_bottom_right", "radius_bottom_left")


def box(*layers: dict[str, Any], of: str = "box") -> tuple[float, ...]:
    document = read_piece(piece(list(layers), states=[{"id": "a", "name": "A"}], transitions=[]))
    return boxes(document, poses_of(document)["a"])[of]


def around(size: float, middle: tuple[float, float] = (30, 35), height: float | None = None) -> tuple[float, ...]:
    height = size if height is None else height
    return (middle[0] - size / 2, middle[1] - height / 2, size, height)


ROOT = math.sqrt(0.5)
COS30 = math.cos(math.pi / 6)
CASES = {
    "a rectangle": ({"kind": "rectangle"}, (10, 20, 40, 30)),
    "scaled about its middle": ({"kind": "rectangle", "scale_x": 2, "scale_y": 0.5}, (-10, 27.5, 80, 15)),
    "scaled about its corner": ({"kind": "rectangle", "scale_x": 2, "pivot_x": 0, "pivot_y": 0}, (10, 20, 80, 30)),
    "mirrored": ({"kind": "rectangle", "scale_x": -1, "pivot_x": 0}, (-30, 20, 40, 30)),
    "a quarter turn": ({"kind": "rectangle", "rotation": 90}, around(30, height=40)),
    "an eighth turn": ({"kind": "rectangle", "rotation": 45}, around(70 * ROOT)),
    "two turns": ({"kind": "rectangle", "rotation": 720}, (10, 20, 40, 30)),
    "nothing wide": ({"kind": "rectangle", "width": 0, "rotation": 90}, (-5, 35, 30, 0)),
    "an ellipse turned": (
        {"kind": "ellipse", "rotation": 30},
        around(math.hypot(40 * COS30, 15), height=math.hypot(20, 30 * COS30)),
    ),
    "a circle turned": ({"kind": "ellipse", "width": 30, "rotation": 77}, (10, 20, 30, 30)),
    # The straight part of the box is 20×10; its turned bounds grow by the radius on each side.
    "round corners turned": ({"kind": "rectangle", "rotation": 45, **dict.fromkeys(RADII, 10)}, around(30 * ROOT + 20)),
    "a stroke does not count": ({"kind": "rectangle", "stroke": "red", "stroke_width": 20}, (10, 20, 40, 30)),
    "a path": (
        {"kind": "path", "path": "M0 0Q10 20 20 0", "view_width": 20, "view_height": 10},
        (10, 20, 40, 30),
    ),
    "a path turned": (
        {"kind": "path", "path": "M0 0L20 0L0 10Z", "view_width": 20, "view_height": 10, "rotation": 180},
        (10, 20, 40, 30),
    ),
}  # fmt: skip


@pytest.mark.parametrize("case", CASES.values(), ids=CASES.keys())
def test_bounds(case: tuple[dict[str, Any], tuple[float, ...]]) -> None:
    layer, expected = case
    assert box({**PLACE, **layer}) == pytest.approx(expected, abs=1e-9)


def test_corners_too_round_shrink_together() -> None:
    # Radii of 60 in a 40×30 box become 15: a stadium, whose turned bounds are a 10 px line and 15 around it.
    layer = {**PLACE, "kind": "rectangle", "rotation": 45, **dict.fromkeys(RADII, 60)}
    assert box(layer) == pytest.approx(around(10 * ROOT + 30), abs=1e-9)


@pytest.mark.parametrize("case", range(60))
def test_bounds_are_those_of_a_dense_outline(case: int) -> None:
    """Corners of all sizes, opposite ones as large as the box among them, turned, leaned and mirrored."""
    rng = random.Random(case)
    radii = {name: rng.choice([0, 4, 15, 40, 300]) for name in RADII}
    if case % 4 == 0:
        radii = dict(zip(RADII, (300, 0, 300, 0) if case % 8 else (0, 40, 0, 40), strict=True))
    bend = {"rotation": rng.uniform(-180, 180), "skew_x": rng.uniform(-50, 50), "scale_x": rng.choice([1, -2, 0.3])}
    layer = {**PLACE, "kind": "rectangle", **radii, **bend}
    document = read_piece(piece([layer], states=[{"id": "a", "name": "A"}], transitions=[]))
    pose = poses_of(document)["a"]
    [(_, matrix)] = placed(document.layers, pose)
    points = seen(outline_points("rectangle", pose["box"], 4000), matrix)
    low, high = points.min(axis=0), points.max(axis=0)
    assert boxes(document, pose)["box"] == pytest.approx((*low, *(high - low)), abs=1e-4)


def test_matrices_of_groups_multiply() -> None:
    inner = {**PLACE, "kind": "rectangle", "x": 10, "y": 0, "width": 20, "height": 10}
    outer = {**PLACE, "id": "group", "kind": "group", "rotation": 90, "scale_x": 2, "scale_y": 2, "layers": [inner]}
    # Around the group's middle (30, 35): its content's x axis runs down, its y axis to the left, both doubled.
    assert box(outer, of="group") == pytest.approx(around(60, height=80), abs=1e-9)
    assert box(outer, of="box") == pytest.approx((40, 15, 20, 40), abs=1e-9)


def css(look: dict[str, float]) -> str:
    """The same layer in CSS."""
    eye = f"perspective({look['perspective']}px) " if look["perspective"] else ""
    return (
        f"position: absolute; left: 0; top: 0; width: {look['width']}px; height: {look['height']}px; "
        f"transform-origin: {look['pivot_x'] * 100}% {look['pivot_y'] * 100}%; translate: {look['x']}px {look['y']}px; "
        f"rotate: {look['rotation']}deg; scale: {look['scale_x']} {look['scale_y']}; transform: {eye}"
        f"rotateX({look['rotation_x']}deg) rotateY({look['rotation_y']}deg) "
        f"skewX({look['skew_x']}deg) skewY({look['skew_y']}deg)"
    )


def test_layers_in_space_are_where_chromium_sees_them(browser: webdriver.Chrome) -> None:
    rng = random.Random(3)

    def look(size: float) -> dict[str, float]:
        turns = {name: rng.uniform(-50, 50) for name in ("rotation", "rotation_x", "rotation_y", "skew_x", "skew_y")}
        scales = {name: rng.uniform(0.5, 2) for name in ("scale_x", "scale_y")}
        pivots = {name: rng.uniform(0, 1) for name in ("pivot_x", "pivot_y")}
        place = {"x": rng.uniform(0, 60), "y": rng.uniform(0, 60), "width": size, "height": size / 2}
        return {**place, **turns, **scales, **pivots, "perspective": rng.choice([0.0, 250.0, 800.0])}

    pairs = [(look(80), look(30)) for _ in range(40)]
    groups = [
        {
            "kind": "group",
            "id": f"g{i}",
            "name": "G",
            **outer,
            "layers": [{"kind": "rectangle", "id": f"l{i}", "name": "L", **inner}],
        }
        for i, (outer, inner) in enumerate(pairs)
    ]
    document = read_piece(piece(groups, states=[{"id": "a", "name": "A"}], transitions=[]))
    found = boxes(document, poses_of(document)["a"])
    elements = [
        f'<div style="{css(outer)}"><div id="l{i}" style="{css(inner)}"></div></div>'
        for i, (outer, inner) in enumerate(pairs)
    ]
    browser.get("data:text/html,<!doctype html><body style='margin: 0'>")
    browser.execute_script("document.body.innerHTML = arguments[0]", "".join(elements))
    for i in range(len(pairs)):
        seen = browser.execute_script(f"const r = l{i}.getBoundingClientRect(); return [r.x, r.y, r.width, r.height]")
        assert found[f"l{i}"] == pytest.approx(seen, abs=0.02, rel=1e-4), pairs[i]
