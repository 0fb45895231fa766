"""Moments of a run on one sheet."""

from __future__ import annotations

import numpy as np
import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import timeline_of
from keen_ripple.render import draw_at, filmstrip
from support import piece

GAP, CAPTION = 10, 18


def test_frames_stand_in_rows_at_equal_times() -> None:
    timeline = timeline_of(read_piece(piece()))
    sheet = filmstrip(timeline, 5)
    # Five frames of 200 × 100 in rows of three.
    assert sheet.shape == (GAP + 2 * (100 + CAPTION + GAP), GAP + 3 * (200 + GAP), 4)
    for index in range(5):
        x, y = GAP + index % 3 * (200 + GAP), GAP + index // 3 * (100 + CAPTION + GAP)
        frame = draw_at(timeline, 500 * index / 5, ground="#eaf0ec")
        assert np.array_equal(sheet[y : y + 100, x : x + 200], frame)
        assert (sheet[y + 100 : y + 100 + CAPTION, x : x + 60, 0] < 120).any()


@pytest.mark.parametrize("frames", [0, 1, 121])
def test_too_few_or_too_many(frames: int) -> None:
    with pytest.raises(Fault, match="cannot be had"):
        filmstrip(timeline_of(read_piece(piece())), frames)


def test_a_part_on_another_ground() -> None:
    timeline = timeline_of(read_piece(piece()))
    sheet = filmstrip(timeline, 3, "#8f9a9c", (100.0, 300.0))
    for index in range(3):
        frame = draw_at(timeline, 100.0 + 100.0 * index, ground="#8f9a9c")
        assert np.array_equal(sheet[GAP : GAP + 100, GAP + index * 210 : GAP + index * 210 + 200], frame)
    for part in ((300.0, 100.0), (-1.0, 5.0), (0.0, 501.0)):
        with pytest.raises(Fault, match="No part"):
            filmstrip(timeline, 3, None, part)
    with pytest.raises(Fault, match="colour"):
        filmstrip(timeline, 3, "no colour")
