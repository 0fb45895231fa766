"""Keys and pointer act on what is in hand and what is seen: the point, the stop, the pull, and nothing behind them."""

from __future__ import annotations

from typing import Any

import pytest
from selenium.webdriver import ActionChains, Keys
from test_drawing import box, chosen, layers
from test_score import COPY, PASTE, block

from support import piece

pytestmark = pytest.mark.xdist_group("ui")

ONE_STATE: dict[str, Any] = {"states": [{"id": "a", "name": "A"}], "transitions": []}


def put(bench, *drawn: dict[str, Any], **rest: Any) -> None:
    bench.put(piece(list(drawn), **{**ONE_STATE, **rest}))
    bench.one("[data-row]")


def focused(bench, css: str) -> None:
    bench.browser.execute_script("arguments[0].focus()", bench.one(css))


def test_escape_takes_a_pull_back_before_it_is_made(bench) -> None:
    put(bench, box(1, 50, 20, width=40, height=30))
    bench.one("[data-row='box-1']").click()
    before = bench.box("pose", "box-1")
    layer = bench.one("[data-stage=pose] [data-layer='box-1']")
    chain = ActionChains(bench.browser, duration=0)
    chain.click_and_hold(layer).move_by_offset(30, 20).perform()
    bench.wait(lambda: bench.box("pose", "box-1") != before, "it was not pulled")
    bench.keys(Keys.ESCAPE)
    bench.wait(lambda: bench.box("pose", "box-1") == before, "it stays where it was pulled")
    ActionChains(bench.browser, duration=0).move_by_offset(9, 9).release().perform()
    # The next edit is the first one that is stored.
    bench.changed(lambda: bench.keys(Keys.ARROW_RIGHT))
    assert (bench.revision(), layers(bench)["Box 1"]["x"]) == (2, 51)


def test_undo_while_drawing_takes_back_the_last_point(bench) -> None:
    put(bench, box(1, 10, 10))
    bench.keys("o")
    bench.one(".tool-pen")
    for place in ((20, 40), (60, 40), (90, 90), (60, 70)):
        bench.click_at(*place)
    bench.keys("z", ctrl=True)
    bench.keys("z", ctrl=True)
    bench.click_at(60, 80)
    bench.changed(lambda: bench.click_at(20, 40))
    assert layers(bench)["Path"]["path"] == "M0 0L40 0L40 40Z"
    assert len(layers(bench)) == 2


def test_delete_takes_the_stop_or_the_point_in_hand(bench) -> None:
    stops = [{"at": at, "colour": colour} for at, colour in ((0, "#d9503a"), (0.5, "#b9832b"), (1, "#1f7a70"))]
    fill = {"kind": "linear", "angle": 90, "stops": stops}
    outline = {"kind": "path", "id": "line", "name": "Line", "path": "M0 0L40 0A20 20 0 0 1 0 40Z"}
    frame = {"x": 20, "y": 20, "width": 40, "height": 40, "view_width": 40, "view_height": 40}
    put(bench, {**outline, **frame}, box(1, 90, 20, width=100, height=60, fill=fill))
    bench.one("[data-row='box-1']").click()
    focused(bench, "[data-gradient='1']")
    bench.changed(lambda: bench.keys(Keys.DELETE))
    assert [stop["at"] for stop in layers(bench)["Box 1"]["fill"]["stops"]] == [0, 1]

    bench.one("[data-row='line']").click()
    bench.double_click("[data-stage=pose] [data-layer=line]", until=lambda: len(bench.all("[data-point]")) == 4)
    # A click on a point is no edit, and leaves arcs as they are.
    bench.one("[data-point='0,1']").click()
    assert (bench.revision(), layers(bench)["Line"]["path"]) == (2, outline["path"])
    # A double click between two points adds one.
    x, y = bench.on_stage(40, 20)
    before = len(bench.all("[data-point]"))
    script = "return document.elementFromPoint(arguments[0], arguments[1]).closest('.points .segment') !== null"
    assert bench.browser.execute_script(script, x, y), "no segment there"
    twice = ActionChains(bench.browser, duration=0)
    twice.w3c_actions.pointer_action.move_to_location(round(x), round(y))
    bench.changed(twice.double_click().perform)
    bench.wait(lambda: len(bench.all("[data-point]")) == before + 1, "no point was added")
    assert set(layers(bench)) == {"Line", "Box 1"}


def test_the_pointer_takes_what_is_seen(bench) -> None:
    seen = box(1, 40, 20, width=60, height=40)
    hidden = box(2, 40, 20, width=60, height=40, visible=False)
    clear = box(3, 40, 20, width=60, height=40, opacity=0)
    fixed = box(4, 120, 20, width=40, height=40, locked=True)
    put(bench, fixed, seen, hidden, clear)
    bench.click_at(70, 40)
    bench.wait(lambda: chosen(bench) == ["Box 1"])
    # Locked, and chosen in the list: it stays what it is and where it is.
    bench.one("[data-row='box-4']").click()
    bench.pull((140, 40), (150, 50))
    bench.keys(Keys.DELETE)
    bench.click_at(70, 40)
    bench.wait(lambda: chosen(bench) == ["Box 1"])
    bench.changed(lambda: bench.keys(Keys.ARROW_DOWN))
    assert bench.revision() == 2
    assert (layers(bench)["Box 4"]["x"], layers(bench)["Box 4"]["y"]) == (120, 20)


def test_copied_cells_keep_all_their_digits(bench) -> None:
    third = 20 + 1 / 3
    look = {"x": third, "y": 1 / 7}
    states = [{"id": "a", "name": "A", "changes": {"box-1": look}}, {"id": "b", "name": "B", "changes": {}}]
    bench.put(piece([box(1, 10, 10)], states=states))
    bench.one("[data-state='a']").click()
    first = block(bench, ("box-1", "x", "a"), ("box-1", "y", "a"))
    copied = bench.browser.execute_script(COPY, first)
    cell = bench.cell("box-1", "x", "b")
    cell.click()
    bench.changed(lambda: bench.browser.execute_script(PASTE, cell, copied))
    assert bench.document()["states"][1]["changes"]["box-1"] == look


def test_what_leaves_otherwise_is_said_before(bench) -> None:
    fade = piece()
    fade["transitions"][0]["style"] = "cross-fade"
    bench.put(fade)
    bench.one("[data-row]")
    bench.button("Hand off").click()
    told = "WebKit shows some of the background through it"
    bench.wait(lambda: told in bench.one(".told").text, "what is said")


def test_what_is_paused_stays_paused_with_a_new_piece(bench) -> None:
    bench.open("/")
    bench.button("Pause all").click()
    bench.one("[aria-label='More for Tide loader']").click()
    bench.button("Duplicate").click()
    # The newest comes first.
    bench.wait(lambda: len(bench.all("[data-shelf^='tide-loader']")) > 1)
    assert bench.all("[data-shelf]")[0].get_attribute("data-shelf") == "tide-loader-copy"
    bench.button("Play all")
    dots = """return Object.fromEntries([...document.querySelectorAll('[data-shelf]:has(.ring)')].map((cell) =>
        [cell.dataset.shelf, cell.querySelector('.ring').getAttribute('aria-valuenow')]))"""
    bench.wait(lambda: bench.all("[data-shelf^='tide-loader-'] .ring, [data-shelf^='tide-loader'] .ring"))
    frames = (
        "const done = arguments[0]; let n = 12; const next = () => n-- ? requestAnimationFrame(next) : done(0); next()"
    )
    still = bench.browser.execute_script(dots)
    bench.browser.execute_async_script(frames)
    # More of them may have come by now.
    now = bench.browser.execute_script(dots)
    assert len(still) > 1 and {name: now[name] for name in still} == still
