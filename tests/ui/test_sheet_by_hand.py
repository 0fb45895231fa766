"""The run sheet by hand: near and far, several bars at once, rests, staggers, a part that plays while it is tuned."""

from __future__ import annotations

from typing import Any

import pytest
from selenium.webdriver import ActionChains, Keys
from test_from_empty import select
from test_run_sheet import choose, computed, shown

pytestmark = pytest.mark.xdist_group("ui")

LAMPS = [f"lamp-{n}" for n in range(1, 5)]
WAY = "low-to-high"


def lamps(hold_ms: int = 5400) -> dict[str, Any]:
    """Four lamps that go up and down again, in 12 s."""
    layers = [
        {"kind": "ellipse", "id": lamp, "name": lamp.title(), "x": 20 + 40 * n, "y": 60, "width": 20, "height": 20}
        for n, lamp in enumerate(LAMPS)
    ]
    curve = {"kind": "curve", "duration_ms": 600, "easing": "ease-out"}
    high = {lamp: {"y": 10} for lamp in LAMPS}
    ways = [
        {"id": WAY, "from": "low", "to": "high", "hold_ms": hold_ms, "timing": curve},
        {"id": "high-to-low", "from": "high", "to": "low", "hold_ms": hold_ms, "timing": curve},
    ]
    return {
        "format": 1, "id": "lamps", "name": "Lamps", "width": 200, "height": 100, "layers": layers,
        "states": [{"id": "low", "name": "Low"}, {"id": "high", "name": "High", "changes": high}],
        "start": "low", "transitions": ways,
    }  # fmt: skip


def opened(bench, **rest: Any) -> None:
    bench.put(lamps(**rest))
    bench.open("/pieces/lamps/run-sheet")
    bench.one("[data-bar]")


def bars_of(bench, part: int = 1) -> dict[str, tuple[int, int]]:
    return dict(sorted((row.split("/")[0], at) for (row, found), at in shown(bench).items() if found == part))


def test_a_bar_in_a_run_of_twelve_seconds_is_set_to_the_millisecond(bench) -> None:
    opened(bench)
    assert bars_of(bench)["lamp-2"] == (5400, 6000)
    # Typed, of the run and of its transition; what cannot be is said with the reason.
    choose(bench, "1 lamp-2/y")
    bench.set("Starts, of the run", "5437")
    assert bars_of(bench)["lamp-2"] == (5437, 6037)
    bench.set("Ends, of the transition", "613")
    assert bars_of(bench)["lamp-2"] == (5437, 6013)
    assert shown(bench) == computed(bench)
    revision = bench.revision()
    bench.fill(bench.field("Starts, of the run"), "5399")
    bench.wait(lambda: bench.faults() == ["It starts no earlier than 5400 ms of the run: its transition holds it."])
    bench.keys(Keys.ESCAPE)
    assert bench.revision() == revision

    # By hand, looked at closely: there a px is far less than a millisecond.
    bench.button("chosen").click()
    bench.wait(lambda: bench.all(".sheet.zoomed"))
    for _ in range(3):
        bench.one("[aria-label=nearer]").click()
    bar = bench.one("[data-bar='1 lamp-2/y'] .body")
    ms_per_px = 576 * 1.16 / 8 / 818
    bench.changed(lambda: ActionChains(bench.browser).key_down(Keys.CONTROL).perform() or pull(bench, bar, 0))
    before = bars_of(bench)["lamp-2"]
    assert before[0] % 10 == 0
    bench.one("[data-bar='1 lamp-2/y'] .body").send_keys(Keys.CONTROL, Keys.ARROW_RIGHT)
    bench.wait(lambda: bars_of(bench)["lamp-2"][0] == before[0] + 1)
    assert ms_per_px < 1
    # The whole run again, by a key.
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys("w")
    bench.wait(lambda: not bench.all(".sheet.zoomed"))
    # The wheel on the ruler comes closer too.
    axis = bench.one(".axis")
    bench.browser.execute_script(
        "arguments[0].dispatchEvent(new WheelEvent('wheel', {deltaY: -400, bubbles: true, cancelable: true,"
        " clientX: 400, clientY: 90}))",
        axis,
    )
    bench.wait(lambda: bench.all(".sheet.zoomed"))


def pull(bench, bar, dx: int) -> None:
    chain = ActionChains(bench.browser).click_and_hold(bar).move_by_offset(dx + 6, 0)
    chain.release().key_up(Keys.CONTROL).perform()


def test_four_bars_are_moved_stretched_and_set_together(bench) -> None:
    opened(bench, hold_ms=400)
    bench.button("10 ms").click()
    for n, lamp in enumerate(LAMPS[1:], 1):
        choose(bench, f"1 {lamp}/y")
        bench.set("Starts, of the transition", str(50 * n))
    choose(bench, *(f"1 {lamp}/y" for lamp in LAMPS))
    assert bench.one(".bar-panel h2").text == "4 bars"
    # Each from its own, and one number for all.
    bench.set("Starts, of the transition", "+40")
    assert [at[0] - 400 for at in bars_of(bench).values()] == [40, 90, 140, 190]
    bench.set("Lasts", "-10%")
    assert {end - start for start, end in bars_of(bench).values()} == {540}
    assert shown(bench) == computed(bench)
    # Pulled together they keep their distances, and are stretched as one.
    px = bench.one(".axis").size["width"] / 2180
    bench.changed(lambda: bench.drag(bench.one("[data-bar='1 lamp-2/y'] .body"), round(100 * px), 0))
    starts = [at[0] for at in bars_of(bench).values()]
    assert [start - starts[0] for start in starts] == [0, 50, 100, 150] and starts[0] > 440
    first, last = bars_of(bench)["lamp-1"], bars_of(bench)["lamp-4"]
    bench.changed(lambda: bench.drag(bench.one("[data-bar='1 lamp-4/y'] [data-end=end]"), round(300 * px), 0))
    now = bars_of(bench)
    factor = (now["lamp-4"][1] - first[0]) / (last[1] - first[0])
    assert factor > 1.2
    for lamp, (start, end) in now.items():
        assert end - start == pytest.approx(540 * factor, abs=1.5)
        assert start - first[0] == pytest.approx(50 * factor * LAMPS.index(lamp), abs=1.5)
    assert shown(bench) == computed(bench)
    # One spring for all four.
    bench.changed(bench.one("[aria-label='Curve or spring'] [title=Spring]").click)
    timings = [lane["timing"]["kind"] for lane in bench.document()["transitions"][0]["lanes"]]
    assert timings == ["spring"] * 4
    # What is no change is said, and kept.
    bench.fill(bench.field("Lasts"), "half")
    bench.wait(lambda: any("such as +40" in fault for fault in bench.faults()))


def test_a_stagger_is_extended_by_one_and_a_rest_is_pulled(bench) -> None:
    opened(bench, hold_ms=400)
    choose(bench, *(f"1 {lamp}/y" for lamp in LAMPS[:3]))
    bench.button("Stagger…").click()
    bench.set("Stagger each", "70")
    bench.changed(bench.one("[aria-label='Stagger from'] [title='from the last']").click)
    choose(bench, "1 lamp-3/y", "1 lamp-4/y")
    bench.press("+ Lamp-4 to the stagger")
    [stagger] = bench.document()["transitions"][0]["staggers"]
    assert (stagger["layers"], stagger["each_ms"], stagger["origin"]) == (LAMPS, 70, "last")
    bench.set("Stagger in all", "300")
    assert sorted(at[0] - 400 for at in bars_of(bench).values()) == [0, 100, 200, 300]
    bench.changed(lambda: select(bench, "The same stagger in", "High → Low"))
    assert bench.document()["transitions"][1]["staggers"][0]["layers"] == LAMPS
    assert shown(bench) == computed(bench)

    # The rest before it, pulled by its end: what comes after it goes along before it is let go.
    end = bench.one("[data-rest='low-to-high']")
    before = bars_of(bench)["lamp-4"][0]
    ActionChains(bench.browser).click_and_hold(end).move_by_offset(40, 0).perform()
    bar = bench.one("[data-bar='1 lamp-4/y'] .body")
    bench.wait(lambda: "ms" in bench.one("[data-way='low-to-high'] .halo").text)
    assert float(bar.get_attribute("x")) > 0
    bench.changed(ActionChains(bench.browser).release().perform)
    held = bench.document()["transitions"][0]["hold_ms"]
    assert held % 10 == 0 and held > 400
    assert bars_of(bench)["lamp-4"][0] == before + held - 400
    # A click on a stretch of the axis chooses its transition.
    ActionChains(bench.browser).move_to_element(bench.one("[data-way='high-to-low'] .segment-body")).click().perform()
    bench.wait(lambda: bench.all("[aria-label='Leads from']"))


def test_a_whole_transition_is_pulled_later_and_longer(bench) -> None:
    opened(bench, hold_ms=400)
    way = lambda: bench.document()["transitions"][0]  # noqa: E731
    choose(bench, *(f"1 {lamp}/y" for lamp in LAMPS[:3]))
    bench.button("Stagger…").click()
    bench.set("Stagger each", "50")
    pull = lambda css, dx: bench.changed(lambda: bench.drag(bench.one(css), dx, 0))  # noqa: E731
    pull("[data-way='low-to-high'] .segment-body", 30)
    assert way()["hold_ms"] > 400
    before, length = way(), max(bar[1] for bar in bars_of(bench).values()) - way()["hold_ms"]
    # Its end: all that moves in it keeps its share.
    end = bench.one("[data-way-end='low-to-high']")
    ActionChains(bench.browser).click_and_hold(end).move_by_offset(40, 0).perform()
    told = bench.one("[data-way='low-to-high'] .figure").text
    bench.changed(ActionChains(bench.browser).release().perform)
    factor = int(told) / length
    assert factor > 1.05
    assert way()["timing"]["duration_ms"] == pytest.approx(before["timing"]["duration_ms"] * factor, abs=1)
    assert way()["staggers"][0]["each_ms"] == pytest.approx(50 * factor, abs=1)
    assert way()["hold_ms"] == before["hold_ms"]
    assert shown(bench) == computed(bench)
    # A click alone changes nothing.
    revision = bench.revision()
    ActionChains(bench.browser).click(bench.one("[data-way-end='low-to-high']")).perform()
    bench.wait(lambda: bench.all("[aria-label='Leads from']"))
    assert bench.revision() == revision


def test_a_part_plays_on_while_a_spring_in_it_is_tuned(bench) -> None:
    opened(bench, hold_ms=1000)
    ActionChains(bench.browser).move_to_element(bench.one("[data-way='low-to-high'] .segment-body")).click().perform()
    bench.changed(bench.one("[aria-label='Curve or spring'] [title=Spring]").click)
    bench.button("play alone").click()
    part = lambda: float(bench.one(".axis .part").get_attribute("width"))  # noqa: E731
    bench.wait(part)
    bench.set("stiffness", "80")
    length = computed(bench)["lamp-1/y", 1][1] - 1000
    # It is as long as the spring has become, with a little rest around it.
    run = timeline_total(bench)
    width = bench.one(".axis").size["width"] - 26
    bench.wait(lambda: abs(part() / width * run - (length + 500)) < 4)
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: not bench.all(".axis .part"))


def timeline_total(bench) -> float:
    from keen_ripple.core.document import read_piece
    from keen_ripple.core.timeline import timeline_of

    return timeline_of(read_piece(bench.document())).run.total_ms


def test_a_link_is_chosen_whole_and_never_goes_in_a_circle(bench) -> None:
    opened(bench, hold_ms=400)
    choose(bench, "1 lamp-2/y")
    revision = bench.revision()
    select(bench, "Starts", "after")
    # Until the other layer is chosen nothing has changed.
    bench.wait(lambda: bench.all("[aria-label='Starts counted from']"))
    assert bench.revision() == revision
    bench.changed(lambda: select(bench, "Starts counted from", "Lamp-1"))
    assert bars_of(bench)["lamp-2"][0] == bars_of(bench)["lamp-1"][1]
    # What is linked goes along while it is pulled, and stays as it was shown.
    bar = bench.one("[data-bar='1 lamp-1/y'] .body")
    ActionChains(bench.browser).click_and_hold(bar).move_by_offset(30, 0).perform()
    bench.wait(lambda: bars_of(bench)["lamp-1"][0] > 400)
    held = bars_of(bench)
    assert held["lamp-2"][0] == held["lamp-1"][1]
    bench.changed(ActionChains(bench.browser).release().perform)
    assert bars_of(bench) == held and shown(bench) == computed(bench)
    choose(bench, "1 lamp-1/y")
    select(bench, "Starts", "with")
    bench.one("[aria-label='Starts counted from']").find_element(
        "xpath", "./ancestor::*[contains(@class,'ant-select')][last()]"
    ).click()
    bench.wait(lambda: any("which waits for this" in e.text for e in bench.all(".ant-select-item-option-disabled")))
