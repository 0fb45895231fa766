"""The runtime: how soon a tap is seen, and what a frame costs beside the player of tapes."""

from __future__ import annotations

import statistics
from pathlib import Path

from big import big_piece
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import WebDriverWait
from test_player import COSTS, ROUNDS, main_thread_ms

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS

# Taps at any part of a frame; for each, after how many frames something has changed.
TAPS = """
const [count, done] = arguments;
const root = document.querySelector('[data-piece]'), box = document.querySelector('[data-layer=l1]');
const send = kind => {
  const { left, top } = box.getBoundingClientRect();
  root.dispatchEvent(new PointerEvent(kind, { bubbles: true, pointerId: 3, clientX: left + 9, clientY: top + 9 }));
};
const shown = () => document.querySelector('[data-layer=l3]').getAttribute('style');
const found = [];
const next = () => {
  if (found.length === count) return done(found);
  // At rest, and somewhere inside of a frame.
  setTimeout(() => {
    const before = shown();
    send('pointerdown');
    send('pointerup');
    let frames = 0;
    const look = () => {
      frames += 1;
      if (shown() !== before || frames > 20) { found.push(frames); next(); } else requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  }, 500 + Math.random() * 16);
};
next();
"""


def waiting_for_taps() -> dict:
    document = big_piece(100, 2)
    curve = {"kind": "curve", "duration_ms": 300, "easing": "linear"}
    for transition in document["transitions"]:
        transition.update(cue="tap", timing=curve, hold_ms=0, lanes=[], staggers=[])
    return document


def test_from_a_tap_to_the_first_changed_frame(browser, tmp_path: Path, benchmark) -> None:
    page = tmp_path / "taps.html"
    page.write_bytes(FORMATS["live"].write(timeline_of(read_piece(waiting_for_taps()))))
    browser.get(page.as_uri())
    browser.set_script_timeout(120)
    frames = browser.execute_async_script(TAPS, 60)
    benchmark.pedantic(lambda: None)
    p95 = statistics.quantiles(frames, n=20)[18]
    benchmark.extra_info["frames"] = {"p95": p95, "most": max(frames)}
    print(f"\nfrom a tap to the first changed frame, 100 layers: p95 {p95:.0f} frames, at most {max(frames)}")


USE = "[...document.querySelectorAll('button')].find(one => one.textContent.trim() === 'use it').click();"


def test_a_frame_beside_the_player_of_tapes(browser, address_modest: str, benchmark) -> None:
    """The same stage of the workbench, by its tapes and in use, in turn, since machines vary."""
    by_tape, by_runtime = [], []
    for _ in range(ROUNDS):
        for press, css, costs in (
            ("", "[data-stage=loop] [data-layer]", by_tape),
            (USE, ".used [data-layer]", by_runtime),
        ):
            browser.get(f"{address_modest}pieces/modest")
            WebDriverWait(browser, 30).until(
                lambda page: page.find_elements(By.CSS_SELECTOR, "[data-stage=loop] [data-layer]")
            )
            browser.execute_script(press)
            WebDriverWait(browser, 30).until(lambda page, css=css: page.find_elements(By.CSS_SELECTOR, css))
            costs.append(main_thread_ms(browser))
    benchmark.pedantic(lambda: None)
    for cost in COSTS:
        runtime, tape = (statistics.median(one[cost] for one in all_) for all_ in (by_runtime, by_tape))
        benchmark.extra_info[f"runtime, {cost}, beside the player of tapes"] = runtime / tape
        print(f"\nmain thread a frame, {cost}: runtime {runtime:.2f} ms, tapes {tape:.2f} ms, {runtime / tape:.2f}")
