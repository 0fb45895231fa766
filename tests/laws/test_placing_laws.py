"""Laws of pieces in pieces: to be placed changes nothing, and copies keep what they say themselves."""

from __future__ import annotations

from typing import Any

from hypothesis import assume, given
from hypothesis import strategies as st
from strategies import pieces, timings, whole_ms

from keen_ripple.core.document import read_piece, written
from keen_ripple.core.errors import Fault
from keen_ripple.core.operations.piece_of_group import piece_of_group
from keen_ripple.core.operations.plain_layers import with_plain_layers
from keen_ripple.core.timeline import sample, timeline_of
from support import piece

INSTANT = {"kind": "curve", "duration_ms": 0, "easing": "linear"}
shares = st.lists(st.floats(0, 1), min_size=1, max_size=12)


def around(document: dict[str, Any], copies: int = 1, **own: Any) -> dict[str, Any]:
    """A piece with the same states, which lead as many copies through them."""
    names = [f"copy-{n}" for n in range(copies)]
    size = {"width": document["width"], "height": document["height"]}
    layers = [
        {"kind": "placement", "id": name, "name": name, "piece": document["id"], "x": 7 * n, "y": 3, **size, **own}
        | {"state": document["start"]}
        for n, name in enumerate(names)
    ]
    states = [
        {"id": state["id"], "name": state["name"], "changes": {name: {"state": state["id"]} for name in names}}
        for state in document["states"]
    ]
    transitions = [
        {"id": own["id"], "from": own["from"], "to": own["to"], "hold_ms": own["hold_ms"], "timing": INSTANT}
        # These are of a whole piece, or of nothing.
        | ({"style": "cross-fade", "timing": own["timing"]} if own.get("style") == "cross-fade" else {})
        for own in document["transitions"]
    ]
    given = {"states": states, "transitions": transitions, "start": document["start"], "blend": document["blend"]}
    return piece(layers, id="around", **given)


def looks_of(placement: str, pose: dict[str, Any]) -> dict[str, Any]:
    return {name.split("/", 1)[1]: look for name, look in pose.items() if name.startswith(f"{placement}/")}


@given(pieces(), shares)
def test_placed_and_led_it_looks_and_moves_as_by_itself(document: dict[str, Any], moments: list[float]) -> None:
    # What stays in its state is not led anywhere.
    assume(len(document["states"]) > 1)
    alone = timeline_of(read_piece(document))
    led = timeline_of(read_piece(around(document, 2)), library={document["id"]: alone.piece})
    assert led.run == alone.run
    times = [share * alone.run.total_ms * 2 for share in moments]
    for own, all_ in zip(sample(alone, times), sample(led, times), strict=True):
        assert looks_of("copy-0", all_) == looks_of("copy-1", all_) == own


@given(pieces(), whole_ms, timings, shares)
def test_a_later_lane_begins_its_own_way_later(
    document: dict[str, Any], later_ms: int, timing: dict[str, Any], moments: list[float]
) -> None:
    """Inside of a transition each layer stands where it stood so much earlier; with a timing, all have that one."""
    outer = around(document)
    lane = {"layer": "copy-0", "property": "state", "delay_ms": later_ms}
    for own in outer["transitions"]:
        if own.get("style") != "cross-fade":
            own["lanes"] = [lane]
    library = {document["id"]: read_piece(document)}
    now, later = (timeline_of(read_piece(one), library=library) for one in (around(document), outer))
    for name, leg in now.legs.items():
        if leg.transition.style == "tween":
            moves = [move.later(later_ms) for move in leg.moves]
            assert [move._replace(easing=None) for move in later.legs[name].moves] == [
                move._replace(easing=None) for move in moves
            ]
    for own in outer["transitions"]:
        if own.get("style") != "cross-fade":
            own["lanes"] = [{**lane, "timing": timing}]
    spans = {
        (move.start_ms, move.end_ms)
        for leg in timeline_of(read_piece(outer), library=library).legs.values()
        for move in leg.moves
        if leg.transition.style == "tween" and move.easing is not None
    }
    assert len(spans) <= 1 and all(start == later_ms for start, _ in spans)


@given(pieces(), pieces())
def test_what_a_copy_says_itself_survives_an_edit_of_the_original(
    document: dict[str, Any], edited: dict[str, Any]
) -> None:
    given = [{"id": "tint", "name": "Tint", "kind": "colour", "bind": [{"layer": "mark", "property": "fill"}]}]
    outer = around(document, values={"tint": "#123456", "gone": "nothing"})
    for original in (document, {**edited, "states": document["states"], "transitions": document["transitions"]}):
        library = {document["id"]: read_piece({**original, "parameters": given})}
        timeline = timeline_of(read_piece(outer), library=library)
        for pose in timeline.poses.values():
            assert pose["copy-0/mark"]["fill"] == "#123456"


@given(pieces(), whole_ms, shares)
def test_turned_into_plain_layers_it_plays_on_as_it_was(
    document: dict[str, Any], later_ms: int, moments: list[float]
) -> None:
    """As a document, read anew, and without the original; the other copy stays one."""
    assume(len(document["states"]) > 1)
    given = [{"id": "tint", "name": "Tint", "kind": "colour", "bind": [{"layer": "mark", "property": "fill"}]}]
    outer = around(document, 2, values={"tint": "#123456"}, width=document["width"] + 40)
    for own in outer["transitions"]:
        if own.get("style") != "cross-fade":
            own["lanes"] = [{"layer": "copy-0", "property": "state", "delay_ms": later_ms}]
            own["staggers"] = [{"layers": ["copy-1", "copy-0"], "each_ms": 30}]
    library = {document["id"]: read_piece({**document, "parameters": given})}
    before = timeline_of(read_piece(outer), library=library)
    turned = read_piece(written(with_plain_layers(before.written, "copy-0", library)))
    assert [layer.kind for layer in turned.layers] == ["group", "placement"]
    after = timeline_of(turned, library=library)
    assert after.run == before.run
    times = [share * before.run.total_ms * 2 for share in moments]
    for old, new in zip(sample(before, times), sample(after, times), strict=True):
        for inner in ("box", "mark", "lamp"):
            assert new[f"copy-0-{inner}"] == old[f"copy-0/{inner}"]
            assert new[f"copy-1/{inner}"] == old[f"copy-1/{inner}"]
        assert {name: new["copy-0"][name] for name in ("x", "width")} == {
            name: old["copy-0"][name] for name in ("x", "width")
        }


def on_a_screen(document: dict[str, Any], *lives: str) -> dict[str, Any]:
    """A piece with one state, in which it stands several times."""
    size = {"width": document["width"], "height": document["height"]}
    layers = [
        {"kind": "placement", "id": f"copy-{n}", "name": f"Copy {n}", "piece": document["id"], "x": 9 * n, "y": 3}
        | {**size, "life": life, "state": document["start"]}
        for n, life in enumerate(lives)
    ]
    return piece(layers, id="screen", start="on", transitions=[], states=[{"id": "on", "name": "On", "changes": {}}])


def tweened(document: dict[str, Any]) -> dict[str, Any]:
    """What lives in another piece is a part of a look, and cannot be faded with the whole."""
    ways = [{**own, "style": "tween"} if own["style"] == "cross-fade" else own for own in document["transitions"]]
    return {**document, "transitions": ways}


@given(pieces(), shares, whole_ms)
def test_placed_and_free_it_plays_as_by_itself(document: dict[str, Any], moments: list[float], late: int) -> None:
    """From the start, and from where it is first seen: for ever, with its lead-in, its loop, and its undercurrents."""
    document = tweened(document)
    alone = timeline_of(read_piece(document))
    screen = on_a_screen(document, "free", "free")
    screen["states"].insert(0, {"id": "off", "name": "Off", "changes": {"copy-1": {"opacity": 0}}})
    screen["transitions"] = [{"id": "off-on", "from": "off", "to": "on", "hold_ms": late, "timing": INSTANT}]
    screen["start"] = "off"
    held = timeline_of(read_piece(screen), library={document["id"]: alone.piece})
    times = [late + share * (alone.run.total_ms + 100) * 3 for share in moments]
    first = sample(alone, times)
    second = sample(alone, [t - late for t in times])
    for at, (one, other, all_) in enumerate(zip(first, second, sample(held, times), strict=True)):
        assert looks_of("copy-0", all_) == one, times[at]
        assert looks_of("copy-1", all_) == other, times[at]


@given(pieces(), pieces(), shares)
def test_what_lives_free_comes_back_to_the_same_look(
    one: dict[str, Any], other: dict[str, Any], moments: list[float]
) -> None:
    """After the common loop of all that plays everything looks exactly as it did."""
    one, other = tweened(one), {**tweened(other), "id": "other"}
    screen = on_a_screen(one, "free", "free")
    screen["layers"][1] |= {"piece": "other", "state": other["start"], "width": other["width"]}
    library = {one["id"]: read_piece(one), "other": read_piece(other)}
    held = timeline_of(read_piece(screen), library=library)
    run = held.run
    assume(run.common_loop_ms is not None and run.common_loop_ms < 10**9)
    # Whole ms, since what comes round does so in whole ms.
    times = [run.common_from_ms + int(share * 5000) for share in moments]
    assert sample(held, times) == sample(held, [t + (run.common_loop_ms or 0) for t in times])


def grouped(document: dict[str, Any], inside: set[str], delay_ms: int) -> dict[str, Any]:
    """The same with some of its layers in a group, which moves and waits for itself."""
    layers = [layer for layer in document["layers"] if layer["id"] not in inside]
    content = [layer for layer in document["layers"] if layer["id"] in inside]
    group = {"kind": "group", "id": "group", "name": "Group", "x": 4, "y": 6, "width": 90, "height": 70}
    states = [
        {**state, "changes": {**state["changes"], "group": {"x": 4 + 9 * n}}}
        for n, state in enumerate(document["states"])
    ]
    ways = [
        {**way, "lanes": [*way["lanes"], {"layer": "group", "delay_ms": delay_ms}]} if way["style"] == "tween" else way
        for way in document["transitions"]
    ]
    return {**document, "layers": [*layers, {**group, "layers": content}], "states": states, "transitions": ways}


def by_name(pose: dict[str, Any]) -> dict[str, Any]:
    """Looks by ids that say nothing of where a layer lies, without what only placements have."""
    named = {name.removeprefix("group/").removeprefix("group-"): look for name, look in pose.items()}
    only = ("state", "values", "traits")
    kept = {name: {key: value for key, value in look.items() if key not in only} for name, look in named.items()}
    # A group and a placement differ in what rows and columns need.
    kept["group"] = {key: kept["group"][key] for key in ("x", "y", "width", "height", "opacity")}
    return kept


@given(pieces(), st.sets(st.sampled_from(("box", "mark", "lamp")), min_size=1), whole_ms, shares)
def test_a_piece_made_of_a_group_and_plain_layers_again_play_on_as_they_were(
    document: dict[str, Any], inside: set[str], delay_ms: int, moments: list[float]
) -> None:
    piece_ = read_piece(grouped(document, inside, delay_ms))
    before = timeline_of(piece_)
    try:
        original, holder = piece_of_group(piece_, "group", "made", "Made")
    except Fault as fault:
        # Two ways between the same states, of which a placement has one.
        assert "Two ways" in fault.message
        return
    library = {"made": read_piece(written(original))}
    held = timeline_of(read_piece(written(holder)), library=library)
    plain = timeline_of(read_piece(written(with_plain_layers(held.written, "group", library))))
    assert held.run == before.run == plain.run
    times = [share * before.run.total_ms * 2 for share in moments]
    for one, other, again in zip(sample(before, times), sample(held, times), sample(plain, times), strict=True):
        assert by_name(other) == by_name(again) == by_name(one)
