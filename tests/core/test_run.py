"""The run: lead-in, loop or end, in whole ms."""

from __future__ import annotations

from typing import Any

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import RunFault
from keen_ripple.core.flow.run import run_of
from keen_ripple.core.measures.seam import seam_of
from keen_ripple.core.timeline import timeline_of
from support import DEMO, flat, piece, way

TEN = {"kind": "curve", "duration_ms": 10, "easing": "linear"}
NONE = {"kind": "curve", "duration_ms": 0, "easing": "linear"}
SPRING = {"kind": "spring", "stiffness": 420, "damping": 24}


def states(*names: str) -> list[dict[str, Any]]:
    return [{"id": name, "name": name.upper(), "changes": {}} for name in names]


def run(names: str, *transitions: dict[str, Any]):
    return run_of(read_piece(piece(states=states(*names), transitions=list(transitions))))


CASES = {
    "rests": ("a", [], 0, None, []),
    "waits for a tap": ("ab", [way("a", "b", TEN, cue="tap")], 0, None, []),
    "ends": ("ab", [way("a", "b", TEN, hold_ms=5)], 15, None, ["hold a 0 5", "travel a-b 5 15"]),
    "loops": (
        "ab",
        [way("a", "b", TEN), way("b", "a", NONE, hold_ms=7, style="cut")],
        0,
        17,
        ["travel a-b 0 10", "hold b 10 17", "travel b-a 17 17"],
    ),
    "leads in": (
        "abc",
        [way("a", "b", TEN, hold_ms=3), way("b", "c", TEN), way("c", "b", TEN)],
        13,
        20,
        ["hold a 0 3", "travel a-b 3 13", "travel b-c 13 23", "travel c-b 23 33"],
    ),
    "the shortest hold leaves first": (
        "abc",
        [way("a", "b", TEN, hold_ms=9), way("a", "c", TEN, hold_ms=4)],
        14,
        None,
        ["hold a 0 4", "travel a-c 4 14"],
    ),
    "a spring takes its settling time": ("ab", [way("a", "b", SPRING)], 591, None, ["travel a-b 0 591"]),
    "a cut takes none, whatever its timing": (
        "ab",
        [way("a", "b", SPRING, style="cut", hold_ms=1)],
        1,
        None,
        ["hold a 0 1", "travel a-b 1 1"],
    ),
    "the last lane ends it": (
        "ab",
        [way("a", "b", TEN, lanes=[{"layer": "box", "delay_ms": 30}])],
        40,
        None,
        ["travel a-b 0 40"],
    ),
}


@pytest.mark.parametrize("case", CASES.values(), ids=CASES.keys())
def test_run(case: tuple[str, list[dict[str, Any]], int, int | None, list[str]]) -> None:
    names, transitions, lead_in_ms, loop_ms, expected = case
    found = run(names, *transitions)
    assert (found.lead_in_ms, found.loop_ms) == (lead_in_ms, loop_ms)
    assert [
        f"{s.kind} {s.from_ if s.kind == 'hold' else f'{s.from_}-{s.to}'} {s.start_ms} {s.end_ms}"
        for s in found.segments
    ] == expected


def test_segments_follow_each_other_without_a_gap() -> None:
    for document in DEMO.values():
        found = run_of(flat(document))
        ends = [0, *(segment.end_ms for segment in found.segments)]
        assert [segment.start_ms for segment in found.segments] == ends[:-1]
        assert ends[-1] == found.total_ms


def test_a_loop_of_no_time_is_refused_with_its_states() -> None:
    with pytest.raises(RunFault) as caught:
        run("abc", way("a", "b", TEN), way("b", "c", NONE), way("c", "b", NONE, style="cut"))
    assert caught.value.value == ["b", "c"]
    assert "B → C → B" in caught.value.message


@pytest.mark.parametrize(
    ("t_ms", "within"), [(0, 0), (12, 12), (13, 13), (33, 13), (34.5, 14.5), (33 + 20 * 7 + 1, 14)]
)
def test_loops_go_round_after_the_lead_in(t_ms: float, within: float) -> None:
    found = run("abc", way("a", "b", TEN, hold_ms=3), way("b", "c", TEN), way("c", "b", TEN))
    assert found.within(t_ms) == within


SEAMS = {
    "a cut from elsewhere": ({"x": 110}, "cut", 100.0, "box"),
    "a cut from the same look": ({}, "cut", 0.0, None),
    "a cut from a bigger box": ({"width": 43, "height": 34}, "cut", 5.0, "box"),
    "a tween": ({"x": 110}, "tween", 0.0, None),
}


@pytest.mark.parametrize("case", SEAMS.values(), ids=SEAMS.keys())
def test_seam(case: tuple[dict[str, Any], str, float, str | None]) -> None:
    change, style, px, layer = case
    document = piece()
    document["states"][1]["changes"] = {"box": change} if change else {}
    document["transitions"][1] = way("b", "a", TEN, hold_ms=100, style=style)
    seam = seam_of(timeline_of(read_piece(document)))
    assert seam is not None
    assert seam.px == pytest.approx(px)
    assert seam.layer == layer


def test_seam_of_colours() -> None:
    document = piece()
    document["states"][1]["changes"] = {"box": {"fill": "#ffffff"}}
    seam = seam_of(timeline_of(read_piece(document)))
    assert seam is not None
    assert (seam.px, seam.layer, seam.colour_layer) == (0.0, None, "box")
    assert 0.5 < seam.colour < 1.0


def test_no_seam_where_the_run_ends() -> None:
    assert seam_of(timeline_of(read_piece(DEMO["crossing-progress"]))) is None
    assert seam_of(timeline_of(read_piece(DEMO["tide-loader"]))).px == 0.0
