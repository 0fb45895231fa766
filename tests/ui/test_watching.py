"""The loop looked at closely: once, back and forth, slowly, in pixels, one layer in the middle, on a background."""

from __future__ import annotations

import base64
from typing import Any

import numpy as np
import pytest
import skia
from selenium.webdriver import Keys

pytestmark = pytest.mark.xdist_group("ui")

MIDDLES = """
    return ["", " [data-layer='buoy-2']"].flatMap((inner) => {
      const box = document.querySelector(`[data-stage=loop]${inner}`).getBoundingClientRect();
      return [box.x + box.width / 2, box.y + box.height / 2];
    });
"""


def keys(bench, *pressed: str) -> None:
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys(*pressed)


def pressed(bench, group: str) -> str:
    return str(bench.one(f"[role=group][aria-label='{group}'] [aria-pressed=true]").text)


def is_in_the_middle(bench) -> bool:
    x, y, layer_x, layer_y = bench.browser.execute_script(MIDDLES)
    # The stage has a foot, which its middle leaves free.
    return bool((layer_x, layer_y) == pytest.approx((x, y - 6), abs=1))


def drawn(bench) -> np.ndarray[Any, Any]:
    """What the pixels of the loop show; (height, width, 4)."""
    url = bench.browser.execute_script("return document.querySelector('.pixels').toDataURL()")
    image = skia.Image.MakeFromEncoded(skia.Data.MakeWithCopy(base64.b64decode(url.split(",")[1])))
    return image.toarray(colorType=skia.kRGBA_8888_ColorType)


def test_the_loop_is_watched_closely(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-row='buoy-2']").click()
    bench.button("watch…").click()

    # Larger, and with a layer in the middle, whatever moment it is.
    bench.button("8:1").click()
    ring = bench.one(".stage-clock [role=slider]")
    keys(bench, " ", "f")
    for _ in range(3):
        ring.send_keys(*[Keys.ARROW_RIGHT] * 20)
        bench.wait(lambda: is_in_the_middle(bench), "the layer is not in the middle")
    keys(bench, "p")
    bench.wait(lambda: len(np.unique(drawn(bench))) > 20)
    assert drawn(bench).shape == (208, 272, 4)
    keys(bench, "p", "f")
    bench.wait(lambda: not bench.all(".pixels"))

    # Once: it stands still at its end, and begins anew when it is played.
    keys(bench, "r")
    ring.send_keys(Keys.SHIFT, *[Keys.ARROW_RIGHT] * 25)
    bench.wait(lambda: ring.get_attribute("aria-valuenow") == "2060")
    bench.button("Play").click()
    bench.wait(lambda: int(ring.get_attribute("aria-valuenow")) < 2000)
    bench.button("Play")
    bench.wait(lambda: ring.get_attribute("aria-valuenow") == "2060")
    assert pressed(bench, "Speed") == "1×"
    keys(bench, "v")
    bench.wait(lambda: pressed(bench, "Speed") == "½")

    # The ground stays with the person, not with the piece; what is no colour is refused beside the field.
    bench.button("watch…").click()
    bench.fill(bench.field("Background of the stages"), "tomatoe")
    bench.wait(lambda: any("no CSS colour" in fault for fault in bench.faults()))
    bench.fill(bench.field("Background of the stages"), "teal")
    stage = "return getComputedStyle(document.querySelector('[data-stage=loop]')).backgroundColor"
    bench.wait(lambda: bench.browser.execute_script(stage) == "rgb(0, 128, 128)")
    bench.browser.refresh()
    bench.one("[data-stage=loop]")
    assert bench.browser.execute_script(stage) == "rgb(0, 128, 128)"
    keys(bench, "b")
    bench.wait(lambda: bench.browser.execute_script(stage) == "rgb(234, 240, 236)")
    assert bench.revision() == 1
