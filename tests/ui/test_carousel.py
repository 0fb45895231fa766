"""Pier carousel from a given artwork: four cards, one open at a time, and one timing set for all ways at once."""

from __future__ import annotations

from typing import Any

import pytest
from selenium.webdriver import ActionChains, Keys

pytestmark = pytest.mark.xdist_group("ui")

PIERS = ("North", "East", "South", "West")
COLOURS = ("#1f7a70", "#b9832b", "#d9503a", "#15293b")


def card(n: int) -> dict[str, Any]:
    pier = PIERS[n].lower()
    return {
        "kind": "group", "id": pier, "name": f"{PIERS[n]} card", "x": 0, "y": 0, "width": 44, "height": 84,
        "layers": [
            {"kind": "rectangle", "id": f"{pier}-face", "name": "Face", "x": 0, "y": 0, "width": 44, "height": 84,
             "fill": COLOURS[n], "resize_x": "both", **{f"radius_{corner}": 12 for corner in
             ("top_left", "top_right", "bottom_right", "bottom_left")}},
            {"kind": "ellipse", "id": f"{pier}-light", "name": "Light", "x": 14, "y": 34, "width": 16, "height": 16,
             "fill": "#fbfaf5"},
            {"kind": "text", "id": f"{pier}-label", "name": "Label", "x": 40, "y": 31, "width": 92, "height": 22,
             "text": f"{PIERS[n]} pier", "fill": "#fbfaf5", "font_size": 15, "font_weight": 600, "opacity": 0},
        ],
    }  # fmt: skip


ARTWORK = {
    "format": 1, "id": "pier-artwork", "name": "Pier artwork", "width": 328, "height": 124,
    "layers": [{"kind": "group", "id": "row", "name": "Row", "x": 16, "y": 20, "width": 296, "height": 84,
                "layout": "row", "gap": 8, "layers": [card(n) for n in range(4)]}],
    "states": [{"id": "north", "name": "North", "changes": {}}], "start": "north",
}  # fmt: skip


def open_card(bench, pier: str) -> None:
    """In the state that is posed: wide, and its name is seen."""
    bench.one(f"[data-row='{pier}']").click()
    bench.set("width", "140")
    fold = bench.all(f"[aria-label='Unfold {pier.title()} card']")
    if fold:
        fold[0].click()
    bench.one(f"[data-row='{pier}-label']").click()
    bench.set("opacity", "1")


def test_the_pier_carousel_is_timed_once_for_all(bench) -> None:
    bench.put(ARTWORK)
    bench.one("[data-row]")
    for pier in ("East", "South", "West"):
        bench.press("+ state")
        bench.rename_state(bench.one(".state-head.chosen button").get_attribute("data-state"), pier)
    states = [head.get_attribute("data-state") for head in bench.all("[data-state]")]
    for state, pier in zip(states, PIERS, strict=True):
        bench.one(f"[data-state='{state}']").click()
        open_card(bench, pier.lower())
    bench.changed(lambda: bench.pick("+ transition", "to North"))

    # One timing for all four, set once.
    bench.one("[data-transition]").click()
    bench.button("all tweens").click()
    assert bench.one(".inspector h2").text == "4 transitions"
    bench.set("hold", "1800")
    bench.changed(bench.one("[aria-label='Curve or spring'] [title=Spring]").click)
    bench.wait(lambda: bench.one(".ring .of").text == "of 9.56 s")
    ways = bench.document()["transitions"]
    assert [(way["hold_ms"], way["timing"]) for way in ways] == [(1800, ways[0]["timing"])] * 4
    assert ways[0]["timing"]["kind"] == "spring"
    # The neighbours make room: the row is laid out anew in each state.
    assert bench.box("pose", "west-face")[0] == pytest.approx(16 + 3 * 52 + 70, abs=0.5)

    # Then one is made an exception; it is said, and kept until it is set too.
    bench.choose_transition("north-to-state-2")
    bench.changed(bench.button("Lapping").click)
    bench.button("all tweens").click()
    assert bench.field("stiffness").get_attribute("placeholder") == "differs"
    bench.set("mass", "1.2")
    timings = [transition["timing"] for transition in bench.document()["transitions"]]
    assert [timing["mass"] for timing in timings] == [1.2] * 4
    assert len({timing["stiffness"] for timing in timings}) == 2


def test_a_curve_is_bent_by_its_handles_and_copied(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-transition='slack-to-first-lift']").click()
    handle = bench.one("[data-handle='0']")
    bench.changed(lambda: ActionChains(bench.browser).drag_and_drop_by_offset(handle, 40, -30).perform())
    easing = bench.field("easing").get_property("value")
    assert easing.startswith("cubic-bezier(")
    assert bench.one(".plot .before")
    bench.browser.execute_script("arguments[0].focus()", bench.one("[data-handle='1']"))
    bench.changed(lambda: bench.keys(Keys.ARROW_UP))
    assert bench.field("easing").get_property("value") != easing
    bench.button("copy timing").click()
    bench.click_together("[data-transition='handover-to-last-lift']", "[data-transition='last-lift-to-ebb']")
    bench.wait(lambda: bench.one(".inspector h2").text == "2 transitions")
    bench.press("paste timing")
    timings = {t["id"]: t["timing"] for t in bench.document()["transitions"]}
    assert timings["last-lift-to-ebb"] == timings["handover-to-last-lift"] == timings["slack-to-first-lift"]


def test_a_run_that_ends_is_closed(bench) -> None:
    bench.open("/pieces/fog-notice")
    bench.wait(lambda: "It plays once and ends." in bench.one(".inspector").text)
    before = bench.document()
    # Each way is played first, and nothing is stored by that.
    for way, loop in (("cross-fade", "4320"), ("begin as it ends", "3920"), ("tween back", "4320")):
        bench.button(way).click()
        bench.wait(lambda loop=loop: f"3920 → {loop} ms" in bench.one("[aria-label='Close the loop']").text, loop)
        assert bench.one(".stage-label.tried")
        assert bench.one(".ring.large")
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: not bench.all(".stage-label.tried") and not bench.all(".ring.large"))
    assert (bench.document(), bench.revision()) == (before, 1)
    bench.button("tween back").click()
    bench.press("Apply")
    assert bench.one(".ring.large")
    bench.press("Undo")
    assert bench.document() == before

    # One transition alone, over and over, frame by frame.
    bench.one("[data-transition]").click()
    bench.button("play alone").click()
    bench.button("whole run").click()
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys(".")
    bench.wait(lambda: bench.button("Play"))
    ring = bench.one(".stage-clock [role=slider]")
    at = int(ring.get_attribute("aria-valuenow"))
    bench.keys(".", ".", ".")
    assert int(ring.get_attribute("aria-valuenow")) == pytest.approx(at + 50, abs=1)


def test_a_filmstrip_is_looked_at(bench) -> None:
    bench.open("/pieces/beacon-pulse/run-sheet")
    bench.button("Filmstrip…").click()
    picture = bench.one(".filmstrip img")
    loaded = "return arguments[0].complete && arguments[0].naturalWidth"
    first = bench.wait(lambda: bench.browser.execute_script(loaded, picture))
    bench.fill(bench.field("Frames of the filmstrip"), "40")
    bench.wait(lambda: bench.browser.execute_script(loaded, bench.one(".filmstrip img[alt*='40']")) > first)


def test_a_timing_is_kept_for_other_pieces(bench) -> None:
    bench.open("/pieces/deck-lamp-switch")
    bench.choose_transition("first-to-state-2")
    bench.set("stiffness", "310")
    bench.button("keep as…").click()
    bench.fill(bench.field("Name of the preset"), "Harbour wall")
    bench.button("forget Harbour wall")
    bench.open("/pieces/tide-loader")
    bench.one("[data-transition]").click()
    bench.press("Harbour wall")
    assert bench.document()["transitions"][0]["timing"] == {"kind": "spring", "stiffness": 310, "damping": 24}
    bench.button("forget Harbour wall").click()
    bench.button("keep as…")


def test_a_dot_goes_along_the_curve_and_lengths_are_taken_over(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.choose_transition("slack-to-first-lift")
    seen = set()
    dot = bench.one(".curve-dot")
    bench.wait(lambda: seen.add(dot.get_attribute("style")) or len(seen) > 5, "the dot does not move")
    own = bench.document()["transitions"][1]["timing"]["duration_ms"]
    bench.changed(lambda: bench.pick("as long as…", f"First lift → Handover · {own} ms"))
    assert bench.document()["transitions"][0]["timing"]["duration_ms"] == own != 300
