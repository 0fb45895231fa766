"""Pieces that answer: built from empty ones, used by pointer and keyboard, kept, and compared with themselves."""

from __future__ import annotations

import pytest
from selenium.webdriver import ActionChains, Keys
from test_accessibility import findings
from test_building import add, begin, choose, give, grouped
from test_from_empty import select

pytestmark = pytest.mark.xdist_group("ui")
USED = "[data-stage=rehearse] .used"


def happened(bench) -> list[str]:
    """What is listed, a line each; what is scrolled out of sight too."""
    lines = "return [...document.querySelectorAll('.happened li')].map(line => line.innerText)"
    return [" ".join(line.split("\n")[1:]) for line in bench.browser.execute_script(lines)]


def on_stage(bench) -> str:
    return str(bench.one(".state-map").get_attribute("aria-label")).split("; ")[1].split(" is ")[0]


def tap(bench, layer: str) -> None:
    element = bench.one(f"{USED} [data-layer='{layer}']")
    ActionChains(bench.browser, duration=0).move_to_element(element).click().perform()


def cue(bench, transition: str, name: str, layer: str | None = None) -> None:
    bench.choose_transition(transition)
    bench.changed(lambda: select(bench, "Cue", name))
    if layer:
        bench.changed(lambda: select(bench, "Cue layer", layer))


def there_and_back(bench) -> tuple[str, str]:
    """The ids of the two transitions between the first state and the second."""
    ways = bench.document()["transitions"]
    if len(ways) < 2:
        bench.one(f"[data-state='{ways[0]['to']}']").click()
        bench.changed(lambda: bench.pick("+ transition", "to First"))
        ways = bench.document()["transitions"]
    return ways[0]["id"], ways[1]["id"]


def rehearse(bench) -> None:
    """One key away."""
    bench.one(".bench nav")
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys("R", shift=True)
    bench.one(USED)


def test_a_switch(bench) -> None:
    begin(bench, "Lamp in use", 160, 96)
    track = add(bench, "rectangle", "Track", width=80, height=40, x=40, y=28, fill="#8c97a0")
    bench.press("+ state")
    choose(bench, track)
    give(bench, fill="#1f7a70")
    for way in there_and_back(bench):
        cue(bench, way, "tap", "Track")
    rehearse(bench)
    assert on_stage(bench) == "First"
    tap(bench, track)
    bench.wait(lambda: len(happened(bench)) == 1)
    assert happened(bench)[0].startswith("tap Track First → ")
    bench.wait(lambda: on_stage(bench) != "First")
    # Beside it: nothing waits there, and the page says what does.
    ActionChains(bench.browser, duration=0).move_to_element_with_offset(bench.one(USED), 60, 40).click().perform()
    bench.wait(lambda: "waits for it on Track" in happened(bench)[-1])
    # By keyboard alone, held down: one tap.
    bench.browser.execute_script(f"document.querySelector(`{USED} [data-layer='{track}']`).focus()")
    bench.keys(Keys.ENTER)
    bench.wait(lambda: on_stage(bench) == "First")
    assert len(happened(bench)) == 3

    # Kept, acted again, and compared with itself after an edit.
    bench.fill(bench.field("Name of the rehearsal"), "On and off")
    bench.button("On and off")
    before = happened(bench)
    bench.button("On and off").click()
    bench.wait(lambda: len(happened(bench)) == 0)
    bench.wait(lambda: happened(bench) == before)
    assert findings(bench) == []
    # On the strip of time: what was done, full where it set something off; moments by keys, and nothing is forgotten.
    assert [mark.get_attribute("opacity") for mark in bench.all(".strip path[transform]")] == ["1", "0.35", "1"]
    bench.browser.execute_script("document.querySelector('.moments').focus()")
    bench.keys(Keys.HOME)
    bench.wait(lambda: len(happened(bench)) == 0)
    bench.keys(Keys.PAGE_UP * 12)
    bench.wait(lambda: happened(bench) == before)
    bench.wait(lambda: len(bench.all(".kept .leads a")) == 3)
    page, strip, _ = bench.all(".kept .leads a")
    assert page.get_attribute("href").endswith("/handoff/html?of=1")
    assert strip.get_attribute("href").endswith("/rehearsals/1/filmstrip.png")
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys("R", shift=True)
    bench.choose_transition(bench.document()["transitions"][0]["id"])
    bench.set("duration", "900")
    rehearse(bench)
    bench.wait(lambda: any("Since revision" in line.text for line in bench.all(".kept .changed")))


def test_a_card_under_the_pointer(bench) -> None:
    begin(bench, "Card in use", 200, 160)
    card = add(bench, "rectangle", "Card", width=100, height=80, x=50, y=40, fill="#d9503a")
    bench.press("+ state")
    choose(bench, card)
    give(bench, y=30)
    there, back = there_and_back(bench)
    cue(bench, there, "pointer over", "Card")
    cue(bench, back, "pointer out", "Card")
    rehearse(bench)
    ActionChains(bench.browser).move_to_element(bench.one(f"{USED} [data-layer='{card}']")).perform()
    bench.wait(lambda: on_stage(bench) != "First")
    ActionChains(bench.browser).move_to_element(bench.one(".happened h2")).perform()
    bench.wait(lambda: on_stage(bench) == "First")
    assert [line.split(" Card")[0] for line in happened(bench)] == ["pointer over", "pointer out"]
    # Every way once, without a hand.
    bench.button("Act for me").click()
    bench.wait(lambda: len(happened(bench)) == 0)
    bench.wait(lambda: len(happened(bench)) == 2)


def test_three_tabs_as_fast_as_a_person_can(bench) -> None:
    """From nothing: three tabs, and an indicator that goes to whichever is tapped."""
    begin(bench, "Tabs in use", 300, 80)
    tabs = [
        add(bench, "rectangle", f"Tab {n}", width=80, height=40, x=10 + 100 * n, y=10, fill="#ddeae6") for n in range(3)
    ]
    mark = add(bench, "rectangle", "Indicator", width=80, height=4, x=10, y=60, fill="#d9503a")
    for n in (1, 2):
        bench.press("+ state")
        bench.rename_state(bench.one(".state-head.chosen button").get_attribute("data-state"), f"Tab {n}")
        choose(bench, mark)
        give(bench, x=10 + 100 * n)
    states = [state["id"] for state in bench.document()["states"]]
    names = ["First", "Tab 1", "Tab 2"]
    for one, state in enumerate(states):
        for other in range(3):
            there = {(t["from"], t["to"]): t["id"] for t in bench.document()["transitions"]}
            if one != other and (state, states[other]) not in there:
                bench.one(f"[data-state='{state}']").click()
                bench.changed(lambda other=other: bench.pick("+ transition", f"to {names[other]}"))
    for transition in bench.document()["transitions"]:
        cue(bench, transition["id"], "tap", f"Tab {states.index(transition['to'])}")
    rehearse(bench)
    for n in (1, 2, 0, 2, 1, 0) * 3:
        tap(bench, tabs[n])
    bench.wait(lambda: on_stage(bench) == "First")
    assert len([line for line in happened(bench) if "→" in line]) == 18
    # It comes to rest exactly where the state says.
    x = f"return new DOMMatrix(getComputedStyle(document.querySelector('.used [data-layer={mark}]')).transform).e"
    bench.wait(lambda: bench.browser.execute_script(x) == 10)


def test_the_loop_stage_can_be_used(bench) -> None:
    bench.open("/pieces/deck-lamp-switch")
    assert "waits for a tap" in bench.one("[data-stage=loop]").text
    bench.button("use it").click()
    knob = bench.one("[data-stage=loop] .used [data-layer=rectangle]")
    ActionChains(bench.browser, duration=0).move_to_element(knob).click().perform()
    brass = "return getComputedStyle(document.querySelector('.used [data-layer=rectangle]')).backgroundColor"
    bench.wait(lambda: bench.browser.execute_script(brass) == "rgb(185, 131, 43)")
    bench.button("use it").click()
    bench.wait(lambda: not bench.all(".used"))
    # What it would do is handed off too.
    bench.button("Hand off").click()
    select(bench, "What is played", "every way once")
    address = "/handoff/html?of=every-way-once"
    bench.wait(lambda: bench.one(".told a.ant-btn-primary").get_attribute("href").endswith(address), "the rehearsal")
    assert "of a rehearsal, played once" in bench.one(".told").text
    bench.open("/pieces/ferry-card/rehearse")
    bench.button("Every way once").click()
    assert bench.button("web page").get_attribute("href").endswith(address)


def test_a_group_is_one_thing(bench) -> None:
    """Tapped on any layer of it; and it is used while paused by nobody."""
    begin(bench, "Group in use", 160, 96)
    add(bench, "rectangle", "Half", width=40, height=40, x=20, y=20, fill="#1f7a70")
    other = add(bench, "rectangle", "Other half", width=40, height=40, x=70, y=20, fill="#b9832b")
    bench.click_together("[data-row=rectangle]", f"[data-row='{other}']")
    group = grouped(bench, "Pair")
    bench.press("+ state")
    choose(bench, group)
    give(bench, rotation=90)
    there, _ = there_and_back(bench)
    cue(bench, there, "tap", "Pair")
    rehearse(bench)
    tap(bench, other)
    bench.wait(lambda: on_stage(bench) != "First")
