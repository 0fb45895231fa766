"""A drawing from outside becomes layers: chosen as a file, pasted as text, refused when it is none."""

from __future__ import annotations

from pathlib import Path

import pytest
from selenium.webdriver import Keys
from selenium.webdriver.common.by import By
from test_building import add, begin, choose, give

from gull import GULL
from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import sample, timeline_of

pytestmark = pytest.mark.xdist_group("ui")

LAMP = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 90">
  <linearGradient id="dusk"><stop stop-color="#15293b"/><stop offset="1" stop-color="#1f7a70"/></linearGradient>
  <rect id="night" width="120" height="90" fill="url(#dusk)"/>
  <g id="lamp" transform="translate(40 20)"><circle cx="20" cy="20" r="12" fill="#b9832b"/><path d="M20 32v30" stroke="#fff"/></g>
  <text x="5" y="80">Deck</text>
</svg>"""  # noqa: E501 (a drawing)
PANE = '<svg xmlns="http://www.w3.org/2000/svg" width="20" height="10"><rect id="night" width="20" height="10"/></svg>'
PASTE = """
const transfer = new DataTransfer();
transfer.setData('text/plain', arguments[0]);
window.dispatchEvent(new ClipboardEvent('paste', {clipboardData: transfer}));
"""

DROP = """
const [x, y, ...texts] = arguments, transfer = new DataTransfer();
const kinds = {svg: 'image/svg+xml', txt: 'text/plain'};
texts.forEach((text, n) => {
  const [name, content] = text.split('|');
  transfer.items.add(new File([content], name, {type: kinds[name.split('.')[1]]}));
});
const told = {clientX: x, clientY: y, dataTransfer: transfer, bubbles: true, cancelable: true};
const event = new DragEvent('drop', told);
document.elementFromPoint(x, y).dispatchEvent(event);
return event.defaultPrevented;
"""


def names(bench) -> list[str]:
    return [row.text for row in bench.all(".layer-row")]


def begin_named(bench, name: str) -> None:
    """An empty piece, of the size that comes with it."""
    bench.open()
    bench.button("New piece").click()
    bench.fill(bench.field("Name"), name)
    bench.one(".layers")


def test_a_drawing_is_taken_in(bench, tmp_path: Path) -> None:
    begin_named(bench, "Deck lamp")
    source = tmp_path / "Deck lamp.svg"
    source.write_text(LAMP, "utf-8")

    # Into an empty piece, which takes its size.
    chooser = bench.browser.find_element(By.CSS_SELECTOR, "input[type=file]")
    chooser.send_keys(str(source))
    bench.wait_for_revision(2)
    assert names(bench) == ["Deck", "lamp", "Path", "Circle", "night"]
    scene = bench.one("[data-stage=pose] .scene")
    assert (scene.get_property("offsetWidth"), scene.get_property("offsetHeight")) == (120, 90)
    assert bench.box("pose", "night") == pytest.approx((60, 45), abs=0.3)
    assert bench.box("pose", "circle") == pytest.approx((60, 40), abs=0.3)
    assert "linear-gradient" in bench.one("[data-stage=pose] [data-layer=night]").value_of_css_property(
        "background-image"
    )
    assert bench.one(".notice").text.startswith(
        "Deck lamp is here, but not just as it was: text was set in Hanken Grotesk."
    )
    bench.button("Understood").click()
    bench.wait(lambda: not bench.all(".notice"))

    # Pasted into a piece that has something already: a group of its own, in the middle.
    bench.browser.execute_script(PASTE, PANE)
    bench.wait_for_revision(3)
    assert names(bench)[:2] == ["Pasted", "night"]
    assert bench.box("pose", "artwork") == pytest.approx((60, 45), abs=0.3)

    # What is no drawing is said, and nothing is lost.
    broken = tmp_path / "broken.svg"
    broken.write_text("<svg", "utf-8")
    chooser.send_keys(str(broken))
    assert "not XML" in bench.one(".notice[role=alert]").text
    bench.button("Understood").click()
    assert len(names(bench)) == 7
    bench.button("Undo").click()
    bench.wait_for_revision(4)
    bench.button("Undo").click()
    bench.wait_for_revision(5)
    assert names(bench) == []


def test_files_land_where_they_are_dropped_and_other_kinds_are_refused(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-row]")
    x, y = bench.on_stage(60, 40)
    bench.changed(lambda: bench.browser.execute_script(DROP, x, y, f"Pane.svg|{PANE}"))
    assert bench.box("pose", "artwork") == pytest.approx((60, 40), abs=1.1)
    # Elsewhere on the page: in the middle.
    piece = bench.document()
    bench.changed(lambda: bench.browser.execute_script(DROP, 60, 400, f"Pane.svg|{PANE}"))
    assert bench.box("pose", "artwork-2") == pytest.approx((piece["width"] / 2, piece["height"] / 2), abs=0.6)
    # The browser is not left to open it in place of the page.
    assert bench.browser.execute_script(DROP, x, y, "notes.txt|tides")
    bench.wait(lambda: any("notes.txt is no picture" in notice.text for notice in bench.all(".notice")))


def test_a_face_is_brought_in_and_made_to_blink(bench, tmp_path: Path) -> None:
    begin_named(bench, "Gull")
    source = tmp_path / "Gull.svg"
    source.write_text(GULL, "utf-8")
    bench.browser.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(source))
    bench.wait_for_revision(2)
    # What was left out is said, and nothing else is.
    assert bench.one(".notice").text.startswith(
        "Gull is here, but not just as it was: the filter of face was left out."
    )
    bench.button("Understood").click()
    layers = {layer["name"]: layer for layer in bench.document()["layers"]}
    assert {"face", "eyes", "beak-shape"} <= layers.keys()
    eyes = layers["eyes"]
    assert [part["kind"] for part in eyes["layers"]] == ["group", "group"]

    # Eyes shut in a state between two of the same look, soon open again, over and over.
    bench.press("+ state")
    choose(bench, eyes["id"])
    give(bench, scale_y=0.08)
    bench.choose_transition(bench.document()["transitions"][0]["id"])
    bench.press("+ way back")
    document = bench.document()
    assert [state.get("changes") for state in document["states"]] == [{}, {eyes["id"]: {"scale_y": 0.08}}]
    timeline = timeline_of(read_piece(document))
    assert timeline.run.loop_ms
    at = [segment.end_ms for segment in timeline.run.segments if segment.kind == "travel"]
    shut = [pose[eyes["id"]]["scale_y"] for pose in sample(timeline, at[:2])]
    assert sorted(shut) == pytest.approx([0.08, 1.0])
    tall = "return document.querySelector(`[data-stage=loop] [data-layer='eyes']`).getBoundingClientRect().height"
    seen: list[float] = []
    bench.wait(lambda: seen.append(bench.browser.execute_script(tall)) or min(seen) < 0.3 * max(seen), "a blink")
    assert bench.errors() == []


def kind_of(bench, paint: str, kind: str) -> None:
    path = f"//*[@aria-label='Kind of {paint}']//label[.//*[normalize-space()='{kind}']]"
    bench.changed(lambda: bench.browser.find_element(By.XPATH, path).click())


def test_a_stroke_along_a_gradient_by_numbers_and_keys(bench) -> None:
    begin(bench, "Ring", 200, 140)
    ring = add(bench, "ellipse", "Ring", x=40, y=20, width=100, height=100, fill="none", stroke="#1f7a70")
    kind_of(bench, "stroke", "conic")
    bench.press("+ state")
    kind_of(bench, "stroke", "radial")
    give(bench, stretch=1.8, angle=30)

    def stroke() -> dict[str, float]:
        return bench.document()["states"][1]["changes"][ring]["stroke"]

    # A circle became an ellipse; its grip across makes it wider, and leaves it as long.
    bench.changed(lambda: bench.one("[data-gradient=across]").send_keys(Keys.ARROW_DOWN))
    assert (stroke()["angle"], stroke()["radius"]) == (30, pytest.approx(0.508, abs=0.003))
    assert stroke()["radius"] * stroke()["stretch"] == pytest.approx(0.9, abs=0.002)
    # What is wrong is said beside the field, and the panel stays where it is.
    bench.fill(bench.field("stretch"), "-2")
    bench.wait(lambda: "stretch is -2. Give 0 or more." in [each.text for each in bench.all("[role=alert]")], "a fault")
    assert bench.field("stretch").get_attribute("value") == "-2"
    assert bench.one(".inspector").get_property("scrollLeft") == 0
    bench.field("stretch").send_keys(Keys.ESCAPE)
    # The hand-off says beforehand what it draws.
    bench.button("Hand off").click()
    said = "Ring is drawn into pictures: its stroke lies along a gradient."
    bench.wait(lambda: said in bench.one(".told").text, "what is drawn")
