"""Pieces built from nothing, as they stand in the demo: by pointer, and one of them by keys alone."""

from __future__ import annotations

import copy
from typing import Any

import pytest
from selenium.webdriver import ActionChains, Keys

from support import DEMO

# A group of its own, so that the long journeys are gone while the others are.
pytestmark = pytest.mark.xdist_group("long journeys")


def begin(bench, name: str, width: int, height: int) -> None:
    bench.open()
    bench.button("New piece").click()
    bench.fill(bench.field("Name"), name)
    bench.one(".layers")
    bench.set("width", str(width))
    bench.set("height", str(height))


def chosen(bench) -> str:
    return str(bench.one("li.chosen [data-row]").get_attribute("data-row"))


def add(bench, kind: str, name: str, **values: Any) -> str:
    """A layer with these numbers, which are the base that all states share; its id."""
    bench.changed(lambda: bench.pick("+ add", kind))
    fresh = chosen(bench)
    bench.rename_layer(fresh, name)
    give(bench, **values)
    return fresh


def grouped(bench, name: str) -> str:
    bench.press("group")
    fresh = chosen(bench)
    bench.rename_layer(fresh, name)
    return fresh


def rounded(bench, radius: int) -> None:
    bench.set("radius of all corners", str(radius))


def give(bench, **values: Any) -> None:
    for label, value in values.items():
        bench.set(label.replace("_", " "), str(value))


def made(bench) -> dict[str, Any]:
    """The document without what the journey does not choose."""
    return {key: value for key, value in bench.document().items() if key not in ("id", "name")}


def expected(name: str) -> dict[str, Any]:
    # A copy: journeys write into it, and others count on the demo.
    return {key: copy.deepcopy(value) for key, value in DEMO[name].items() if key not in ("id", "name")}


def going_by_itself() -> dict[str, Any]:
    """The deck-lamp switch, with rests in place of taps."""
    document = expected("deck-lamp-switch")
    for transition in document["transitions"]:
        transition.update(cue="hold", hold_ms=1200)
    # Said with the hold; the way back is made with it.
    document["transitions"][0]["early_ms"] = 0
    return document


def test_the_deck_lamp_switch(bench) -> None:
    begin(bench, "Lamp by pointer", 160, 96)
    add(bench, "rectangle", "Track", width=96, height=52, x=32, y=22, fill="#c3cfca")
    rounded(bench, 26)
    add(bench, "ellipse", "Knob", width=44, height=44, x=36, y=26, fill="#fbfaf5")
    bench.unfold("Shadow and blur")
    bench.press("+ shadow")

    # The other state: the knob is pulled to the right, level, and the track lights up.
    bench.rename_state("first", "Off")
    bench.press("+ state")
    bench.rename_state("state-2", "On")
    knob = bench.one("[data-stage=pose] [data-layer=ellipse]")
    pull = ActionChains(bench.browser).key_down(Keys.SHIFT).key_down(Keys.CONTROL).click_and_hold(knob)
    pull = pull.move_by_offset(round(44 * bench.zoom()), 9).release().key_up(Keys.SHIFT).key_up(Keys.CONTROL)
    bench.changed(pull.perform)
    bench.one("[data-row=rectangle]").click()
    bench.set("fill", "#b9832b")

    # There by a spring, back by another way, and rests in between.
    bench.one("[data-transition]").click()
    bench.changed(lambda: bench.one("[aria-label='Curve or spring'] [title=Spring]").click())
    bench.set("hold", "1200")
    # The way back is chosen at once, and has the same hold and spring.
    bench.press("+ way back")
    bench.changed(lambda: bench.one("[aria-label='Curve or spring'] [title=Curve]").click())
    bench.set("duration", "240")
    bench.set("easing", "cubic-bezier(0.3, 0, 0.2, 1)")
    bench.wait(lambda: bench.one(".ring .of").text.startswith("of 3."))
    assert made(bench) == going_by_itself()


def choose(bench, *layers: str) -> None:
    bench.click_together(*(f"[data-row='{layer}']" for layer in layers))


def before(bench, name: str, looks: dict[str, dict[str, Any]]) -> None:
    """A state before the one that is posed, which it looks like except for these."""
    bench.press("+ state")
    bench.rename_state(bench.one(".state-head.chosen button").get_attribute("data-state"), name)
    for row, values in looks.items():
        choose(bench, row)
        give(bench, **values)


# Transition, hold, duration, easing.
PACE = [
    ("state-7-to-state-6", 900, 110, "ease-out"),
    ("state-6-to-state-5", 60, 220, "ease-in"),
    ("state-5-to-state-4", 120, 520, "cubic-bezier(0.2, 0, 0.2, 1)"),
    ("state-4-to-state-3", 0, 460, "ease-in-out"),
    ("state-3-to-state-2", 240, 560, "cubic-bezier(0.6, 0, 0.8, 0.4)"),
    ("state-2-to-first", 0, 280, "ease-out"),
    ("first-to-state-7", 1400, 360, "ease-in-out"),
]


def test_the_ramp_loading_built_backwards(bench) -> None:
    begin(bench, "Ramp by pointer", 220, 96)
    frame = add(bench, "rectangle", "Frame", width=160, height=48, x=30, y=24)
    rounded(bench, 24)
    bench.press("as mask")
    plate = add(bench, "rectangle", "Plate", width=160, height=48, x=30, y=24, fill="#b9832b")
    parts = [
        add(bench, "rectangle", "Load", width=28, height=14, x=196, y=38, fill="#eaf0ec"),
        add(bench, "rectangle", "Cab", width=13, height=10, x=225, y=42, fill="#d9503a"),
        add(bench, "ellipse", "Wheel", width=8, height=8, x=201, y=49, fill="#15293b"),
        add(bench, "ellipse", "Front wheel", width=8, height=8, x=227, y=49, fill="#15293b"),
    ]
    choose(bench, *parts)
    cart = grouped(bench, "Cart")
    done = add(bench, "text", "Done", text="Loaded", width=160, x=30, y=36, fill="#fbfaf5", font_weight=600)
    ask = add(bench, "text", "Ask", text="Load the ramp", width=160, x=30, y=36, fill="#fbfaf5", font_weight=600)
    # All of it becomes the button: a frame drawn on the stage takes hold of what it touches.
    stage = bench.one("[data-stage=pose]")
    drawn = ActionChains(bench.browser).move_to_element_with_offset(stage, -185, -100)
    drawn.click_and_hold().move_by_offset(370, 200).release().perform()
    bench.wait(lambda: bench.one(".inspector h2").text == "5 layers")
    button = grouped(bench, "Button")
    # As large as its frame: it is pressed around its own middle.
    give(bench, width=160)
    choose(bench, ask)
    give(bench, opacity=0)
    assert (frame, plate, cart) == ("rectangle", "rectangle-2", "group")

    # From the end: each state comes before the one that is posed, and looks like it.
    bench.rename_state("first", "Loaded")
    bench.button("build backwards").click()
    before(bench, "Rolling on", {done: {"opacity": 0}, plate: {"fill": "#1f7a70"}})
    before(bench, "On the ramp", {cart: {"x": 58}})
    before(bench, "Rolling in", {cart: {"x": 16}})
    before(bench, "Waiting", {cart: {"x": -52}})
    before(bench, "Pressed", {button: {"scale_x": 0.96, "scale_y": 0.96}, ask: {"opacity": 1}})
    before(bench, "Ready", {button: {"scale_x": 1, "scale_y": 1}})
    assert [head.text for head in bench.all(".state-name")] == [
        *("Ready", "Pressed", "Waiting", "Rolling in", "On the ramp", "Rolling on", "Loaded")
    ]
    assert bench.cell(cart, "x", "state-4").get_property("value") == "16"

    bench.one("[data-state='first']").click()
    bench.changed(lambda: bench.pick("+ transition", "to Ready"))
    for transition, hold, duration, easing in PACE:
        bench.choose_transition(transition)
        for label, value in (("hold", hold), ("duration", duration), ("easing", easing)):
            bench.set(label, str(value))
    total = sum(hold + duration for _, hold, duration, _ in PACE)
    bench.wait(lambda: bench.one(".ring .of").text == f"of {total / 1000:.2f} s")
    wanted = expected("ramp-loading")
    # What was typed is kept, though it is what the base has.
    wanted["states"][0]["changes"][button] = {"scale_x": 1, "scale_y": 1}
    assert made(bench) == wanted


# What a control is called: by its own name, by its words, or by the group that it stands in.
NAMES_OF = """
  (e) => [e.getAttribute('aria-label'), e.textContent.trim(), 
    e.closest('[role=radiogroup]')?.getAttribute('aria-label')]
"""
FOCUS_LOG = """
window.focusLog = [];
addEventListener('focusin', ({target}) => focusLog.push((NAMES_OF)(target)));
"""


class Keyboard:
    """A designer without a pointer: goes on by Tab until the focus is where it is wanted."""

    def __init__(self, bench) -> None:
        self.bench = bench

    def watch(self) -> None:
        self.bench.browser.execute_script(FOCUS_LOG.replace("NAMES_OF", NAMES_OF))

    def to(self, name: str) -> None:
        for _ in range(90):
            self.bench.browser.execute_script("focusLog.length = 0")
            self.bench.keys(*[Keys.TAB] * 4)
            passed = self.bench.browser.execute_script("return focusLog")
            places = [i for i, names in enumerate(passed) if name in names]
            if places:
                for _ in range(8):
                    if name in self.focused():
                        # A group of choices comes before the one of them that takes the keys.
                        if self.bench.browser.execute_script("return document.activeElement.role === 'radiogroup'"):
                            self.bench.keys(Keys.TAB)
                        return
                    self.bench.keys(Keys.TAB, shift=True)
        raise AssertionError(f"Tab does not come to {name}, but only to {passed}")

    def focused(self) -> list[str]:
        return list(self.bench.browser.execute_script(f"return ({NAMES_OF})(document.activeElement)"))

    def part(self, css: str) -> None:
        for _ in range(6):
            if self.bench.browser.execute_script(f"return document.activeElement.closest('{css}')"):
                return
            self.bench.keys(Keys.F6)
        raise AssertionError(f"F6 does not come to {css}")

    def set(self, label: str, text: str) -> None:
        self.part(".inspector")
        self.to(label)
        self.bench.changed(lambda: self.bench.keys(text, Keys.ENTER))

    def press(self, name: str) -> None:
        self.to(name)
        self.bench.changed(lambda: self.bench.keys(Keys.ENTER))

    def rename(self, name: str, to: str) -> None:
        self.to(name)
        self.bench.keys(Keys.F2)
        self.bench.changed(lambda: self.bench.keys(to, Keys.ENTER))


def item(bench) -> str:
    """The item of the open menu that has the focus."""
    return str(bench.one(".ant-dropdown-menu-item-active:focus").text)


def draw_track_and_knob(bench, keys: Keyboard) -> None:
    for down, kind, name, numbers in (
        (0, "Rectangle", "Track", {"width": 96, "height": 52, "x": 32, "y": 22}),
        (1, "Ellipse", "Knob", {"width": 44, "height": 44, "x": 36, "y": 26}),
    ):
        keys.to("+ add")
        bench.keys("a")
        for _ in range(down):
            item(bench)
            bench.keys(Keys.ARROW_DOWN)
        bench.wait(lambda kind=kind: item(bench) == kind.lower())
        bench.changed(lambda: bench.keys(Keys.ENTER))
        keys.rename(kind, name)
        for label, value in numbers.items():
            keys.set(label, str(value))
        if name == "Track":
            keys.set("fill", "#c3cfca")
            keys.set("radius of all corners", "26")
        else:
            keys.set("fill", "#fbfaf5")
            keys.to("Shadow and blur")
            bench.keys(Keys.ENTER)
            keys.press("+ shadow")


def test_the_deck_lamp_switch_by_keys_alone(bench) -> None:
    bench.open()
    bench.wait(lambda: bench.all(".shelf-cell"))
    keys = Keyboard(bench)
    keys.watch()
    keys.to("New piece")
    bench.keys(Keys.ENTER)
    bench.wait_for_focus("Name")
    bench.keys("Lamp by keys", Keys.ENTER)
    bench.one(".layers")
    keys.set("width", "160")
    keys.set("height", "96")
    draw_track_and_knob(bench, keys)

    keys.rename("First", "Off")
    keys.to("Knob")
    bench.changed(lambda: bench.keys("s"))
    keys.rename("State 2", "On")
    keys.to("Pose On; arrow keys move what is chosen")
    for _ in range(4):
        bench.changed(lambda: bench.keys(Keys.ARROW_RIGHT, shift=True))
    for _ in range(4):
        bench.changed(lambda: bench.keys(Keys.ARROW_RIGHT))
    bench.wait(lambda: bench.one("[data-spoken]").get_property("textContent").strip() == "Knob: x 80, y 26")
    keys.to("Track")
    bench.keys(Keys.ENTER)
    keys.set("fill", "#b9832b")

    keys.part(".score")
    keys.to("Transition first to state-2, hold 0300 ms")
    bench.keys(Keys.ENTER)
    keys.to("Curve or spring")
    bench.changed(lambda: bench.keys(Keys.ARROW_RIGHT))
    keys.set("hold", "1200")
    keys.press("+ way back")
    keys.to("Curve or spring")
    bench.changed(lambda: bench.keys(Keys.ARROW_LEFT))
    keys.set("duration", "240")
    keys.set("easing", "cubic-bezier(0.3, 0, 0.2, 1)")
    assert made(bench) == going_by_itself()
