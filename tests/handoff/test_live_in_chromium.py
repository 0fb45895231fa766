"""Live pages in Chromium: driven by real pointers and keys, and held against the core at moments in between."""

from __future__ import annotations

import contextlib
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import WebDriverWait
from test_html_in_chromium import HOLD

from keen_ripple.core.document import read_piece
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.measures.geometry import boxes
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS
from support import DEMO, piece, way

TAPPED = {
    "kind": "rectangle", "id": "box", "name": "Box", "x": 20, "y": 20, "width": 60, "height": 40, "fill": "#1f7a70"
}  # fmt: skip
SPRING = {"kind": "spring", "stiffness": 300, "damping": 14}
PRESSES = """
const element = document.querySelector('[data-piece]');
window.changes = [];
element.addEventListener('statechange', event => changes.push([event.detail.from, event.detail.to]));
"""


def switch(**rest: Any) -> dict[str, Any]:
    """A box that a tap sends away and back, and a key to a third place."""
    states = [{"id": s, "name": s, "changes": {"box": {"x": x}}} for s, x in (("off", 20), ("on", 120), ("far", 60))]
    ways = [
        {**way("off", "on", SPRING), "cue": "tap", "cue_layer": "box"},
        {**way("on", "off", {"kind": "curve", "duration_ms": 300}), "cue": "tap", "cue_layer": "box"},
        {**way("on", "far", SPRING), "cue": "key", "cue_key": "ArrowRight"},
    ]
    return piece([TAPPED], states=states, transitions=ways, start="off", **rest)


def open_live(browser, folder: Path, document: dict[str, Any]) -> None:
    page = folder / f"{document['id']}.live.html"
    page.write_bytes(FORMATS["live"].write(timeline_of(read_piece(document))))
    browser.get(page.as_uri())
    browser.execute_script(PRESSES)


def state(browser) -> str:
    return str(browser.execute_script("return document.querySelector('[data-piece]').state"))


def reaches(browser, name: str) -> None:
    WebDriverWait(browser, 10, 0.02).until(lambda _: state(browser) == name)


def box(browser) -> Any:
    return browser.find_element(By.CSS_SELECTOR, "[data-layer=box]")


def test_pointer_touch_and_keys(browser, tmp_path: Path) -> None:
    open_live(browser, tmp_path, switch())
    ActionChains(browser).move_to_element(box(browser)).click().perform()
    reaches(browser, "on")
    # Again at once, in the middle of the motion; and beside it, where nothing waits.
    box(browser).send_keys(Keys.SPACE)
    reaches(browser, "off")
    ActionChains(browser).move_to_element_with_offset(box(browser), 0, 35).click().perform()
    assert state(browser) == "off"
    # It is a button, by name: Enter and Space tap it, a key held down taps once.
    assert box(browser).aria_role == "button"
    assert box(browser).accessible_name == "Box"
    box(browser).send_keys(Keys.ENTER)
    reaches(browser, "on")
    box(browser).send_keys(Keys.ARROW_RIGHT)
    reaches(browser, "far")
    assert browser.execute_script("return changes") == [["off", "on"], ["on", "off"], ["off", "on"], ["on", "far"]]


def test_a_hundred_taps_leave_no_trace(browser, tmp_path: Path) -> None:
    """And then it stands exactly where the state says."""
    open_live(browser, tmp_path, switch())
    browser.execute_script("""
      const box = document.querySelector('[data-layer=box]');
      const send = kind => {
        const { left, top, width, height } = box.getBoundingClientRect();
        const at = { bubbles: true, pointerId: 7, clientX: left + width / 2, clientY: top + height / 2 };
        box.dispatchEvent(new PointerEvent(kind, at));
      };
      let left = 100;
      const timer = setInterval(() => {
        send('pointerdown');
        send('pointerup');
        if (!--left) clearInterval(timer);
      }, 20);
    """)
    WebDriverWait(browser, 20, 0.05).until(lambda _: browser.execute_script("return changes.length") == 100)
    x = "return new DOMMatrix(getComputedStyle(document.querySelector('[data-layer=box]')).transform).e"
    WebDriverWait(browser, 10, 0.05).until(lambda _: browser.execute_script(x) == 20)
    assert state(browser) == "off"


def deviations(browser, document: dict[str, Any], events: list[Event], moments: list[float]) -> tuple[float, float]:
    """Boxes in px, and opacity, at moments of a rehearsal of the page."""
    parsed = read_piece(document)
    element = "document.querySelector('[data-piece]')"
    px = opacity = 0.0
    for t, pose in zip(moments, rehearse(parsed, events, max(moments)).sample(moments), strict=True):
        browser.execute_script(f"{element}.pause(); {element}.seek(arguments[0])", t)
        theirs, bounds = browser.execute_script(HOLD, t), boxes(parsed, pose)
        for name, look in pose.items():
            # What is hidden by its share of seeing has no box of its own to be compared.
            px = max(px, float(np.max(np.abs(np.array(theirs[name]["box"]) - bounds[name]))))
            opacity = max(opacity, abs(theirs[name]["opacity"] - float(look["opacity"]) * float(look["visible"])))
    return px, opacity


@pytest.mark.parametrize("name", sorted(DEMO))
def test_demo_pieces_held_at_moments(browser, tmp_path: Path, name: str, record_property) -> None:
    document = DEMO[name]
    open_live(browser, tmp_path, document)
    moments = [7.0 + 211.3 * index for index in range(12)]
    px, opacity = deviations(browser, document, [], moments)
    record_property("worst", f"{px:.3f} px, {opacity:.4f}")
    assert px <= 0.5
    assert opacity <= 0.01


def test_what_was_done_is_done_again_by_seeking(browser, tmp_path: Path) -> None:
    """Taps by a real pointer; then the same moments in the page and in the core."""
    document = switch()
    open_live(browser, tmp_path, document)
    for _ in range(3):
        ActionChains(browser, duration=20).move_to_element(box(browser)).click().perform()
    events = browser.execute_script("return document.querySelector('[data-piece]').events")
    assert [event["cue"] for event in events] == ["tap"] * 3
    done = [Event(event["t_ms"], event["cue"], event["layer"]) for event in events]
    px, _ = deviations(browser, document, done, [done[-1].t_ms + 7.3 * index for index in range(60)])
    assert px <= 0.1


FRAMED = """
const frame = document.createElement('iframe');
frame.setAttribute('sandbox', 'allow-scripts');
frame.srcdoc = arguments[0];
frame.style.cssText = 'width: 400px; height: 200px; border: 0';
document.body.replaceChildren(frame);
return frame;
"""


def test_in_a_sandbox_and_twice_on_a_page(browser, tmp_path: Path) -> None:
    html = FORMATS["live"].write(timeline_of(read_piece(switch()))).decode()
    browser.get("about:blank")
    frame = browser.execute_script(FRAMED, html)
    browser.switch_to.frame(frame)
    with contextlib.closing(_Back(browser)):
        WebDriverWait(browser, 10, 0.05).until(lambda _: browser.find_elements(By.CSS_SELECTOR, "[data-layer=box]"))
        ActionChains(browser).move_to_element(box(browser)).click().perform()
        reaches(browser, "on")
    body = html.split("<body>")[1].split("</body>")[0]
    page = tmp_path / "twice.html"
    page.write_text(html.replace(body, body + body), "utf-8")
    browser.get(page.as_uri())
    first, second = browser.find_elements(By.CSS_SELECTOR, "[data-piece]")
    ActionChains(browser).move_to_element(second.find_element(By.CSS_SELECTOR, "[data-layer=box]")).click().perform()
    states = "return [...document.querySelectorAll('[data-piece]')].map(element => element.state)"
    WebDriverWait(browser, 10, 0.05).until(lambda _: browser.execute_script(states) == ["off", "on"])
    assert first.is_displayed()


class _Back:
    """Leaves the frame."""

    def __init__(self, browser) -> None:
        self.close = browser.switch_to.default_content


def test_motion_is_left_out_where_it_is_unwanted(browser, tmp_path: Path) -> None:
    browser.execute_cdp_cmd(
        "Emulation.setEmulatedMedia", {"features": [{"name": "prefers-reduced-motion", "value": "reduce"}]}
    )
    try:
        open_live(browser, tmp_path, switch())
        # Half-way by the tables, and there by the page.
        browser.execute_script("const e = document.querySelector('[data-piece]'); e.go('on'); e.pause(); e.seek(0)")
        browser.execute_script("const e = document.querySelector('[data-piece]'); e.play(); e.go('on')")
        x = "return new DOMMatrix(getComputedStyle(document.querySelector('[data-layer=box]')).transform).e"
        WebDriverWait(browser, 10, 0.01).until(lambda _: browser.execute_script(x) == 120)
    finally:
        browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})


def test_nothing_is_global_and_nothing_from_elsewhere() -> None:
    html = FORMATS["live"].write(timeline_of(read_piece(switch(name="</script><b>Quay</b>")))).decode()
    assert html.count("</script>") == 2
    assert "http://" not in html.replace("http://www.w3.org/", "")
    assert "keenRipple" not in html


def test_the_same_piece_gives_the_same_bytes() -> None:
    pages = [FORMATS["live"].write(timeline_of(read_piece(switch()))) for _ in range(2)]
    assert pages[0] == pages[1]
