"""The whole story: from the shelf through an edit, faults, undo and reload to the file that is taken away."""

from __future__ import annotations

import json
import re
import time
from pathlib import Path

import pytest
from selenium.webdriver import Keys
from selenium.webdriver.common.by import By

from support import DEMO

pytestmark = pytest.mark.xdist_group("ui")


def ring_total(bench) -> str:
    return bench.one(".ring .of").text


def see_the_shelf_play(bench) -> None:
    """The pieces in their order, each that plays by itself playing in small; more come when they are scrolled to."""
    bench.open()
    bench.wait(lambda: len(bench.all(".shelf-cell")) == 12)
    assert [a.text for a in bench.all(".shelf-name a")] == [document["name"] for document in DEMO.values()][:12]
    bench.wait(lambda: len(bench.all(".shelf-cell .ring")) == 6)
    assert len(bench.all(".shelf-cell .run-bar")) == 2
    buoy = bench.one("[data-shelf='tide-loader'] [data-layer='buoy-1']")
    places = set()
    bench.wait(lambda: places.add(buoy.rect["y"]) or len(places) > 5, "the shelf does not play")


def test_a_designer_edits_the_tide_loader(bench, tmp_path: Path) -> None:
    see_the_shelf_play(bench)
    bench.one("[data-shelf='tide-loader'] .shelf-name a").click()

    # A number in the score: pose, loop and tape follow at once.
    bench.one("[data-state='first-lift']").click()
    assert ring_total(bench) == "of 2.06 s"
    _, before = bench.box("pose", "buoy-1")
    bench.fill(bench.cell("buoy-1", "y", "first-lift"), "104-22")
    bench.wait_for_revision(2)
    assert bench.box("pose", "buoy-1")[1] == pytest.approx(before + 20, abs=0.3)
    # Enter moved down; Tab moves right; arrow keys nudge.
    bench.wait_for_focus("rotation of buoy-1 in first-lift")
    bench.keys(Keys.TAB)
    bench.wait_for_focus("rotation of buoy-1 in handover")
    bench.keys(Keys.ARROW_UP)
    bench.wait_for_revision(3)
    bench.keys(Keys.ARROW_DOWN, shift=True)
    bench.wait_for_revision(4)
    assert bench.cell("buoy-1", "rotation", "handover").get_property("value") in ("-6", "−6")

    # Held at the moment the state is reached, the loop shows the same.
    bench.button("Pause").click()
    bench.one(".from").click()
    assert bench.box("loop", "buoy-1")[1] == pytest.approx(before + 20, abs=0.3)

    # A duration: the ring follows.
    bench.one("[data-transition='slack-to-first-lift']").click()
    bench.fill(bench.field("duration"), "500")
    bench.wait_for_revision(5)
    assert ring_total(bench) == "of 2.26 s"

    # Undone, reloaded, found as it was, undone further after the reload. Steps in quick succession are undone as one.
    bench.changed(bench.button("Undo").click)
    assert ring_total(bench) == "of 2.06 s"
    while bench.document()["states"][2]["changes"]["buoy-1"]["rotation"] != 3:
        bench.changed(bench.button("Undo").click)
    revision = bench.revision()
    bench.served.restart()
    bench.browser.refresh()
    bench.wait_for_revision(revision)
    bench.one("[data-state='first-lift']").click()
    assert bench.cell("buoy-1", "y", "first-lift").get_property("value") == "82"
    bench.changed(bench.button("Undo").click)
    bench.wait(lambda: bench.cell("buoy-1", "y", "first-lift").get_property("value") == "62")
    bench.changed(bench.button("Redo").click)

    text = taken_away(bench, tmp_path)
    assert "translate: 62px 82px" in text


def taken_away(bench, folder: Path) -> str:
    """A page that plays the loop without the application: its text."""
    bench.browser.execute_cdp_cmd(
        "Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(folder), "eventsEnabled": True}
    )
    bench.button("Hand off").click()
    bench.button("Download tide-loader.html").click()
    page = folder / "tide-loader.html"
    bench.wait(lambda: page.exists() and page.read_text("utf-8").rstrip().endswith("</html>"), "no download")
    bench.served.stop()
    bench.browser.get(page.as_uri())
    assert bench.browser.execute_script("return document.getAnimations().length") > 3
    bench.served.start(bench.served.port)
    return page.read_text("utf-8")


WRONG = [
    ("abc", "“abc” is not a number"),
    ("12em", "“12em” is not a number"),
    ("1/0", "is not a number"),
]


@pytest.mark.parametrize(("typed", "says"), WRONG)
def test_what_is_no_number_is_said_and_kept(bench, typed: str, says: str) -> None:
    bench.open("/pieces/tide-loader")
    bench.fill(bench.cell("buoy-2", "y", "handover"), typed)
    bench.wait(lambda: any(says in text for text in bench.faults()))
    cell = bench.cell("buoy-2", "y", "handover")
    assert cell.get_property("value") == typed
    assert cell.get_attribute("aria-invalid") == "true"
    cell.send_keys(Keys.ESCAPE)
    bench.wait(lambda: not bench.faults())
    assert bench.cell("buoy-2", "y", "handover").get_property("value") == "62"
    assert bench.revision() == 1


def test_faults_that_the_server_finds_stand_beside_the_field(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-row='buoy-2']").click()
    bench.fill(bench.field("width"), "-5")
    bench.wait(lambda: any("Give 0 or more" in text for text in bench.faults()))
    assert bench.field("width").get_property("value") == "-5"
    bench.fill(bench.field("width"), "30")
    bench.wait_for_revision(2)
    assert not bench.faults()

    bench.one("[data-transition='slack-to-first-lift']").click()
    bench.fill(bench.field("easing"), "wobble(3)")
    bench.wait(lambda: any("is not an easing function" in text for text in bench.faults()))
    assert any("cubic-bezier(0.3, 0, 0.2, 1)" in text for text in bench.faults())
    assert bench.field("easing").get_property("value") == "wobble(3)"
    bench.fill(bench.field("easing"), "steps(3, jump-both)")
    bench.wait_for_revision(3)
    assert not bench.faults()


def test_two_windows_follow_each_other_and_a_stale_edit_loses_nothing(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-state='first-lift']").click()
    first = bench.browser.current_window_handle
    bench.browser.switch_to.new_window("window")
    second = bench.browser.current_window_handle
    try:
        bench.open("/pieces/tide-loader")
        bench.one("[data-state='handover']").click()
        bench.fill(bench.cell("buoy-2", "y", "handover"), "50")
        bench.wait_for_revision(2)
        # Where nothing is being typed, the other window's edit shows by itself.
        bench.browser.switch_to.window(first)
        bench.wait_for_revision(2)
        assert bench.cell("buoy-2", "y", "handover").get_property("value") == "50"

        # What is half typed is left alone, and meets the other edit only when it is entered.
        cell = bench.cell("buoy-1", "y", "first-lift")
        cell.click()
        bench.keys("a", ctrl=True)
        cell.send_keys("70")
        bench.browser.switch_to.window(second)
        bench.fill(bench.cell("buoy-2", "y", "handover"), "48")
        bench.wait_for_revision(3)
        bench.browser.switch_to.window(first)
        bench.cell("buoy-1", "y", "first-lift").send_keys(Keys.ENTER)
        notice = bench.one(".notice")
        assert "y of Buoy 2 in Handover" in notice.text
        assert "y of Buoy 1 in First lift" in notice.text
        assert bench.cell("buoy-1", "y", "first-lift").get_property("value") == "70"
        bench.button("Take theirs, then make mine").click()
        bench.wait_for_revision(4)
        assert bench.cell("buoy-2", "y", "handover").get_property("value") == "48"
        assert bench.cell("buoy-1", "y", "first-lift").get_attribute("aria-invalid") == "false"
        bench.wait(lambda: bench.cell("buoy-1", "y", "first-lift").get_property("value") == "70")
        assert not bench.all(".notice")
    finally:
        bench.browser.switch_to.window(second)
        bench.browser.close()
        bench.browser.switch_to.window(first)


def test_layers_are_moved_by_drag_and_by_keys(bench) -> None:
    bench.open("/pieces/tide-loader")
    bench.one("[data-state='handover']").click()
    bench.one("[data-row='buoy-2']").click()
    x, y = bench.box("pose", "buoy-2")
    bench.drag(bench.one("[data-stage=pose] [data-layer='buoy-2-tower']"), 20, 10)
    bench.wait_for_revision(2)
    moved_x, moved_y = bench.box("pose", "buoy-2")
    assert 10 < moved_x - x < 30
    assert 5 < moved_y - y < 15
    bench.keys(Keys.ARROW_RIGHT)
    bench.wait_for_revision(3)
    bench.keys(Keys.ARROW_UP, shift=True)
    bench.wait_for_revision(4)
    nudged_x, nudged_y = bench.box("pose", "buoy-2")
    assert nudged_x - moved_x == pytest.approx(1, abs=0.2)
    assert nudged_y - moved_y == pytest.approx(-10, abs=0.2)
    # Only this state: before it the buoy lies where it lay.
    assert bench.cell("buoy-2", "y", "slack").get_property("value") == "104"


def test_states_and_layers_are_added_duplicated_renamed_reordered_and_deleted(bench) -> None:
    bench.open("/pieces/tide-loader")
    states = lambda: [button.get_attribute("data-state") for button in bench.all("[data-state]")]  # noqa: E731
    bench.one("[data-state='handover']").click()
    # It leads on already: what a state after it changes is said, and asked.
    bench.changed(lambda: bench.pick("+ state", "after Handover"))
    assert states() == ["slack", "first-lift", "handover", "state-6", "last-lift", "ebb"]
    assert bench.one("[data-transition='handover-to-state-6']")
    bench.one(".score .foot button[aria-label='Move state to the right']").click()
    bench.wait_for_revision(3)
    assert states()[3:5] == ["last-lift", "state-6"]
    bench.rename_state("state-6", "Crest")
    bench.one(".score .foot").find_element(By.XPATH, ".//button[.='delete state']").click()
    bench.wait_for_revision(5)
    assert states() == ["slack", "first-lift", "handover", "last-lift", "ebb"]
    assert ring_total(bench) == "of 2.06 s"

    rows = lambda: [row.get_attribute("data-row") for row in bench.all("[data-row]")]  # noqa: E731
    bench.one("[data-row='buoy-1']").click()
    bench.one(".layer-actions").find_element(By.XPATH, ".//button[.='duplicate']").click()
    bench.wait_for_revision(6)
    assert "buoy-1-2" in rows()
    assert bench.cell("buoy-1-2", "y", "first-lift").get_property("value") == "62"
    bench.one(".layer-actions").find_element(By.XPATH, ".//button[.='raise']").click()
    bench.wait_for_revision(7)
    assert rows().index("buoy-1-2") < rows().index("buoy-2")
    bench.one(".layer-actions").find_element(By.XPATH, ".//button[.='delete']").click()
    bench.wait_for_revision(8)
    assert "buoy-1-2" not in rows()
    for revision in range(9, 16):
        bench.button("Undo").click()
        bench.wait_for_revision(revision)
    assert not bench.all("button.ant-btn:not([disabled])[title*='Undo']")
    document = json.loads(bench.browser.execute_async_script(
        "fetch('/api/pieces/tide-loader').then(r => r.json()).then(a => arguments[0](JSON.stringify(a.document)))"
    ))  # fmt: skip
    assert [state["id"] for state in document["states"]] == states()


def test_a_piece_from_nothing(bench) -> None:
    bench.open()
    bench.button("New piece").click()
    bench.field("Name").send_keys("Harbour bell")
    bench.button("Make it").click()
    bench.wait(lambda: bench.browser.current_url.endswith("/pieces/harbour-bell"))
    bench.button("+ add").click()
    bench.wait(lambda: [e for e in bench.all(".ant-dropdown-menu-item") if e.text == "ellipse"])[0].click()
    bench.wait_for_revision(2)
    bench.button("+ state").click()
    bench.wait_for_revision(3)
    bench.one("[data-row='ellipse']").click()
    bench.fill(bench.field("y"), "10")
    bench.wait_for_revision(4)
    assert bench.cell("ellipse", "y", "state-2").get_property("value") == "10"
    bench.one("button[aria-label^='Add a transition to First']").click()
    bench.wait_for_revision(5)
    bench.one(".inspector").find_element(By.XPATH, ".//*[text()='Spring']").click()
    bench.wait_for_revision(6)
    bench.button("Breaker").click()
    bench.wait_for_revision(7)
    plot = bench.one(".plot svg").get_attribute("aria-label")
    assert re.search(r"peak 1\.32\d* at 141\.\d ms, settled after 870 ms", plot)
    assert ring_total(bench) == "of 1.17 s"
    seen = set()
    deadline = time.monotonic() + 15
    while len(seen) < 8 and time.monotonic() < deadline:
        seen.add(round(bench.box("loop", "ellipse")[1], 1))
    assert len(seen) >= 8


def test_what_sets_a_transition_off(bench) -> None:
    def choose(field: str, option: str) -> None:
        bench.one(f"[aria-label='{field}']").find_element(
            By.XPATH, "./ancestor::*[contains(@class, 'ant-select')][last()]"
        ).click()
        path = f"//*[contains(@class, 'ant-select-item-option')][@title='{option}']"
        bench.wait(lambda: any(e.is_displayed() for e in bench.browser.find_elements(By.XPATH, path)), option)
        next(e for e in bench.browser.find_elements(By.XPATH, path) if e.is_displayed()).click()

    bench.open("/pieces/tide-loader")
    head = bench.one("[data-transition='slack-to-first-lift']")
    head.click()
    choose("Cue", "tap")
    bench.wait_for_revision(2)
    # Nothing starts by itself any more: the run is over where it begins.
    bench.wait(
        lambda: bench.one("[data-stage=loop] .stage-label").text.startswith("Stands still: Slack waits for a tap")
    )
    assert not bench.all(".stage-clock")
    assert "tap" in bench.one("[data-transition='slack-to-first-lift']").text
    choose("Cue layer", "Buoy 1")
    bench.wait_for_revision(3)
    choose("Cue", "after a hold")
    bench.wait_for_revision(4)
    bench.fill(bench.field("hold"), "0")
    bench.wait_for_revision(5)
    # Before the state is reached, in the middle of the motion that leads there.
    bench.fill(bench.field("early"), "0")
    bench.one("[data-transition='handover-to-last-lift']").click()
    bench.fill(bench.field("early"), "120")
    bench.wait_for_revision(6)
    assert "early 120" in bench.one("[data-transition='handover-to-last-lift']").text
    assert ring_total(bench) != "of 2.06 s"
