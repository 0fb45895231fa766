"""The score as a sheet: blocks of cells, states at every place, rows as wanted."""

from __future__ import annotations

import re
from typing import Any

import pytest
from selenium.webdriver import ActionChains, Keys

pytestmark = pytest.mark.xdist_group("ui")

STATES = ["slack", "first-lift", "handover", "last-lift", "ebb"]
PASTE = """
const transfer = new DataTransfer();
transfer.setData('text/plain', arguments[1]);
arguments[0].dispatchEvent(new ClipboardEvent('paste', {clipboardData: transfer, bubbles: true, cancelable: true}));
"""
COPY = """
const transfer = new DataTransfer();
arguments[0].dispatchEvent(new ClipboardEvent('copy', {clipboardData: transfer, bubbles: true, cancelable: true}));
return transfer.getData('text/plain');
"""


def row(bench, layer: str, prop: str) -> list[str]:
    """As it is written, what is as before as a dot."""
    cells = bench.all(f"[data-score-row='{layer}/{prop}'] input")
    return [cell.get_property("value").replace("−", "-") for cell in cells]


def block(bench, first: tuple[str, str, str], last: tuple[str, str, str]) -> Any:
    start = bench.cell(*first)
    start.click()
    ActionChains(bench.browser).key_down(Keys.SHIFT).click(bench.cell(*last)).key_up(Keys.SHIFT).perform()
    bench.wait(lambda: bench.all(".in-block"))
    return start


def test_blocks_of_cells_are_filled_spread_mirrored_copied_and_pasted(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-state]")
    assert row(bench, "buoy-1", "y") == ["104", "62", "82", "104", "·"]
    block(bench, ("buoy-1", "y", "slack"), ("buoy-1", "y", "last-lift"))
    bench.changed(lambda: bench.pick("cells…", "mirror, left to right"))
    assert row(bench, "buoy-1", "y") == ["104", "82", "62", "104", "·"]

    block(bench, ("buoy-1", "y", "first-lift"), ("buoy-1", "rotation", "ebb"))
    bench.changed(lambda: bench.pick("cells…", "spread evenly"))
    bench.wait(lambda: row(bench, "buoy-1", "y") == ["104", "82", "89.333", "96.667", "104"])
    bench.press("Undo")
    bench.wait(lambda: row(bench, "buoy-1", "y") == ["104", "82", "62", "104", "·"])

    # What is copied can be pasted to be the same; a column from a spreadsheet goes down, across both rows.
    first = block(bench, ("buoy-1", "y", "slack"), ("buoy-1", "rotation", "first-lift"))
    assert bench.browser.execute_script(COPY, first) == "104\t82\n0\t-6"
    bench.changed(lambda: bench.browser.execute_script(PASTE, bench.cell("buoy-1", "y", "handover"), "90\n12,5\r\n"))
    assert (row(bench, "buoy-1", "y")[2], row(bench, "buoy-1", "rotation")[2]) != ("90", "12.5")
    bench.press("Undo")
    bench.cell("buoy-1", "y", "handover").click()
    bench.changed(lambda: bench.browser.execute_script(PASTE, bench.cell("buoy-1", "y", "handover"), "90\n12,5\r\n"))
    bench.cell("buoy-3", "y", "slack").click()
    assert (row(bench, "buoy-1", "y")[2], row(bench, "buoy-1", "rotation")[2]) == ("90", "12.5°")

    # Each changed from its own; one value into a whole block; a cell that a spreadsheet has quoted.
    block(bench, ("buoy-1", "y", "slack"), ("buoy-1", "y", "handover"))
    bench.pick("cells…", "add to all, or times…")
    bench.changed(lambda: bench.fill(bench.field("Change of the cells"), "+10"))
    assert row(bench, "buoy-1", "y")[:3] == ["114", "92", "100"]
    bench.press("Undo")
    first = block(bench, ("buoy-1", "y", "slack"), ("buoy-1", "y", "handover"))
    bench.changed(lambda: bench.browser.execute_script(PASTE, first, '"77"\n'))
    assert row(bench, "buoy-1", "y")[:3] == ["77", "·", "·"]
    bench.press("Undo")

    # What does not fit is said, and nothing of it is taken.
    before = bench.revision()
    bench.cell("buoy-1", "y", "handover").click()
    bench.browser.execute_script(PASTE, bench.cell("buoy-1", "y", "handover"), "1\tabc")
    bench.wait(lambda: any("line 1, cell 2: “abc” is not a number" in text for text in bench.faults()))
    assert bench.revision() == before
    bench.button("Understood").click()

    # Keys alone: the block grows to the right, is filled by its first cell, and goes back to the base.
    cell = bench.cell("buoy-1", "y", "handover")
    cell.click()
    for _ in range(2):
        ActionChains(bench.browser).key_down(Keys.CONTROL).key_down(Keys.SHIFT).send_keys(Keys.ARROW_RIGHT).key_up(
            Keys.SHIFT
        ).key_up(Keys.CONTROL).perform()
    bench.wait(lambda: len(bench.all(".in-block")) == 3)
    bench.changed(lambda: bench.pick("cells…", "the same to the right"))
    assert row(bench, "buoy-1", "y")[2:] == ["90", "·", "·"]
    block(bench, ("buoy-1", "y", "handover"), ("buoy-1", "y", "ebb"))
    bench.changed(lambda: bench.keys(Keys.DELETE))
    bench.cell("buoy-3", "y", "slack").click()
    assert row(bench, "buoy-1", "y")[2:] == ["104", "·", "·"]


def test_states_come_before_between_and_where_they_are_dropped(bench) -> None:
    bench.open("/pieces/tide-loader")
    states = lambda: [head.get_attribute("data-state") for head in bench.all("[data-state]")]  # noqa: E731
    bench.one("[data-state='slack']").click()
    bench.changed(lambda: bench.pick("+ state at…", "halfway to First lift"))
    assert states()[:3] == ["slack", "state-6", "first-lift"]
    assert row(bench, "buoy-1", "y")[:3] == ["104", "83", "62"]
    assert [
        bench.one(f"[data-transition='{way}'] .length").text for way in ("slack-to-first-lift", "state-6-to-first-lift")
    ] == [
        "150 ms",
        "150 ms",
    ]
    bench.changed(lambda: bench.pick("+ state at…", "before State 6"))
    assert states()[:4] == ["slack", "state-7", "state-6", "first-lift"]

    # Dropped on another, a state takes its place; by keys it goes back.
    ActionChains(bench.browser).click_and_hold(bench.one("[data-state='state-7']")).move_by_offset(
        20, 0
    ).move_to_element(bench.one("[data-state='first-lift']")).move_by_offset(3, 0).perform()
    bench.changed(lambda: ActionChains(bench.browser).release().perform())
    assert states()[:4] == ["slack", "state-6", "first-lift", "state-7"]
    for _ in range(2):
        bench.changed(
            lambda: (
                ActionChains(bench.browser)
                .key_down(Keys.ALT)
                .send_keys_to_element(bench.one("[data-state='state-7']"), Keys.ARROW_LEFT)
                .key_up(Keys.ALT)
                .perform()
            )
        )
    assert states()[:4] == ["slack", "state-7", "state-6", "first-lift"]
    for state in ("state-7", "state-6"):
        bench.one(f"[data-state='{state}']").click()
        bench.changed(lambda state=state: bench.one(f"[data-state='{state}']").send_keys(Keys.DELETE))
    assert states() == STATES
    bench.wait(lambda: bench.one(".ring .of").text == "of 1.91 s")


def test_rows_are_shown_as_wanted(bench) -> None:
    bench.open("/pieces/tide-loader")
    rows = lambda: len(bench.all("[data-score-row]"))  # noqa: E731
    bench.one("[data-row='caption']").click()
    changing = rows()
    bench.button("chosen").click()
    bench.wait(
        lambda: {r.get_attribute("data-score-row").split("/")[0] for r in bench.all("[data-score-row]")} == {"caption"}
    )
    bench.button("all").click()
    bench.wait(lambda: re.fullmatch(r"(\d{3,}) of \1 rows", bench.one(".score .corner b").text))
    bench.button("changes").click()
    bench.wait(lambda: rows() == changing)


def test_states_are_seen_in_small(bench) -> None:
    bench.open("/pieces/tide-loader")
    script = """
        return [...document.querySelectorAll('.thumb img')].map((image) => image.naturalWidth ? image.src : '');
    """
    shown = lambda: bench.browser.execute_script(script)  # noqa: E731
    bench.wait(lambda: len(shown()) == 5 and all(shown()))
    before = shown()
    bench.changed(lambda: bench.fill(bench.cell("buoy-2", "y", "handover"), "40"))
    # Only the one that changed is drawn anew.
    bench.wait(
        lambda: [now == then for now, then in zip(shown(), before, strict=True)] == [True, True, False, True, True]
    )
    size = bench.browser.execute_script("const i = document.querySelector('.thumb img'); return [i.width, i.height]")
    assert size == [44, 34]


def test_the_ends_of_an_arch_are_pulled_to_other_states(bench) -> None:
    def ends() -> tuple[str, str]:
        way = bench.document()["transitions"][0]
        return way["from"], way["to"]

    def pulled(end: str, state: str) -> None:
        grip = bench.one(f"[data-arch-end={end}]").rect
        goal = bench.one(f"[data-state='{state}']").rect
        by = goal["x"] + goal["width"] / 2 - grip["x"] - grip["width"] / 2
        bench.changed(lambda: bench.drag(bench.one(f"[data-arch-end={end}]"), round(by), 0))

    bench.open("/pieces/tide-loader")
    bench.choose_transition("slack-to-first-lift")
    assert ends() == ("slack", "first-lift")
    pulled("to", "handover")
    assert ends() == ("slack", "handover")
    bench.press("Undo")
    pulled("from", "handover")
    assert ends() == ("handover", "first-lift")
    # Not onto its other end; Escape gives it up.
    bench.press("Undo")
    chain = ActionChains(bench.browser).click_and_hold(bench.one("[data-arch-end=to]")).move_by_offset(150, 0)
    chain.send_keys(Keys.ESCAPE).release().perform()
    assert ends() == ("slack", "first-lift")
