"""How many actions it takes from an empty piece: a click, a pull and a field that is filled are one each, a key too."""

from __future__ import annotations

from typing import Any

import pytest
from selenium.webdriver import ActionChains, Keys
from test_from_empty import select
from test_score import PASTE

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of

pytestmark = pytest.mark.xdist_group("ui")


class Hands:
    """What a designer does, counted."""

    def __init__(self, bench, name: str) -> None:
        self.bench, self.done = bench, 0
        bench.open()
        self.click(bench.button("New piece"))
        self.done += 1
        bench.fill(bench.field("Name"), name)
        bench.one(".layers")

    def click(self, element: Any) -> None:
        self.done += 1
        element.click()

    def press(self, name: str) -> None:
        self.done += 1
        self.bench.press(name)

    def set(self, **values: Any) -> None:
        for label, value in values.items():
            self.done += 1
            self.bench.set(label.replace("_", " "), str(value))

    def key(self, key: str) -> None:
        self.done += 1
        self.bench.browser.execute_script("document.activeElement.blur()")
        self.bench.changed(lambda: self.bench.keys(key))

    def add(self, kind: str, **values: Any) -> str:
        """The list is opened, and one of it chosen."""
        self.done += 2
        self.bench.changed(lambda: self.bench.pick("+ add", kind))
        self.set(**values)
        return str(self.bench.one("li.chosen [data-row]").get_attribute("data-row"))

    def frame(self, count: int) -> None:
        """Drawn around all that is on the stage."""
        self.done += 1
        stage = self.bench.one("[data-stage=pose]")
        drawn = ActionChains(self.bench.browser).move_to_element_with_offset(stage, -180, -90)
        drawn.click_and_hold().move_by_offset(360, 180).release().perform()
        self.bench.wait(lambda: len(self.bench.all(".layer-list li.chosen")) == count)

    def pick(self, field: str, option: str) -> None:
        """Opened, and chosen."""
        self.done += 2
        self.bench.changed(lambda: select(self.bench, field, option))

    def way(self, way: str) -> None:
        self.done += 1
        self.bench.choose_transition(way)

    def spring(self) -> None:
        self.done += 1
        self.bench.changed(self.bench.one("[aria-label='Curve or spring'] [title=Spring]").click)

    def shadow(self) -> None:
        if not self.bench.all("details[open] [aria-label^='shadow']"):
            self.done += 1
            self.bench.unfold("Shadow and blur")
        self.press("+ shadow")


def ways(bench) -> list[tuple[Any, ...]]:
    return [
        (way["cue"], way.get("cue_layer"), way["hold_ms"], way["timing"]["kind"])
        for way in bench.document()["transitions"]
    ]


def test_three_dots_that_lift_one_after_another(bench) -> None:
    """53 actions before."""
    hands = Hands(bench, "Harbour dots")
    hands.add("ellipse", width=20, height=20, x=60, y=80)
    for x in (110, 160):
        hands.key("t")
        hands.set(x=x)
    hands.press("+ state")
    hands.frame(3)
    hands.set(y=50)
    hands.way("first-to-state-2")
    hands.press("+ way back")
    hands.click(bench.one(".views a[href$='run-sheet']"))
    bench.one("[data-bar]")
    bars = [f"[data-bar='0 {dot['id']}/y'] .body" for dot in bench.document()["layers"]]
    hands.done += 3
    bench.click_together(*bars)
    hands.click(bench.button("Stagger…"))
    hands.set(Stagger_each=90)
    hands.pick("The same stagger in", "State 2 → First")
    run = timeline_of(read_piece(bench.document())).run
    assert (run.loop_ms, hands.done <= 53 // 2) == (2 * (300 + 180), True), hands.done


def test_a_notice_that_comes_and_goes(bench) -> None:
    """72 actions before."""
    hands = Hands(bench, "Harbour notice")
    hands.add("rectangle", width=180, height=56, x=30, y=62, radius_of_all_corners=10, fill="#fbfaf5")
    hands.shadow()
    text = hands.add("text", text="Fog ahead", x=60, y=78)
    assert bench.one(f"[data-row='{text}']").text == "Fog ahead"
    hands.frame(2)
    hands.key("g")
    hands.set(y=-70)
    hands.press("+ state")
    hands.set(y=62)
    hands.press("+ state")
    hands.set(opacity=0)
    hands.way("first-to-state-2")
    hands.set(hold=300)
    hands.spring()
    hands.way("state-2-to-state-3")
    hands.set(hold=1600, duration=220)
    assert ways(bench) == [("hold", None, 300, "spring"), ("hold", None, 1600, "curve")]
    assert timeline_of(read_piece(bench.document())).run.loop_ms is None
    assert hands.done <= 72 // 2, hands.done


def test_a_switch_that_springs(bench) -> None:
    """85 actions before."""
    hands = Hands(bench, "Harbour switch")
    track = hands.add("rectangle", width=96, height=52, x=72, y=64, fill="#8fa3a0", radius_of_all_corners=26)
    hands.add("ellipse", width=44, height=44, x=76, y=68, fill="#fbfaf5")
    hands.shadow()
    hands.press("+ state")
    hands.set(x=120)
    hands.click(bench.one(f"[data-row='{track}']"))
    hands.set(fill="#1f7a70")
    hands.way("first-to-state-2")
    hands.spring()
    hands.pick("Cue", "tap")
    hands.press("+ way back")
    assert ways(bench) == [("tap", None, 0, "spring")] * 2
    assert hands.done <= 85 // 2, hands.done


def test_a_card_under_the_pointer(bench) -> None:
    """76 actions before."""
    hands = Hands(bench, "Harbour card")
    card = hands.add("rectangle", width=140, height=100, x=50, y=40, fill="#fbfaf5", radius_of_all_corners=12)
    hands.shadow()
    hands.add("text", text="Ferry 9", x=60, y=78)
    hands.press("+ state")
    hands.frame(2)
    # Both by as much, from where each is.
    for _ in range(6):
        bench.browser.execute_script("document.activeElement.blur()")
        bench.changed(lambda: bench.keys(Keys.ARROW_UP))
    hands.done += 1
    hands.click(bench.one(f"[data-row='{card}']"))
    hands.set(fill="#eaf0ec")
    hands.way("first-to-state-2")
    hands.set(duration=160)
    hands.pick("Cue", "pointer over")
    hands.pick("Cue layer", "Rectangle")
    hands.press("+ way back")
    assert ways(bench) == [("over", card, 0, "curve"), ("out", card, 0, "curve")]
    second = bench.document()["states"][1]["changes"]
    assert [second[card]["y"], second[card]["fill"], second["text"]["y"]] == [34, "#eaf0ec", 72]
    assert hands.done <= 76 // 2, hands.done


def test_a_bar_in_five_steps(bench) -> None:
    """33 actions before."""
    hands = Hands(bench, "Harbour bar")
    hands.add("rectangle", width=160, height=12, fill="#e2ddd0")
    hands.key("t")
    hands.set(fill="#1f7a70")
    for _ in range(4):
        hands.press("+ state")
    hands.click(bench.button("chosen"))
    bar = bench.one("li.chosen [data-row]").get_attribute("data-row")
    hands.click(bench.cell(bar, "width", "first"))
    hands.done += 1
    bench.changed(lambda: bench.browser.execute_script(PASTE, bench.cell(bar, "width", "first"), "0\t40\t80\t120\t160"))
    states = bench.document()["states"]
    assert [state["changes"][bar]["width"] for state in states] == [0, 40, 80, 120, 160]
    assert timeline_of(read_piece(bench.document())).run.total_ms == 4 * 300
    assert hands.done <= 33 // 2, hands.done


def test_three_tabs(bench) -> None:
    """85 actions before."""
    hands = Hands(bench, "Harbour tabs")
    tabs = [hands.add("text", text="Ferries", x=10, y=60, width=60)]
    for x, text in ((90, "Tides"), (170, "Fog")):
        hands.key("t")
        hands.set(x=x, text=text)
        tabs.append(bench.one("li.chosen [data-row]").get_attribute("data-row"))
    hands.add("rectangle", width=60, height=4, x=10, y=92)
    for x in (90, 170):
        hands.press("+ state")
        hands.set(x=x)
    hands.done += 2
    bench.changed(lambda: bench.pick("+ transition", "from each state to each other, by tap"))
    states = [state["id"] for state in bench.document()["states"]]
    bench.wait(lambda: bench.one(".inspector h2").text == "6 transitions")
    for tab, state, label in zip(tabs, states, ("Ferries", "Tides", "Fog"), strict=True):
        hands.done += 2
        there = [way["id"] for way in bench.document()["transitions"] if way["to"] == state]
        bench.click_together(*(f"[data-transition='{way}']" for way in there))
        hands.pick("Cue layer", label)
        assert {way.get("cue_layer") for way in bench.document()["transitions"] if way["to"] == state} == {tab}
    assert {(way["from"], way["to"], way["cue"]) for way in bench.document()["transitions"]} == {
        (a, b, "tap") for a in states for b in states if a != b
    }
    assert hands.done <= 85 // 2, hands.done


def test_a_carousel_of_five(bench) -> None:
    """135 actions before."""
    hands = Hands(bench, "Harbour cards")
    hands.add("rectangle", width=120, height=80, x=40, y=20, fill="#fbfaf5", radius_of_all_corners=10)
    for n in range(1, 5):
        hands.key("t")
        hands.set(x=40 + 140 * n)
    hands.done += 1
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys("a", ctrl=True)
    bench.wait(lambda: len(bench.all(".layer-list li.chosen")) == 5)
    hands.key("g")
    cards = bench.one("li.chosen [data-row]").get_attribute("data-row")
    hands.add("ellipse", width=6, height=6, x=64, y=120, fill="#c9c2b0")
    for n in range(1, 5):
        hands.key("t")
        hands.set(x=64 + 16 * n)
    hands.key("t")
    hands.set(x=64, fill="#1f7a70")
    active = bench.one("li.chosen [data-row]").get_attribute("data-row")
    for _ in range(4):
        hands.press("+ state")
    hands.click(bench.button("chosen"))
    for layer, start, step in ((active, 64, 16), (cards, 40, -140)):
        hands.click(bench.one(f"[data-row='{layer}']"))
        cell = bench.cell(layer, "x", "first")
        hands.click(cell)
        hands.done += 1
        places = "\t".join(str(start + step * n) for n in range(5))
        bench.changed(lambda cell=cell, places=places: bench.browser.execute_script(PASTE, cell, places))
    hands.click(bench.one("[data-state='state-5']"))
    hands.done += 2
    bench.changed(lambda: bench.pick("+ transition", "to First"))
    ways = [way["id"] for way in bench.document()["transitions"]]
    hands.done += 4
    bench.click_together(*(f"[data-transition='{way}']" for way in ways[:4]))
    hands.set(hold=1200)
    hands.spring()
    hands.way(ways[4])
    hands.set(hold=1200)
    document = bench.document()
    assert [state["changes"][cards]["x"] for state in document["states"]] == [40 - 140 * n for n in range(5)]
    assert {way["hold_ms"] for way in document["transitions"]} == {1200}
    assert timeline_of(read_piece(document)).run.loop_ms > 5 * 1200
    assert hands.done <= 135 // 2, hands.done


def button(hands: Hands, words: str) -> tuple[str, str]:
    """A plate with words on it, which a tap sets going."""
    plate = hands.add("rectangle", width=140, height=44, x=50, y=78, fill="#1f7a70", radius_of_all_corners=22)
    text = hands.add("text", text=words, x=70, y=88, width=100, fill="#ffffff")
    return plate, text


def tick(hands: Hands) -> str:
    """Drawn with the pen, and not there yet."""
    hands.done += 5
    hands.bench.browser.execute_script("document.activeElement.blur()")
    hands.bench.keys("o")
    hands.bench.one(".tool-pen")
    for place in ((110, 100), (118, 108)):
        hands.bench.click_at(*place)
    hands.bench.click_at(132, 92)
    hands.bench.changed(lambda: hands.bench.keys(Keys.ENTER))
    hands.set(stroke="#ffffff")
    hands.done += 1
    hands.bench.unfold("Line")
    hands.set(trim_end=0)
    return str(hands.bench.one("li.chosen [data-row]").get_attribute("data-row"))


def test_a_button_that_turns_into_a_confirmation(bench) -> None:
    """111 actions before."""
    hands = Hands(bench, "Harbour button")
    plate, text = button(hands, "Board now")
    mark = tick(hands)
    hands.press("+ state")
    hands.click(bench.one(f"[data-row='{plate}']"))
    hands.set(scale_x=0.95, scale_y=0.95)
    hands.press("+ state")
    hands.set(scale_x=1, scale_y=1, width=44, x=98)
    hands.click(bench.one(f"[data-row='{text}']"))
    hands.set(opacity=0)
    hands.click(bench.one(f"[data-row='{mark}']"))
    hands.set(trim_end=1)
    hands.way("first-to-state-2")
    hands.pick("Cue", "tap")
    hands.set(duration=110)
    hands.way("state-2-to-state-3")
    hands.spring()
    hands.click(bench.one("[data-state='state-3']"))
    hands.done += 2
    bench.changed(lambda: bench.pick("+ transition", "to First"))
    hands.set(hold=1400)
    assert ways(bench) == [("tap", None, 0, "curve"), ("hold", None, 0, "spring"), ("hold", None, 1400, "curve")]
    assert timeline_of(read_piece(bench.document())).legs
    assert hands.done <= 111 // 2, hands.done


def test_a_button_that_swallows_its_text(bench) -> None:
    """135 actions before: it becomes a ring that goes round, and says something else in the end."""
    hands = Hands(bench, "Harbour order")
    plate, text = button(hands, "Order tea")
    hands.add("ellipse", width=28, height=28, x=106, y=86, fill="none", stroke="#ffffff")
    ring = bench.one("li.chosen [data-row]").get_attribute("data-row")
    hands.set(opacity=0)
    hands.press("+ state")
    hands.click(bench.one(f"[data-row='{plate}']"))
    hands.set(width=44, x=98)
    hands.click(bench.one(f"[data-row='{text}']"))
    hands.set(opacity=0)
    hands.click(bench.one(f"[data-row='{ring}']"))
    hands.set(opacity=1)
    hands.press("+ state")
    hands.set(rotation=360)
    hands.press("+ state")
    hands.set(opacity=0)
    hands.click(bench.one(f"[data-row='{plate}']"))
    hands.set(width=140, x=50)
    hands.click(bench.one(f"[data-row='{text}']"))
    hands.set(opacity=1, text="On its way")
    hands.way("first-to-state-2")
    hands.pick("Cue", "tap")
    hands.spring()
    hands.way("state-2-to-state-3")
    hands.set(duration=900)
    hands.way("state-3-to-state-4")
    hands.spring()
    states = bench.document()["states"]
    assert [state["changes"].get(text, {}).get("text") for state in states[1:]] == [None, None, "On its way"]
    assert [way[3] for way in ways(bench)] == ["spring", "curve", "spring"]
    assert hands.done <= 135 // 2, hands.done
