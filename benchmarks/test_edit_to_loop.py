"""From a typed number to the redrawn loop, in the real page on the real server.

The peer is a request of the same page that does nothing but cross the wire and come back.
"""

from __future__ import annotations

import statistics

import pytest
from selenium.webdriver.support.wait import WebDriverWait

ROUNDS = 60

# Types into a field, presses Enter, and waits until the loop shows a frame with the new motion in it.
MEASURE = """
const [kind, rounds, done] = arguments;
const wait = ms => new Promise(r => setTimeout(r, ms));
const frame = () => new Promise(r => requestAnimationFrame(r));
const setter = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
const type = (input, text) => {
  input.focus();
  setter.call(input, text);
  input.dispatchEvent(new Event('input', {bubbles: true}));
};
const enter = input => input.dispatchEvent(new KeyboardEvent('keydown', {key: 'Enter', bubbles: true, cancelable: true}));
const find = () => kind === 'cell'
  ? document.querySelector("[data-score-row='l3/x'] input[aria-label$='in s2']")
  : document.querySelector("input[aria-label='duration']");
const total = () => document.querySelector('.ring.large').getAttribute('aria-valuemax');
const scene = () => document.querySelector("[data-stage=loop] .scene");
(async () => {
  const took = [], wire = [];
  for (let i = 0; i < rounds; i++) {
    await wait(60);
    const last = total();
    const styles = scene().querySelector("[data-layer='l3']").style.transform;
    type(find(), String(kind === 'cell' ? 30 + i : 300 + 10 * i));
    // Between the last digit and Enter passes the time that a hand needs.
    await wait(60);
    const t0 = performance.now();
    enter(find());
    const shown = kind === 'cell'
      ? () => scene().querySelector("[data-layer='l3']").style.transform !== styles
      : () => total() !== last;
    while (!shown()) await new Promise(r => { const c = new MessageChannel(); c.port1.onmessage = r; c.port2.postMessage(0); });
    await frame();
    took.push(performance.now() - t0);
    await wait(60);
    const t1 = performance.now();
    await (await fetch('/api/pieces/none')).text();
    wire.push(performance.now() - t1);
  }
  done([took, wire]);
})();
"""  # noqa: E501 (script)


@pytest.mark.parametrize("kind", ["cell", "duration"])
def test_from_a_typed_number_to_the_redrawn_loop(browser, address: str, kind: str, benchmark) -> None:
    browser.get(f"{address}pieces/big")
    WebDriverWait(browser, 30).until(lambda page: page.find_elements("css selector", "[data-transition=t2]"))
    browser.execute_script("document.querySelector('[data-state=s2]').click()")
    browser.execute_script("document.querySelector('[data-transition=t2]').click()")
    # The loop is held where the state is reached, so that a change of it can be told from its motion.
    browser.execute_script("document.querySelector('[data-stage=loop] .stage-foot .ant-btn').click()")
    browser.execute_script("document.querySelector('.from').click()")
    benchmark.pedantic(lambda: None)
    took, wire = browser.execute_async_script(MEASURE, kind, ROUNDS)
    report = {name: statistics.quantiles(values, n=20) for name, values in (("edit", took[3:]), ("wire", wire[3:]))}
    p50, p95 = report["edit"][9], report["edit"][18]
    ratio = p50 / report["wire"][9]
    benchmark.extra_info.update({"p50_ms": p50, "p95_ms": p95, "ratio_to_bare_request": ratio})
    print(
        f"\n{kind}: p50 {p50:.1f} ms, p95 {p95:.1f} ms, {ratio:.1f}× a bare request "
        f"(p50 {report['wire'][9]:.1f} ms, p95 {report['wire'][18]:.1f} ms)"
    )
