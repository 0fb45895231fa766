"""Shapes drawn, chosen together, lined up, coloured: all on the stage."""

from __future__ import annotations

import base64
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import skia
from selenium.webdriver import ActionChains, Keys

from support import piece

pytestmark = pytest.mark.xdist_group("ui")


def box(n: int, x: float, y: float, **rest: Any) -> dict[str, Any]:
    return {
        "kind": "rectangle", "id": f"box-{n}", "name": f"Box {n}", "x": x, "y": y, "width": 20, "height": 10, **rest
    }  # fmt: skip


def three(bench, **rest: Any) -> None:
    layers = [box(1, 10, 10), box(2, 60, 30, width=30), box(3, 150, 60, fill="#1f7a70")]
    states = [{"id": "a", "name": "A", "changes": {}}, {"id": "b", "name": "B", "changes": {"box-2": {"x": 70}}}]
    bench.put(piece(layers, states=states, **rest))
    bench.one("[data-row='box-1']")


def layers(bench) -> dict[str, dict[str, Any]]:
    return {layer["name"]: layer for layer in bench.document()["layers"]}


def chosen(bench) -> list[str]:
    return [row.text for row in bench.all("li.chosen .layer-row")]


def test_an_outline_is_drawn_and_its_points_are_moved(bench) -> None:
    bench.put(piece([], states=[{"id": "a", "name": "A"}], transitions=[]))
    bench.one(".layers")
    bench.keys("o")
    bench.one(".tool-pen")
    bench.click_at(20, 20)
    bench.click_at(60, 20)
    bench.pull((60, 60), (40, 60))
    bench.changed(lambda: bench.click_at(20, 20))
    path = layers(bench)["Path"]
    assert path["path"] == "M0 0L40 0C40 0 60 40 40 40C20 40 0 0 0 0Z"
    assert (path["x"], path["y"], path["height"]) == (20, 20, 40)
    assert path["width"] == pytest.approx(48.889, abs=0.001)

    # Its points: one is pulled, one moved by keys, one added, one removed.
    bench.click_at(40, 30)
    bench.double_click("[data-stage=pose] [data-layer=path]", until=lambda: len(bench.all("[data-point]")) == 3)
    bench.changed(lambda: bench.pull((60, 20), (70, 10)))
    assert layers(bench)["Path"]["path"].startswith("M0 0L50 -10C50 -10")
    bench.browser.execute_script("arguments[0].focus()", bench.one("[data-point='0,1']"))
    bench.changed(lambda: bench.keys(Keys.ARROW_LEFT, shift=True))
    assert layers(bench)["Path"]["path"].startswith("M0 0L40 -10C")
    bench.changed(lambda: bench.keys(Keys.DELETE))
    bench.wait(lambda: len(bench.all("[data-point]")) == 2)
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: not bench.all("[data-point]"))

    # A line, in one pull.
    bench.keys("O")
    bench.one(".tool-line")
    bench.changed(lambda: bench.pull((100, 80), (150, 83), holding=Keys.SHIFT))
    line = layers(bench)["Line"]
    assert (line["path"], line["x"], line["y"], line["fill"]) == ("M0 0L50 0", 100, 80, "none")


def test_several_layers_at_once(bench) -> None:
    three(bench)
    bench.pull((2, 2), (100, 45))
    bench.wait(lambda: chosen(bench) == ["Box 2", "Box 1"])
    bench.click_at(160, 65, holding=Keys.SHIFT)
    bench.wait(lambda: len(chosen(bench)) == 3)

    # What differs is said; what is typed goes into all.
    assert bench.one(".inspector h2").text == "3 layers"
    width = bench.field("width")
    assert (width.get_property("value"), width.get_attribute("placeholder")) == ("", "differs")
    assert bench.field("height").get_property("value") == "10"
    bench.set("height", "12")
    assert [changes["height"] for changes in bench.document()["states"][0]["changes"].values()] == [12, 12, 12]
    bench.keys("x")
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys("x")
    bench.wait(lambda: bench.one("[aria-label='What an edit changes'] [title='Edits the base']"))

    # Lined up with each other, with even gaps, moved together, and the neighbours' edges are met.
    bench.changed(bench.one("[aria-label='Line up: top']").click)
    assert {layer["y"] for layer in layers(bench).values()} == {10}
    bench.changed(bench.one("[aria-label='Even gaps across']").click)
    assert [layer["x"] for layer in layers(bench).values()] == [10, 75, 150]
    bench.one("[data-stage=pose]").click()
    bench.pull((2, 2), (190, 45))
    bench.wait(lambda: len(chosen(bench)) == 3)
    bench.changed(lambda: bench.pull((20, 15), (20, 45), holding=Keys.CONTROL))
    assert {layer["y"] for layer in layers(bench).values()} == {40}

    # Drawn out of one with Alt: a copy, as far away in the other state too.
    bench.one("[data-row='box-2']").click()
    bench.changed(lambda: bench.pull((85, 45), (85, 75), holding=Keys.ALT))
    document = bench.document()
    assert [layer["name"] for layer in document["layers"]] == ["Box 1", "Box 2", "Box 4", "Box 3"]
    assert document["layers"][2]["y"] == document["layers"][1]["y"] + 30
    assert document["states"][1]["changes"]["box-2-2"]["x"] == document["states"][1]["changes"]["box-2"]["x"]

    # Deleting says what it touched.
    bench.changed(lambda: bench.one(".layer-actions").find_element("xpath", ".//button[.='delete']").click())
    assert "Box 4 is deleted, with what A, B said of it. Undo" in bench.one(".notice").text
    bench.press("Undo")
    assert len(bench.document()["layers"]) == 4


def test_a_colour_is_seen_while_it_is_pulled_and_a_stop_comes_where_it_is_asked_for(bench) -> None:
    plate = {"kind": "rectangle", "id": "plate", "name": "Plate", "x": 20, "y": 20, "width": 120, "height": 40}
    bench.put(piece([{**plate, "fill": "#1f7a70"}], states=[{"id": "a", "name": "S"}], transitions=[]))
    bench.one("[data-row='plate']").click()
    shown = lambda: bench.one("[data-stage=pose] [data-layer='plate']").value_of_css_property("background-color")  # noqa: E731
    bench.one("[aria-label='Choose fill']").click()
    lightness = bench.one("[role=slider][aria-label='lightness']")
    chain = ActionChains(bench.browser).click_and_hold(lightness)
    chain.move_by_offset(30, 0).move_by_offset(10, 0).perform()
    bench.wait(lambda: shown() != "rgba(31, 122, 112, 1)", "the colour in the hand")
    held, kept = shown(), bench.document()["layers"][0]["fill"]
    assert kept == "#1f7a70"
    bench.changed(ActionChains(bench.browser).release().perform)
    assert shown() == held
    bench.keys(Keys.ESCAPE)
    bench.one("[aria-label='Kind of fill'] [title='linear']").click()
    bench.set("angle", "90")
    # A quarter of the way along it: beside the middle of the layer.
    plate = bench.one("[data-stage=pose] [data-layer='plate']")
    twice = ActionChains(bench.browser).move_to_element_with_offset(plate, -30 * bench.zoom(), 0).double_click()
    bench.changed(twice.perform)
    stops = bench.document()["layers"][0]["fill"]["stops"]
    assert [stop["at"] for stop in stops] == [0, pytest.approx(0.25, abs=0.02), 1]
    assert stops[1]["colour"] not in (stops[0]["colour"], stops[2]["colour"])


def test_a_gradient_is_pulled_on_the_stage(bench) -> None:
    stops = [{"at": 0, "colour": "#d9503a"}, {"at": 1, "colour": "#1f7a70"}]
    fill = {"kind": "linear", "angle": 90, "stops": stops}
    bench.put(
        piece([box(1, 50, 20, width=100, height=60, fill=fill)], states=[{"id": "a", "name": "A"}], transitions=[])
    )
    bench.one("[data-row='box-1']").click()
    bench.one("[data-gradient='0']")
    bench.changed(lambda: bench.drag(bench.one("[data-gradient='0']"), 30 * bench.zoom(), 0))
    assert layers(bench)["Box 1"]["fill"]["stops"][0]["at"] == pytest.approx(0.3, abs=0.01)
    bench.changed(lambda: bench.pull((162, 50), (100, 95), holding=Keys.SHIFT))
    assert layers(bench)["Box 1"]["fill"]["angle"] == 180
    bench.browser.execute_script("arguments[0].focus()", bench.one("[data-gradient='1']"))
    bench.changed(lambda: bench.keys(Keys.ARROW_UP, shift=True))
    assert layers(bench)["Box 1"]["fill"]["stops"][1]["at"] == pytest.approx(50 / 60, abs=0.01)


def test_colours_are_chosen_typed_and_taken_from_the_stage(bench) -> None:
    three(bench)
    bench.one("[data-row='box-1']").click()
    bench.one("[aria-label='Choose fill']").click()
    bench.one("[aria-label='Colour of fill']")
    bench.set("hue, typed", "30")
    bench.set("alpha, typed", "50")
    fill = bench.document()["states"][0]["changes"]["box-1"]["fill"]
    assert fill.endswith("80")
    bench.one("[aria-label='Colour space'] [title=OKLCH]").click()
    bench.set("lightness, typed", "70")
    bench.changed(bench.one(".patches [aria-label='#1f7a70']").click)
    assert bench.document()["states"][0]["changes"]["box-1"]["fill"] == "#1f7a70"
    bench.changed(lambda: bench.set("hue, typed", "0"))
    bench.button("pick from the stage").click()
    bench.one(".tool-colour")
    bench.changed(lambda: bench.click_at(155, 65))
    assert bench.document()["states"][0]["changes"]["box-1"]["fill"] == "#1f7a70"
    assert chosen(bench) == ["Box 1"]


def test_a_picture_is_taken_in_and_what_is_none_is_refused(bench, tmp_path: Path) -> None:
    three(bench)
    chooser = bench.browser.find_element("css selector", "input[type=file]")
    shot = tmp_path / "Harbour.png"
    skia.Image.fromarray(np.full((30, 60, 4), 200, np.uint8)).save(str(shot))
    bench.changed(lambda: chooser.send_keys(str(shot)))
    picture = layers(bench)["Harbour"]
    assert (picture["kind"], picture["width"], picture["height"]) == ("picture", 60, 30)
    assert base64.b64decode(picture["source"].split(",")[1]) == shot.read_bytes()

    broken = tmp_path / "Broken.png"
    broken.write_bytes(b"no picture")
    large = tmp_path / "Large.png"
    large.write_bytes(bytes(3_000_000))
    for file, says in ((broken, "cannot be read as a picture"), (large, "has 3.0 MB. A picture may have 2.9 MB")):
        chooser.send_keys(str(file))
        bench.wait(lambda says=says: says in bench.one(".notice[role=alert]").text)
        bench.button("Understood").click()
    assert bench.revision() == 2


def test_the_sheet_is_zoomed_and_the_way_is_drawn(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-row='buoy-2']").click()
    fitting = bench.zoom()
    bench.keys("e")
    bench.wait(lambda: bench.zoom() == 1)
    bench.keys("n")
    bench.wait(lambda: bench.zoom() > 4)
    bench.keys("-")
    bench.wait(lambda: bench.zoom() < 8)
    bench.keys("w")
    bench.wait(lambda: bench.zoom() == pytest.approx(fitting))
    bench.button("path").click()
    assert len(bench.one("[data-path='buoy-2'] polyline").get_attribute("points").split()) > 90
    bench.one("[data-state='handover']").click()
    outlines = lambda: [g.get_attribute("transform") for g in bench.all(".ghosts g g")]  # noqa: E731
    bench.wait(outlines)
    ghosts = outlines()
    bench.button("dashed: before").click()
    bench.wait(lambda: outlines() not in ([], ghosts))
    bench.button("dashed: after").click()
    bench.wait(lambda: not bench.all(".ghosts"))


def test_an_icon_by_pen_and_its_points_by_state_in_a_turned_group(bench) -> None:
    def path_in(state: int) -> str:
        document = bench.document()
        own = document["states"][state].get("changes") or {}
        return own.get("path", {}).get("path") or document["layers"][0]["layers"][0]["path"]

    bench.put(piece([], states=[{"id": "a", "name": "A"}], transitions=[], width=200, height=160))
    bench.one(".layers")
    bench.keys("o")
    bench.one(".tool-pen")
    bench.click_at(60, 100)
    # With Shift in steps of 15°.
    bench.click_at(63, 60, holding=Keys.SHIFT)
    bench.click_at(100, 60)
    bench.changed(lambda: bench.click_at(100, 60))
    assert layers(bench)["Path"]["path"] == "M0 40L0 0L40 0"
    # The pen goes on from an end, and what is open is closed.
    bench.keys("o")
    bench.one(".tool-pen")
    bench.click_at(100, 60)
    bench.click_at(100, 100)
    bench.changed(lambda: bench.keys(Keys.ENTER))
    assert layers(bench)["Path"]["path"] == "M0 40L0 0L40 0L40 40"
    bench.keys("g")
    bench.wait(lambda: "Group" in layers(bench))
    bench.set("rotation", "90")
    bench.one("[data-state='a']").click()
    bench.keys("s")
    bench.wait(lambda: len(bench.document()["states"]) == 2)

    bench.one("[data-row='path']").click()
    bench.double_click("[data-stage=pose] [data-layer=path]", until=lambda: len(bench.all("[data-point]")) == 4)
    assert not bench.all(".stage-foot button:disabled[title^='Joins']")
    bench.press("close")
    assert path_in(1).endswith("Z")
    assert not path_in(0).endswith("Z")
    bench.click_together("[data-point='0,0']", "[data-point='0,1']")
    bench.wait(lambda: len(bench.all("[data-point][aria-pressed=true]")) == 2)
    drawn = bench.all("[data-point]")
    bench.changed(lambda: bench.drag(drawn[0], 0, round(-10 * bench.zoom())))
    # What goes up on the screen goes to the left in what is turned by a right angle.
    assert path_in(1) == "M-10 40L-10 0L40 0L40 40Z"
    assert path_in(0) == "M0 40L0 0L40 0L40 40"
    bench.changed(lambda: bench.keys(Keys.ARROW_DOWN))
    assert path_in(1) == "M-9 40L-9 0L40 0L40 40Z"
    bench.changed(lambda: bench.keys(Keys.ENTER))
    assert path_in(1).count("C") == 3
    # One after another, until an outline could not be drawn any more.
    bench.changed(lambda: bench.keys(Keys.DELETE))
    assert path_in(1) == "M40 0L40 40Z"
    bench.one("[data-point='0,0']").click()
    bench.keys(Keys.DELETE)
    bench.wait(lambda: any("keeps at least two points" in notice.text for notice in bench.all(".notice")))
    assert path_in(1) == "M40 0L40 40Z"


def test_a_shape_becomes_an_outline_and_looks_as_before(bench) -> None:
    shape = box(1, 40, 30, fill="#1f7a70", radius_top_left=5, stroke="#15293b", stroke_width=2)
    states = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"box-1": {"width": 40}}}]
    bench.put(piece([shape], states=states, transitions=[]))
    bench.one("[data-row='box-1']").click()
    before = bench.box("pose", "box-1")
    bench.press("as outline")
    bench.wait(lambda: len(bench.all("[data-point]")) == 5)
    path = layers(bench)["Box 1"]
    assert (path["kind"], path["view_width"], "radius_top_left" in path) == ("path", 20, False)
    assert bench.box("pose", "box-1") == pytest.approx(before, abs=0.2)
    # Only the corner is another one where the box is wider: its radius stays.
    assert set(bench.document()["states"][1]["changes"]["box-1"]) == {"width", "path"}
    bench.press("Undo")
    bench.wait(lambda: layers(bench)["Box 1"]["kind"] == "rectangle")
    assert not bench.errors()
