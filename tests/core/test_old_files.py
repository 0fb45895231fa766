"""Pieces as earlier versions wrote them are read, play, and are written as they were."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import pytest

from keen_ripple.core.document import read_piece, written
from keen_ripple.core.timeline import sample, timeline_of

OLD = {path.stem: json.loads(path.read_text("utf-8")) for path in (Path(__file__).parent / "old").glob("*.json")}
# What each of them came to by the version that wrote it: its lead-in and its loop, and a value at 2700 ms.
CAME_TO: dict[str, tuple[int, int | None, str, str, float]] = {
    "tide-loader": (0, 2060, "buoy-1", "y", 82.0),
    "fog-notice": (3284, None, "notice", "y", 28.0),
    "sonar-sweep": (0, 3075, "beam", "rotation", 45.0),
    "pier-carousel": (0, 11_530, "east", "width", 140.0),
    "pier-card": (0, 3112, "title", "opacity", 0.33192494834714714),
}


@pytest.mark.parametrize("name", CAME_TO)
def test_what_was_written_before_plays_as_it_did(name: str) -> None:
    piece = read_piece(OLD[name])
    timeline = timeline_of(piece, library={"pier-card": read_piece(OLD["pier-card"])})
    lead_in, loop, layer, prop, value = CAME_TO[name]
    [pose] = sample(timeline, [2700.0])
    now = timeline.run.lead_in_ms, timeline.run.loop_ms, pose[layer][prop]
    assert now == (lead_in, loop, pytest.approx(value, abs=1e-9))


@pytest.mark.parametrize("name", CAME_TO)
def test_nothing_that_was_said_is_lost_by_reading_and_writing(name: str) -> None:
    assert said(OLD[name]) <= said(written(read_piece(OLD[name])))


def said(value: Any, place: str = "") -> set[str]:
    """Each value of a document with its place; numbers alike however they are written, in outlines too."""
    if isinstance(value, dict):
        return {each for key, inner in value.items() for each in said(inner, f"{place}/{key}")}
    if isinstance(value, list):
        return {each for key, inner in enumerate(value) for each in said(inner, f"{place}/{key}")}
    if isinstance(value, str) and place.endswith("/path"):
        value = [float(number) for number in re.findall(r"-?[0-9]*\.?[0-9]+", value)]
    return {f"{place}: {float(value) if isinstance(value, int) and not isinstance(value, bool) else value!r}"}
