"""Copies of one piece against one piece with all layers of its own: 50 copies of 20 layers, 100 layers."""

from __future__ import annotations

import gc
import statistics
import time
import tracemalloc
from collections.abc import Callable, Iterator
from copy import deepcopy
from pathlib import Path
from typing import Any

import pytest
from big import big_piece, with_copies
from test_player import WEB_ANIMATIONS, intervals

from conftest import serve
from keen_ripple.core.document import Piece, read_piece
from keen_ripple.core.flow.legs import tapes_of
from keen_ripple.core.timeline import Timeline, timeline_of

ROUNDS = 9


def taped(timeline: Timeline) -> Timeline:
    tapes_of(timeline.legs)
    return timeline


def ratio(benchmark, what: str, ours: Callable[[int], object], peer: Callable[[int], object]) -> None:
    """Medians, both in turn, since the machine is not equally fast all the time."""
    times: tuple[list[float], list[float]] = ([], [])
    for at in range(ROUNDS):
        for work, own in zip((ours, peer), times, strict=True):
            began = time.perf_counter()
            work(at)
            own.append(time.perf_counter() - began)
    mine, theirs = map(statistics.median, times)
    benchmark.extra_info[what] = mine / theirs
    print(f"\n{what}: {1000 * mine:.1f} ms to {1000 * theirs:.1f} ms, {mine / theirs:.1f}")


def test_the_first_timeline(benchmark) -> None:
    holder, card = map(read_piece, with_copies(50))
    big, library = read_piece(big_piece(100, 6)), {"card": card}
    ratio(benchmark, "timeline", lambda _: timeline_of(holder, library=library), lambda _: timeline_of(big))
    work = lambda _: taped(timeline_of(holder, library=library))  # noqa: E731
    ratio(benchmark, "timeline with tapes", work, lambda _: taped(timeline_of(big)))
    benchmark.pedantic(lambda: None)


def edits(document: dict[str, Any], in_base: bool, tint: str) -> list[Piece]:
    """As many as there are rounds; colours of their own, since what lies between two is worked out once."""
    found = []
    for at in range(ROUNDS):
        edited = deepcopy(document)
        if in_base:
            edited["layers"][3]["fill"] = f"#{tint}{at}"
        else:
            edited["states"][1]["changes"]["l0"] = {"x": at, "y": 5}
        found.append(read_piece(edited))
    return found


@pytest.mark.parametrize("in_base", [False, True], ids=["of a state", "of the base"])
def test_an_edit_of_the_original(benchmark, in_base: bool) -> None:
    holder, card = with_copies(50)
    outer, big = read_piece(holder), big_piece(100, 6)
    before = taped(timeline_of(outer, library={"card": read_piece(card)}))
    alone = taped(timeline_of(read_piece(big)))
    ours, theirs = edits(card, in_base, "1234a"), edits(big, in_base, "1234b")
    ratio(
        benchmark,
        "edit, with tapes",
        lambda at: taped(timeline_of(outer, before, {"card": ours[at]})),
        lambda at: taped(timeline_of(theirs[at], alone)),
    )
    benchmark.pedantic(lambda: None)


def test_memory_is_linear_in_copies(benchmark) -> None:
    def bytes_of(copies: int) -> tuple[int, int]:
        holder, card = map(read_piece, with_copies(copies))
        gc.collect()
        tracemalloc.start()
        timeline = taped(timeline_of(holder, library={"card": card}))
        gc.collect()
        taken = tracemalloc.get_traced_memory()[0]
        tracemalloc.stop()
        return taken, len({id(track.rows) for leg in timeline.legs.values() for track in leg.tape})

    bytes_of(5)
    sizes = {copies: bytes_of(copies) for copies in (14, 28, 56)}
    slopes = [(sizes[2 * n][0] - sizes[n][0]) / n for n in (14, 28)]
    benchmark.extra_info["second slope to first"] = slopes[1] / slopes[0]
    print(f"\nbytes a copy: {slopes[0]:.0f}, then {slopes[1]:.0f}; tables: {[rows for _, rows in sizes.values()]}")
    assert sizes[14][1] == sizes[56][1]
    benchmark.pedantic(lambda: None)


@pytest.fixture
def address_copies(tmp_path: Path) -> Iterator[str]:
    yield from serve(tmp_path, *reversed(with_copies(50)))


def test_late_frames_against_web_animations(browser, address_copies: str, benchmark) -> None:
    holder, card = map(read_piece, with_copies(50))
    timeline = timeline_of(holder, library={"card": card})
    total, tracks = timeline.run.total_ms, []
    for track in timeline.numbers.tracks:
        keys = [[0, track.first, "linear"]]
        for move in track.moves:
            keys += [[move.start_ms / total, move.start, move.easing.css()], [move.end_ms / total, move.end, "linear"]]
        tracks.append([track.layer, track.property.name, [*keys, [1, keys[-1][1], "linear"]]])
    found: dict[str, list[list[float]]] = {"player": [], "Web Animations": []}
    for _ in range(3):
        browser.get(f"{address_copies}pieces/big")
        while (
            browser.execute_script("return document.querySelectorAll('[data-stage=loop] [data-layer]').length") < 1000
        ):
            pass
        found["player"].append(intervals(browser))
        browser.get("about:blank")
        browser.execute_script(WEB_ANIMATIONS, tracks, total)
        found["Web Animations"].append(intervals(browser))
    benchmark.pedantic(lambda: None)
    for name, rounds in found.items():
        late = statistics.median(sum(each > 25 for each in round_) / len(round_) for round_ in rounds)
        mean = statistics.median(statistics.mean(round_) for round_ in rounds)
        benchmark.extra_info[f"{name}, late"] = late
        print(f"\n{name}: {late:.0%} of frames late, {mean:.1f} ms a frame")
