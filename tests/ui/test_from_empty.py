"""Pieces that begin with nothing: seen at every step, on the shelf, on both stages and in what leaves."""

from __future__ import annotations

import os
from pathlib import Path

import numpy as np
import pytest
from selenium.webdriver import Keys
from selenium.webdriver.common.by import By
from test_building import add, begin, choose, give, grouped

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.render import draw_at


def select(bench, field: str, option: str) -> None:
    inner = bench.one(f"[aria-label='{field}']")
    inner.find_element(By.XPATH, "./ancestor::*[contains(@class, 'ant-select')][last()]").click()
    path = f"//*[contains(@class, 'ant-select-item-option')][@title='{option}']"
    shown = lambda: [e for e in bench.browser.find_elements(By.XPATH, path) if e.is_displayed()]  # noqa: E731
    bench.wait(shown, option)[0].click()


def inked(bench, css: str) -> bool:
    """Whether the layers there are drawn in a size."""
    script = """
        const layers = [...document.querySelectorAll(arguments[0] + ' [data-layer]')];
        return layers.some((layer) => layer.getBoundingClientRect().width > 1);
    """
    return bool(bench.browser.execute_script(script, css))


def inked_pixels(surface: np.ndarray) -> int:
    return int((surface[..., 3] > 127).sum())


def look(bench, name: str) -> None:
    """A picture of the page, where somebody wants to look."""
    if folder := os.environ.get("LOOK_AT"):
        bench.browser.save_screenshot(str(Path(folder) / f"{name}.png"))


def test_a_switch_that_waits_for_taps(bench) -> None:
    begin(bench, "Lamp", 160, 96)
    track = add(bench, "rectangle", "Track", width=80, height=40, x=40, y=28, fill="#8c97a0")
    knob = add(bench, "ellipse", "Knob", width=32, height=32, x=44, y=32, fill="#fbfaf5")
    # One state and nothing that goes on: it is seen all the same.
    bench.wait(lambda: inked(bench, "[data-stage=loop]"))
    bench.press("+ state")
    choose(bench, knob)
    give(bench, x=84)
    choose(bench, track)
    give(bench, fill="#1f7a70")
    ids = [state["id"] for state in bench.document()["states"]]
    for way in [each["id"] for each in bench.document()["transitions"]]:
        bench.choose_transition(way)
        bench.changed(lambda: select(bench, "Cue", "tap"))
    if len(bench.document()["transitions"]) < 2:
        bench.one(f"[data-state='{ids[1]}']").click()
        bench.changed(lambda: bench.pick("+ transition", "to First"))
        bench.choose_transition(bench.document()["transitions"][-1]["id"])
        bench.changed(lambda: select(bench, "Cue", "tap"))
    assert {each["cue"] for each in bench.document()["transitions"]} == {"tap"}

    # Nothing goes by itself; the start is shown, after a reload too.
    bench.wait(lambda: inked(bench, "[data-stage=loop]"))
    bench.browser.refresh()
    bench.wait(lambda: inked(bench, "[data-stage=loop]"))
    look(bench, "switch")
    words = bench.one("[data-stage=loop]").text
    assert "always" not in words
    assert "tap" in words
    before = bench.box("loop", knob)
    assert abs(before[0] - 60) < 0.5
    bench.open(f"{bench.browser.current_url.split(str(bench.served.port))[1]}/run-sheet")
    bench.wait(lambda: "second state" not in bench.one("main").text and "tap" in bench.one("main").text)
    look(bench, "switch-run-sheet")
    bench.open()
    bench.wait(lambda: inked(bench, ".shelf-cell"))
    look(bench, "switch-shelf")


def test_a_tick_that_grows_behind_a_mask(bench) -> None:
    begin(bench, "Tick", 120, 120)
    mask = add(bench, "rectangle", "Window", width=80, height=80, x=20, y=20)
    bench.press("as mask")
    bench.keys("o")
    bench.one(".tool-pen")
    bench.click_at(40, 62)
    bench.click_at(54, 76)
    bench.click_at(84, 46)
    bench.changed(lambda: bench.keys(Keys.ENTER))
    tick = next(layer["id"] for layer in bench.document()["layers"] if layer["kind"] == "path")
    bench.wait(lambda: bench.one("li.chosen [data-row]").get_attribute("data-row") == tick)
    give(bench, stroke="#1f7a70", stroke_width=6)
    bench.unfold("Line")
    give(bench, trim_end=0)
    bench.press("+ state")
    choose(bench, tick)
    bench.unfold("Line")
    give(bench, trim_end=1)
    document = bench.document()
    assert next(layer for layer in document["layers"] if layer["id"] == mask)["mask"] is True
    choose(bench, mask)
    for by in ("brightness", "outline"):
        path = f"//section[@aria-label='Mask']//label[contains(., '{by}')]"
        bench.changed(lambda path=path: bench.browser.find_element("xpath", path).click())
        assert bench.document()["layers"][0]["mask"] == (by == "outline" or by)
    look(bench, "tick")

    # It grows: nothing of it at first, more and more of it later, all of it inside of the window.
    timeline = timeline_of(read_piece(document))
    start = document["transitions"][0]["hold_ms"]
    drawn = [inked_pixels(draw_at(timeline, start + at, 1.0)) for at in (0, 150, 299)]
    assert drawn[0] == 0 < drawn[1] < drawn[2]


def point_of(bench) -> tuple[float, float]:
    """The second point, in px of the piece."""
    script = """
        const scene = document.querySelector('[data-stage=pose] .scene').getBoundingClientRect();
        const point = document.querySelector("[data-point='0,1']").getBoundingClientRect();
        return [point.x + point.width / 2 - scene.x, point.y + point.height / 2 - scene.y];
    """
    x, y = bench.browser.execute_script(script)
    return x / bench.zoom(), y / bench.zoom()


def test_points_of_an_icon_are_moved_in_one_state_inside_a_turned_group(bench) -> None:
    begin(bench, "Icon", 160, 120)
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys("o")
    bench.one(".tool-pen")
    for place in ((60, 40), (100, 40), (100, 80), (60, 80)):
        bench.click_at(*place)
    bench.changed(lambda: bench.click_at(60, 40))
    icon = next(layer["id"] for layer in bench.document()["layers"] if layer["kind"] == "path")
    group = grouped(bench, "Turned")
    give(bench, rotation=30)
    bench.press("+ state")
    state = bench.document()["states"][-1]["id"]
    base = next(layer for layer in bench.document()["layers"] if layer["id"] == group)["layers"][0]["path"]
    choose(bench, icon)
    bench.double_click(f"[data-stage=pose] [data-layer='{icon}']", until=lambda: len(bench.all("[data-point]")) == 4)
    before = point_of(bench)
    bench.browser.execute_script("arguments[0].focus()", bench.one("[data-point='0,1']"))
    bench.changed(lambda: bench.keys(Keys.ARROW_RIGHT, shift=True))
    # To the right as it is seen, and in this state only.
    bench.wait(lambda: point_of(bench)[0] > before[0] + 9)
    assert point_of(bench) == pytest.approx((before[0] + 10, before[1]), abs=0.3)
    document = bench.document()
    changes = next(each["changes"] for each in document["states"] if each["id"] == state)
    assert changes[icon]["path"] != base
    assert next(layer for layer in document["layers"] if layer["id"] == group)["layers"][0]["path"] == base
    look(bench, "icon")
