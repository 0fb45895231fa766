"""Laws over generated pieces: the tape is the motion, poses are hit, documents survive."""

from __future__ import annotations

import json
import math
import random
from collections.abc import Mapping
from typing import Any

import numpy as np
from apart import differences
from hypothesis import assume, given
from hypothesis import strategies as st
from strategies import pieces
from test_runtime_law import deep, free, with_cues

from keen_ripple.core.colour import colour_text, parse_colour
from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault, RunFault
from keen_ripple.core.flow.tape import TapeTrack
from keen_ripple.core.flow.track import clamp
from keen_ripple.core.live.cast import Cast
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.measures.seam import is_alike_at_seam, seam_of
from keen_ripple.core.operations import patches
from keen_ripple.core.properties import BY_NAME, blend_of
from keen_ripple.core.timeline import sample, timeline_of, timeline_of_rehearsal
from keen_ripple.core.values.plain import plain
from keen_ripple.web.playback import packed


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
    for leg in timeline.legs.values():
        # Off the whole ms, where steps and cuts are: at their very moment rounding may show either side.
        times = np.sort(np.floor(np.array(moments) * leg.length_ms) + 0.31831)
        for move, track in zip(leg.moves, leg.tape, strict=True):
            inside = times[(times > move.start_ms) & (times < move.end_ms)]
            if move.easing is None or not len(inside):
                continue
            row = BY_NAME[move.property]
            between = blend_of(row, timeline.piece.blend, move.start, move.end).between(move.start, move.end)
            share = (inside - move.start_ms) / (move.end_ms - move.start_ms)
            exact = clamp(row, between.rows(move.easing(share)))
            error = np.abs(at_local_time(track, inside) - exact)
            for colour in colour_columns(track):
                # What is all but transparent shows no colour to be off by.
                error[exact[:, colour + 3] < 0.002, colour : colour + 3] = 0.0
            assert np.all(error <= np.array(between.tolerances or (row.tolerance,)) + 1e-12)


def colour_columns(track: TapeTrack) -> list[int]:
    """Where in a row colours begin."""
    columns = track.rows.shape[1]
    if track.form is None:
        return [0] if columns == 4 else []
    if track.form["kind"] == "gradient":
        return list(range(len(track.form["numbers"]) + track.form["stops"], columns, 4))
    return list(range(4 * len(track.form["inset"]), columns, 4)) if track.form["kind"] == "shadows" else []


def as_shown(look: Mapping[str, Any]) -> dict[str, Any]:
    """Colours in the text that says what is shown of them."""
    paints = {name: look[name] for name in ("fill", "stroke") if isinstance(look[name], str)}
    return {**look, **{name: colour_text(parse_colour(paint)) for name, paint in paints.items()}}


@given(pieces())
def test_poses_are_hit_exactly_at_their_states(document: dict[str, Any]) -> None:
    timeline = timeline_of(read_piece(document))
    segments = timeline.run.segments
    for at, segment in enumerate(segments):
        leaves_at_once = at + 1 < len(segments) and segments[at + 1].kind == "travel"
        if segment.kind == "travel" and not leaves_at_once and segment.end_ms < timeline.run.total_ms:
            [shown] = sample(timeline, [segment.end_ms])
            assert as_shown(shown["box"]) == as_shown(timeline.poses[segment.to]["box"])


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


@given(pieces(), pieces(), st.sampled_from((None, "states", "transitions")), st.integers(0, 3))
def test_what_is_taken_over_is_what_would_have_come_out(
    old: dict[str, Any], other: dict[str, Any], part: str | None, at: int
) -> None:
    # Another piece, or the same with one state or transition as it is in the other.
    new = other if part is None else {**old, part: [*old[part]]}
    if part and at < min(len(old[part]), len(other[part])):
        new[part][at] = {
            **other[part][at],
            **{end: old[part][at][end] for end in ("from", "to") if end in old[part][at]},
        }
    afresh, earlier = timeline_of(read_piece(new)), timeline_of(read_piece(old))
    taken_over = timeline_of(read_piece(new), earlier)
    assert taken_over.poses == afresh.poses
    if is_alike_at_seam(taken_over, earlier):
        assert seam_of(earlier) == seam_of(afresh)
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


@given(pieces(), st.lists(st.floats(0, 1), min_size=10, max_size=60))
def test_a_run_is_a_rehearsal_in_which_nobody_acts(document: dict[str, Any], shares: list[float]) -> None:
    """In between too: there, all outlines and gradients of a layer are brought to each other."""
    timeline = timeline_of(read_piece(document))
    # Off the whole ms, at which things jump.
    times = [math.floor(share * timeline.run.total_ms) + 0.31831 for share in shares]
    rehearsed = rehearse(timeline.piece, [], max(times)).sample(times)
    for t, ours, theirs in zip(times, sample(timeline, times), rehearsed, strict=True):
        for layer, look in ours.items():
            for name, value in look.items():
                off = max(differences(plain(value), plain(theirs[layer][name])), default=0.0)
                assert off <= 0.1, (t, layer, name)


@given(pieces(), st.lists(st.floats(0, 2000), max_size=6), st.randoms(use_true_random=False), st.lists(st.floats(0, 1)))
def test_a_rehearsal_is_a_run_that_ends(
    document: dict[str, Any], taps: list[float], rng: random.Random, shares: list[float]
) -> None:
    piece = read_piece(with_cues(document, rng))
    events = [Event(t, rng.choice(("tap", "press", "release"))) for t in taps]
    try:
        rehearsal = rehearse(piece, events, 2500.0)
    except RunFault:
        assume(False)
        raise
    timeline = timeline_of_rehearsal(rehearsal)
    times = [math.floor(2499.0 * share) + 0.31831 for share in shares]
    for ours, theirs in zip(sample(timeline, times), rehearsal.sample(times), strict=True):
        for layer, look in ours.items():
            for name, value in look.items():
                assert max(differences(plain(value), plain(theirs[layer][name])), default=0.0) <= 0.01
    assert timeline.run.total_ms == 2500
    assert all(timeline.legs[s.leg].before == timeline.poses[s.from_] for s in timeline.run.segments)
    assert sum(len(leg.tape) for leg in timeline.legs.values()) == len(rehearsal.moves)


@given(
    pieces(),
    st.sampled_from((free, free, deep)),
    st.randoms(use_true_random=False),
    st.lists(st.floats(0, 2000), max_size=20),
)
def test_it_makes_no_difference_when_one_looks(
    document: dict[str, Any], make: Any, rng: random.Random, moments: list[float]
) -> None:
    try:
        piece = make(document, rng)
        at_once = Cast(piece)
        at_once.play_until(2000.0)
    except Fault:
        assume(False)
        raise
    step_by_step = Cast(piece)
    for t in (*sorted(moments), 2000.0):
        step_by_step.play_until(t)
    for one, other in zip(at_once.all, step_by_step.all, strict=True):
        assert one.copy == other.copy
        assert one.stage.segments == other.stage.segments
