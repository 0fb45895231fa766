"""What is shown when: moves, lanes, cuts, clamps, colours."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from keen_ripple.core.curves import Settle, Spring, parse_easing
from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import frame_times, sample, timeline_of
from support import piece, way

LINEAR = {"kind": "curve", "duration_ms": 100, "easing": "linear"}


def shown(document: dict[str, Any], prop: str, *times: float) -> list[Any]:
    poses = sample(timeline_of(read_piece(document)), times)
    return [pose["box"][prop] for pose in poses]


def test_a_move_follows_its_curve() -> None:
    ease = parse_easing("ease-out")
    expected = [10 + 100 * ease(t / 400) for t in (0, 100, 399)]
    assert shown(piece(), "x", 0, 100, 399) == pytest.approx(expected, abs=1e-9)


def test_poses_are_hit_exactly_and_cuts_show_the_new_value() -> None:
    assert shown(piece(), "x", 0, 400, 450, 499.999, 500, 900, 1000) == [10, 110, 110, 110, 10, 110, 10]


def test_moments_may_come_in_any_order() -> None:
    assert shown(piece(), "x", 450, 0, 450, 500) == [110, 10, 110, 10]


def lanes(*entries: dict[str, Any]) -> dict[str, Any]:
    document = piece()
    document["states"][1]["changes"]["box"] |= {"y": 120}
    document["transitions"] = [way("a", "b", LINEAR, lanes=list(entries))]
    return document


@pytest.mark.parametrize(
    ("entries", "x", "y"),
    [
        ([], [60, 110, 110], [70, 120, 120]),
        ([{"layer": "box", "delay_ms": 50}], [10, 60, 110], [20, 70, 120]),
        ([{"layer": "box", "property": "y", "delay_ms": 50}], [60, 110, 110], [20, 70, 120]),
        (
            [{"layer": "box", "property": "y", "delay_ms": 50}, {"layer": "box", "delay_ms": 100}],
            [10, 10, 60],
            [20, 70, 120],
        ),
        ([{"layer": "box", "timing": {**LINEAR, "duration_ms": 200}}], [35, 60, 85], [45, 70, 95]),
    ],
)  # fmt: skip
def test_lanes(entries: list[dict[str, Any]], x: list[float], y: list[float]) -> None:
    document = lanes(*entries)
    assert shown(document, "x", 50, 100, 150) == x
    assert shown(document, "y", 50, 100, 150) == y


def test_a_spring_moves_until_it_has_settled() -> None:
    document = piece()
    document["transitions"][0]["timing"] = {"kind": "spring", "stiffness": 420, "damping": 24}
    settle = Settle.of(Spring(420, 24))
    expected = [10 + 100 * Spring(420, 24).position(t / 1000) for t in (50, 189, 590)]
    assert shown(document, "x", 50, 189, 590) == pytest.approx(expected, abs=1e-9)
    assert shown(document, "x", settle.duration_ms) == [110]


@pytest.mark.parametrize(
    ("prop", "start", "end", "least", "most"),
    [("width", 4, 0, 0, None), ("opacity", 0.2, 1, 0, 1), ("opacity", 1, 0, 0, 1), ("radius_top_left", 0, 9, 0, None)],
)
def test_overshoot_is_clamped_where_the_table_says(
    prop: str, start: float, end: float, least: float, most: float | None
) -> None:
    document = piece()
    document["layers"][0][prop] = start
    document["states"][1]["changes"] = {"box": {prop: end}}
    document["transitions"][0]["timing"] = {
        "kind": "curve",
        "duration_ms": 400,
        "easing": "cubic-bezier(0.5, -1, 0.5, 2)",
    }
    values = shown(document, prop, *range(0, 400, 5))
    assert min(values) >= least
    assert most is None or max(values) <= most
    assert len(set(values)) > 20


@pytest.mark.parametrize(
    ("blend", "start", "end", "middle"),
    [
        ("srgb", "#ff0000", "#0000ff", "#800080"),
        ("oklab", "#ff0000", "#0000ff", "#8c53a2"),
        ("oklab", "#000", "#fff", "#636363"),
        ("oklab", "none", "#1f7a70", "#1f7a7080"),
        ("oklab", "#1f7a70", "transparent", "#1f7a7080"),
        ("srgb", "#ff000080", "#00ff00", "#55aa00c0"),
    ],
)
def test_colours_blend_in_the_space_of_the_piece(blend: str, start: str, end: str, middle: str) -> None:
    document = piece(blend=blend, transitions=[way("a", "b", LINEAR)])
    document["layers"][0]["fill"] = start
    document["states"][1]["changes"] = {"box": {"fill": end}}
    assert shown(document, "fill", 50) == [middle]


def test_only_what_changes_during_the_run_has_a_track() -> None:
    document = piece()
    document["states"].append({"id": "c", "name": "C", "changes": {"box": {"y": 5}}})
    document["transitions"].append(way("b", "c", LINEAR, cue="tap"))
    tracks = timeline_of(read_piece(document)).tracks
    assert [(track.layer, track.property.name) for track in tracks] == [("box", "x")]


def test_frames_of_a_loop_leave_out_its_return() -> None:
    looping, ending = timeline_of(read_piece(piece())).run, timeline_of(read_piece(lanes())).run
    assert frame_times(looping, 10) == [0, 100, 200, 300, 400]
    assert np.allclose(frame_times(ending, 30), [0, 100 / 3, 200 / 3, 100])
