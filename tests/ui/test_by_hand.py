"""Layers resized, turned and snapped by hand; paints and shadows set in the inspector."""

from __future__ import annotations

import math
from typing import Any

import pytest
from selenium.webdriver import ActionChains, Keys

from support import piece

pytestmark = pytest.mark.xdist_group("ui")


def grip(bench, name: str):
    return bench.one(f".chosen-frame [data-grip='{name}']")


def test_a_layer_is_resized_turned_and_snapped_by_hand(bench) -> None:
    bench.open("/pieces/boarding-stamp")
    bench.one("[data-row='plate']").click()
    values = {
        name: float(bench.field(name).get_property("value").replace("−", "-")) for name in ("x", "y", "width", "height")
    }
    zoom = bench.browser.execute_script(
        "const s = document.querySelector('[data-stage=pose] .scene');"
        "return s.getBoundingClientRect().width / s.offsetWidth"
    )

    def now(name: str) -> float:
        return float(bench.field(name).get_property("value").replace("−", "-"))

    # By its right side: what lies opposite stays.
    bench.drag(grip(bench, "1,0"), 20 * zoom, 7)
    bench.wait_for_revision(2)
    assert now("width") == pytest.approx(values["width"] + 20, abs=1)
    assert (now("x"), now("y"), now("height")) == (values["x"], values["y"], values["height"])
    # By its top left corner.
    bench.drag(grip(bench, "-1,-1"), 6 * zoom, 6 * zoom)
    bench.wait_for_revision(3)
    assert now("x") == pytest.approx(values["x"] + 6, abs=1)
    assert now("y") + now("height") == pytest.approx(values["y"] + values["height"], abs=0.01)
    # Turned by the arm above it: a quarter, as the pointer goes from above to the right of its middle.
    x, y = bench.box("pose", "plate")
    before_x, before_y = (grip(bench, "turn").rect[k] + 4 for k in "xy")
    scene = bench.one("[data-stage=pose] .scene").rect
    dx, dy = scene["x"] + x * zoom - before_x, scene["y"] + y * zoom - before_y
    bench.drag(grip(bench, "turn"), dx + abs(dy), dy)
    bench.wait_for_revision(4)
    assert now("rotation") == pytest.approx(90, abs=2)
    for revision in (5, 6, 7):
        bench.button("Undo").click()
        bench.wait_for_revision(revision)
    assert {name: now(name) for name in values} == values
    # Moved so that its middle nearly comes to lie on that of the piece, it snaps there.
    middle = 240 / 2 - values["width"] / 2
    bench.fill(bench.field("x"), str(middle - 30))
    bench.wait_for_revision(8)
    # Beside the label that lies on it.
    plate = bench.one("[data-stage=pose] [data-layer='plate']")
    chain = ActionChains(bench.browser).move_to_element_with_offset(plate, -60 * zoom, 0).click_and_hold()
    chain.move_by_offset(31.5 * zoom, 0).release().perform()
    bench.wait_for_revision(9)
    assert now("x") == pytest.approx(middle, abs=0.01)


def test_paints_and_shadows_are_set_in_the_inspector(bench) -> None:
    bench.open("/pieces/boarding-stamp")
    bench.one("[data-row='plate']").click()
    style = lambda name: bench.one("[data-stage=pose] [data-layer='plate']").value_of_css_property(name)  # noqa: E731
    bench.one("[aria-label='Kind of fill'] [title='linear']").click()
    bench.wait_for_revision(2)
    bench.wait(lambda: style("background-image").startswith("linear-gradient("))
    bench.fill(bench.field("angle"), "90")
    bench.wait_for_revision(3)
    bench.button("+ stop").click()
    bench.wait_for_revision(4)
    bench.fill(bench.field("Place of stop 2"), "30")
    bench.fill(bench.field("stop 2"), "#b9832b")
    bench.wait_for_revision(6)
    bench.wait(lambda: "rgb(185, 131, 43) 30%" in style("background-image"))
    bench.one("[aria-label='Remove stop 2']").click()
    bench.wait_for_revision(7)
    bench.one("[aria-label='Kind of fill'] [title='colour']").click()
    bench.wait_for_revision(8)
    bench.wait(lambda: style("background-image") == "none")

    bench.one("details:has(.editor) summary").click()
    count = len(bench.all("[aria-label^='Remove shadow']"))
    bench.button("+ shadow").click()
    bench.wait_for_revision(9)
    bench.fill(bench.field(f"blur of shadow {count + 1}"), "13")
    bench.wait_for_revision(10)
    bench.wait(lambda: "13px" in style("box-shadow"))
    bench.one(f"[aria-label='Remove shadow {count + 1}']").click()
    bench.wait_for_revision(11)
    bench.wait(lambda: "13px" not in style("box-shadow"))


def boxes(**rest: Any) -> dict[str, Any]:
    """Two upright boxes and one that is turned, a text, and two circles in a group."""
    box = {"kind": "rectangle", "width": 40, "height": 20}
    inner = {"kind": "ellipse", "width": 20, "height": 20, "y": 5}
    words = {"kind": "text", "id": "words", "name": "Words", "x": 150, "y": 20, "width": 80, "height": 24}
    layers = [
        {**box, "id": "a", "name": "A", "x": 20, "y": 20, "fill": "#1f7a70", "opacity": 0.5, "radius_top_left": 6},
        {**box, "id": "b", "name": "B", "x": 80, "y": 60},
        {**box, "id": "tilted", "name": "Tilted", "x": 28, "y": 100, "rotation": 30, "scale_x": 2},
        {**words, "text": "Gate 9"},
        {"kind": "group", "id": "pair", "name": "Pair", "x": 140, "y": 100, "width": 80, "height": 30}
        | {"layers": [{**inner, "id": f"in-{n}", "name": f"In {n}", "x": 10 + 30 * n} for n in range(2)]},
    ]
    return piece(layers, states=[{"id": "a", "name": "S"}], transitions=[], width=260, height=160, **rest)


def look(bench, layer: str) -> dict[str, Any]:
    return next(each for each in bench.document()["layers"] if each["id"] == layer)


def pulled(bench, name: str, dx: float, dy: float) -> None:
    zoom = bench.zoom()
    bench.changed(lambda: bench.drag(bench.all(f".chosen-frame [data-grip='{name}']")[-1], dx * zoom, dy * zoom))


def moved(bench, layer: str, dx: float) -> None:
    on_stage = bench.one(f"[data-stage=pose] [data-layer='{layer}']")
    bench.changed(lambda: bench.drag(on_stage, dx * bench.zoom(), 0))


def chosen(bench) -> list[str]:
    return [row.text for row in bench.all("li.chosen .layer-row")]


def test_an_edge_that_is_pulled_snaps_and_goes_past_the_other_side(bench) -> None:
    bench.put(boxes())
    bench.one("[data-row='a']").click()
    # The right edge to the left edge of B at 80, exactly.
    pulled(bench, "1,0", 18.6, 0)
    assert (look(bench, "a")["x"], look(bench, "a")["width"]) == (20, 60)
    # Past the left edge: 30 beyond it, mirrored.
    pulled(bench, "1,0", -91, 0)
    a = look(bench, "a")
    assert (a["scale_x"], a["width"]) == (-1, pytest.approx(31, abs=1))
    assert bench.box("pose", "a")[0] == pytest.approx(20 - a["width"] / 2, abs=0.1)


def test_several_layers_are_resized_and_turned_as_one(bench) -> None:
    bench.put(boxes())
    bench.click_together("[data-row='a']", "[data-row='b']", "[data-row='tilted']")
    bench.wait(lambda: bench.one(".inspector h2").text == "3 layers")
    before = {layer: bench.box("pose", layer) for layer in ("a", "b", "tilted")}
    low = 20.0
    pulled(bench, "1,1", 40, 30)
    after = {layer: bench.box("pose", layer) for layer in before}
    # The top left of them all stays; what is in the middle of each goes along.
    factor = (after["b"][1] - low) / (before["b"][1] - low)
    assert factor > 1.2
    assert after["a"][1] - low == pytest.approx((before["a"][1] - low) * factor, abs=0.7)
    assert look(bench, "b")["height"] == pytest.approx(20 * factor, abs=0.3)
    bench.press("Undo")
    pulled(bench, "turn", 60, 40)
    turned = {layer["id"]: layer.get("rotation", 0) for layer in bench.document()["layers"]}
    assert turned["a"] == turned["b"] == turned["tilted"] - 30
    assert turned["a"] > 5
    # As far from each other as before.
    apart = lambda places: math.dist(places["a"], places["b"])  # noqa: E731
    assert apart({layer: bench.box("pose", layer) for layer in before}) == pytest.approx(apart(before), abs=0.5)


def test_a_pivot_is_pulled_and_its_layer_stays(bench) -> None:
    bench.put(boxes())
    bench.one("[data-row='tilted']").click()
    before = bench.box("pose", "tilted")
    bench.button("pivot").click()
    pulled(bench, "pivot", -60, -34)
    tilted = look(bench, "tilted")
    assert tilted["pivot_x"] < 0.2
    assert bench.box("pose", "tilted") == pytest.approx(before, abs=0.1)


def test_looks_go_from_layer_to_layer_and_a_text_is_typed_where_it_stands(bench) -> None:
    bench.put(boxes())
    bench.one("[data-row='a']").click()
    bench.keys("c")
    bench.one("[data-row='b']").click()
    bench.changed(lambda: bench.keys("C"))
    b = look(bench, "b")
    assert (b["fill"], b["opacity"], b["radius_top_left"], b["x"], b["width"]) == ("#1f7a70", 0.5, 6, 80, 40)

    bench.one("[data-row='words']").click()
    bench.double_click("[data-stage=pose] [data-layer=words]", until=lambda: bench.all("textarea.text-in-place"))
    typed = bench.one("textarea.text-in-place")
    typed.send_keys("Gate 12")
    typed.send_keys(Keys.SHIFT, Keys.ENTER)
    typed.send_keys(Keys.NULL, "late")
    bench.changed(lambda: typed.send_keys(Keys.ENTER))
    assert look(bench, "words")["text"] == "Gate 12\nlate"
    bench.wait(lambda: not bench.all("textarea.text-in-place"))
    # Enter on the stage opens it too, and Escape leaves it as it was.
    bench.browser.execute_script("document.querySelector('[data-stage=pose]').focus()")
    bench.keys(Keys.ENTER)
    bench.one("textarea.text-in-place").send_keys("nothing")
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: not bench.all("textarea.text-in-place"))
    assert look(bench, "words")["text"] == "Gate 12\nlate"


def test_what_lies_beneath_and_what_lies_in_a_group_is_reached(bench) -> None:
    bench.put(boxes())
    bench.one("[data-row='a']")
    bench.keys("a", ctrl=True)
    bench.wait(lambda: len(chosen(bench)) == 5)
    bench.keys(Keys.ESCAPE)
    # A frame drawn in a group that was gone into takes what is in it.
    bench.double_click("[data-stage=pose] [data-layer=in-0]", until=lambda: chosen(bench) == ["In 0"])
    bench.pull((138, 98), (215, 134))
    bench.wait(lambda: sorted(chosen(bench)) == ["In 0", "In 1"])
    bench.keys("a", ctrl=True)
    bench.wait(lambda: sorted(chosen(bench)) == ["In 0", "In 1"])
    for _ in range(3):
        bench.keys(Keys.ESCAPE)
    bench.wait(lambda: not chosen(bench))
    # B is brought over A; Alt and a click reach what is beneath, and then the one above again.
    bench.one("[data-row='b']").click()
    bench.set("x", "30")
    bench.set("y", "25")
    bench.click_at(50, 32)
    bench.wait(lambda: chosen(bench) == ["B"])
    bench.click_at(50, 32, holding=Keys.ALT)
    bench.wait(lambda: chosen(bench) == ["A"])
    bench.click_at(50, 32, holding=Keys.ALT)
    bench.wait(lambda: chosen(bench) == ["B"])


def test_lines_of_ones_own(bench) -> None:
    bench.put(boxes())
    bench.wait(lambda: [bench.unfold("Guides and grid"), bench.field("grid, px between lines").is_displayed()][1])
    bench.set("guides, px from the left", "200, 33.5px")
    assert bench.document()["guides"] == {"upright": [33.5, 200], "level": [], "grid": None}
    bench.fill(bench.field("guides, px from the top"), "12 high")
    bench.wait(lambda: "high" in " ".join(bench.faults()), "the word that is no number")
    bench.set("guides, px from the top", "150")
    zoom = bench.zoom()
    # A tab is pulled; the layer's left edge then snaps to where the guide is now.
    bench.changed(lambda: bench.drag(bench.one("[data-guide='upright 0']"), 4 * zoom, 0))
    at = bench.document()["guides"]["upright"][0]
    assert at == pytest.approx(37.5, abs=0.5)
    moved(bench, "a", at - 20 - 1)
    assert look(bench, "a")["x"] == at
    # Beyond the edge of the piece it is gone.
    bench.changed(lambda: bench.drag(bench.one("[data-guide='upright 0']"), -60 * zoom, 0))
    assert bench.document()["guides"] == {"upright": [200], "level": [150], "grid": None}
    bench.keys(Keys.ESCAPE)
    bench.set("grid, px between lines", "35")
    moved(bench, "a", 104 - at)
    assert look(bench, "a")["x"] == 105
    bench.keys(Keys.ESCAPE)
    bench.press("Remove guides and grid")
    assert bench.document()["guides"] is None
