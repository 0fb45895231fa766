"""What somebody does, what becomes of it, and why nothing; rounds that are counted; rehearsals that are made."""

from __future__ import annotations

from typing import Any

import pytest

from keen_ripple.core.document import Piece, read_piece
from keen_ripple.core.errors import DocumentFault
from keen_ripple.core.live.compared import arrivals, changes
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.made import made_events
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.timeline import sample, timeline_of
from support import DEMO, flat, piece, way

LINEAR = {"kind": "curve", "duration_ms": 100, "easing": "linear"}
BOX = {"kind": "rectangle", "id": "box", "name": "Box", "x": 10, "y": 0, "width": 20, "height": 20}
GHOST = {"kind": "rectangle", "id": "ghost", "name": "Ghost", "x": 0, "y": 0, "width": 9, "height": 9, "opacity": 0}


def answering(*ways: dict[str, Any], **rest: Any) -> Piece:
    """A box in a group beside a ghost that is not seen, in three states; the transitions are given."""
    group = {"kind": "group", "id": "pair", "name": "Pair", "x": 0, "y": 0, "width": 90, "height": 90}
    states = [{"id": s, "name": s.upper(), "changes": {"box": {"x": x}}} for s, x in (("a", 10), ("b", 50), ("c", 90))]
    return read_piece(piece([{**group, "layers": [BOX, GHOST]}], states=states, transitions=list(ways), **rest))


def on(start: str, end: str, cue: str, layer: str | None = None, **rest: Any) -> dict[str, Any]:
    return {**way(start, end, LINEAR), "id": f"{start}{end}-{cue}", "cue": cue, "cue_layer": layer, **rest}


def reasons(played: Piece, *events: Event) -> list[tuple[str, str | None]]:
    return [(heard.reason, heard.transition) for heard in rehearse(played, events, 5000.0).heard]


def test_a_group_hears_what_is_done_to_its_layers() -> None:
    played = answering(on("a", "b", "tap", "pair"), on("b", "a", "over", "pair"))
    assert reasons(played, Event(0, "tap", "box")) == [("heeded", "ab-tap")]
    assert reasons(played, Event(0, "tap")) == [("elsewhere", None)]
    # Where the pointer is, is said of each layer by itself.
    assert reasons(played, Event(0, "tap", "pair"), Event(500, "over", "box"), Event(600, "over", "pair"))[1:] == [
        ("elsewhere", None),
        ("heeded", "ba-over"),
    ]


def test_why_nothing_heeds_it() -> None:
    played = answering(on("a", "b", "key", cue_key="ArrowRight"), on("b", "c", "tap", hold_ms=300))
    done = (
        Event(0, "tap"),
        Event(10, "key", None, "ArrowLeft"),
        Event(20, "key", None, "ArrowRight"),
        Event(150, "tap", "ghost"),
        Event(160, "tap", "nowhere"),
        Event(200, "tap"),
        Event(420, "tap"),
    )
    told = [reason for reason, _ in reasons(played, *done)]
    assert told == ["not-awaited", "other-key", "heeded", "unseen", "gone", "resting", "heeded"]
    assert rehearse(played, done[:6], 1000.0).heard[-1].rest_ms == pytest.approx(220.0)


def test_a_double_tap_delays_the_tap_only_where_both_are_heeded() -> None:
    played = answering(on("a", "b", "tap"), on("a", "c", "double-tap"), on("b", "a", "tap"), double_tap_ms=200)
    twice = [Event(1000, "tap", "box"), Event(1150, "tap", "box")]
    assert reasons(played, *twice) == [("second-tap", None), ("heeded", "ac-double-tap")]
    once = rehearse(played, [Event(1000, "tap", "box"), Event(1500, "tap", "box")], 3000.0)
    assert [(heard.reason, heard.at_ms) for heard in once.heard] == [
        ("second-tap", 1000),
        ("heeded", 1200),
        # In B nothing waits for a double tap, so a tap is one at once.
        ("heeded", 1500),
    ]
    # On another layer it is no second tap: the first is heard at once.
    apart = rehearse(played, [Event(1000, "tap", "box"), Event(1100, "tap", "pair")], 3000.0)
    assert [heard.transition for heard in apart.heard][1:] == ["ab-tap", "ba-tap"]


def test_a_key_has_a_name_and_nothing_else_has() -> None:
    for cue, key in (("key", None), ("tap", "Enter")):
        with pytest.raises(DocumentFault):
            answering(on("a", "b", cue, cue_key=key))


@pytest.mark.parametrize("plays", [1, 3])
def test_rounds_are_counted_as_in_the_run(plays: int) -> None:
    played = answering(
        on("a", "b", "hold"), on("b", "c", "hold"), on("c", "b", "hold"), on("b", "a", "tap"), plays=plays
    )
    timeline = timeline_of(played)
    end = timeline.run.end_ms
    assert end is not None
    times = [7.3 * index for index in range(int(end / 7.3) + 40)]
    alone = rehearse(played, [], times[-1])
    xs = [pose["box"]["x"] for pose in alone.sample(times)]
    assert xs == pytest.approx([pose["box"]["x"] for pose in sample(timeline, times)])
    # Whoever acts begins the count anew.
    again = rehearse(played, [Event(end + 500.0, "tap")], 4 * end + 2000.0)
    assert sum(s.kind == "travel" for s in again.segments) == 2 * sum(s.kind == "travel" for s in alone.segments) + 1


def test_a_look_that_fades_goes_on_when_it_is_interrupted() -> None:
    fading = {**on("a", "b", "tap"), "style": "cross-fade", "timing": {**LINEAR, "duration_ms": 400}}
    played = answering(fading, on("b", "c", "tap"))
    rehearsed = rehearse(played, [Event(0, "tap"), Event(100, "tap")], 1000.0)
    [(left, share)] = rehearsed.faded_at(200.0)
    assert (left["box"]["x"], share) == (10.0, pytest.approx(0.5))
    assert rehearsed.sample([150.0])[0]["box"]["x"] == pytest.approx(70.0)
    assert rehearsed.faded_at(401.0) == []


def test_what_is_made_visits_every_transition() -> None:
    for document in DEMO.values():
        played = flat(document)
        events, until_ms = made_events(played)
        visited = {segment.transition for segment in rehearse(played, events, until_ms).segments}
        assert visited >= {transition.id for transition in played.transitions}


def test_a_kept_rehearsal_says_what_is_another() -> None:
    done = [Event(0, "tap"), Event(500, "tap")]
    before = arrivals(rehearse(answering(on("a", "b", "tap"), on("b", "c", "tap")), done, 1000.0))

    def told(*ways: dict[str, Any]) -> list[tuple[str, str, float]]:
        now = answering(*ways)
        return [(c["kind"], c["what"], c["by_ms"]) for c in changes(now, rehearse(now, done, 1000.0), before)]

    slow = {**on("a", "b", "tap"), "timing": {**LINEAR, "duration_ms": 140}}
    assert told(on("a", "b", "tap"), on("b", "c", "tap")) == []
    assert told(slow, on("b", "c", "tap")) == [("later", "B", 40.0)]
    assert told(on("a", "b", "tap")) == [("not-reached", "C", 600.0)]
    gone = read_piece({"format": 1, "id": "p", "name": "P", "width": 9, "height": 9, "start": "a",
                       "states": [{"id": "a", "name": "A"}]})  # fmt: skip
    found = list(changes(gone, rehearse(gone, [Event(0, "tap", "box")], 100.0), before))
    assert [(c["kind"], c["what"]) for c in found][:3] == [
        ("state-gone", "B"),
        ("state-gone", "C"),
        ("layer-gone", "box"),
    ]
