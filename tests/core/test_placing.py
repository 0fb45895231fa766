"""Pieces in pieces, laid flat: what they look like, when they move, what they may set, and what cannot be."""

from __future__ import annotations

from typing import Any

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.parameters import value_of
from keen_ripple.core.flow.placing import PlacingFault, placed
from keen_ripple.core.timeline import Timeline, timeline_of
from support import piece, way

STOPS = [{"at": 0, "colour": "#ffffff"}, {"at": 1, "colour": "#1f7a70"}]
TEXT = {"kind": "text", "id": "words", "name": "Words", "x": 4, "y": 4, "width": 40, "height": 12, "text": "Pier"}
CURVE = {"kind": "curve", "duration_ms": 300, "easing": "ease-out"}


def card(**rest: Any) -> dict[str, Any]:
    """An original: its box goes there by a curve, its words a little later."""
    box = {"kind": "rectangle", "id": "box", "name": "Box", "x": 0, "y": 0, "width": 200, "height": 100}
    box |= {"resize_x": "both", "fill": {"kind": "linear", "stops": STOPS}}
    states = [
        {"id": "shut", "name": "Shut", "changes": {}},
        {"id": "open", "name": "Open", "changes": {"box": {"y": 20}, "words": {"x": 30}}},
    ]
    ways = [way("shut", "open", CURVE, lanes=[{"layer": "words", "delay_ms": 120}])]
    return {**piece([box, TEXT], id="card", states=states, start="shut", transitions=ways), **rest}


def copy(name: str = "north", **rest: Any) -> dict[str, Any]:
    own = {"kind": "placement", "id": name, "name": name.title(), "x": 7, "y": 3, "width": 200, "height": 100}
    return {**own, "piece": "card", "state": "shut", **rest}


def holder(changes: dict[str, Any], *copies: dict[str, Any], **way_values: Any) -> dict[str, Any]:
    states = [{"id": "a", "name": "A", "changes": {}}, {"id": "b", "name": "B", "changes": changes}]
    slow = {"kind": "curve", "duration_ms": 50, "easing": "linear"}
    return piece(list(copies or [copy()]), id="holder", states=states, transitions=[way("a", "b", slow, **way_values)])


def played(document: dict[str, Any], original: dict[str, Any] | None = None) -> Timeline:
    return timeline_of(read_piece(document), library={"card": read_piece(original or card())})


def spans(timeline: Timeline) -> dict[str, tuple[float, float]]:
    return {f"{m.layer} {m.property}": (m.start_ms, m.end_ms) for leg in timeline.legs.values() for m in leg.moves}


OPEN = {"north": {"state": "open"}}


@pytest.mark.parametrize(
    ("lanes", "box", "words"),
    [
        ([], (0, 300), (120, 420)),
        ([{"layer": "north", "property": "state", "delay_ms": 70}], (70, 370), (190, 490)),
        ([{"layer": "north", "delay_ms": 70}], (70, 370), (190, 490)),
        # By the timing around, where the lane has one.
        ([{"layer": "north", "property": "state", "timing": {**CURVE, "duration_ms": 80}}], (0, 80), (0, 80)),
    ],
)
def test_a_copy_takes_its_own_way(lanes: list[Any], box: tuple[int, int], words: tuple[int, int]) -> None:
    timeline = played(holder(OPEN, lanes=lanes))
    assert spans(timeline) == {"north/box y": box, "north/words x": words}
    assert timeline.run.total_ms == words[1]


def test_without_a_way_of_its_own_it_goes_by_the_timing_around() -> None:
    assert spans(played(holder(OPEN), card(transitions=[]))) == {"north/box y": (0, 50), "north/words x": (0, 50)}


def test_copies_one_after_another() -> None:
    both = {name: {"state": "open"} for name in ("north", "east")}
    staggers = [{"layers": ["north", "east"], "each_ms": 40}]
    found = spans(played(holder(both, copy(), copy("east"), staggers=staggers)))
    assert found["north/box y"] == (0, 300)
    assert found["east/box y"] == (40, 340)


def test_another_size_is_filled_by_the_rules_of_what_is_inside() -> None:
    poses = played(holder({"north": {"width": 320}}, copy(width=260))).poses
    assert [poses[state]["north/box"]["width"] for state in "ab"] == [260, 320]
    assert [poses[state]["north/words"]["width"] for state in "ab"] == [40, 40]


def bound(kind: str, **bind: Any) -> dict[str, Any]:
    return card(parameters=[{"id": "own", "name": "Own", "kind": kind, "bind": [bind]}])


SET = [
    (bound("text", layer="words", property="text"), "Quay", "north/words", "text", "Pier"),
    (bound("number", layer="words", property="x", state="open"), 55, "north/words", "x", 30.0),
    (bound("number", layer="box", property="opacity"), 0.5, "north/box", "opacity", 1.0),
]


@pytest.mark.parametrize(("original", "value", "layer", "name", "before"), SET)
def test_a_value_of_its_own(original: dict[str, Any], value: Any, layer: str, name: str, before: Any) -> None:
    parsed = read_piece(original)
    assert value_of(parsed, parsed.parameters[0]) == before
    north, east = copy(values={"own": value}), copy("east")
    both = {"north": {"state": "open"}, "east": {"state": "open"}}
    pose = played(holder(both, north, east), original).poses["b"]
    assert (pose[layer][name], pose[layer.replace("north", "east")][name]) == (value, before)
    # In one state alone it is tweened like anything else.
    moved = played(holder({"north": {"values": {"own": value}, "state": "open"}}, copy(state="open")), original)
    assert moved.poses["a"][layer][name] == before
    assert f"{layer} {name}" in spans(moved)
    # What does not fit is left out.
    for wrong in ("x" * 3000, -100_000):
        assert played(holder({}, copy(values={"own": wrong})), original).poses["a"][layer][name] in (before, 4.0)


def test_a_stop_a_duration_and_a_period() -> None:
    tinted = played(
        holder({}, copy(values={"own": "#d9503a"})), bound("colour", layer="box", property="fill", stop=1)
    ).poses["a"]["north/box"]["fill"]
    assert [stop.colour for stop in tinted.stops] == ["#ffffff", "#d9503a"]
    longer = played(holder(OPEN, copy(values={"own": 500})), bound("time", transition="shut-to-open"))
    assert spans(longer)["north/box y"] == (0, 500)
    course = {"layer": "box", "property": "rotation", "keys": [{"at_ms": 0, "value": 0}, {"at_ms": 200, "value": 90}]}
    turning = {"id": "turn", "name": "Turn", "period_ms": 400, "states": ["open"], "courses": [course]}
    original = {**bound("time", undercurrent="turn"), "undercurrents": [turning]}
    [own] = played(holder(OPEN, copy(values={"own": 700})), original).piece.undercurrents
    assert (own.id, own.period_ms, own.states, own.courses[0].layer) == ("north/turn", 700, ("b",), "north/box")


def test_what_has_gone_from_the_original_leaves_the_rest_playable() -> None:
    timeline = played(holder({"north": {"state": "gone", "values": {"gone": 1}}}, copy(state="open")))
    assert timeline.poses["b"]["north/box"]["y"] == 0
    assert timeline.poses["a"]["north/box"]["y"] == 20


def test_copies_in_copies() -> None:
    tray = piece([copy("left"), copy("right", state="open")], id="tray", states=[{"id": "a", "name": "A"}],
                 transitions=[])  # fmt: skip
    outer = holder({}, copy("tray-1", piece="tray", state="a"))
    library = {"card": read_piece(card()), "tray": read_piece(tray)}
    pose = timeline_of(read_piece(outer), library=library).poses["a"]
    assert [pose[f"tray-1/{side}/box"]["y"] for side in ("left", "right")] == [0, 20]


def test_what_cannot_be_placed_says_so() -> None:
    def refused(document: dict[str, Any], **library: dict[str, Any]) -> PlacingFault:
        with pytest.raises(PlacingFault) as caught:
            placed(read_piece(document), {name: read_piece(one) for name, one in library.items()})
        return caught.value

    lost = refused(holder({}))
    assert (lost.place, lost.value) == ("/layers/0/piece", "card")
    around = refused(holder({}), card=card(layers=[copy("back", piece="holder")], transitions=[], states=[
        {"id": "shut", "name": "Shut"}]))  # fmt: skip
    assert around.value == ["holder", "card", "holder"]
    # Each in the next, far deeper than Python itself could go.
    dolls = {f"doll-{n}": piece([copy(piece=f"doll-{n + 1}", state="a")], id=f"doll-{n}", transitions=[],
                                states=[{"id": "a", "name": "A"}]) for n in range(2000)}  # fmt: skip
    assert "deep in each other" in refused(dolls["doll-0"], **dolls).message
    many = [copy(f"c{n}") for n in range(500)]
    assert "1500 layers" in refused(holder({}, *many), card=card()).message


@pytest.mark.parametrize(
    ("bind", "place"),
    [
        ({"layer": "gone", "property": "fill"}, "/parameters/0/bind/0/layer"),
        ({"layer": "box", "property": "text"}, "/parameters/0/bind/0/property"),
        ({"transition": "gone"}, "/parameters/0/bind/0/transition"),
        ({"layer": "box", "property": "x", "state": "gone"}, "/parameters/0/bind/0/state"),
        ({"layer": "box"}, "/parameters/0/bind/0"),
        ({}, "/parameters/0/bind/0"),
    ],
)
def test_a_parameter_leads_somewhere(bind: dict[str, Any], place: str) -> None:
    with pytest.raises(Fault) as caught:
        read_piece(bound("text", **bind))
    assert caught.value.place == place
