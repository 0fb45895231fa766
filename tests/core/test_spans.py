"""When things move inside a transition: lanes, anchors, staggers."""

from __future__ import annotations

from typing import Any

import pytest

from keen_ripple.core.document import Transition, read_piece
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.errors import DocumentFault
from support import piece, way

LAYERS = [{"kind": "rectangle", "id": name, "name": name, "x": 0, "y": 0, "width": 9, "height": 9} for name in "abcde"]
OWN = {"kind": "curve", "duration_ms": 400, "easing": "ease"}
SHORT = {"kind": "curve", "duration_ms": 100, "easing": "linear"}


def document(**rest: Any) -> dict[str, Any]:
    states = [{"id": "s", "name": "S"}, {"id": "t", "name": "T", "changes": {"a": {"x": 9}}}]
    return piece(LAYERS, states=states, start="s", transitions=[way("s", "t", OWN, **rest)])


def spans_of(**rest: Any) -> Spans:
    return Spans(read_piece(document(**rest)).transitions[0])


def lane(layer: str, delay: int = 0, edge: str | None = None, of: str | None = None, **rest: Any) -> dict[str, Any]:
    anchor = {"anchor": {"edge": edge, "layer": of}} if edge else {}
    return {"layer": layer, "delay_ms": delay, **anchor, **rest}


@pytest.mark.parametrize(
    ("lanes", "start", "end"),
    [
        ([lane("b", 50, timing=SHORT)], 50, 150),
        ([lane("b", 20, "with", "a"), lane("a", 70, timing=SHORT)], 90, 490),
        ([lane("b", 20, "after", "a"), lane("a", 70, timing=SHORT)], 190, 590),
        ([lane("b", 30, "before-end", "a", timing=SHORT), lane("a", 70, timing=SHORT)], 140, 240),
        ([lane("b", 900, "before-end", "a", timing=SHORT), lane("a", 70, timing=SHORT)], 0, 100),
        ([lane("b", 20, "after")], 420, 820),
        # A layer without a lane has the transition's own timing.
        ([lane("b", 20, "after", "c", timing=SHORT)], 420, 520),
        ([lane("b", 60, style="cut")], 60, 60),
        ([lane("b", 5, "with", "a"), lane("a", 5, "with", "c"), lane("c", 5)], 15, 415),
    ],
)
def test_lanes_and_what_they_count_from(lanes: list[dict[str, Any]], start: int, end: int) -> None:
    spans = spans_of(lanes=lanes)
    assert spans.of("b", None)[:2] == (start, end)
    assert spans.length_ms == max(400, end, spans.of("a", None).end_ms)


@pytest.mark.parametrize(
    ("stagger", "delays"),
    [
        ({"each_ms": 30}, [0, 30, 60, 90, 120]),
        ({"total_ms": 100}, [0, 25, 50, 75, 100]),
        ({"total_ms": 101, "origin": "last"}, [101, 76, 51, 25, 0]),
        ({"each_ms": 30, "origin": "centre"}, [60, 30, 0, 30, 60]),
        ({"total_ms": 100, "easing": "ease-in"}, [0, 9, 32, 62, 100]),
        ({"each_ms": 10, "easing": "steps(1, jump-start)"}, [40, 40, 40, 40, 40]),
    ],
)
def test_staggers(stagger: dict[str, Any], delays: list[int]) -> None:
    spans = spans_of(staggers=[{"layers": list("abcde"), **stagger}], lanes=[lane("c", 7, timing=SHORT)])
    starts = [spans.of(name, "x").start_ms for name in "abcde"]
    assert starts == [delay + (7 if name == "c" else 0) for name, delay in zip("abcde", delays, strict=True)]
    assert spans.length_ms == max(400 + max(starts), starts[2] + 100) - (7 if max(starts) == starts[2] else 0)


def test_a_centre_of_an_even_number_has_two_that_begin() -> None:
    spans = spans_of(staggers=[{"layers": list("abcd"), "each_ms": 30, "origin": "centre"}])
    assert [spans.of(name, None).start_ms for name in "abcd"] == [30, 0, 0, 30]


def test_anchors_follow_staggers() -> None:
    spans = spans_of(staggers=[{"layers": ["a", "b"], "each_ms": 30}], lanes=[lane("c", 10, "with", "b")])
    assert spans.of("c", None).start_ms == 40


@pytest.mark.parametrize(
    ("rest", "place"),
    [
        ({"lanes": [lane("a", 0, "with", "b"), lane("b", 0, "after", "a")]}, "/transitions/0/lanes"),
        ({"lanes": [lane("a", 0, "with", "nobody")]}, "/transitions/0/lanes/0/anchor/layer"),
        ({"staggers": [{"layers": ["a", "x"], "each_ms": 1}]}, "/transitions/0/staggers/0/layers/1"),
        ({"staggers": [{"layers": ["a", "b"]}]}, "/transitions/0/staggers/0"),
        ({"staggers": [{"layers": ["a", "b"], "each_ms": 1, "total_ms": 1}]}, "/transitions/0/staggers/0"),
        ({"staggers": [{"layers": ["a", "a"], "each_ms": 1}]}, "/transitions/0/staggers/0"),
        ({"hold_ms": 5, "early_ms": 5}, "/transitions/0"),
        ({"cue": "tap", "cue_layer": "nobody"}, "/transitions/0/cue_layer"),
        ({"cue": "whistle"}, "/transitions/0/cue"),
        ({"lanes": [lane("a", property="layout")]}, "/transitions/0/lanes/0/property"),
    ],
)
def test_what_cannot_be_resolved_is_refused_with_its_place(rest: dict[str, Any], place: str) -> None:
    with pytest.raises(DocumentFault) as caught:
        read_piece(document(**rest))
    assert caught.value.place == place
    assert caught.value.remedy


def test_a_cut_ignores_lanes() -> None:
    transition: Transition = read_piece(document(style="cut", lanes=[lane("a", 90)])).transitions[0]
    assert Spans(transition).length_ms == 0
