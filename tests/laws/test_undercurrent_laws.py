"""What goes round on its own: phases, offsets, and any keys, exactly and as handed to the page."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from test_tape_law import at_local_time

from keen_ripple.core.document import read_piece
from keen_ripple.core.flow.undercurrents import course_tape
from keen_ripple.core.properties import BY_NAME
from keen_ripple.core.timeline import sample, timeline_of
from support import piece


def conic(angle: float, centre: float, colour: str) -> dict[str, Any]:
    stops = [{"at": 0, "colour": colour}, {"at": 1, "colour": "#103040"}]
    return {"kind": "conic", "angle": angle, "centre_x": centre, "centre_y": 0.5, "stops": stops}


colours = st.sampled_from(("#c03a1e", "#1f7a70", "#1f7a7000", "#ffffff"))
VALUES = {
    "x": st.integers(-40, 40),
    "rotation": st.integers(-720, 720),
    "opacity": st.sampled_from((0, 0.25, 0.5, 1)),
    "stroke_dash_offset": st.integers(-30, 30),
    "stroke": colours,
    "fill": st.builds(conic, st.integers(-360, 360), st.sampled_from((0.2, 0.5)), colours),
}
BOX = {"kind": "path", "id": "box", "name": "Box", "x": 0, "y": 0, "width": 9, "height": 9}
BOX |= {"path": "M0 0H9V9Z", "view_width": 9, "view_height": 9}
EASINGS = st.sampled_from(("linear", "ease-in-out", "cubic-bezier(0.3, 1.6, 0.6, -0.4)", "steps(3, jump-both)"))
times = st.integers(0, 2000)


@st.composite
def courses(draw: st.DrawFn, name: str, period: int) -> dict[str, Any]:
    inner = draw(st.lists(st.integers(1, period), min_size=1, max_size=4, unique=True).map(sorted))
    keys = [{"at_ms": at, "value": draw(VALUES[name]), "easing": draw(EASINGS)} for at in (0, *inner)]
    return {"layer": "box", "property": name, "offset_ms": draw(times), "keys": keys}


@st.composite
def rounds(draw: st.DrawFn) -> dict[str, Any]:
    """A piece that rests, with what goes round in it."""
    names = draw(st.lists(st.sampled_from(sorted(VALUES)), min_size=1, max_size=4, unique=True))
    found = []
    for at, name in enumerate(names):
        period = draw(st.integers(1, 90)) * 10
        own = [draw(courses(name, period))]
        found.append({"id": f"u{at}", "name": "U", "period_ms": period, "phase_ms": draw(times), "courses": own})
    return {**piece([BOX], undercurrents=found), "states": [{"id": "a", "name": "A"}], "transitions": []}


def moments_of(document: dict[str, Any], more: list[float]) -> list[float]:
    """Those at which something turns, and any others."""
    at = [
        (key["at_ms"] - own["phase_ms"] + course["offset_ms"]) % own["period_ms"]
        for own in document["undercurrents"]
        for course in own["courses"]
        for key in course["keys"]
    ]
    return [*map(float, at), *more]


anywhen = st.lists(st.floats(0, 3000), min_size=1, max_size=8)


@given(rounds(), times, anywhen)
def test_a_phase_is_a_later_moment_and_an_offset_an_earlier_one(
    document: dict[str, Any], by: int, more: list[float]
) -> None:
    later = {**document, "undercurrents": [{**u, "phase_ms": u["phase_ms"] + by} for u in document["undercurrents"]]}
    behind = {
        **later,
        "undercurrents": [
            {**u, "courses": [{**c, "offset_ms": c["offset_ms"] + by} for c in u["courses"]]}
            for u in later["undercurrents"]
        ],
    }
    plain, moved, back = (timeline_of(read_piece(each)) for each in (document, later, behind))
    moments = moments_of(document, [float(round(t)) for t in more])
    assert sample(moved, moments) == sample(plain, [t + by for t in moments])
    assert sample(back, moments) == sample(plain, moments)


@given(rounds(), anywhen)
def test_the_common_loop_is_exact(document: dict[str, Any], more: list[float]) -> None:
    timeline = timeline_of(read_piece(document))
    loop = timeline.run.common_loop_ms
    if loop is not None:
        moments = moments_of(document, [float(round(t)) for t in more])
        assert sample(timeline, [t + loop for t in moments]) == sample(timeline, moments)


@given(rounds(), anywhen)
def test_what_the_page_gets_is_what_is_sampled(document: dict[str, Any], more: list[float]) -> None:
    timeline = timeline_of(read_piece(document))
    # At the very moment of a jump both sides are right, so moments beside it are looked at.
    moments = [t + by for t in moments_of(document, more) for by in (0.25, 0.75)]
    exact = sample(timeline, moments)
    for own in timeline.piece.undercurrents:
        from_its_start = own.model_copy(
            update={"phase_ms": 0, "courses": tuple(c.model_copy(update={"offset_ms": 0}) for c in own.courses)}
        )
        tapes = [course_tape(each, timeline.piece.blend, timeline.finer) for each in (own, from_its_start)]
        for course, track, plain in zip(own.courses, *tapes, strict=True):
            times = np.array(moments) % own.period_ms
            assert track.times_ms[0] == 0.0 or course.keys[0].value == course.keys[-1].value
            assert np.all(np.diff(track.times_ms) >= 0.0)
            assert track.times_ms[-1] <= own.period_ms
            rows = at_local_time(track, times)
            later = (times + own.ahead_ms(course)) % own.period_ms
            assert rows == pytest.approx(at_local_time(plain, later), abs=1e-9)
            if rows.shape[1] == 1:
                shown = [pose["box"][track.property] for pose in exact]
                assert rows[:, 0] == pytest.approx(shown, abs=2 * BY_NAME[track.property].tolerance)
