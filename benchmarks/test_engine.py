"""The engine against its peers, both sides in turn in one run: 100 layers × 6 properties × 6 transitions of 400 ms."""

from __future__ import annotations

import gzip
import json
import statistics
import time
import tracemalloc
from bisect import bisect_right
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from big import SHARED, modest
from pydantic_core import to_json
from scipy.integrate import solve_ivp

from keen_ripple.core.curves import CubicBezier, Spring
from keen_ripple.core.curves.fit import CSS_TOLERANCE, as_linear
from keen_ripple.core.curves.settle import Settle
from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import Timeline, frames, timeline_of
from keen_ripple.handoff.compact import pack, unpack
from keen_ripple.web.playback import packed

FPS = 60


def best_s(work: Callable[[], object], rounds: int = 7) -> float:
    times = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        times.append(time.perf_counter() - began)
    return min(times)


def told(benchmark, what: str, ratio: float) -> None:
    benchmark.extra_info[what] = ratio
    benchmark.pedantic(lambda: None)
    print(f"\n{what}: {ratio:.2f}")


@pytest.fixture(scope="module")
def timeline() -> Timeline:
    return timeline_of(read_piece(modest()))


def sampled_s(timeline: Timeline) -> float:
    frames(timeline, FPS)
    return best_s(lambda: frames(timeline, FPS), 15)


SEEKING = """
const [tracks, frames] = arguments;
const css = {x: v => ({translate: `${v}px 0px`}), y: v => ({top: `${v}px`}), rotation: v => ({rotate: `${v}deg`}),
  scale_x: v => ({scale: `${v} 1`}), opacity: v => ({opacity: v}), width: v => ({width: `${v}px`})};
document.body.replaceChildren();
const elements = {};
const all = tracks.map(([layer, name, values, easings]) => {
  const element = elements[layer] ??= document.body.appendChild(document.createElement('div'));
  element.style.position = 'absolute';
  const keyframes = values.map((v, i) => ({...css[name](v), easing: easings[i] ?? 'linear'}));
  const animation = element.animate(keyframes, {duration: 2400, fill: 'both'});
  animation.pause();
  return [animation, getComputedStyle(element), Object.keys(css[name](0))[0]];
});
const began = performance.now();
for (const t of frames) {
  for (const [animation] of all) animation.currentTime = t;
  for (const [, style, property] of all) style[property];
}
return (performance.now() - began) / frames.length;
"""


def test_sampling_against_chromium(browser, benchmark, timeline: Timeline) -> None:
    browser.get("about:blank")
    states = [*timeline.poses, "s0"]
    tracks = [
        [t.layer, t.property.name, [timeline.poses[s][t.layer][t.property.name] for s in states], list(SHARED)]
        for t in timeline.numbers.tracks
    ]
    ours = sampled_s(timeline) * 1000 / 144
    theirs = browser.execute_script(SEEKING, tracks, [i * 100.5 for i in range(24)])
    told(benchmark, "sampling, times as fast as Chromium seeking Web Animations", theirs / ours)


def scalar_bezier(curve: CubicBezier, u: float) -> float:
    """Newton's method by plain floats, as a careful hand would write it."""
    s = u
    for _ in range(8):
        r = 1 - s
        error = 3 * r * r * s * curve.x1 + 3 * r * s * s * curve.x2 + s * s * s - u
        if abs(error) < 1e-9:
            break
        step = error / (3 * r * r * curve.x1 + 6 * r * s * (curve.x2 - curve.x1) + 3 * s * s * (1 - curve.x2) or 1e-9)
        s = min(max(s - step, 0.0), 1.0)
    r = 1 - s
    return 3 * r * r * s * curve.y1 + 3 * r * s * s * curve.y2 + s * s * s


def test_sampling_against_scalar_python(benchmark, timeline: Timeline) -> None:
    times = [i * 1000 / FPS for i in range(144)]

    def scalar() -> list[list[float]]:
        rows = []
        for track in timeline.numbers.tracks:
            starts = [move.start_ms for move in track.moves]
            row = []
            for t in times:
                move = track.moves[max(bisect_right(starts, t) - 1, 0)]
                u = min(max((t - move.start_ms) / (move.end_ms - move.start_ms), 0.0), 1.0)
                p = scalar_bezier(move.easing, u) if isinstance(move.easing, CubicBezier) else u
                row.append(move.start * (1 - p) + move.end * p)
            rows.append(row)
        return rows

    theirs = np.clip(scalar(), timeline.numbers._low[:, None], timeline.numbers._high[:, None])
    assert np.max(np.abs(theirs - frames(timeline, FPS)[1])) < 1e-3
    told(benchmark, "sampling, times as fast as scalar Python", best_s(scalar, 3) / sampled_s(timeline))


@pytest.mark.parametrize("damping", [8.0, 41.0, 90.0])
def test_springs_against_solve_ivp(benchmark, damping: float) -> None:
    spring = Spring(420.0, damping)
    t = np.linspace(0.0, 1.0, 601)

    def solved() -> Any:
        def slope(_: float, y: np.ndarray) -> list[float]:
            return [y[1], 420.0 * (1.0 - y[0]) - damping * y[1]]

        return solve_ivp(slope, (0.0, 1.0), (0.0, 0.0), method="DOP853", t_eval=t, rtol=1e-10, atol=1e-12).y[0]

    assert np.max(np.abs(solved() - spring.position(t))) < 1e-9
    told(benchmark, "springs, times as fast as solve_ivp", best_s(solved) / best_s(lambda: spring.position(t), 50))


def douglas_peucker(u: np.ndarray, p: np.ndarray, tolerance: float) -> list[int]:
    kept, stack = {0, len(u) - 1}, [(0, len(u) - 1)]
    while stack:
        a, b = stack.pop()
        line = p[a] + (u[a : b + 1] - u[a]) / (u[b] - u[a]) * (p[b] - p[a])
        off = np.abs(p[a : b + 1] - line)
        worst = int(np.argmax(off))
        if off[worst] > tolerance:
            kept.add(a + worst)
            stack += [(a, a + worst), (a + worst, b)]
    return sorted(kept)


SPRINGS = [(170, 26), (240, 22), (420, 24), (560, 16), (300, 9), (120, 30)]


def test_stops_against_douglas_peucker(browser, benchmark) -> None:
    shares, errors = [], []
    script = """
        const a = document.body.animate({opacity: [0, 1]}, {duration: 1000, easing: arguments[0], fill: 'both'});
        a.pause();
        return arguments[1].map(t => { a.currentTime = t * 1000; return a.effect.getComputedTiming().progress; });
    """
    browser.get("about:blank")
    for stiffness, damping in SPRINGS:
        settle = Settle.of(Spring(stiffness, damping))
        u, p = settle.trace()
        peer = douglas_peucker(u[:-1], np.append(p[:-2], 1.0), CSS_TOLERANCE)
        shares.append(len(as_linear(settle, CSS_TOLERANCE).points) / len(peer))
        even = np.linspace(0.0, 0.9995, 800)
        theirs = browser.execute_script(script, settle.css(), even.tolist())
        errors.append(float(np.max(np.abs(np.array(theirs) - settle(even)))) / CSS_TOLERANCE)
    print(f"\nerror as the browser plays it, in tolerances: {max(errors):.3f}")
    assert max(errors) <= 1.1
    told(benchmark, "stops of springs' linear(), share of Douglas and Peucker's", statistics.mean(shares))


def test_compact_tape_against_dense_frames(benchmark, timeline: Timeline) -> None:
    _, values = frames(timeline, FPS)
    dense = gzip.compress(values.astype("<f4").tobytes(), 9)
    tapes = {name: leg.tape for name, leg in timeline.legs.items()}
    data = pack(tapes)
    read, px = unpack(data), 0.0
    for name, leg in timeline.legs.items():
        t = np.arange(0.0, leg.length_ms, 1000 / 240)
        for move, track in zip(leg.moves, read[name], strict=True):
            exact = move.start * (1 - move.easing(t / leg.length_ms)) + move.end * move.easing(t / leg.length_ms)
            if move.property in ("x", "y"):
                px = max(px, float(np.max(np.abs(np.interp(t, track.times_ms, track.rows[:, 0]) - exact))))
    print(f"\noff at 240 Hz: {px:.3f} px; {len(data)} bytes against {len(dense)}")
    assert px <= 0.1
    told(benchmark, "compact tape, times smaller than dense frames gzipped", len(dense) / len(data))


def test_compact_tape_against_the_tape_of_the_page(benchmark, timeline: Timeline) -> None:
    """Smaller, and slower to make: so it is a file, and the page gets the other."""
    tapes = {name: leg.tape for name, leg in timeline.legs.items()}
    begun = time.process_time()
    page = gzip.compress(to_json([packed(tape) for tape in tapes.values()]), 6)
    page_s = time.process_time() - begun
    begun = time.process_time()
    data = pack(tapes)
    compact_s = time.process_time() - begun
    print(f"\n{len(data)} bytes in {compact_s:.3f} s against {len(page)} in {page_s:.3f} s")
    told(benchmark, "compact tape, times the CPU of that of the page", compact_s / page_s)


def test_tape_after_one_edit(benchmark, timeline: Timeline) -> None:
    for leg in timeline.legs.values():
        assert leg.tape
    times = []
    for index in range(30):
        document = json.loads(json.dumps(modest()))
        document["states"][index % 6]["changes"][f"l{index}"]["x"] = 77.5
        piece = read_piece(document)
        times.append(best_s(lambda piece=piece: [leg.tape for leg in timeline_of(piece, timeline).legs.values()], 1))
    p50 = statistics.median(times)
    print(f"\ntape after one edit: p50 {p50 * 1000:.1f} ms")
    told(benchmark, "tape after one edit, in samplings of the piece", p50 / sampled_s(timeline))


@pytest.mark.parametrize("what", ["layers", "transitions", "duration_ms"])
def test_growth(benchmark, what: str) -> None:
    """Time of timeline, tape and sampling at one, two and four times the size, per unit of the first."""
    sizes = {"layers": 50, "transitions": 6, "duration_ms": 400}
    figures = []
    for times in (1, 2, 4):
        piece = read_piece(modest(**{**sizes, what: sizes[what] * times}))

        def work(piece=piece) -> None:
            timeline = timeline_of(piece)
            for leg in timeline.legs.values():
                assert leg.tape
            frames(timeline, FPS)

        seconds = best_s(work, 4)
        tracemalloc.start()
        work()
        peak = tracemalloc.get_traced_memory()[1]
        tracemalloc.stop()
        figures.append((seconds, peak))
    rows = [f"{s * 1000:.0f} ms, {peak / 1e6:.1f} MB" for s, peak in figures]
    print(f"\n{what} ×1, ×2, ×4: " + "; ".join(rows))
    told(benchmark, f"time at four times the {what}, per unit", figures[2][0] / figures[0][0] / 4)
