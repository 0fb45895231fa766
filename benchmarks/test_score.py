"""The score of 15 states and 40 layers: scrolled frame by frame, and a cell of it saved, beside a small piece."""

from __future__ import annotations

import statistics

FRAMES, ROUNDS = 240, 40
SCROLLED = """
const [frames, across, down, done] = arguments;
const score = document.querySelector('.score-scroll');
const frame = () => new Promise(requestAnimationFrame);
(async () => {
  const gaps = [];
  let last = await frame();
  for (let i = 1; i <= frames; i++) {
    const way = (1 - Math.cos(i / 38)) / 2;
    if (across) score.scrollLeft = way * (score.scrollWidth - score.clientWidth);
    if (down) score.scrollTop = way * (score.scrollHeight - score.clientHeight);
    const now = await frame();
    gaps.push(now - last);
    last = now;
  }
  done([gaps, score.scrollWidth / score.clientWidth, score.scrollHeight / score.clientHeight]);
})();
"""
SAVED = """
const [rounds, done] = arguments;
const wait = ms => new Promise(r => setTimeout(r, ms));
const setter = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
const find = () => document.querySelector("[data-score-row='l3/x'] input[aria-label$='in s2']");
const revision = () => document.querySelector('header').textContent.match(/saved · revision (\\d+)/)?.[1];
(async () => {
  const took = [];
  for (let i = 0; i < rounds; i++) {
    await wait(120);
    const before = revision(), input = find();
    input.focus();
    setter.call(input, String(30 + i));
    input.dispatchEvent(new Event('input', {bubbles: true}));
    await wait(60);
    const begun = performance.now();
    find().dispatchEvent(new KeyboardEvent('keydown', {key: 'Enter', bubbles: true, cancelable: true}));
    while (revision() === undefined || revision() === before) await wait(1);
    took.push(performance.now() - begun);
  }
  done(took);
})();
"""


def opened(browser, address: str) -> None:
    browser.get(f"{address}pieces/big")
    for _ in range(400):
        if browser.execute_script("return !!document.querySelector(\"[data-score-row='l3/x'] input\")"):
            break
    browser.execute_script("document.querySelector('[data-state=s2]').click()")


def test_the_score_scrolls_and_saves(browser, address_score: str, benchmark) -> None:
    opened(browser, address_score)
    benchmark.pedantic(lambda: None)
    took = browser.execute_async_script(SAVED, ROUNDS)
    p50 = statistics.median(took[3:])
    browser.execute_script("document.querySelector('[data-stage=loop] .stage-foot .ant-btn').click()")
    frames = {}
    for name, (across, down) in {"still": (0, 0), "across": (1, 0), "down": (0, 1)}.items():
        gaps, wide, high = browser.execute_async_script(SCROLLED, FRAMES, across, down)
        frames[name] = statistics.quantiles(gaps, n=20)[18]
    benchmark.extra_info.update({"saved_p50_ms": p50, "p95_ms": frames})
    print(
        f"\na cell is saved in p50 {p50:.1f} ms; a frame takes p95 {frames['across']:.1f} ms scrolled across "
        f"{wide:.1f} windows, {frames['down']:.1f} ms down {high:.1f}, {frames['still']:.1f} ms standing still"
    )
