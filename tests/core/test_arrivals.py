"""Arrivals as cues: a free copy that stands in a state sets off a transition of the piece around it."""

from __future__ import annotations

from typing import Any

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.placing import placed
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.timeline import Timeline, sample, timeline_of
from support import piece, way

CURVE = {"kind": "curve", "duration_ms": 200, "easing": "linear"}


def beacon(hold_ms: int = 300, back_ms: int = 400, **rest: Any) -> dict[str, Any]:
    """Dark for a while, then bright for a while: there in 200 ms, and back in as many."""
    box = {"kind": "rectangle", "id": "box", "name": "Box", "x": 0, "y": 0, "width": 40, "height": 30}
    states = [{"id": "dark", "name": "Dark"}, {"id": "bright", "name": "Bright", "changes": {"box": {"x": 50}}}]
    ways = [way("dark", "bright", CURVE, hold_ms=hold_ms), way("bright", "dark", CURVE, hold_ms=back_ms)]
    return {**piece([box], id="beacon", states=states, start="dark", transitions=ways), **rest}


def harbour(*ways: dict[str, Any], life: str = "free", **rest: Any) -> dict[str, Any]:
    gate = {"kind": "rectangle", "id": "gate", "name": "Gate", "x": 0, "y": 50, "width": 20, "height": 20}
    copy = {"kind": "placement", "id": "copy", "name": "Copy", "piece": "beacon", "life": life, "state": "dark"}
    size = {"x": 0, "y": 0, "width": 200, "height": 100}
    states = [{"id": "shut", "name": "Shut"}, {"id": "open", "name": "Open", "changes": {"gate": {"x": 90}}}]
    return {
        **piece([gate, {**copy, **size}], id="harbour", states=states, start="shut", transitions=list(ways)),
        **rest,
    }


def on(from_: str, to: str, state: str, hold_ms: int = 0, **rest: Any) -> dict[str, Any]:
    own = {"cue": "reaches", "cue_layer": "copy", "cue_state": state}
    return {**way(from_, to, {**CURVE, "duration_ms": 100}, hold_ms=hold_ms), **own, **rest}


def played(document: dict[str, Any], original: dict[str, Any] | None = None) -> Timeline:
    return timeline_of(read_piece(document), library={"beacon": read_piece(original or beacon())})


def test_each_goes_when_the_other_has_arrived() -> None:
    timeline = played(harbour(on("shut", "open", "bright"), on("open", "shut", "dark")))
    ways = [(s.start_ms, s.end_ms, s.to) for s in timeline.run.segments if s.kind == "travel"]
    # Bright at 500, dark again at 1100, bright at 1600: both go round in 1100 ms.
    assert ways[:2] == [(500, 600, "open"), (1100, 1200, "shut")]
    assert (timeline.run.lead_in_ms, timeline.run.loop_ms, timeline.run.common_loop_ms) == (500, 1100, 1100)
    poses = sample(timeline, [550, 1150, 1650, 550 + 3 * 1100])
    assert [pose["gate"]["x"] for pose in poses] == [45, 45, 45, 45]


@pytest.mark.parametrize("looked_at_ms", [0.0, 15.0, 29.0, 900.0])
def test_what_leaves_at_once_was_not_there(looked_at_ms: float) -> None:
    """Whenever somebody does something that nobody waits for."""
    document = harbour(on("shut", "open", "dark", hold_ms=30))
    originals = {"beacon": read_piece(beacon(hold_ms=0))}
    nothing = Event(looked_at_ms, "tap")
    played = rehearse(placed(read_piece(document), originals), [nothing], 1000.0)
    # Dark only at the very beginning, and again from 800 ms on, but then at once on its way.
    assert [s.start_ms for s in played.segments if s.kind == "travel"] == []


def test_where_it_stands_already_only_the_hold_is_waited_for() -> None:
    """And what leaves the state before the hold is over is waited for once more."""
    timeline = played(harbour(on("shut", "open", "bright", hold_ms=650)))
    assert [s.start_ms for s in timeline.run.segments if s.kind == "travel"] == [650]
    # At 950 it is on its way back: the next time that it is bright is at 1600.
    later = played(harbour(on("shut", "open", "bright", hold_ms=950)))
    assert [s.start_ms for s in later.run.segments if s.kind == "travel"] == [1600]


def test_what_never_arrives_leaves_the_piece_at_rest() -> None:
    still = beacon(transitions=[])
    run = played(harbour(on("shut", "open", "bright")), still).run
    assert (run.loop_ms, run.final_state) == (None, "shut")


def test_a_rehearsal_plays_the_same_and_goes_on_from_what_somebody_does() -> None:
    document = harbour(on("shut", "open", "bright"), on("open", "shut", "dark"))
    timeline = played(document)
    times = [index * 61.7 for index in range(50)]
    alone = rehearse(timeline.piece, [], times[-1])
    for one, other in zip(sample(timeline, times), alone.sample(times), strict=True):
        assert {name: look["x"] for name, look in one.items()} == pytest.approx(
            {name: look["x"] for name, look in other.items()}
        )
    waiting = beacon(transitions=[{**way("dark", "bright", CURVE), "cue": "tap"}])
    flat = placed(read_piece(harbour(on("shut", "open", "bright"))), {"beacon": read_piece(waiting)})
    tapped = rehearse(flat, [Event(1000.0, "tap", "copy/box")], 3000.0)
    assert [(s.start_ms, s.to) for s in tapped.segments if s.kind == "travel"] == [(1200.0, "open")]


def test_endless_chains_in_no_time_are_refused_with_their_names() -> None:
    with pytest.raises(Fault) as caught:
        played(
            harbour(
                on("shut", "open", "bright", timing={**CURVE, "duration_ms": 0}),
                on("open", "shut", "bright", timing={**CURVE, "duration_ms": 0}),
            )
        )
    assert "Shut" in str(caught.value)
    assert "no time" in str(caught.value)


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        ({"cue_state": None}, "The cue `reaches` needs cue_layer and cue_state"),
        ({"cue": "tap"}, "The cue `reaches` needs cue_layer and cue_state"),
        ({"cue_layer": "gate"}, "Gate is no piece that lives free"),
        ({"early_ms": 10}, "What waits for an arrival cannot leave early."),
    ],
)
def test_wrong_arrivals_are_told(wrong: dict[str, Any], said: str) -> None:
    with pytest.raises(Fault) as caught:
        read_piece(harbour({**on("shut", "open", "bright"), **wrong}))
    assert said in str(caught.value)


def test_what_is_led_arrives_nowhere_and_rounds_are_not_counted() -> None:
    for document in (
        harbour(on("shut", "open", "bright"), life="led"),
        harbour(on("shut", "open", "bright"), plays=3),
    ):
        with pytest.raises(Fault):
            read_piece(document)
