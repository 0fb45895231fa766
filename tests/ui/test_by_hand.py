"""Layers resized, turned and snapped by hand; paints and shadows set in the inspector."""

from __future__ import annotations

import pytest
from selenium.webdriver import ActionChains

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
    bench.drag(grip(bench, "-1,-1"), 10 * zoom, 6 * zoom)
    bench.wait_for_revision(3)
    assert now("x") == pytest.approx(values["x"] + 10, abs=1)
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
