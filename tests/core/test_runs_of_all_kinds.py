"""Appearing, play counts, undercurrents, cross-fades, and states that are left early."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import DocumentFault
from keen_ripple.core.measures.seam import seam_of
from keen_ripple.core.operations.retime import fitted, scaled
from keen_ripple.core.timeline import Timeline, cross_fade_at, sample, timeline_of
from support import DEMO, piece, way

LINEAR = {"kind": "curve", "duration_ms": 100, "easing": "linear"}
SPRING = {"kind": "spring", "stiffness": 170, "damping": 14}


def played(**rest: Any) -> Timeline:
    return timeline_of(read_piece(piece(**rest)))


def x_at(timeline: Timeline, *times: float) -> list[float]:
    return [pose["box"]["x"] for pose in sample(timeline, times)]


def test_what_appears_appears_once() -> None:
    ways = [way("a", "b", LINEAR, cue="appear", hold_ms=50), way("b", "a", LINEAR, hold_ms=70)]
    run = played(transitions=ways).run
    assert (run.lead_in_ms, run.loop_ms, run.final_state) == (320, None, "a")
    ways.append({**way("a", "b", LINEAR, hold_ms=10), "id": "again"})
    run = played(transitions=ways).run
    assert (run.lead_in_ms, run.loop_ms) == (0, 280)
    ways[2]["hold_ms"] = 60
    run = played(transitions=ways).run
    assert (run.lead_in_ms, run.loop_ms) == (150, 330)
    assert [segment.transition for segment in run.segments if segment.kind == "travel"] == ["a-to-b", "b-to-a", "again"]


def test_a_loop_is_played_as_often_as_it_says() -> None:
    ways = [way("a", "b", LINEAR), way("b", "a", LINEAR)]
    timeline = played(transitions=ways, plays=3)
    assert (timeline.run.loop_ms, timeline.run.end_ms) == (200, 600)
    assert x_at(timeline, 50, 450, 599, 600, 9000) == pytest.approx([60, 60, 11, 10, 10])
    assert timeline.run.common_loop_ms is None


def sweep(period: int, states: list[str] | None = None, **course: Any) -> dict[str, Any]:
    keys = [{"at_ms": 0, "value": 0}, {"at_ms": period, "value": 360}]
    return {
        "id": f"u{period}",
        "name": "Sweep",
        "period_ms": period,
        "states": states,
        "courses": [{"layer": "box", "property": "rotation", "keys": keys, **course}],
    }


@pytest.mark.parametrize(("periods", "common"), [([], 500), ([300], 1500), ([300, 700], 10500), ([1, 499], 249500)])
def test_the_common_loop_is_exact(periods: list[int], common: int) -> None:
    assert played(undercurrents=[sweep(period) for period in periods]).run.common_loop_ms == common


def test_undercurrents_go_round_where_they_run() -> None:
    timeline = played(undercurrents=[sweep(300, ["b"])])
    turns = [pose["box"]["rotation"] for pose in sample(timeline, [100, 405, 475, 499, 975])]
    # Only while b rests, from 400 to 500 ms of each round, in step with the start of the piece.
    assert turns == pytest.approx([0, 126, 210, 238.8, 90])


def test_undercurrents_go_on_when_the_run_has_ended() -> None:
    keys = [{"at_ms": 0, "value": 0, "easing": "ease-out"}, {"at_ms": 100, "value": 50}]
    course = sweep(400, property="y", keys=keys)
    timeline = played(transitions=[way("a", "b", LINEAR)], undercurrents=[course])
    # The run rests after 100 ms, and is shown for as long as what goes round takes.
    assert (timeline.run.lead_in_ms, timeline.run.loop_ms, timeline.run.common_loop_ms) == (100, 400, 400)
    # From the last key, at 100 ms, straight back to the first.
    assert [pose["box"]["y"] for pose in sample(timeline, [4100, 4250, 4400])] == pytest.approx([50, 25, 0])


@pytest.mark.parametrize(
    ("course", "place"),
    [
        ({"property": "stroke_cap"}, "property"),
        ({"layer": "nobody"}, "layer"),
        ({"keys": [{"at_ms": 5, "value": 0}, {"at_ms": 9, "value": 1}]}, "keys"),
        ({"keys": [{"at_ms": 0, "value": 0}, {"at_ms": 900, "value": 1}]}, "keys"),
        ({"keys": [{"at_ms": 0, "value": "red"}, {"at_ms": 9, "value": 1}]}, "keys/0/value"),
    ],
)
def test_undercurrents_that_make_no_sense(course: dict[str, Any], place: str) -> None:
    with pytest.raises(DocumentFault) as caught:
        read_piece(piece(undercurrents=[sweep(300, **course)]))
    assert caught.value.place == f"/undercurrents/0/courses/0/{place}"
    assert caught.value.remedy


def test_a_cross_fade_shows_both_looks() -> None:
    ways = [way("a", "b", {**LINEAR, "easing": "ease-in"}, style="cross-fade"), way("b", "a", LINEAR, hold_ms=50)]
    timeline = played(transitions=ways)
    assert timeline.run.loop_ms == 250
    under, share = cross_fade_at(timeline, 50)
    assert (under["box"]["x"], share) == (10, pytest.approx(0.3153, abs=1e-3))
    assert x_at(timeline, 50) == [110]
    assert cross_fade_at(timeline, 120) is None


def test_a_state_that_is_left_early_hands_its_speed_on() -> None:
    ways = [way("a", "b", SPRING, early_ms=400), way("b", "a", SPRING, early_ms=450)]
    timeline = played(transitions=ways)
    run = timeline.run
    assert run.loop_ms is not None and run.lead_in_ms > 0
    times = np.arange(0.0, run.total_ms + run.loop_ms, 0.5)
    places = np.array(x_at(timeline, *times))
    # Neither places nor speeds jump, at the seam no more than where one motion takes over another.
    speeds = np.diff(places) / 0.5
    assert np.max(np.abs(np.diff(places))) < 0.5
    assert np.max(np.abs(np.diff(speeds))) < 0.02
    seam = seam_of(timeline)
    assert (seam.px, seam.speed) == (pytest.approx(0, abs=0.05), pytest.approx(0, abs=15))


def test_curves_that_are_left_early_turn_back_as_css_does() -> None:
    ways = [way("a", "b", LINEAR), way("b", "a", LINEAR, early_ms=40)]
    timeline = played(transitions=ways)
    # After 60 ms, at 70, back in 60 ms: then there, again and again.
    assert x_at(timeline, 30, 60, 90, 119) == pytest.approx([40, 70, 40, 11])
    assert (timeline.run.lead_in_ms, timeline.run.loop_ms) == (0, 120)


def test_early_runs_are_fitted_to_the_ms() -> None:
    ways = [way("a", "b", SPRING, early_ms=400), way("b", "a", SPRING, early_ms=450)]
    document = read_piece(piece(transitions=ways))
    assert timeline_of(fitted(document, 900)).run.loop_ms == 900
    assert timeline_of(scaled(document, 0.5)).run.loop_ms == 607


def test_the_seam_tells_what_jumps_and_how() -> None:
    ways = [way("a", "b", LINEAR), way("b", "a", LINEAR, hold_ms=100)]
    seam = seam_of(played(transitions=ways))
    # Back with 100 px in 100 ms, then off again: 2000 px/s of difference.
    assert (seam.px, seam.speed, seam.speed_layer) == (0, pytest.approx(2000), "box")
    turned = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"box": {"rotation": 90}}}]
    cut = [way("a", "b", LINEAR), way("b", "a", LINEAR, hold_ms=100, style="cut")]
    # A corner of 40 × 30 px goes a quarter round its middle.
    assert seam_of(played(states=turned, transitions=cut)).px == pytest.approx(25 * math.sqrt(2))


def test_the_sonar_sweep_comes_round_with_its_panel() -> None:
    timeline = timeline_of(read_piece(DEMO["sonar-sweep"]))
    assert timeline.run.common_loop_ms == math.lcm(timeline.run.loop_ms, 2400)


@pytest.mark.parametrize(("style", "jump"), [("cut", 30), ("tween", 0)])
def test_outlines_that_are_written_anew_have_a_seam_too(style: str, jump: float) -> None:
    mark = {"kind": "path", "id": "box", "name": "Mark", "x": 0, "y": 0, "width": 40, "height": 10}
    one, two = "M0 0H10V10H0Z", "M0 0H10V10H0ZM30 0H40V10H30Z"
    states = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"box": {"path": two}}}]
    ways = [way("a", "b", LINEAR), way("b", "a", LINEAR, style=style)]
    layers = [{**mark, "path": one, "view_width": 40, "view_height": 10}]
    seam = seam_of(played(layers=layers, states=states, transitions=ways))
    assert (seam.px, seam.layer) == (pytest.approx(jump), "box" if jump else None)
