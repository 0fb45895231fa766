"""Kinds, lists and screens, from nothing: a notice in three tones, and a list whose rows live by themselves."""

from __future__ import annotations

import pytest
from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.common.actions.wheel_input import ScrollOrigin
from selenium.webdriver.common.by import By
from test_accessibility import findings
from test_building import add, begin, choose, give
from test_from_empty import select
from test_rehearsing import USED, cue, happened, on_stage, rehearse, tap, there_and_back

pytestmark = pytest.mark.xdist_group("ui")


def place(bench, original: str, name: str) -> str:
    """A copy of a piece on the shelf, called so; its id."""
    bench.button("+ add").click()
    titles = lambda: [e for e in bench.all(".ant-dropdown-menu-submenu-title") if e.text == "another piece"]  # noqa: E731
    ActionChains(bench.browser).move_to_element(bench.wait(titles)[0]).perform()
    items = lambda: [e for e in bench.all(".ant-dropdown-menu-item") if e.text == original]  # noqa: E731
    bench.changed(bench.wait(items)[0].click)
    fresh = str(bench.one("li.chosen [data-row]").get_attribute("data-row"))
    bench.rename_layer(fresh, name)
    return fresh


def live_free(bench) -> None:
    bench.changed(bench.one("[title^='It plays and answers']").click)


def option(bench, name: str) -> None:
    """Called so, the option that is shown."""
    bench.one(".traits").find_element(By.XPATH, ".//button[normalize-space()='rename option']").click()
    bench.changed(lambda: bench.fill(bench.field("Name of the option"), name))


def looks(bench, stage: str, layer: str) -> str:
    return str(bench.one(f"[data-stage={stage}] [data-layer='{layer}']").value_of_css_property("background-color"))


def a_notice(bench) -> str:
    """It comes by itself; calm as it is, and with a warning and an error beside it."""
    begin(bench, "Notice of tones", 200, 80)
    card = add(bench, "rectangle", "Card", x=20, y=90, width=160, height=50, fill="#1f7a70")
    bench.press("+ state")
    choose(bench, card)
    give(bench, y=15)
    bench.press("+ trait")
    option(bench, "Warning")
    # What an edit reaches is said before it is made.
    assert "Edits reach Warning, an option of kind" in bench.one(".inspector").text
    choose(bench, card)
    bench.set("fill", "#b9832b")
    bench.press("+ option")
    option(bench, "Error")
    bench.set("fill", "#d9503a")
    bench.double_click(".traits .name", lambda: bench.all("[aria-label='Name of the trait']"))
    bench.changed(lambda: bench.fill(bench.field("Name of the trait"), "tone"))
    return card


def test_a_notice_in_three_tones(bench) -> None:
    card = a_notice(bench)
    tones = ["Error", "Plain", "Warning"]
    for name in tones[1:]:
        bench.changed(bench.one(f".traits [title='{name}']").click)
        tones.append(looks(bench, "pose", card))
    assert tones[3:] == ["rgba(31, 122, 112, 1)", "rgba(185, 131, 43, 1)"]
    # The state has the last word on where it is: drawn once, in any tone.
    [trait] = bench.document()["traits"]
    assert [list(option.get("changes", {}).get(card, {})) for option in trait["options"]] == [[], ["fill"], ["fill"]]
    # Edits of the base that an option hides say so, and take it back by one press.
    bench.one("[aria-label='What an edit changes'] [title='the base']").click()
    assert any("Warning says something of it" in each.text for each in bench.all(".overrides"))
    assert findings(bench) == []

    # Dropped on a phone's screen it plays there by itself, each copy in its own tone.
    bench.open()
    bench.button("New piece").click()
    bench.one("[aria-label='Made for']").find_element(By.XPATH, ".//button[normalize-space()='a phone']").click()
    bench.fill(bench.field("Name"), "Harbour phone")
    bench.one(".layers")
    assert (bench.document()["width"], bench.document()["height"]) == (360, 720)
    first = place(bench, "Notice of tones", "Upper notice")
    # What a device covers is drawn, and what is alone lines up with the rest.
    bench.changed(bench.one("[title='Line up with its group, or the safe area: top']").click)
    assert bench.document()["layers"][0]["y"] == bench.document()["safe_area"]["top"] == 40
    # Where nothing leads it, it says that it stands still, and what to do.
    assert "stands still unless it lives by itself" in bench.one("section.placement").text
    live_free(bench)
    second = place(bench, "Notice of tones", "Lower notice")
    live_free(bench)
    give(bench, y=400)
    bench.changed(lambda: select(bench, "tone of the copy", "Error"))
    tones = [looks(bench, "pose", f"{copy}/{card}") for copy in (first, second)]
    assert tones == ["rgba(185, 131, 43, 1)", "rgba(217, 80, 58, 1)"]
    bench.wait(lambda: "It plays once, for" in bench.one("section.placement").text)
    # By one press it is as the original again.
    bench.changed(bench.one("[aria-label='Take back tone']").click)
    assert looks(bench, "pose", f"{second}/{card}") == tones[0]
    bench.press("Undo")
    # What lives free stands in no state of this piece: it says so before it is led.
    bench.changed(bench.one("[title^='The states of this piece say']").click)
    assert "stands in all states" in bench.one("section.placement").text
    bench.press("Undo")


ROWS = "name\tfill\nHarbour seal\t#1f7a70\nGrey heron\t#b9832b\nPilot boat\t#d9503a\nTide pool\t#15293b"


def a_post(bench) -> None:
    """A mark that a double tap fills; copies may set name and colour."""
    begin(bench, "Post", 200, 60)
    picture = add(bench, "rectangle", "Picture", x=0, y=0, width=60, height=60, fill="#8fa3a0")
    words = add(bench, "text", "Words", x=70, y=18, width=90, height=24)
    mark = add(bench, "ellipse", "Mark", x=170, y=20, width=20, height=20, fill="#d5dad7")
    for row, value in ((words, "text"), (picture, "fill")):
        choose(bench, row)
        if not bench.all("details[open] .chips"):
            bench.unfold("Copies may set")
        bench.press(value)
    bench.press("+ state")
    choose(bench, mark)
    bench.set("fill", "#d9503a")
    cue(bench, "first-to-state-2", "double tap")


def test_a_list_of_four_posts_from_pasted_rows(bench) -> None:
    a_post(bench)
    begin(bench, "Harbour list", 220, 320)
    copy = place(bench, "Post", "First post")
    give(bench, x=10, y=10)
    # A state alone: it lives by itself, since nobody leads it.
    live_free(bench)
    bench.button("Fill from pasted rows…").click()
    field = bench.one("textarea[aria-label=Rows]")
    # Wrong cells are said with their rows, and nothing that was typed is lost.
    paste(bench, field, "words text\tpicture fill\nHarbour seal\tgreenish")
    bench.wait(lambda: "Row 1: “greenish” is no picture fill." in bench.one("[role=alert]").text)
    names = "words text\tpicture fill"
    paste(bench, field, "\n".join([names, *ROWS.splitlines()[1:]]))
    bench.press("Fill 4 copies")
    layers = bench.document()["layers"]
    assert [layer["name"] for layer in layers] == [row.split("\t")[0] for row in ROWS.splitlines()[1:]]
    assert [layer["y"] for layer in layers] == [10, 82, 154, 226]
    shown = [bench.one(f"[data-stage=pose] [data-layer='{layer['id']}/text']").text for layer in layers]
    assert shown == [layer["name"] for layer in layers]
    # An edit of the original is seen in all of them, and what they say themselves stays.
    assert bench.document()["layers"][2]["values"] == {"words-text": "Pilot boat", "picture-fill": "#d9503a"}

    rehearse(bench)
    marks = [f"{layer['id']}/ellipse" for layer in layers]
    for mark in (marks[1], marks[1], marks[3]):
        tap(bench, mark)
    bench.wait(lambda: filled(bench, marks[1]))
    assert [filled(bench, mark) for mark in marks] == [False, True, False, False]
    assert any("First → State 2" in line for line in happened(bench))
    assert copy == layers[0]["id"]


def paste(bench, field, text: str) -> None:
    """As from a clipboard: tabs are text there, and do not lead to the next field."""
    field.click()
    field.send_keys(Keys.CONTROL, "a")
    bench.browser.execute_cdp_cmd("Input.insertText", {"text": text})


def filled(bench, mark: str) -> bool:
    shown = bench.all(f".used [data-layer='{mark}']")[-1].value_of_css_property("background-color")
    return str(shown) == "rgba(217, 80, 58, 1)"


def test_a_screen_with_a_scrolled_story(bench) -> None:
    """Two sections and a figure that stays: it takes another look with the second, by a real wheel and by keys."""
    begin(bench, "Short story", 200, 160)
    ground = add(bench, "rectangle", "Ground", x=0, y=160, width=200, height=160, fill="#d5e6ea")
    figure = add(bench, "ellipse", "Figure", x=80, y=40, width=40, height=40, fill="#1f7a70")
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: "Sections" in bench.one(".inspector").text)
    bench.press("+ section")
    names = [section["name"] for section in bench.document()["sections"]]
    assert (names, [section["height"] for section in bench.document()["sections"]]) == (
        ["Section 1", "Section 2"],
        [160, 160],
    )
    choose(bench, figure)
    bench.unfold("Touch and scrolling")
    labels = bench.all(".inspector .ant-checkbox-wrapper")
    bench.changed(next(label for label in labels if "stays in its place" in label.text).click)
    bench.press("+ state")
    choose(bench, figure)
    bench.set("fill", "#d9503a")
    # It turns as the first section goes by; what is no number is said, and nothing is lost.
    bench.unfold("Moves with the scroll")
    bench.press("+ with the scroll")
    turn = bench.field("rotation through Section 1 at 100 %")
    bench.fill(turn, "far")
    bench.wait(lambda: bench.faults())
    bench.changed(lambda: bench.fill(turn, "90"))
    assert [key["value"] for key in bench.document()["undercurrents"][0]["courses"][0]["keys"]] == [0, 90]
    there, back = there_and_back(bench)
    cue(bench, there, "comes into view", "Section 2")
    cue(bench, back, "comes into view", "Section 1")
    along_the_way(bench)
    # The stage shows all of the content, and each section by one press.
    bench.one("[aria-label='Sections on the stage']").find_element(By.XPATH, ".//button[.='Section 2']").click()
    assert bench.one(f"[data-stage=pose] [data-layer='{ground}']").is_displayed()
    assert findings(bench) == []

    rehearse(bench)
    screen = bench.one(f"{USED} .scene")
    before = bench.one(f"{USED} [data-layer='{figure}']").rect["y"]
    ActionChains(bench.browser).scroll_from_origin(ScrollOrigin.from_element(screen), 0, 160).perform()
    bench.wait(lambda: on_stage(bench) == "State 2")
    bench.wait(lambda: coloured(bench, figure, "217, 80, 58"))
    shown = f"{USED} [data-layer='{figure}']"
    bench.wait(lambda: "rotate(90deg)" in bench.one(shown).get_attribute("style"))
    assert bench.one(shown).rect["y"] == pytest.approx(before, abs=1)
    ActionChains(bench.browser).scroll_from_origin(ScrollOrigin.from_element(screen), 0, -160).perform()
    bench.wait(lambda: on_stage(bench) == "First")
    bench.wait(lambda: "rotate(90deg)" not in bench.one(shown).get_attribute("style"))
    # By the keyboard, as any page scrolls.
    screen.send_keys(Keys.END)
    bench.wait(lambda: on_stage(bench) == "State 2")
    assert any("comes into view Section 2" in line for line in happened(bench))
    # Nothing of it is lost where somebody starts over: it stands at its top again.
    bench.button("Start over").click()
    bench.wait(lambda: bench.browser.execute_script("return arguments[0].scrollTop", bench.one(f"{USED} .scene")) == 0)


def along_the_way(bench) -> None:
    """The run sheet with the way scrolled as its axis: where the figure turns, and by how much is changed there."""
    bench.one("nav").find_element("link text", "Run sheet").click()
    bench.button("by the scroll").click()
    assert bench.one("svg.axis").get_attribute("aria-label") == "160 px can be scrolled"
    told = bench.one("[aria-label='What moves with the scroll'] svg").get_attribute("aria-label")
    assert told == "Figure rotation through Section 1: 0 at 0 %, 90 at 100 %"
    titles = [title.get_attribute("textContent") for title in bench.all("svg.axis path title")]
    assert any(title.startswith("Section 2 comes into view at 80 px: First to") for title in titles)
    bench.one("[aria-label='What moves with the scroll'] button").click()
    bench.changed(lambda: bench.fill(bench.field("rotation through Section 1 at 0 %"), "10"))
    assert findings(bench) == []
    bench.press("Undo")
    bench.button("by the scroll").click()
    bench.wait(lambda: not bench.all("[aria-label='What moves with the scroll']"))
    bench.one("nav").find_element("link text", "Workbench").click()
    bench.one("[data-stage=pose]")


def coloured(bench, layer: str, rgb: str) -> bool:
    return rgb in str(bench.one(f"{USED} [data-layer='{layer}']").value_of_css_property("background-color"))


def test_two_screens_joined_by_an_icon_that_answers(bench) -> None:
    """One tap: the icon goes its own way, and the piece around it changes the screen."""
    begin(bench, "Turning icon", 40, 40)
    disc = add(bench, "rectangle", "Disc", x=0, y=0, width=40, height=40, fill="#1f7a70")
    bench.press("+ state")
    choose(bench, disc)
    give(bench, rotation=90)
    cue(bench, "first-to-state-2", "tap")
    begin(bench, "Both screens", 200, 160)
    other = add(bench, "rectangle", "Second screen", x=200, y=0, width=200, height=160, fill="#d5e6ea")
    icon = place(bench, "Turning icon", "Icon")
    give(bench, x=150, y=110)
    live_free(bench)
    bench.wait(lambda: "It waits for somebody to act" in bench.one("section.placement").text)
    bench.press("+ state")
    choose(bench, other)
    give(bench, x=0)
    cue(bench, "first-to-state-2", "tap", "Icon")
    # What is around a copy that lives free only moves its place: so it says, and its size is that of all states.
    choose(bench, icon)
    bench.set("width", "44")
    assert bench.document()["layers"][1]["width"] == 44
    bench.press("Undo")

    rehearse(bench)
    tap(bench, f"{icon}/{disc}")
    bench.wait(lambda: on_stage(bench) == "State 2")
    lines = happened(bench)
    assert sum(line.startswith("tap Icon") for line in lines) == 2
    inner = f"{USED} [data-layer='{icon}/{disc}']"
    bench.wait(lambda: turned(bench, inner))
    assert findings(bench) == []


def turned(bench, css: str) -> bool:
    matrix = str(bench.one(css).value_of_css_property("transform"))
    return abs(float(matrix.split("(")[1].split(",")[1]) - 1.0) < 0.01
