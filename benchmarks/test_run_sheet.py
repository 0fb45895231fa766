"""The run sheet of a large piece: frames while it plays, and from a bar let go to the loop redrawn."""

from __future__ import annotations

import statistics
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from big import big_piece

from conftest import serve

FRAMES, ROUNDS = 300, 40

# From frame to frame while the loop plays and the playhead goes; the peer is the same page standing still.
PLAY = """
const [frames, done] = arguments;
const frame = () => new Promise(requestAnimationFrame);
(async () => {
  const gaps = [];
  let last = await frame();
  for (let i = 0; i < frames; i++) { const now = await frame(); gaps.push(now - last); last = now; }
  done(gaps);
})();
"""
# A bar moved by a key, which makes the edit that letting go of it makes, with the loop held in the middle of the bar,
# so that its layer stands elsewhere then; the peer is a request that does nothing.
MOVE = """
const [rounds, done] = arguments;
const wait = ms => new Promise(r => setTimeout(r, ms));
const key = document.querySelector('[data-bar]').getAttribute('data-bar');
const bar = () => document.querySelector(`[data-bar="${key}"] .body`);
const layer = key.split(' ')[1].split('/')[0];
const shown = () => document.querySelector(`[data-stage=loop] [data-layer="${layer}"]`).style.transform;
const soon = () => new Promise(r => { const c = new MessageChannel(); c.port1.onmessage = r; c.port2.postMessage(0); });
Element.prototype.setPointerCapture = () => {};
const middle = bar().getBoundingClientRect();
document.querySelector('.stage-foot .ant-btn').click();
document.querySelector('.axis').dispatchEvent(new PointerEvent('pointerdown', {
  bubbles: true, buttons: 1, pointerId: 1, clientX: middle.x + middle.width / 2, clientY: 90}));
(async () => {
  const took = [], wire = [];
  for (let i = 0; i < rounds; i++) {
    await wait(90);
    const before = shown(), key = i % 2 ? 'ArrowLeft' : 'ArrowRight', t0 = performance.now();
    bar().dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true, cancelable: true}));
    while (shown() === before) await soon();
    await new Promise(requestAnimationFrame);
    took.push(performance.now() - t0);
    await wait(60);
    const t1 = performance.now();
    await (await fetch('/api/pieces/none')).text();
    wire.push(performance.now() - t1);
  }
  done([took, wire]);
})();
"""


def opened(browser, address: str) -> None:
    browser.get(f"{address}pieces/big/run-sheet")
    for _ in range(200):
        if browser.execute_script("return !!document.querySelector('[data-bar]')"):
            return
    pytest.fail("no run sheet")


def script_ms(browser) -> float:
    metrics = browser.execute_cdp_cmd("Performance.getMetrics", {})["metrics"]
    return 1000.0 * next(metric["value"] for metric in metrics if metric["name"] == "ScriptDuration")


def test_playing_with_the_run_sheet_open(browser, address_100: str, benchmark) -> None:
    opened(browser, address_100)
    browser.execute_cdp_cmd("Performance.enable", {})
    benchmark.pedantic(lambda: None)
    before = script_ms(browser)
    playing = browser.execute_async_script(PLAY, FRAMES)
    script = (script_ms(browser) - before) / FRAMES
    browser.execute_script("document.querySelector('.stage-foot .ant-btn').click()")
    still = browser.execute_async_script(PLAY, FRAMES)
    p95, p95_still = (statistics.quantiles(gaps[5:], n=20)[18] for gaps in (playing, still))
    ratio = statistics.fmean(playing) / statistics.fmean(still)
    benchmark.extra_info.update({"p95_ms": p95, "script_ms": script, "ratio_to_standing_still": ratio})
    print(
        f"\nrun sheet, 100 layers: p95 {p95:.1f} ms a frame, script {script:.2f} ms a frame; "
        f"standing still p95 {p95_still:.1f} ms; ratio {ratio:.2f}"
    )


def test_from_a_bar_let_go_to_the_loop(browser, address: str, benchmark) -> None:
    opened(browser, address)
    benchmark.pedantic(lambda: None)
    took, wire = browser.execute_async_script(MOVE, ROUNDS)
    edit, bare = (statistics.quantiles(values[3:], n=20) for values in (took, wire))
    benchmark.extra_info.update({"p50_ms": edit[9], "p95_ms": edit[18], "ratio_to_bare_request": edit[9] / bare[9]})
    print(f"\nbar: p50 {edit[9]:.1f} ms, p95 {edit[18]:.1f} ms, {edit[9] / bare[9]:.1f}× a bare request")


# A bar pulled to and fro, a move of the pointer in every frame; all others of its transition are linked to it.
PULL = """
const [frames, done] = arguments;
const frame = () => new Promise(requestAnimationFrame);
Element.prototype.setPointerCapture = () => {};
const body = document.querySelector('[data-bar$=" l49/x"] .body');
const box = body.getBoundingClientRect();
const point = (type, dx, buttons = 1) => body.dispatchEvent(new PointerEvent(type, {
  bubbles: true, buttons, button: 0, pointerId: 1, clientX: box.x + 4 + dx, clientY: box.y + 4}));
(async () => {
  document.querySelector('.stage-foot .ant-btn').click();
  point('pointerdown', 0);
  const gaps = [];
  let last = await frame();
  for (let i = 0; i < frames; i++) {
    point('pointermove', 20 + i % 40);
    const now = await frame();
    gaps.push(now - last);
    last = now;
  }
  const moved = document.querySelectorAll('.bar-of .figure').length;
  dispatchEvent(new KeyboardEvent('keydown', {key: 'Escape', bubbles: true, cancelable: true}));
  done([gaps, moved]);
})();
"""


def linked_piece() -> dict[str, Any]:
    """50 layers that all change in every state, and in the first transition start with the topmost of them."""
    piece = big_piece(50, 4, dense=True)
    piece["transitions"][0]["lanes"] = [
        {"layer": f"l{n}", "anchor": {"layer": f"l{n + 1}", "edge": "with"}} for n in range(49)
    ]
    return piece


@pytest.fixture
def address_linked(tmp_path: Path) -> Iterator[str]:
    yield from serve(tmp_path, linked_piece())


def test_pulling_a_bar_with_others_linked_to_it(browser, address_linked: str, benchmark) -> None:
    opened(browser, address_linked)
    benchmark.pedantic(lambda: None)
    pulled, moved = browser.execute_async_script(PULL, FRAMES)
    still = browser.execute_async_script(PLAY, FRAMES)
    p95, p95_still = (statistics.quantiles(gaps[5:], n=20)[18] for gaps in (pulled, still))
    benchmark.extra_info.update(
        {"p95_ms": p95, "bars_that_go_along": moved, "ratio_to_standing_still": p95 / p95_still}
    )
    print(f"\npulling, {moved} bars go along: p95 {p95:.1f} ms a frame; standing still {p95_still:.1f} ms")
