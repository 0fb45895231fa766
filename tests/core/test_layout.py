"""Rows, columns and resize rules, laid out at states and interpolated between."""

from __future__ import annotations

from typing import Any

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.flow.poses import poses_of
from keen_ripple.core.timeline import sample, timeline_of
from support import piece, way


def box(name: str, x: float = 0, y: float = 0, width: float = 20, height: float = 10, **rest: Any) -> dict[str, Any]:
    return {"kind": "rectangle", "id": name, "name": name, "x": x, "y": y, "width": width, "height": height, **rest}


def group(layers: list[dict[str, Any]], name: str = "group", **rest: Any) -> dict[str, Any]:
    size = {"x": 0, "y": 0, "width": 100, "height": 50}
    return {"kind": "group", "id": name, "name": name, **size, "layers": layers, **rest}


def posed(layers: list[dict[str, Any]], **changes: Any) -> dict[str, tuple[float, ...]]:
    states = [{"id": "s", "name": "S"}, {"id": "t", "name": "T", "changes": changes}]
    ways = [way("s", "t", {"kind": "curve", "duration_ms": 100, "easing": "linear"})]
    pose = poses_of(read_piece(piece(layers, states=states, start="s", transitions=ways)))["t"]
    return {name: tuple(look[key] for key in ("x", "y", "width", "height")) for name, look in pose.items()}


THREE = [box("a"), box("b", width=30), box("c")]


@pytest.mark.parametrize(
    ("rules", "places", "widths"),
    [
        ({}, [0, 20, 50], [20, 30, 20]),
        ({"gap": 5, "padding_x": 4}, [4, 29, 64], [20, 30, 20]),
        ({"justify": "end"}, [30, 50, 80], [20, 30, 20]),
        ({"justify": "centre"}, [15, 35, 65], [20, 30, 20]),
        ({"justify": "between"}, [0, 35, 80], [20, 30, 20]),
        # Too little room is not shared out: what does not fit sticks out.
        ({"justify": "between", "gap": 40}, [0, 60, 130], [20, 30, 20]),
    ],
)
def test_rows(rules: dict[str, Any], places: list[float], widths: list[float]) -> None:
    found = posed([group(THREE, layout="row", **rules)])
    assert [found[name][0] for name in "abc"] == places
    assert [found[name][2] for name in "abc"] == widths


def test_padding_that_is_wider_than_the_group_leaves_nothing() -> None:
    found = posed([group(THREE, layout="row", padding_x=60, padding_y=40, align="stretch", justify="centre")])
    # Of no room, what sticks out does so on both sides of the padding.
    assert [found[name][0] for name in "abc"] == [60 - 35, 60 - 15, 60 + 15]
    assert {found[name][1::2] for name in "abc"} == {(40, 0)}


def test_sums_of_grow_below_one_take_that_share() -> None:
    layers = [box("a", grow=0.25), box("b", width=30, grow=0.25), box("c")]
    found = posed([group(layers, layout="row", justify="end")])
    # 30 are left: half of them is shared out, half stays before.
    assert [found[name][2] for name in "abc"] == [27.5, 37.5, 20]
    assert [found[name][0] for name in "abc"] == [15, 42.5, 80]


@pytest.mark.parametrize(
    ("align", "y", "height"), [("start", 3, 10), ("centre", 20, 10), ("end", 37, 10), ("stretch", 3, 44)]
)
def test_across_a_row(align: str, y: float, height: float) -> None:
    found = posed([group(THREE, layout="row", align=align, padding_y=3)])
    assert {found[name][1::2] for name in "abc"} == {(y, height)}


def test_growing_shares_the_room_that_is_left() -> None:
    found = posed([group([box("a", grow=1), box("b"), box("c", grow=3)], layout="row")])
    assert [found[name][2] for name in "abc"] == [30, 20, 50]
    assert [found[name][0] for name in "abc"] == [0, 30, 50]


def test_a_column_closes_over_what_is_hidden() -> None:
    layers = [group([box("a"), box("b"), box("c")], layout="column", gap=2)]
    assert [posed(layers)[name][1] for name in "abc"] == [0, 12, 24]
    assert posed(layers, b={"visible": False})["c"][1] == 12


@pytest.mark.parametrize(
    ("rule", "x", "width"),
    [
        ("start", 10, 20),
        ("end", 70, 20),
        ("both", 10, 80),
        ("centre", 40, 20),
        ("scale", 16, 32),
        ("fixed", -20, 20),
    ],
)
def test_resize_rules_when_the_group_is_moved_by_30_and_60_px_wider(rule: str, x: float, width: float) -> None:
    found = posed([group([box("a", x=10, resize_x=rule)])], group={"x": 30, "width": 160})
    assert (found["a"][0], found["a"][2]) == (x, width)


def test_nested_groups_are_laid_out_from_the_outside_inwards() -> None:
    inner = group([box("a", resize_x="both")], name="inner", width=50, grow=1)
    found = posed([group([inner, box("b")], layout="row")])
    assert (found["inner"][2], found["b"][0]) == (80, 80)
    assert found["a"][2] == 50


def test_a_picture_stays_as_it_is_while_its_mask_opens() -> None:
    picture = box("picture", x=-30, width=100, resize_x="centre")
    mask = box("mask", width=40, height=50, resize_x="both", mask=True)
    states = [{"id": "s", "name": "S"}, {"id": "t", "name": "T", "changes": {"group": {"x": 50, "width": 140}}}]
    ways = [way("s", "t", {"kind": "curve", "duration_ms": 100, "easing": "ease-in"})]
    layers = [group([mask, picture], x=100, width=40)]
    document = piece(layers, states=states, start="s", transitions=ways)
    for pose in sample(timeline_of(read_piece(document)), range(0, 101, 10)):
        middle = pose["group"]["x"] + pose["picture"]["x"] + pose["picture"]["width"] / 2
        assert (middle, pose["picture"]["width"]) == (pytest.approx(120), 100)
        assert pose["mask"]["width"] == pytest.approx(pose["group"]["width"])
