"""Content that is longer than its screen: what follows the scrolling, what stays, and what comes into view."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.common.actions.wheel_input import ScrollOrigin
from selenium.webdriver.support.ui import WebDriverWait

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.live.events import read_events
from keen_ripple.core.live.made import made_events
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.timeline import sample, timeline_of
from keen_ripple.handoff import FORMATS
from support import piece, timeline_in, way

CURVE = {"kind": "curve", "duration_ms": 200, "easing": "linear"}
HEIGHTS = (200, 300, 250)


def story(**rest: Any) -> dict[str, Any]:
    """Three sections of other heights on a screen of 200 px; a pinned mark turns along the second of them."""
    mark = {"kind": "ellipse", "id": "mark", "name": "Mark", "x": 40, "y": 30, "width": 40, "height": 40}
    words = {"kind": "rectangle", "id": "words", "name": "Words", "x": 20, "y": 260, "width": 60, "height": 20}
    states = [
        {"id": "first", "name": "First", "changes": {}},
        {"id": "second", "name": "Second", "changes": {"words": {"x": 90}}},
    ]
    sections = [{"id": f"part-{n}", "name": f"Part {n}", "height": height} for n, height in enumerate(HEIGHTS, 1)]
    keys = [{"at_ms": 0, "value": 0}, {"at_ms": 400, "value": 80}, {"at_ms": 1000, "value": 20}]
    along = {"id": "along", "name": "Along", "period_ms": 1000, "section": "part-2"}
    along["courses"] = [{"layer": "mark", "property": "rotation", "keys": keys}]
    seen = {"cue": "in-view", "cue_share": 0.5}
    ways = [
        {**way("first", "second", CURVE), **seen, "cue_layer": "part-2"},
        {**way("second", "first", CURVE), **seen, "cue_layer": "part-1"},
    ]
    document = piece([words, {**mark, "pinned": True}], width=200, height=200, states=states, start="first")
    return {**document, "id": "story", "sections": sections, "transitions": ways, "undercurrents": [along], **rest}


def turned(y: float) -> float:
    """By the way scrolled through the second section: 0 where it begins, 80° two fifths on, 20° where it ends."""
    share = min(max((y - 200) / 300, 0), 1)
    return share / 0.4 * 80 if share <= 0.4 else 80 - (share - 0.4) / 0.6 * 60


SCROLLED = (0.0, 150.0, 200.0, 260.0, 320.0, 437.5, 550.0)


def test_what_follows_scrolling_does_so_there_and_back() -> None:
    ys = [*SCROLLED, *reversed(SCROLLED)]
    events = read_events([{"t_ms": 10 * n, "cue": "scroll", "y": y} for n, y in enumerate(ys)])
    rehearsed = rehearse(read_piece(story()), events, 1000.0)
    for n, (pose, y) in enumerate(zip(rehearsed.sample([10 * n + 5 for n in range(len(ys))]), ys, strict=True)):
        assert pose["mark"]["rotation"] == pytest.approx(turned(y)), n
        # What is pinned stays, all else goes with the content.
        assert (pose["mark"]["y"], pose["words"]["y"]) == (30, 260 - y)
    # Nobody scrolls in the run; no farther than to the end, and nothing is set off by it alone.
    assert sample(timeline_of(read_piece(story())), [700.0])[0]["mark"]["rotation"] == 0
    far = rehearse(read_piece(story()), read_events([{"t_ms": 0, "cue": "scroll", "y": 9000}]), 10.0)
    assert (far.scrolled_at(5.0), far.heard) == (550.0, ())


def test_a_section_that_comes_into_view_is_scrolled_to_by_whoever_acts_for_me() -> None:
    events, until = made_events(read_piece(story()))
    assert [(event.cue, event.layer, event.y) for event in events] == [
        ("scroll", None, 200.0),
        ("in-view", "part-2", None),
        ("scroll", None, 0.0),
        ("in-view", "part-1", None),
    ]
    segments = rehearse(read_piece(story()), events, until).segments
    assert [s.to for s in segments if s.kind == "travel"] == ["second", "first"]


@pytest.mark.parametrize(
    ("wrong", "place"),
    [
        ({"sections": [{"id": "words", "name": "W", "height": 300}]}, "/sections/0/id"),
        ({"sections": [{"id": "part-1", "name": "W", "height": 300}] * 2}, "/sections/1/id"),
        ({"sections": []}, "/transitions/0/cue_layer"),
    ],
)
def test_wrong_sections_are_told_with_their_place(wrong: dict[str, Any], place: str) -> None:
    with pytest.raises(Fault) as caught:
        read_piece(story(**wrong))
    assert str(caught.value).startswith(place)


ROTATION = """
const { a, b } = new DOMMatrix(getComputedStyle(document.querySelector('[data-layer=mark]')).transform);
const style = getComputedStyle(document.querySelector('[data-layer=mark]'));
const own = style.rotate === 'none' ? 0 : parseFloat(style.rotate);
const box = document.querySelector('[data-layer=mark]').getBoundingClientRect();
const screen = document.querySelector('.piece').getBoundingClientRect();
return [own || Math.atan2(b, a) * 180 / Math.PI, box.top + box.height / 2 - screen.top];
"""
FRAME = "const done = arguments[0]; requestAnimationFrame(() => requestAnimationFrame(() => done()))"


def open_as(browser, folder: Path, name: str) -> None:
    page = folder / f"story.{name}.html"
    page.write_bytes(FORMATS[name].write(timeline_in(story())))
    browser.get(page.as_uri())


def test_in_html_it_follows_by_css_alone(browser, tmp_path: Path) -> None:
    open_as(browser, tmp_path, "html")
    assert "<script" not in browser.page_source
    for y in SCROLLED:
        browser.execute_script("document.querySelector('.piece').scrollTop = arguments[0]", y)
        browser.execute_async_script(FRAME)
        reached = browser.execute_script("return document.querySelector('.piece').scrollTop")
        rotation, middle = browser.execute_script(ROTATION)
        assert rotation == pytest.approx(turned(reached), abs=0.5)
        assert middle == pytest.approx(50, abs=0.5)


def test_live_it_answers_to_a_real_wheel(browser, tmp_path: Path) -> None:
    open_as(browser, tmp_path, "live")
    screen = browser.find_element("css selector", ".scene")
    ActionChains(browser).scroll_from_origin(ScrollOrigin.from_element(screen), 0, 260).perform()
    state = "return document.querySelector('[data-piece]').state"
    WebDriverWait(browser, 45, 0.02).until(lambda _: browser.execute_script(state) == "second")
    browser.execute_async_script(FRAME)
    reached = browser.execute_script("return document.querySelector('.scene').scrollTop")
    rotation, middle = browser.execute_script(ROTATION)
    assert reached == pytest.approx(260, abs=1)
    assert rotation == pytest.approx(turned(reached), abs=0.5)
    assert middle == pytest.approx(50, abs=0.5)
    # Done again from the list of what was done, it comes to the same.
    events = browser.execute_script("return document.querySelector('[data-piece]').events")
    rehearsed = rehearse(read_piece(story()), read_events(events), events[-1]["t_ms"] + 500)
    assert (rehearsed.state, rehearsed.scrolled_at(events[-1]["t_ms"])) == ("second", pytest.approx(reached, abs=1))
    browser.execute_script("document.querySelector('[data-piece]').seek(0)")
    assert browser.execute_script("return document.querySelector('.scene').scrollTop") == 0
