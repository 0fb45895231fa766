"""Laws over generated pieces: the tape is the motion, poses are hit, documents survive."""

from __future__ import annotations

import json
from typing import Any

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from keen_ripple.core import patches
from keen_ripple.core.document import read_piece
from keen_ripple.core.tape import TapeTrack
from keen_ripple.core.timeline import Progress, Timeline, timeline_of, values_at
from keen_ripple.web.playback import packed
from support import piece

EASINGS = ("linear", "ease", "cubic-bezier(0.6, -0.5, 0.4, 1.5)", "steps(3, jump-both)", "linear(0, 0.7 30% 40%, 1)")
whole_ms = st.integers(0, 900)
timings = st.one_of(
    st.fixed_dictionaries({"kind": st.just("curve"), "duration_ms": whole_ms, "easing": st.sampled_from(EASINGS)}),
    st.fixed_dictionaries(
        {"kind": st.just("spring"), "stiffness": st.floats(40, 700), "damping": st.floats(6, 60)}
        | {"velocity": st.floats(-10, 10)}
    ),
)
looks = st.fixed_dictionaries(
    {},
    optional={
        "x": st.floats(-500, 500),
        "width": st.floats(0, 300),
        "rotation": st.floats(-720, 720),
        "opacity": st.floats(0, 1),
        "scale_x": st.floats(-3, 3),
        "fill": st.sampled_from(("none", "#1f7a70", "#ffffff", "rgb(217 80 58 / 0.4)", "black")),
    },
)
lanes = st.lists(
    st.fixed_dictionaries(
        {"layer": st.just("box"), "property": st.sampled_from((None, "x", "fill")), "delay_ms": whole_ms},
        optional={"timing": timings},
    ),
    max_size=2,
    unique_by=lambda lane: lane["property"],
)


@st.composite
def pieces(draw: st.DrawFn) -> dict[str, Any]:
    count = draw(st.integers(1, 4))
    names = [f"s{index}" for index in range(count)]
    transitions = [
        {"id": f"t{index}", "from": name, "to": names[(index + 1) % count]}
        | {"style": draw(st.sampled_from(("tween", "tween", "cut"))), "hold_ms": draw(st.integers(0, 300))}
        | {"timing": draw(timings), "lanes": draw(lanes)}
        for index, name in enumerate(names)
    ]
    transitions[-1]["hold_ms"] += 1
    states = [{"id": name, "name": name, "changes": {"box": draw(looks)}} for name in names]
    blend = draw(st.sampled_from(("oklab", "srgb")))
    return piece(states=states, transitions=transitions, start="s0", blend=blend)


def on_tape(timeline: Timeline, layer: str, name: str, t: np.ndarray) -> np.ndarray:
    """As the page reads it: the pose of the state a segment leaves, or the tape of its transition."""
    blend = next(track.blend for track in timeline.tracks if (track.layer, track.property.name) == (layer, name))
    segments = timeline.run.segments
    rows = []
    for moment in t:
        segment = [s for s in segments if s.start_ms <= moment][-1]
        row = blend.show(timeline.poses[segment.from_][layer][name])
        if segment.kind == "travel":
            tape = {(track.layer, track.property): track for track in timeline.legs[segment.transition].tape}
            if (layer, name) in tape:
                row = at_local_time(tape[layer, name], np.array([moment - segment.start_ms]))[0]
        rows.append(row)
    return np.array(rows)


def at_local_time(track: TapeTrack, t: np.ndarray) -> np.ndarray:
    """The last knot at or before, and a straight line to the next."""
    at = np.maximum(np.searchsorted(track.times_ms, t, side="right") - 1, 0)
    following = np.minimum(at + 1, len(track.times_ms) - 1)
    span = track.times_ms[following] - track.times_ms[at]
    share = np.where(span > 0, np.maximum(t - track.times_ms[at], 0) / np.where(span > 0, span, 1), 0)[:, None]
    return track.rows[at] * (1 - share) + track.rows[following] * share


@given(pieces(), st.lists(st.floats(0, 1), min_size=20, max_size=200))
def test_tape_is_within_its_tolerances(document: dict[str, Any], moments: list[float]) -> None:
    timeline = timeline_of(read_piece(document))
    # Off the whole ms, where steps and cuts are: at their very moment rounding may show either side.
    times = np.sort(np.floor(np.array(moments) * (timeline.run.total_ms - 1)) + 0.31831)
    for track in timeline.tracks:
        taped = on_tape(timeline, track.layer, track.property.name, times)
        exact = values_at(track, Progress(times))
        error = np.abs(taped - exact)
        if track.property.blend == "colour":
            error[:, 3] *= 255.0
            # What is all but transparent shows no colour to be off by.
            error[exact[:, 3] < 0.002, :3] = 0.0
        assert np.max(error) <= track.property.tolerance


@given(pieces())
def test_poses_are_hit_exactly_at_their_states(document: dict[str, Any]) -> None:
    timeline = timeline_of(read_piece(document))
    arrivals = [(segment.end_ms, segment.to) for segment in timeline.run.segments if segment.kind == "travel"]
    for track in timeline.tracks:
        for end_ms, state in arrivals:
            later = [s for s in timeline.run.segments if s.start_ms == end_ms and s.kind == "travel" and s.to != state]
            if later or end_ms == timeline.run.total_ms:
                continue
            shown = values_at(track, Progress(np.array([float(end_ms)])))[0]
            assert np.array_equal(shown, track.blend.show(timeline.poses[state][track.layer][track.property.name]))


@given(pieces())
def test_same_input_same_bytes(document: dict[str, Any]) -> None:
    first, second = (timeline_of(read_piece(json.loads(json.dumps(document)))) for _ in range(2))
    assert [packed(leg.tape) for leg in first.legs.values()] == [packed(leg.tape) for leg in second.legs.values()]


@given(pieces())
def test_times_on_a_tape_never_fall(document: dict[str, Any]) -> None:
    for leg in timeline_of(read_piece(document)).legs.values():
        for track in leg.tape:
            assert track.times_ms[0] >= 0.0
            assert track.times_ms[-1] <= leg.length_ms
            assert np.all(np.diff(track.times_ms) >= 0.0)


@given(pieces(), pieces())
def test_what_is_taken_over_is_what_would_have_come_out(old: dict[str, Any], new: dict[str, Any]) -> None:
    afresh = timeline_of(read_piece(new))
    taken_over = timeline_of(read_piece(new), timeline_of(read_piece(old)))
    for name, leg in afresh.legs.items():
        assert taken_over.legs[name].moves == leg.moves
        assert packed(taken_over.legs[name].tape) == packed(leg.tape)


paths = st.sampled_from(("/name", "/states/0", "/states/-", "/layers/0/x", "/extra", "/states/0/changes/box", "/a~1b"))
operations = st.one_of(
    st.fixed_dictionaries({"op": st.sampled_from(("add", "replace")), "path": paths, "value": st.integers()}),
    st.fixed_dictionaries({"op": st.just("remove"), "path": paths}),
    st.fixed_dictionaries({"op": st.sampled_from(("move", "copy")), "from": paths, "path": paths}),
)


@given(pieces(), st.lists(operations, max_size=4))
def test_a_patch_and_its_inverse_lead_back(document: dict[str, Any], patch: list[dict[str, Any]]) -> None:
    before = json.dumps(document)
    try:
        patched, inverse = patches.apply(document, patch)
    except patches.PatchFault as fault:
        assert fault.remedy
    else:
        back, again = patches.apply(patched, inverse)
        assert back == json.loads(before)
        assert patches.apply(back, again)[0] == patched
    assert json.dumps(document) == before
