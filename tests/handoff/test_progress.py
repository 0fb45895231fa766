"""Shares: parts within parts, that never shrink and end as a whole."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from keen_ripple.handoff import FORMATS, Options
from keen_ripple.handoff.progress import along, stage, told_to
from support import DEMO, timeline_in

TREES = st.recursive(st.just([]), lambda inner: st.lists(inner, max_size=4), max_leaves=20)


def walk(tree: list) -> int:
    return 1 + sum(walk(inner) for inner in along(tree))


@given(TREES, st.floats(0.0, 1.0))
def test_parts_within_parts(tree: list, cut: float) -> None:
    shares: list[float] = []
    with told_to(shares.append):
        with stage(0.0, cut):
            first = walk(tree)
        with stage(cut, 1.0):
            second = walk(tree)
    assert first == second
    assert shares == sorted(shares)
    assert shares[-1] == 1.0 and all(0.0 <= share <= 1.0 for share in shares)


def test_nobody_is_told_where_nobody_asks() -> None:
    assert list(along("abc")) == ["a", "b", "c"]
    told: list[float] = []
    with told_to(told.append):
        # One that is left early leaves nothing behind.
        next(along("abc"))
    assert list(along("abc")) == ["a", "b", "c"]
    assert told == []


@pytest.mark.parametrize("name", ["gif", "webp", "sprite", "html", "lottie"])
def test_every_long_format_tells(name: str) -> None:
    shares: list[float] = []
    with told_to(shares.append):
        FORMATS[name].files(
            timeline_in(DEMO["fog-notice"]), Options(scale=0.25) if name != "html" and name != "lottie" else Options()
        )
    assert len(set(shares)) > 8 and shares == sorted(shares) and shares[-1] == pytest.approx(1.0)
