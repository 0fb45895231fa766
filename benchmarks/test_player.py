"""Frames of the playing loop with 100 layers; the peer is the same piece handed off, played by the browser alone."""

from __future__ import annotations

import statistics
from itertools import pairwise
from pathlib import Path

from big import big_piece, modest

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


# One animation per property, as the browser's own means for the same motion.
WEB_ANIMATIONS = """
const [tracks, duration] = arguments;
const css = {x: v => ({left: `${v}px`}), y: v => ({top: `${v}px`}), rotation: v => ({rotate: `${v}deg`}),
  opacity: v => ({opacity: v}), scale_x: v => ({scale: `${v} 1`}), width: v => ({width: `${v}px`})};
const elements = {};
document.body.replaceChildren();
for (const [layer, name, keys] of tracks) {
  const element = elements[layer] ??= document.body.appendChild(document.createElement('div'));
  element.style.cssText = 'position: absolute; height: 20px; background: #15293b';
  const frames = keys.map(([offset, value, easing]) => ({offset, easing, ...css[name](value)}));
  element.animate(frames, {duration, iterations: Infinity});
}
"""
# All tasks of the main thread, painting too; of them, what script alone, and script, style and layout take.
COSTS = {
    "all": ("TaskDuration",),
    "script": ("ScriptDuration",),
    "script, style, layout": ("ScriptDuration", "RecalcStyleDuration", "LayoutDuration"),
}
ROUNDS = 5


def main_thread_ms(browser) -> dict[str, float]:
    """What one frame costs the main thread, in the middle of many."""
    intervals(browser)
    browser.execute_cdp_cmd("Performance.enable", {})

    def spent() -> dict[str, float]:
        metrics = {m["name"]: m["value"] for m in browser.execute_cdp_cmd("Performance.getMetrics", {})["metrics"]}
        return {cost: sum(metrics[name] for name in names) * 1000 for cost, names in COSTS.items()}

    before = spent()
    frames = len(intervals(browser)) + 20
    return {cost: (after - before[cost]) / frames for cost, after in spent().items()}


def test_player_against_web_animations(browser, address_modest: str, benchmark) -> None:
    timeline = timeline_of(read_piece(modest()))
    total = timeline.run.total_ms
    tracks = []
    for track in timeline.tracks:
        keys = [[0, track.first, "linear"]]
        for move in track.moves:
            keys += [[move.start_ms / total, move.start, move.easing.css()], [move.end_ms / total, move.end, "linear"]]
        tracks.append([track.layer, track.property.name, [*keys, [1, keys[-1][1], "linear"]]])
    ours, theirs = [], []
    # In turn, since the machine is not equally fast all the time.
    for _ in range(ROUNDS):
        # On the shelf the piece plays alone, at its own size or smaller.
        browser.get(address_modest)
        while not browser.execute_script("return !!document.querySelector('.shelf-cell [data-layer]')"):
            pass
        ours.append(main_thread_ms(browser))
        browser.get("about:blank")
        browser.execute_script(WEB_ANIMATIONS, tracks, total)
        theirs.append(main_thread_ms(browser))
    benchmark.pedantic(lambda: None)
    for cost in COSTS:
        player, peer = (statistics.median(one[cost] for one in all_) for all_ in (ours, theirs))
        benchmark.extra_info[f"player, {cost}, share of Web Animations"] = player / peer
        print(
            f"\nmain thread a frame, {cost}: player {player:.2f} ms, Web Animations {peer:.2f} ms, {player / peer:.2f}"
        )
