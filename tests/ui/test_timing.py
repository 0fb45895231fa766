"""Timing set as a whole: a piece made to breathe at exactly a second, then a fifth faster."""

from __future__ import annotations

import pytest
from selenium.webdriver import ActionChains, Keys

from keen_ripple.core.curves import Spring
from support import DEMO, piece, way

pytestmark = pytest.mark.xdist_group("ui")


def test_a_beacon_breathes_at_a_second_and_then_faster(bench) -> None:
    bench.open("/pieces/beacon-pulse")
    bench.one("[aria-label='Retime by'] [title='length']").click()
    bench.fill(bench.field("Retime length"), "1000")
    bench.wait(lambda: "2542 → 1000 ms" in bench.one(".retime").text)
    # Played, and not yet made.
    assert bench.one(".ring .of").text == "of 1.00 s"
    assert bench.document() == DEMO["beacon-pulse"]
    bench.button("Apply").click()
    bench.wait_for_revision(2)
    bench.wait(lambda: not bench.all(".stage-label.tried"))
    assert bench.one(".ring .of").text == "of 1.00 s"

    bench.one("[aria-label='Retime by'] [title='factor']").click()
    bench.fill(bench.field("Retime factor"), "0.8")
    bench.wait(lambda: "1000 → 800 ms" in bench.one(".retime").text)
    assert bench.one(".ring .of").text == "of 0.80 s"
    bench.button("Discard").click()
    bench.wait(lambda: bench.one(".ring .of").text == "of 1.00 s")
    bench.fill(bench.field("Retime factor"), "0.8")
    bench.button("Apply").click()
    bench.wait_for_revision(3)
    bench.wait(lambda: bench.one(".ring .of").text == "of 0.80 s")

    # What cannot be had is said beside the field, and nothing changes.
    bench.fill(bench.field("Retime factor"), "0")
    bench.wait(lambda: any("from 0.01 to 100" in fault for fault in bench.faults()))
    assert bench.revision() == 3
    for revision in (4, 5):
        bench.button("Undo").click()
        bench.wait_for_revision(revision)
    bench.wait(lambda: bench.one(".ring .of").text == "of 2.54 s")


def test_a_spring_is_set_by_what_is_seen_of_it(bench) -> None:
    bench.open("/pieces/beacon-pulse")
    bench.one("[data-transition]").click()
    bench.fill(bench.field("overshoot"), "8")
    bench.wait_for_revision(2)
    bench.fill(bench.field("settles in"), "400")
    bench.wait_for_revision(3)
    bench.wait(lambda: bench.field("settles in").get_property("value") == "400")
    assert float(bench.field("overshoot").get_property("value")) == pytest.approx(8, abs=0.1)

    # No spring swings so far: it goes as far as springs go, and the page says so.
    bench.fill(bench.field("overshoot"), "120")
    bench.wait_for_revision(4)
    assert "overshoots by 0 to 99%" in bench.one(".notice").text
    assert float(bench.field("overshoot").get_property("value")) == pytest.approx(99, abs=0.1)


def test_a_spring_is_pulled_to_the_look_that_is_wanted(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.choose_transition("slack-to-first-lift")
    bench.changed(bench.one("[aria-label='Curve or spring'] [title=Spring]").click)

    # The plot is 1.15 times as wide as the spring is long; with Alt it is pulled ten times as slowly.
    frame, goal = bench.one(".plot .frame").rect, bench.one(".plot .goal").rect["y"]
    overshoot, settles = (float(bench.field(name).get_property("value")) for name in ("overshoot", "settles in"))
    px_per_ms = frame["width"] / 1.15 / settles
    bench.changed(lambda: bench.drag(bench.one(".settled-grip rect"), round((400 - settles) * px_per_ms), 0))
    px_per_hundredth = (frame["y"] + frame["height"] - goal) / 100
    slowly = ActionChains(bench.browser).key_down(Keys.ALT).click_and_hold(bench.one(".peak-grip"))
    slowly.move_by_offset(0, round((overshoot - 8) * 10 * px_per_hundredth)).perform()
    bench.wait(lambda: "overshoot 8.0%" in bench.one(".plot").text)
    bench.one(".plot .draft")
    bench.changed(ActionChains(bench.browser).release().key_up(Keys.ALT).perform)
    spring = spring_of(bench)
    assert spring.peak()[1] == pytest.approx(1.08, abs=0.001)
    assert spring.settling_time_s() * 1000 == pytest.approx(400, abs=1)

    # By keys in steps, and in tenths of them.
    grip = bench.one(".peak-grip")
    bench.browser.execute_script("arguments[0].focus()", grip)
    bench.changed(lambda: bench.keys(Keys.ARROW_DOWN))
    bench.changed(lambda: bench.keys(Keys.ARROW_UP, alt=True))
    assert spring_of(bench).peak()[1] == pytest.approx(1.071, abs=0.0002)


def spring_of(bench) -> Spring:
    timing = bench.document()["transitions"][0]["timing"]
    return Spring(timing["stiffness"], timing["damping"])


def test_a_property_is_timed_by_itself_and_goes_with_its_layer_again(bench) -> None:
    box = {"kind": "rectangle", "id": "box", "name": "Box", "x": 10, "y": 10, "width": 30, "height": 30}
    states = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"box": {"x": 100, "opacity": 0.4}}}]
    timing = {"kind": "curve", "duration_ms": 300, "easing": "ease"}
    document = piece([box], states=states, transitions=[way("a", "b", timing), way("b", "a", timing, hold_ms=200)])
    bench.put(document)
    bench.choose_transition(document["transitions"][0]["id"])
    lanes = lambda: bench.document()["transitions"][0].get("lanes", [])  # noqa: E731
    shown = lambda: bench.one(".inspector .lanes [aria-pressed='true']").text  # noqa: E731
    bench.one(".lanes .lane [aria-pressed]").click()
    bench.set("duration", "240")
    bench.changed(bench.one("[aria-label='Time by itself'] [title], [aria-label='Time by itself'] button").click)
    bench.wait(lambda: shown() in ("x", "opacity"))
    bench.set("duration", "500")
    timed = {lane.get("property"): lane["timing"]["duration_ms"] for lane in lanes()}
    assert timed == {None: 240, "x" if shown() == "x" else "opacity": 500}
    bench.press("as the transition")
    assert [bool(lane["timing"]) for lane in lanes()] == [True, False]
    bench.press("as the layer")
    assert [lane.get("property") for lane in lanes()] == [None]
    bench.wait(lambda: shown() == "Box", "the lane of the layer")
    # Up again, level by level.
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: not bench.all(".lanes [aria-pressed='true']"))
