"""The run along an axis of time: bars pulled, linked and staggered, to the millisecond."""

from __future__ import annotations

import copy
import re

import pytest
from selenium.webdriver import ActionChains, Keys
from test_from_empty import select

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from support import DEMO

pytestmark = pytest.mark.xdist_group("ui")


def shown(bench) -> dict[tuple[str, int], tuple[int, int]]:
    """Start and end of every bar, by its row and its place in the run."""
    found = {}
    for bar in bench.all("[data-bar]"):
        part, row = bar.get_attribute("data-bar").split(" ")
        label = bar.find_element("css selector", ".body").get_attribute("aria-label")
        start, end = map(int, re.search(r", (\d+) to (\d+) ms", label).groups())
        found[row, int(part)] = start, end
    return found


def computed(bench) -> dict[tuple[str, int], tuple[int, int]]:
    """The same, as the core has it of what is stored."""
    timeline = timeline_of(read_piece(bench.document()))
    found: dict[tuple[str, int], tuple[int, int]] = {}
    for index, segment in enumerate(timeline.run.segments):
        for move in timeline.legs[segment.leg].moves_on_axis() if segment.kind == "travel" else ():
            start, end = (round(segment.start_ms + t) for t in (move.start_ms, move.end_ms))
            low, high = found.get((f"{move.layer}/{move.property}", index), (start, end))
            found[f"{move.layer}/{move.property}", index] = min(low, start), max(high, end)
    return found


def choose(bench, *bars: str) -> None:
    bench.click_together(*(f"[data-bar='{bar}'] .body" for bar in bars))


def test_buoys_are_staggered_and_everything_agrees(bench) -> None:
    bench.open("/pieces/tide-loader/run-sheet")
    bench.one("[data-bar]")
    assert shown(bench) == computed(bench)
    last = max(int(bar.get_attribute("data-bar").split()[0]) for bar in bench.all("[data-bar*='buoy-3/y']"))
    choose(bench, f"{last} buoy-2/y", f"{last} buoy-3/y")
    bench.button("Stagger…").click()
    bench.set("Stagger each", "70")
    # The last buoy now ends 350 ms after its way begins, which lasted 320.
    bench.wait(lambda: bench.one(".ring .of").text == "of 2.09 s")
    assert "loop 2090 ms" in bench.one(".axis").get_attribute("textContent")
    bars = shown(bench)
    assert bars == computed(bench)
    assert bars["buoy-3/y", last][0] - bars["buoy-2/y", last][0] == 70
    run = timeline_of(read_piece(bench.document())).run
    assert (run.loop_ms, run.total_ms) == (2090, 2090)
    bench.changed(bench.one("[aria-label='Stagger from'] [title='from the last']").click)
    bars = shown(bench)
    assert bars["buoy-2/y", last][0] - bars["buoy-3/y", last][0] == 70
    bench.changed(bench.button("together again").click)
    assert bench.document()["transitions"][3]["staggers"] == []


def test_bars_are_pulled_trimmed_and_linked(bench) -> None:
    bench.open("/pieces/tide-loader/run-sheet")
    bar = bench.one("[data-bar='2 buoy-2/y'] .body")
    before = shown(bench)["buoy-2/y", 2]
    px_per_ms = bench.one(".axis").size["width"] / 2110
    bench.button("10 ms").click()
    bench.changed(lambda: bench.drag(bar, round(40 * px_per_ms), 0))
    start, end = shown(bench)["buoy-2/y", 2]
    assert start % 10 == 0 and start > before[0] and end - start == before[1] - before[0]
    assert shown(bench)["buoy-2/rotation", 2][0] == start
    assert shown(bench) == computed(bench)

    # Its end: a spring that settles then, with the overshoot that it had.
    overshoot = bench.field("overshoot").get_property("value")
    bench.changed(lambda: bench.drag(bench.one("[data-bar='2 buoy-2/y'] [data-end=end]"), round(-80 * px_per_ms), 0))
    assert shown(bench)["buoy-2/y", 2][1] < end
    bench.wait(lambda: abs(float(bench.field("overshoot").get_property("value")) - float(overshoot)) < 0.1)

    # By keys, and after another one: the link is drawn, and holds when that one moves.
    bench.one("[data-bar='2 buoy-1/y'] .body").send_keys(Keys.ARROW_RIGHT)
    bench.wait(lambda: shown(bench)["buoy-1/y", 2][0] == 430)
    choose(bench, "2 buoy-2/y")
    select(bench, "Starts", "after")
    bench.changed(lambda: select(bench, "Starts counted from", "Buoy 1"))
    bench.one("[data-link='2 buoy-2/y']")
    assert shown(bench) == computed(bench)
    linked = bench.document()["transitions"][1]["lanes"]
    anchor = next(lane["anchor"] for lane in linked if lane["layer"] == "buoy-2")
    assert anchor["edge"] == "after"
    bench.set("Starts by", "20")
    assert shown(bench) == computed(bench)


def test_transitions_that_wait_are_as_alive_as_the_run(bench) -> None:
    """Laid out, pulled, played alone, retimed and compared, though nothing plays by itself."""
    bench.open("/pieces/deck-lamp-switch/run-sheet")
    bench.button("Lay out its transitions here").click()
    bench.one("[data-bar]")
    # Each after 300 ms at rest: the spring of 591 ms, 600 ms later the curve of 240.
    assert {row: at for row, at in shown(bench).items() if row[0] == "ellipse/x"} == {
        ("ellipse/x", 1): (300, 891),
        ("ellipse/x", 4): (1491, 1731),
    }
    bench.one("[data-bar='4 ellipse/x'] .body").send_keys(Keys.ARROW_RIGHT)
    bench.wait(lambda: shown(bench)["ellipse/x", 4] == (1501, 1741))
    lanes = {t["id"]: t.get("lanes", []) for t in bench.document()["transitions"]}
    assert [lane["delay_ms"] for lane in lanes["state-2-to-first"]] == [10]
    assert not lanes["first-to-state-2"]
    bench.fill(bench.field("Retime factor"), "2")
    bench.wait(lambda: "Apply" in bench.one(".retime").text)
    bench.changed(bench.button("Apply").click)
    timings = [t["timing"] for t in bench.document()["transitions"]]
    assert timings[1]["duration_ms"] == 480
    # Takes of it play beside each other.
    bench.open("/pieces/deck-lamp-switch/takes")
    bench.button("Keep the current timing").click()
    bench.button("all transitions").click()
    bench.wait(lambda: [e.text for e in bench.all(".take .mono")] == [bench.one(".take .mono").text] * 2)
    assert bench.one(".take .mono").text.endswith("s loop")
    # And one of them alone, in the workbench.
    bench.open("/pieces/deck-lamp-switch")
    bench.choose_transition("first-to-state-2")
    bench.button("play alone").click()
    bench.wait(lambda: bench.all("[data-stage=loop] .ring"))
    bench.button("whole run").click()
    bench.wait(lambda: not bench.all("[data-stage=loop] .ring"))


ROWS = """
const middles = (css) => [...document.querySelectorAll(css)].map((e) => {
  const box = e.getBoundingClientRect();
  return Math.round(box.top + box.height / 2);
});
return [middles('.row-names li'), middles('[data-bar] .body')];
"""


def test_names_stand_beside_their_bars_and_states_where_they_are_reached(bench) -> None:
    bench.open("/pieces/fog-notice/run-sheet")
    bench.one("[data-bar]")
    names, bars = bench.browser.execute_script(ROWS)
    assert len(set(names)) == len(names)
    # Each row has a name, and the middle of its bars is that of the name but for a px.
    assert all(min(abs(bar - name) for name in names) <= 1 for bar in bars)
    assert all(min(abs(bar - name) for bar in bars) <= 1 for name in names)
    states = [state["name"] for state in bench.document()["states"]]
    assert [text.text for text in bench.all(".axis .named")][1:] == states


def test_no_key_changes_what_is_out_of_sight(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-row='caption']").click()
    bench.one(".views a[href$='run-sheet']").click()
    bench.one("[data-bar]")
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys(Keys.DELETE, "t", "s")
    # The keys before have been heard once this one has.
    bench.keys("?")
    bench.one("[role=dialog]")
    assert bench.document()["layers"][-1]["id"] == "caption"
    assert bench.revision() == 1


def test_the_playhead_is_scrubbed_on_the_ruler(bench) -> None:
    bench.open("/pieces/tide-loader/run-sheet")
    bench.one("[data-bar]")
    bench.button("Pause").click()
    axis = bench.one(".axis")
    ActionChains(bench.browser).move_to_element(axis).click().perform()
    middle = 2060 * (axis.size["width"] / 2) / (axis.size["width"] - 26)
    bench.wait(lambda: float(bench.one(".sheet-playhead .mono").text.split()[0]) == pytest.approx(middle, abs=4))
    assert float(bench.one(".ring").get_attribute("aria-valuenow")) == pytest.approx(middle, abs=4)

    # A part of the run, drawn on the ruler, is played alone; then the whole again.
    bench.button("Play").click()
    chain = ActionChains(bench.browser).key_down(Keys.SHIFT).move_to_element_with_offset(axis, -200, 0)
    chain.click_and_hold().move_by_offset(60, 0).release().key_up(Keys.SHIFT).perform()
    bench.one(".axis .part")
    seen = set()
    said = lambda: float(bench.one(".sheet-playhead .mono").text.split()[0])  # noqa: E731
    bench.wait(lambda: seen.add(said()) or len(seen) > 3)
    assert all(middle - 560 < moment < middle - 300 for moment in seen)
    bench.button("whole run").click()
    bench.wait(lambda: not bench.all(".axis .part"))
    bench.one(".views a[href$='tide-loader']").click()
    bench.one(".score")


def test_what_is_worth_a_look_is_marked_and_led_to(bench) -> None:
    document = copy.deepcopy(DEMO["tide-loader"])
    ways = {way["id"]: way for way in document["transitions"]}
    ways["handover-to-last-lift"].update(hold_ms=0, early_ms=120)
    ways["last-lift-to-ebb"]["lanes"] = [
        {"layer": layer, "delay_ms": 60} for layer in ("buoy-1", "buoy-2", "buoy-3", "swell", "caption")
    ]
    bench.put({**document, "id": "cut-off"})
    bench.open("/pieces/cut-off/run-sheet")
    bench.one("[aria-label='Worth a look']")
    lines = [line.text.replace("\n", " ") for line in bench.all("[aria-label='Worth a look'] li")]
    assert [line.split(" ", 1)[1] for line in lines] == [
        "Buoy 2 y is cut off by what comes next",
        "Buoy 2 rotation is cut off by what comes next",
        "nothing moves",
    ]
    assert len(bench.all(".rows .clash")) == 2
    assert len(bench.all(".rows .dead")) == 1
    bench.all("[aria-label='Worth a look'] button")[0].click()
    bench.wait(lambda: bench.one(".sheet-side h2").text == "Buoy 2 · y")
    assert bench.one(".stage-clock [role=slider]").get_attribute("aria-valuenow") == lines[0].split("–")[0]
