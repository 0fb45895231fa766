"""Laws of time over generated pieces: retiming keeps order and totals, and loops return to their start."""

from __future__ import annotations

import math
from collections.abc import Callable
from fractions import Fraction
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from strategies import pieces

import support
from keen_ripple.core.document import Piece, read_piece
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.operations.retime import RetimeFault, fitted, quantised, scaled
from keen_ripple.core.timeline import sample, timeline_of


def events(piece: Piece) -> list[float]:
    """Every start and end of the run: of holds and transitions, and of each layer in them."""
    timeline = timeline_of(piece)
    found: list[float] = []
    for segment in timeline.run.segments:
        found += [segment.start_ms, segment.end_ms]
        if segment.kind == "travel":
            spans = Spans(next(t for t in piece.transitions if t.id == segment.transition))
            for layer in ("box", "mark", "lamp"):
                span = spans.of(layer, None)
                found += [segment.start_ms + span.start_ms, segment.start_ms + span.end_ms]
    return found


def in_order(before: Piece, after: Piece) -> bool:
    pairs = sorted(zip(events(before), events(after), strict=True))
    return all(a[1] <= b[1] for a, b in pairwise(pairs))


def retimed(retime: Callable[[Piece], Piece], document: dict[str, Any]) -> tuple[Piece, Piece]:
    piece = read_piece(document)
    try:
        return piece, retime(piece)
    except RetimeFault as fault:
        assert fault.remedy
        assume(False)
        raise


def kinds(piece: Piece) -> list[str]:
    return [segment.kind for segment in timeline_of(piece).run.segments]


@given(pieces(), st.fractions(Fraction(1, 3), 4))
def test_a_factor_keeps_order_and_total(document: dict[str, Any], factor: Fraction) -> None:
    before, after = retimed(lambda piece: scaled(piece, float(factor)), document)
    assume(kinds(before) == kinds(after))
    ratio = Fraction(float(factor)).limit_denominator(1_000_000)
    old, new = timeline_of(before).run, timeline_of(after).run
    assert new.total_ms == math.floor(old.total_ms * ratio + Fraction(1, 2))
    assert in_order(before, after)


def times_of(piece: Piece) -> list[Any]:
    """When everything moves in each transition, also in a cut, as if it were a tween."""
    tweens = [t.model_copy(update={"style": "tween"}) for t in piece.transitions]
    layers = [(layer, name) for layer in ("box", "mark", "lamp") for name in (None, "x", "fill")]
    return [(t.hold_ms, t.timing, *(Spans(t).of(*key)[:2] for key in layers)) for t in tweens]


@given(pieces())
def test_once_as_long_is_the_same_piece(document: dict[str, Any]) -> None:
    """Holds before what takes no time are counted once, and a cut keeps the times of its lanes."""
    before, after = retimed(lambda piece: scaled(piece, 1.0), document)
    assert timeline_of(after).run == timeline_of(before).run
    assert times_of(after) == times_of(before)


def test_a_hold_before_a_cut_is_counted_once() -> None:
    cut = {"kind": "curve", "duration_ms": 0, "easing": "linear"}
    slow = {"kind": "curve", "duration_ms": 300, "easing": "linear"}
    states = [{"id": name, "name": name, "changes": {"box": {"x": n}}} for n, name in enumerate("abc")]
    ways = [
        support.way("a", "b", cut, hold_ms=100, style="cut"),
        support.way("b", "c", slow),
        support.way("c", "a", cut),
    ]
    piece = read_piece(support.piece(states=states, transitions=ways))
    assert timeline_of(scaled(piece, 1.0)).run.loop_ms == timeline_of(piece).run.loop_ms == 400
    assert [t.hold_ms for t in scaled(piece, 2.0).transitions] == [200, 0, 0]


@given(pieces(), st.integers(200, 5000))
def test_fitting_is_exact_and_keeps_order(document: dict[str, Any], length: int) -> None:
    before, after = retimed(lambda piece: fitted(piece, length), document)
    assume(kinds(before) == kinds(after))
    assert timeline_of(after).run.loop_ms == length
    assert in_order(before, after)


@given(pieces(), st.sampled_from((24, 25, 30, 60)))
def test_quantised_events_are_on_frames(document: dict[str, Any], fps: int) -> None:
    before, after = retimed(lambda piece: quantised(piece, fps), document)
    assume(kinds(before) == kinds(after))
    frames = {
        math.floor(Fraction(1000 * k, fps) + Fraction(1, 2)) for k in range(int(max(events(after)) * fps / 1000) + 2)
    }
    assert {int(t) for s in timeline_of(after).run.segments for t in (s.start_ms, s.end_ms)} <= frames
    assert in_order(before, after)


@given(pieces(), st.lists(st.integers(0, 5000), min_size=1, max_size=8))
def test_a_common_loop_returns_to_its_start(document: dict[str, Any], times: list[int]) -> None:
    timeline = timeline_of(read_piece(document))
    run = timeline.run
    assert run.common_loop_ms is not None
    for period in [run.loop_ms, *(u["period_ms"] for u in document["undercurrents"])]:
        assert run.common_loop_ms % period == 0
    moments = [run.lead_in_ms + t for t in times]
    assert sample(timeline, moments) == sample(timeline, [t + run.common_loop_ms for t in moments])


def test_what_cannot_be_retimed_is_refused() -> None:
    piece = read_piece(support.piece())
    for retime in (lambda: scaled(piece, 0.0), lambda: fitted(piece, 0), lambda: quantised(piece, 0.0)):
        with pytest.raises(RetimeFault) as caught:
            retime()
        assert caught.value.remedy
