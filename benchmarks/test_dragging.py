"""A layer dragged on the pose of a piece with 100 layers, while the loop plays: frames, beside those without a drag."""

from __future__ import annotations

import statistics

# One move of the pointer in each frame. What is measured: from frame to frame, and the script of each move.
MEASURE = """
const [frames, drags, done] = arguments;
Element.prototype.setPointerCapture = () => {};
const stage = document.querySelector("[data-stage=pose]");
const layer = stage.querySelector("[data-layer=l42]");
const box = layer.getBoundingClientRect();
const at = i => ({clientX: box.x + 5 + 60 * Math.sin(i / 20), clientY: box.y + 5 + 40 * Math.sin(i / 13)});
const fire = (type, target, i) => target.dispatchEvent(
  new PointerEvent(type, {bubbles: true, button: 0, buttons: 1, pointerId: 1, ...at(i)}));
const frame = () => new Promise(requestAnimationFrame);
(async () => {
  if (drags) fire('pointerdown', layer, 0);
  const gaps = [], script = [], places = new Set();
  let last = await frame();
  for (let i = 1; i <= frames; i++) {
    const before = performance.now();
    if (drags) fire('pointermove', stage, i);
    await null;
    script.push(performance.now() - before);
    const now = await frame();
    gaps.push(now - last);
    last = now;
    places.add(layer.style.transform);
  }
  if (drags) fire('pointercancel', stage, 0);
  done([gaps, script, places.size]);
})();
"""
FRAMES = 240


def test_dragging_in_a_piece_of_100_layers(browser, address_100: str, benchmark) -> None:
    browser.get(f"{address_100}pieces/big")
    for _ in range(200):
        if browser.execute_script("return !!document.querySelector('[data-stage=pose] [data-layer=l42]')"):
            break
    benchmark.pedantic(lambda: None)
    found = {}
    for drags in (False, True):
        gaps, script, places = browser.execute_async_script(MEASURE, FRAMES, drags)
        assert places > FRAMES / 2 if drags else places == 1
        found[drags] = statistics.quantiles(gaps[10:], n=20)[18], statistics.fmean(gaps[10:]), statistics.fmean(script)
    (idle_p95, idle_mean, _), (p95, mean, script) = found[False], found[True]
    benchmark.extra_info.update({"p95_ms": p95, "mean_ms": mean, "ratio_to_no_drag": mean / idle_mean})
    print(
        f"\ndragging: a frame every {mean:.1f} ms, p95 {p95:.1f} ms, script {script:.1f} ms a move; "
        f"without a drag every {idle_mean:.1f} ms, p95 {idle_p95:.1f} ms; ratio {mean / idle_mean:.2f}"
    )
