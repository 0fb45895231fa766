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
    """What is listed, a line each."""
    return [" ".join(line.text.split("\n")[1:]) for line in bench.all(".happened li")]


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
    bench.open("/pieces/timetable-tabs")
    rehearse(bench)
    for name in ("week", "fares", "today", "fares", "week", "today") * 3:
        tap(bench, f"tab-{name}")
    bench.wait(lambda: on_stage(bench) == "Today")
    heeded = [line for line in happened(bench) if "→" in line]
    assert len(heeded) == 18
    # It comes to rest exactly where the state says.
    x = "return new DOMMatrix(getComputedStyle(document.querySelector('.used [data-layer=strip]')).transform).e"
    bench.wait(lambda: bench.browser.execute_script(x) == 0)


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
