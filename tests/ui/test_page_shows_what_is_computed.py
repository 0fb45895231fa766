"""Paused and scrubbed, the loop of every piece shows what the core computes for that moment."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from selenium.webdriver import Keys

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.document import walk
from keen_ripple.core.measures.geometry import boxes
from keen_ripple.core.timeline import sample
from support import DEMO, PLAYING, timeline_in

pytestmark = pytest.mark.xdist_group("ui")

LOOP = """
const scene = document.querySelector('[data-stage=loop] .scene');
const {x, y, width} = scene.getBoundingClientRect(), zoom = width / scene.offsetWidth, seen = {};
for (const element of scene.querySelectorAll('[data-layer]')) {
  const box = element.getBoundingClientRect(), style = getComputedStyle(element);
  const path = element.querySelector(':scope > path'), paint = path ? getComputedStyle(path).fill : style.backgroundColor;
  seen[element.dataset.layer] = {
    box: [(box.x - x) / zoom, (box.y - y) / zoom, box.width / zoom, box.height / zoom],
    opacity: Number(style.opacity), paint, image: style.backgroundImage, text: element.textContent,
    dash: path && getComputedStyle(path).strokeDasharray,
  };
}
return [seen, Number(document.querySelector('[role=slider]').getAttribute('aria-valuenow'))];
"""  # noqa: E501 (script)


def check(look: dict[str, Any], shown: dict[str, Any], masked: bool) -> None:
    assert shown["opacity"] == pytest.approx(look["opacity"] * look["visible"], abs=0.003)
    fill = look.get("fill")
    if isinstance(fill, str) and "font_size" not in look and not masked:
        assert parse_colour(shown["paint"]) == pytest.approx(parse_colour(fill), abs=1.5)
    elif fill is not None and not isinstance(fill, str) and "path" not in look:
        assert shown["image"].startswith(f"{fill.kind}-gradient(")
        assert shown["image"].count("rgb") == len(fill.stops)
    if isinstance(look.get("text"), str):
        assert shown["text"] == look["text"]
    if "path" in look and look["trim_end"] - look["trim_start"] < 1:
        drawn = float(shown["dash"].split(",")[0].removesuffix("px"))
        assert drawn == pytest.approx(look["trim_end"] - look["trim_start"], abs=0.003)


@pytest.mark.parametrize("name", PLAYING)
def test_the_page_shows_what_is_computed(bench, name: str) -> None:
    timeline = timeline_in(DEMO[name])
    masks = {layer.id for layer, _ in walk(timeline.piece.layers) if getattr(layer, "mask", False)}
    bench.open(f"/pieces/{name}")
    bench.button("Pause").click()
    # Where a state begins is a whole ms, and the keys go on from there in whole ones.
    bench.one(".from").click()
    slider = bench.one("[role=slider]")
    bench.browser.execute_script("arguments[0].focus()", slider)
    seen_at = set()
    for _ in range(9):
        shown, moment = bench.browser.execute_script(LOOP)
        seen_at.add(moment)
        [pose] = sample(timeline, [moment])
        bounds = boxes(timeline.piece, pose)
        assert shown.keys() == pose.keys()
        for layer, look in pose.items():
            # A browser tells the bounds of boxes: those of what is round and turned are a little larger.
            (x, y, width, height), (left, top, wide, high) = bounds[layer], shown[layer]["box"]
            assert (left + wide / 2, top + high / 2) == pytest.approx((x + width / 2, y + height / 2), abs=0.3)
            assert (wide, high) == pytest.approx((width, height), abs=0.8)
            check(look, shown[layer], layer in masks)
        bench.keys(Keys.ARROW_RIGHT, shift=True)
        bench.keys(*[Keys.ARROW_RIGHT] * int(np.ceil(timeline.run.total_ms / 90) - 10))
    assert len(seen_at) >= 5


def test_a_path_takes_a_gradient_again_after_a_colour(bench) -> None:
    bench.open("/pieces/boarding-stamp")
    bench.one("[data-row='tick']").click()
    cuts = "[data-stage=pose] [data-layer=tick] clipPath"
    for revision, kind, count in ((2, "linear", 1), (3, "colour", 0), (4, "conic", 1)):
        bench.one(f"[aria-label='Kind of fill'] [title='{kind}']").click()
        bench.wait_for_revision(revision)
        bench.wait(lambda count=count: len(bench.all(cuts)) == count, kind)
    assert bench.one(f"{cuts} > path").get_attribute("d")
