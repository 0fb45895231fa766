"""Frames of the playing loop with 100 layers; the peer is the same piece handed off, played by the browser alone."""

from __future__ import annotations

import statistics
from itertools import pairwise
from pathlib import Path

from big import big_piece

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS

FRAMES = """
const done = arguments[0], times = [];
const tick = now => { times.push(now); times.length < 300 ? requestAnimationFrame(tick) : done(times); };
requestAnimationFrame(tick);
"""


def intervals(browser) -> list[float]:
    times = browser.execute_async_script(FRAMES)[20:]
    return [b - a for a, b in pairwise(times)]


def test_frames_with_100_layers(browser, address_100: str, tmp_path: Path, benchmark) -> None:
    browser.get(f"{address_100}pieces/big")
    for _ in range(200):
        if browser.execute_script("return !!document.querySelector('[data-stage=loop] [data-layer]')"):
            break
    ours = intervals(browser)
    page = tmp_path / "big.html"
    page.write_bytes(FORMATS["html"].write(timeline_of(read_piece(big_piece(100, 6)))))
    browser.get(page.as_uri())
    theirs = intervals(browser)
    benchmark.pedantic(lambda: None)
    for name, values in (("player", ours), ("hand-off", theirs)):
        p95 = statistics.quantiles(values, n=20)[18]
        late = sum(v > 25 for v in values) / len(values)
        benchmark.extra_info[name] = {"fps": 1000 / statistics.mean(values), "p95_ms": p95, "late": late}
        print(f"\n{name}: {1000 / statistics.mean(values):.1f} frames a second, p95 {p95:.1f} ms, {late:.1%} late")
