"""Media: the playhead is a number like others; a state that waits for the end of one lets it play."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import DocumentFault
from keen_ripple.core.flow.tape import tape_of
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.operations.retime import RetimeFault, fitted, scaled
from keen_ripple.core.timeline import sample, timeline_of
from support import DEMO, piece, way

FILM = {"kind": "medium", "id": "film", "name": "Film", "x": 0, "y": 0, "width": 40, "height": 30, "length_ms": 900}
QUICK = {"kind": "curve", "duration_ms": 200, "easing": "linear"}
STATES = [
    {"id": "poster", "name": "Poster", "changes": {"film": {"playhead": 400}}},
    {"id": "away", "name": "Away", "changes": {"film": {"x": 100}}},
]


def film(cue: str = "media-end", **rest: Any) -> dict[str, Any]:
    """From its poster at 400 ms the film plays its last 500 ms, rests 50, and leaves, back to its beginning."""
    ways = [
        way("poster", "away", QUICK, cue=cue, cue_layer="film", hold_ms=50),
        way("away", "poster", QUICK, hold_ms=100),
    ]
    layer = {**FILM, "source": "data:video/webm;base64,AAAA"}
    return piece([layer], **{"states": STATES, "start": "poster", "transitions": ways, **rest})


def test_a_state_rests_until_its_medium_has_ended() -> None:
    timeline = timeline_of(read_piece(film()))
    assert [(s.kind, s.start_ms, s.end_ms) for s in timeline.run.segments] == [
        ("hold", 0, 550),
        ("travel", 550, 750),
        ("hold", 750, 850),
        ("travel", 850, 1050),
    ]
    assert timeline.run.loop_ms == 1050
    heads = [pose["film"]["playhead"] for pose in sample(timeline, [0, 250, 500, 549, 650, 750, 950, 1049.5, 1300])]
    assert heads == pytest.approx([400, 650, 900, 900, 450, 0, 200, 399, 650])


def test_the_rest_has_a_tape_of_its_own() -> None:
    timeline = timeline_of(read_piece(film()))
    assert [segment.leg for segment in timeline.run.segments] == [
        "poster-to-away~rest",
        "poster-to-away",
        "",
        "away-to-poster",
    ]
    [track] = timeline.legs["poster-to-away~rest"].tape
    assert (track.times_ms.tolist(), track.rows.ravel().tolist()) == ([0, 500], [400, 900])
    # After an edit elsewhere nothing of it is worked out anew.
    later = timeline_of(read_piece(film(name="Again")), timeline)
    assert all(later.legs[name] is leg for name, leg in timeline.legs.items())


def test_a_rehearsal_lets_media_play_and_be_interrupted() -> None:
    ways = film()["transitions"]
    ways.append({**way("poster", "away", QUICK, cue="tap"), "id": "skip"})
    document = read_piece(film(transitions=ways))
    untouched = rehearse(document, [], 2000)
    assert [(s.start_ms, s.end_ms) for s in untouched.segments][:2] == [(0, 550), (550, 750)]
    tapped = rehearse(document, [Event(100, "tap")], 2000)
    assert (tapped.segments[0].end_ms, tapped.segments[1].transition) == (100, "skip")
    # At 500 ms of the film it goes back to its beginning, in 200 ms.
    heads = [pose["film"]["playhead"] for pose in tapped.sample([0, 99, 100, 200, 300])]
    assert heads == pytest.approx([400, 499, 500, 250, 0])
    assert len(tape_of(tapped.moves, "oklab")) == len(tapped.moves)


def test_media_keep_their_own_time() -> None:
    document = read_piece(film())
    slower = scaled(document, 2)
    assert (slower.transitions[0].hold_ms, timeline_of(slower).run.loop_ms) == (600, 2100)
    assert timeline_of(fitted(document, 1000)).run.loop_ms == 1000
    with pytest.raises(RetimeFault, match="needs 500 ms"):
        scaled(document, 0.5)


@pytest.mark.parametrize("layer", [None, "box", "nobody"])
def test_only_media_have_an_end_to_wait_for(layer: str | None) -> None:
    ways = [way("a", "b", QUICK, cue="media-end", cue_layer=layer)]
    with pytest.raises(DocumentFault) as caught:
        read_piece(piece(transitions=ways))
    assert caught.value.place == "/transitions/0/cue_layer"
    assert caught.value.remedy


def test_a_celebration_begins_anew_under_quick_double_taps() -> None:
    # Up; away, and up again, while the one before still plays or fades.
    events = [Event(at, "double-tap", "mark") for at in (100, 500, 1250, 1300, 1420, 2600, 2640, 2700)]
    played = rehearse(read_piece(DEMO["harbour-post"]), events, 6000)
    assert len([heard for heard in played.heard if heard.reason == "heeded"]) >= 5
    looks = [pose["spray"] for pose in played.sample(range(0, 6000, 10))]
    begun = [now for before, now in pairwise(looks) if now["opacity"] > before["opacity"]]
    assert len(begun) == 3
    assert all(look["playhead"] <= 10 for look in begun)
    assert looks[-1]["opacity"] == 0.0
