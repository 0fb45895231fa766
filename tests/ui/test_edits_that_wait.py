"""Edits faster than their answers, and edits without a server: stored is what was meant, all of it, in order."""

from __future__ import annotations

from typing import Any

from selenium.webdriver import ActionChains, Keys

PASTE = """
const transfer = new DataTransfer();
transfer.setData('text/plain', arguments[1]);
arguments[0].dispatchEvent(new ClipboardEvent('paste', {clipboardData: transfer, bubbles: true, cancelable: true}));
"""
# No test waits on time; what is wanted here is a server that is away for so long.
AWAY_MS = 10_000
LATER = "const done = arguments[1]; setTimeout(done, arguments[0])"


def state_of(document: dict[str, Any], state: str) -> dict[str, Any]:
    return next(each["changes"] for each in document["states"] if each["id"] == state)


def transition_of(document: dict[str, Any], name: str) -> dict[str, Any]:
    return next(each for each in document["transitions"] if each["id"] == name)


def lane_of(document: dict[str, Any], way: str, layer: str) -> dict[str, Any]:
    return next(lane for lane in transition_of(document, way)["lanes"] if lane["layer"] == layer)


def saved(bench) -> None:
    bench.wait(lambda: bench.one(".saved").text.startswith("saved · revision"), "edits still wait")


def type_values_of_states(bench, wanted: dict[str, Any]) -> None:
    """In the score."""
    typed = {
        ("buoy-1", "y", "first-lift"): 61,
        ("buoy-1", "y", "handover"): 81,
        ("buoy-2", "y", "handover"): 60,
        ("buoy-1", "rotation", "handover"): 4,
        ("buoy-2", "rotation", "handover"): -7,
        ("buoy-3", "y", "last-lift"): 59,
        ("buoy-1", "y", "last-lift"): 101,
        ("buoy-2", "y", "last-lift"): 83,
    }
    for cell, value in typed.items():
        bench.fill(bench.cell(*cell), str(value))
        state_of(wanted, cell[2])[cell[0]][cell[1]] = value
    bench.wait(lambda: "changes wait" in bench.one(".saved").text)


def paste_two_cells(bench, wanted: dict[str, Any]) -> None:
    """Below each other."""
    first = bench.cell("buoy-3", "y", "handover")
    first.click()
    bench.browser.execute_script(PASTE, first, "99\n2")
    state_of(wanted, "handover")["buoy-3"] = {"y": 99, "rotation": 2}


def type_times_and_curves(bench, wanted: dict[str, Any]) -> None:
    """Of transitions, after a change of view."""
    ways = {
        "slack-to-first-lift": ("310", "130", "ease-out"),
        "first-lift-to-handover": ("290", "20", "ease-in"),
    }
    for way, (duration, hold, easing) in ways.items():
        bench.choose_transition(way)
        for label, text in (("duration", duration), ("hold", hold), ("easing", easing)):
            bench.fill(bench.field(label), text)
        timing = {"kind": "curve", "duration_ms": int(duration), "easing": easing}
        transition_of(wanted, way).update(hold_ms=int(hold), timing=timing, early_ms=0)


def pull_a_layer_and_a_number(bench, wanted: dict[str, Any]) -> None:
    """The layer level and without snapping; the number on its label."""
    bench.one("[data-state='handover']").click()
    bench.one("[data-row='caption']").click()
    at = bench.box("pose", "caption")
    far = round(12 * bench.zoom())
    pull = ActionChains(bench.browser).key_down(Keys.SHIFT).key_down(Keys.CONTROL)
    pull.click_and_hold(bench.one("[data-stage=pose] [data-layer=caption]")).move_by_offset(far, 3).release()
    pull.key_up(Keys.SHIFT).key_up(Keys.CONTROL).perform()
    bench.wait(lambda: bench.box("pose", "caption")[0] > at[0] + 10, "nothing was pulled")
    bench.drag(bench.one(".field:has(input[aria-label='rotation']) .drag"), 40, 0)
    bench.wait(lambda: bench.field("rotation").get_property("value") == "10")
    state_of(wanted, "handover")["caption"].update(x=round(36 + far / bench.zoom()), rotation=10)


def pull_a_bar(bench, wanted: dict[str, Any]) -> None:
    """On the run sheet: it begins later."""
    bench.button("Run sheet").click()
    bench.button("10 ms").click()
    bar = "[data-bar='4 buoy-3/y'] .body"
    before, seconds = bench.one(bar).get_attribute("aria-label"), float(bench.one(".ring .of").text.split()[1])
    bench.drag(bench.one(bar), round(40 * bench.one(".axis").size["width"] / seconds / 1000), 0)
    bench.wait(lambda: bench.one(bar).get_attribute("aria-label") != before, "no bar was pulled")
    lane_of(wanted, "last-lift-to-ebb", "buoy-3")["delay_ms"] += 40
    bench.button("Workbench").click()


def hold_keys_down(bench, wanted: dict[str, Any]) -> None:
    """Ten steps with one key, and three more."""
    bench.one("[data-state='slack']").click()
    bench.one("[data-row='caption']").click()
    stage = bench.one("[data-stage=pose]")
    caption = next(layer for layer in wanted["layers"] if layer["id"] == "caption")
    bench.browser.execute_script("arguments[0].focus({preventScroll: true})", stage)
    bench.keys(*[Keys.ARROW_RIGHT] * 10)
    bench.keys(*[Keys.ARROW_DOWN] * 3)
    state_of(wanted, "slack")["caption"] = {"x": caption["x"] + 10, "y": caption["y"] + 3}


def test_a_server_that_is_away_costs_nothing(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-state='handover']").click()
    bench.browser.set_script_timeout(30)
    wanted = bench.document()
    bench.served.stop()
    type_values_of_states(bench, wanted)
    paste_two_cells(bench, wanted)
    type_times_and_curves(bench, wanted)
    pull_a_layer_and_a_number(bench, wanted)
    pull_a_bar(bench, wanted)
    hold_keys_down(bench, wanted)

    bench.browser.execute_async_script(LATER, AWAY_MS)
    waiting = bench.one(".saved").text
    assert waiting.startswith("not saved")
    bench.served.start(bench.served.port)
    saved(bench)
    made = bench.document()
    assert made["states"] == wanted["states"]
    assert made["transitions"] == wanted["transitions"]
    assert made["layers"] == wanted["layers"]


def test_what_waits_outlives_a_reload(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-state='handover']").click()
    port = bench.served.port
    bench.served.stop()
    bench.fill(bench.cell("buoy-2", "y", "handover"), "55")
    bench.choose_transition("slack-to-first-lift")
    bench.fill(bench.field("duration"), "777")
    bench.wait(lambda: "2 changes wait" in bench.one(".saved").text)
    # Left in the middle of it, and opened again once the server is there.
    bench.browser.get("about:blank")
    bench.served.start(port)
    bench.open("/pieces/tide-loader")
    bench.wait_for_revision(3)
    made = bench.document()
    assert state_of(made, "handover")["buoy-2"]["y"] == 55
    assert transition_of(made, "slack-to-first-lift")["timing"]["duration_ms"] == 777


def test_held_keys_and_quick_drags_lose_no_step(bench) -> None:
    bench.open("/pieces/tide-loader/run-sheet")
    before = bench.document()
    bar = "[data-bar='2 buoy-2/y'] .body"
    bench.click_together(bar)
    bench.browser.execute_script("arguments[0].focus()", bench.one(bar))
    way = "first-lift-to-handover"
    delay = lambda document: lane_of(document, way, "buoy-2")["delay_ms"]  # noqa: E731
    before_ms = delay(before)
    bench.keys(Keys.ARROW_RIGHT)
    bench.wait_for_revision(2)
    step = delay(bench.document()) - before_ms
    assert step > 0
    bench.keys(*[Keys.ARROW_RIGHT] * 10)
    bench.wait(lambda: delay(bench.document()) == before_ms + 11 * step, "steps were lost")
    saved(bench)
    # Held down it is one step of undo; on a busy machine the first presses may come too far apart to be held.
    bench.changed(bench.button("Undo").click)
    assert delay(bench.document()) <= before_ms + 3 * step

    bench.open("/pieces/tide-loader")
    bench.one("[data-state='handover']").click()
    bench.one("[data-row='buoy-2']").click()
    x, y = (state_of(bench.document(), "handover")["buoy-2"].get(name) for name in ("x", "y"))
    assert x is None
    middle = bench.box("pose", "buoy-2")
    chain = ActionChains(bench.browser, duration=0)
    tower = bench.one("[data-stage=pose] [data-layer='buoy-2-tower']")
    zoom = bench.zoom()
    away = round(10 * zoom)
    chain.click_and_hold(tower).move_by_offset(0, away).release()
    chain.click_and_hold().move_by_offset(0, away).release().perform()
    # Places snap to what is near; two drags go about twice as far as one.
    bench.wait(lambda: abs(bench.box("pose", "buoy-2")[1] - middle[1] - 20) < 4, "a drag was lost")
    saved(bench)
    assert abs(state_of(bench.document(), "handover")["buoy-2"]["y"] - y - 20) < 4


# An answer that no view can draw: a look without its values.
UNDRAWABLE = """
const asked = window.fetch;
window.fetch = async (path, init) => {
    const answer = await asked(path, init);
    if (init?.method !== 'PATCH') return answer;
    window.fetch = asked;
    return Response.json({...(await answer.json()), poses: {slack: {caption: null}}});
};
"""


def test_a_view_that_breaks_costs_no_edit(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-state='slack']").click()
    bench.one("[data-row='caption']").click()
    bench.browser.execute_script(UNDRAWABLE)
    bench.fill(bench.field("x"), "44")
    bench.wait(lambda: "This view has stopped working." in bench.one("[role=alert]").text)
    assert state_of(bench.document(), "slack")["caption"]["x"] == 44
    bench.button("Show it again").click()
    bench.one("[data-state='slack']").click()
    bench.one("[data-row='caption']").click()
    bench.wait(lambda: bench.field("x").get_property("value") == "44")
    bench.changed(bench.button("Undo").click)
    assert "caption" not in state_of(bench.document(), "slack")
    # What was provoked is the only thing that the browser complains of.
    complaints = bench.errors()
    assert complaints and all("is not there" in text for text in complaints)
