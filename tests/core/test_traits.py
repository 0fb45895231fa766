"""Traits: what an option says stands between base and state, in the piece itself and by copy."""

from __future__ import annotations

from typing import Any

import pytest

from keen_ripple.core.document import read_piece, written
from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import Timeline, sample, timeline_of
from support import piece, way

CURVE = {"kind": "curve", "duration_ms": 400, "easing": "linear"}


def notice(**rest: Any) -> dict[str, Any]:
    """Two traits over two states: tone changes the fill, size the width; open has the last word on the width."""
    tone = [
        {"id": "calm", "name": "Calm"},
        {"id": "error", "name": "Error", "changes": {"box": {"fill": "#d9503a", "opacity": 0.5}}},
    ]
    size = [{"id": "small", "name": "Small"}, {"id": "large", "name": "Large", "changes": {"box": {"width": 80}}}]
    states = [
        {"id": "shut", "name": "Shut", "changes": {}},
        {"id": "open", "name": "Open", "changes": {"box": {"x": 50, "opacity": 1}}},
    ]
    traits = [{"id": "tone", "name": "tone", "options": tone}, {"id": "size", "name": "size", "options": size}]
    box = {"kind": "rectangle", "id": "box", "name": "Box", "x": 0, "y": 0, "width": 40, "height": 30}
    document = piece(
        [{**box, "fill": "#1f7a70"}], states=states, start="shut", transitions=[way("shut", "open", CURVE)]
    )
    return {**document, "id": "notice", "traits": traits, **rest}


def shown(document: dict[str, Any], **shows: str) -> Timeline:
    for trait in document["traits"]:
        trait["shows"] = shows.get(trait["id"])
    return timeline_of(read_piece(document))


@pytest.mark.parametrize(
    ("shows", "shut", "open_"),
    [
        ({}, ("#1f7a70", 1.0, 40.0), ("#1f7a70", 1.0, 40.0)),
        ({"tone": "error"}, ("#d9503a", 0.5, 40.0), ("#d9503a", 1.0, 40.0)),
        ({"tone": "error", "size": "large"}, ("#d9503a", 0.5, 80.0), ("#d9503a", 1.0, 80.0)),
    ],
)
def test_a_pose_is_the_base_with_its_traits_and_its_state(shows: dict[str, str], shut: Any, open_: Any) -> None:
    timeline = shown(notice(), **shows)
    looks = [timeline.poses[state]["box"] for state in ("shut", "open")]
    assert [(look["fill"], look["opacity"], look["width"]) for look in looks] == [shut, open_]


def test_of_two_traits_the_later_has_the_last_word_and_nothing_is_lost_in_writing() -> None:
    document = notice()
    document["traits"][1]["options"][1]["changes"]["box"]["fill"] = "#15293b"
    timeline = shown(document, tone="error", size="large")
    assert timeline.poses["shut"]["box"]["fill"] == "#15293b"
    assert written(timeline.written)["traits"] == document["traits"]


def held(changes: dict[str, Any], **own: Any) -> Timeline:
    copy = {"kind": "placement", "id": "copy", "name": "Copy", "piece": "notice", "x": 0, "y": 0, "width": 200}
    states = [{"id": "a", "name": "A", "changes": {}}, {"id": "b", "name": "B", "changes": changes}]
    around = piece(
        [{**copy, "height": 100, "state": "shut", **own}],
        id="around",
        states=states,
        transitions=[way("a", "b", CURVE)],
    )
    return timeline_of(read_piece(around), library={"notice": read_piece(notice())})


def test_a_copy_chooses_and_by_state_its_choice_is_tweened() -> None:
    timeline = held({"copy": {"traits": {"size": "large"}}}, traits={"tone": "error"})
    assert [timeline.poses[state]["copy/box"]["fill"] for state in ("a", "b")] == ["#d9503a", "#d9503a"]
    assert [pose["copy/box"]["width"] for pose in sample(timeline, [0, 200, 400])] == [40, 60, 80]


def test_what_the_original_has_no_option_for_is_left_out() -> None:
    timeline = held({}, traits={"tone": "furious", "mood": "good"})
    assert timeline.poses["a"]["copy/box"]["fill"] == "#1f7a70"


def test_a_free_copy_has_its_options_too() -> None:
    timeline = held({}, life="free", traits={"size": "large"})
    assert [pose["copy/box"]["width"] for pose in sample(timeline, [0, 400])] == [80, 80]
    assert [pose["copy/box"]["x"] for pose in sample(timeline, [0, 200, 400])] == [0, 25, 50]


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        ({"shows": "loud"}, "/traits/0: There is no option 'loud'. Known: calm, error."),
        ({"options": [{"id": "calm", "name": "Calm"}] * 2}, "/traits/0: Two options have the same id."),
        (
            {"options": [{"id": "calm", "name": "Calm", "changes": {"sail": {"x": 1}}}]},
            "/traits/0/options/0/changes/sail: There is no layer 'sail'.",
        ),
        (
            {"options": [{"id": "calm", "name": "Calm", "changes": {"box": {"text": "a"}}}]},
            "/traits/0/options/0/changes/box/text: A rectangle has no text.",
        ),
    ],
)
def test_wrong_traits_are_told_with_their_place(wrong: dict[str, Any], said: str) -> None:
    document = notice()
    document["traits"][0] |= wrong
    with pytest.raises(Fault) as caught:
        read_piece(document)
    assert str(caught.value).startswith(said)
