"""Live pages in Chromium: driven by real pointers and keys, and held against the core at moments in between."""

from __future__ import annotations

import base64
import contextlib
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.common.actions.wheel_input import ScrollOrigin
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import WebDriverWait
from test_html_in_chromium import HOLD

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.document import read_piece
from keen_ripple.core.live.events import read_events
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.made import made_events
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.measures.geometry import RADII, boxes
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS
from keen_ripple.measured.elements import LOOK
from lottie_files import FPS, FRAMES, bytes_of, slide
from support import DEMO, flat, piece, timeline_in, way

TAPPED = {
    "kind": "rectangle", "id": "box", "name": "Box", "x": 20, "y": 20, "width": 60, "height": 40, "fill": "#1f7a70"
}  # fmt: skip
SPRING = {"kind": "spring", "stiffness": 300, "damping": 14}
X = "return new DOMMatrix(getComputedStyle(document.querySelector('.scene:not(.under) [data-layer=box]')).transform).e"
CORNER = "const { left, top } = document.querySelector('.scene').getBoundingClientRect(); return [left, top]"
PRESSES = """
const element = document.querySelector('[data-piece]');
window.changes = [];
element.addEventListener('statechange', event => changes.push([event.detail.from, event.detail.to]));
"""


# What plain fills are computed to, by layer; masks are not painted.
FILLS = f"""
{LOOK}
return Object.fromEntries([...document.querySelectorAll('[data-layer]:not(.mask)')].map((element) =>
  [element.dataset.layer, look(element, {{ x: 0, y: 0 }}).slice(5, 9)]));
"""
EVENTS = "return document.querySelector('[data-piece]').events"


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
    page.write_bytes(FORMATS["live"].write(timeline_in(document)))
    browser.get(page.as_uri())
    browser.execute_script(PRESSES)


def test_it_is_set_from_the_beginning_and_while_it_plays(browser, tmp_path: Path) -> None:
    bind = [{"layer": "box", "property": "fill"}, {"layer": "box", "property": "fill", "state": "far"}]
    given = [{"id": "lamp", "name": "Lamp", "kind": "colour", "bind": bind}]
    document = switch(parameters=given)
    page = tmp_path / "lamp.live.html"
    text = FORMATS["live"].write(timeline_in(document)).decode()
    assert "lamp – a colour" in text
    page.write_text(text.replace(" data-piece=", """ data-set='{"lamp": "#d9503a"}' data-piece=""", 1), "utf-8")
    browser.get(page.as_uri())
    colour = "return getComputedStyle(document.querySelector('[data-layer=box]')).backgroundColor"
    assert browser.execute_script(colour) == "rgb(217, 80, 58)"
    told = "try { document.querySelector('[data-piece]').set(arguments[0]) } catch (fault) { return fault.message }"
    assert "There is no “wick”. Known: lamp." in browser.execute_script(told, {"wick": 1})
    assert "Lamp cannot be “bright”" in browser.execute_script(told, {"lamp": "bright"})
    assert browser.execute_script(told, {"lamp": "rgb(0 0 255)"}) is None
    assert browser.execute_script(colour) == "rgb(0, 0, 255)"
    assert browser.execute_script(told, {"lamp": None}) is None
    assert browser.execute_script(colour) == "rgb(31, 122, 112)"


def state(browser) -> str:
    return str(browser.execute_script("return document.querySelector('[data-piece]').state"))


def reaches(browser, name: str) -> None:
    WebDriverWait(browser, 45, 0.02).until(lambda _: state(browser) == name)


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
    WebDriverWait(browser, 45, 0.05).until(lambda _: browser.execute_script("return changes.length") == 100)
    WebDriverWait(browser, 45, 0.05).until(lambda _: browser.execute_script(X) == 20)
    assert state(browser) == "off"


@pytest.mark.parametrize("style", ["tween", "cross-fade"])
def test_in_and_out_in_mid_motion(browser, tmp_path: Path, style: str) -> None:
    """Fifty times, by a real pointer, and with taps in between; then it stands exactly where the state says."""
    document = switch()
    document["transitions"] = [
        {**way("off", "on", SPRING), "cue": "over", "cue_layer": "box", "style": style},
        {**way("on", "off", {"kind": "curve", "duration_ms": 300}), "cue": "out", "cue_layer": "box", "style": style},
        {**way("on", "far", SPRING), "cue": "tap"},
        {**way("far", "off", SPRING), "cue": "out", "cue_layer": "box"},
    ]
    open_live(browser, tmp_path, document)
    browser.get_log("browser")
    left, top = browser.execute_script(CORNER)
    for round_ in range(50):
        # Where the box is in none of the states at once: it runs away from under the pointer, and comes back.
        for x in (left + 50, left + 300):
            move = {"type": "mouseMoved", "x": x, "y": top + 40}
            browser.execute_cdp_cmd("Input.dispatchMouseEvent", move)
        if round_ % 10 == 5:
            ActionChains(browser, duration=5).click().perform()
    reaches(browser, "off")
    WebDriverWait(browser, 45, 0.05).until(lambda _: browser.execute_script(X) == 20)
    assert browser.execute_script("return changes.length") > 20
    # Of looks that fade, four are kept at most.
    assert len(browser.find_elements(By.CSS_SELECTOR, "[data-layer=box]")) <= 5
    assert browser.get_log("browser") == []


def test_what_is_touched_is_larger_than_the_layer_or_nothing(browser, tmp_path: Path) -> None:
    """A margin, also after a cross-fade has left a look behind; and a layer that lets touches through."""
    document = switch()
    document["layers"] = [
        {**TAPPED, "touch_margin": 15},
        {**TAPPED, "id": "over", "name": "Over", "lets_touches_through": True},
    ]
    for transition in document["transitions"][:2]:
        transition.update(style="cross-fade", timing={"kind": "curve", "duration_ms": 50})
    open_live(browser, tmp_path, document)
    left, top = browser.execute_script(CORNER)
    for x, goes_to in ((50, 120), (110, 20), (10, 120), (100, 120), (110, 20)):
        press = {"x": left + x, "y": top + 40, "button": "left", "clickCount": 1}
        for kind in ("mousePressed", "mouseReleased"):
            browser.execute_cdp_cmd("Input.dispatchMouseEvent", {"type": kind, **press})
        WebDriverWait(browser, 45, 0.02).until(lambda _, goes_to=goes_to: browser.execute_script(X) == goes_to)


Deviations = tuple[float, float, float]


def deviations(browser, document: dict[str, Any], events: list[Event], moments: list[float]) -> Deviations:
    """Boxes in px, opacity, and fills in 1/255, at moments of a rehearsal of the page."""
    parsed = flat(document)
    element = "document.querySelector('[data-piece]')"
    px = opacity = colour = 0.0
    for t, pose in zip(moments, rehearse(parsed, events, max(moments)).sample(moments), strict=True):
        browser.execute_script(f"{element}.pause(); {element}.seek(arguments[0])", t)
        theirs, bounds = (
            browser.execute_script(HOLD, t),
            boxes(parsed, {name: square(look) for name, look in pose.items()}),
        )
        fills = browser.execute_script(FILLS)
        for name, look in pose.items():
            # What is hidden by its share of seeing has no box of its own to be compared.
            px = max(px, float(np.max(np.abs(np.array(theirs[name]["box"]) - bounds[name]))))
            opacity = max(opacity, abs(theirs[name]["opacity"] - float(look["opacity"]) * float(look["visible"])))
            if name in fills and isinstance(look.get("fill"), str):
                ours, fill = parse_colour(look["fill"]), fills[name]
                off = [(x - y) * ours[3] for x, y in zip(fill[:3], ours[:3], strict=True)]
                colour = max(colour, abs(fill[3] - ours[3]) * 255, *map(abs, off))
    return px, opacity, colour


def square(look: dict[str, Any]) -> dict[str, Any]:
    """A browser's bounds are those of the box, also where its round corners are turned."""
    return {**look, **{name: 0.0 for name in RADII if name in look}}


def do(browser, event: Event, by_key: bool) -> None:
    """What a made rehearsal says, by a real pointer, or by the keyboard where that does the same."""
    if event.cue == "scroll":
        screen = browser.find_element(By.CSS_SELECTOR, ".scene:not(.under)")
        way = round((event.y or 0.0) - browser.execute_script("return arguments[0].scrollTop", screen))
        return ActionChains(browser).scroll_from_origin(ScrollOrigin.from_element(screen), 0, way).perform()
    selector = f"[data-layer='{event.layer}']" if event.layer else "[data-piece]"
    element = browser.find_element(By.CSS_SELECTOR, selector)
    pointer = ActionChains(browser, duration=10)
    if event.cue == "out":
        page = browser.find_element(By.TAG_NAME, "html")
        pointer.move_to_element_with_offset(page, page.size["width"] // 2 - 2, page.size["height"] // 2 - 2).perform()
    elif event.cue == "over":
        pointer.move_to_element(element).perform()
    elif event.cue == "double-tap":
        pointer.move_to_element(element).double_click().perform()
    elif by_key:
        element.send_keys(Keys.ENTER)
    else:
        pointer.move_to_element(element).click().perform()


@pytest.mark.parametrize("name", sorted(DEMO))
def test_demo_pieces_driven_from_the_file(browser, tmp_path: Path, name: str, record_property) -> None:
    """Every way that the core knows of, by real pointers and keys; then what was done, held at moments."""
    document = DEMO[name]
    open_live(browser, tmp_path, document)
    made, _ = made_events(flat(document))
    # What is scrolled to comes into view by itself.
    for index, event in enumerate(event for event in made if event.cue != "in-view"):
        done = len(browser.execute_script(EVENTS))
        do(browser, event, by_key=index % 2 == 1)
        WebDriverWait(browser, 45, 0.02).until(lambda _, done=done: len(browser.execute_script(EVENTS)) > done)
    events = read_events(browser.execute_script(EVENTS))
    # A double tap is done as two.
    assert {event.cue for event in events} >= {event.cue.removeprefix("double-") for event in made}
    end = events[-1].t_ms if events else 0.0
    moments = [end / 20 * index + 3.1 for index in range(20)] + [end + 7.0 + 211.3 * index for index in range(12)]
    px, opacity, colour = deviations(browser, document, events, moments)
    record_property("worst", f"{px:.3f} px, {opacity:.4f}, {colour:.2f}/255")
    assert px <= 0.5
    assert opacity <= 0.01
    assert colour <= 2.0


def test_what_was_done_is_done_again_by_seeking(browser, tmp_path: Path) -> None:
    """Taps by a real pointer; then the same moments in the page and in the core."""
    document = switch()
    open_live(browser, tmp_path, document)
    for _ in range(3):
        ActionChains(browser, duration=20).move_to_element(box(browser)).click().perform()
    events = browser.execute_script(EVENTS)
    assert [event["cue"] for event in events] == ["tap"] * 3
    done = [Event(event["t_ms"], event["cue"], event["layer"]) for event in events]
    px, _, _ = deviations(browser, document, done, [done[-1].t_ms + 7.3 * index for index in range(60)])
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
        WebDriverWait(browser, 45, 0.05).until(lambda _: browser.find_elements(By.CSS_SELECTOR, "[data-layer=box]"))
        ActionChains(browser).move_to_element(box(browser)).click().perform()
        reaches(browser, "on")
    body = html.split("<body>")[1].split("</body>")[0]
    page = tmp_path / "twice.html"
    page.write_text(html.replace(body, body + body), "utf-8")
    browser.get(page.as_uri())
    first, second = browser.find_elements(By.CSS_SELECTOR, "[data-piece]")
    ActionChains(browser).move_to_element(second.find_element(By.CSS_SELECTOR, "[data-layer=box]")).click().perform()
    states = "return [...document.querySelectorAll('[data-piece]')].map(element => element.state)"
    WebDriverWait(browser, 45, 0.05).until(lambda _: browser.execute_script(states) == ["off", "on"])
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
        WebDriverWait(browser, 45, 0.01).until(lambda _: browser.execute_script(X) == 120)
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


def test_in_view_and_out_of_it(browser, tmp_path: Path) -> None:
    """By scrolling the page that it stands in."""
    document = switch()
    document["transitions"] = [
        {**way("off", "on", SPRING), "cue": "in-view", "cue_share": 0.8},
        {**way("on", "off", SPRING), "cue": "out-of-view", "cue_share": 0.8},
    ]
    page = tmp_path / "long.html"
    html = FORMATS["live"].write(timeline_of(read_piece(document))).decode()
    tall = '<div style="height: 3000px"></div>'
    page.write_text(html.replace("<body>", f"<body>{tall}").replace("</body>", f"{tall}</body>"), "utf-8")
    browser.get(page.as_uri())
    for _ in range(2):
        assert state(browser) == "off"
        browser.execute_script("document.querySelector('[data-piece]').scrollIntoView({ block: 'center' })")
        reaches(browser, "on")
        browser.execute_script("scrollTo(0, 0)")
        reaches(browser, "off")


def touch(browser, kind: str, *points: tuple[float, float]) -> None:
    places = [{"x": x, "y": y} for x, y in points]
    browser.execute_cdp_cmd("Input.dispatchTouchEvent", {"type": kind, "touchPoints": places})


def test_by_a_finger(browser, tmp_path: Path) -> None:
    """A tap, a double tap that a tap waits for, a long press, and a finger that moves away and taps nothing."""
    document = switch(long_press_ms=150)
    document["transitions"] = [
        {**way("off", "on", SPRING), "cue": "tap"},
        {**way("on", "off", SPRING), "cue": "double-tap"},
        {**way("on", "far", SPRING), "cue": "long-press"},
        {**way("far", "off", SPRING), "cue": "release"},
    ]
    open_live(browser, tmp_path, document)
    browser.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": True})
    try:
        touch(browser, "touchStart", (50, 40))
        touch(browser, "touchMove", (50, 90))
        touch(browser, "touchEnd")
        assert state(browser) == "off"
        for _ in range(2):
            touch(browser, "touchStart", (50, 40))
            touch(browser, "touchEnd")
            reaches(browser, "on")
            touch(browser, "touchStart", (150, 40))
            reaches(browser, "far")
            touch(browser, "touchEnd")
            reaches(browser, "off")
    finally:
        browser.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": False})
    heard = browser.execute_script(EVENTS)
    assert [event["cue"] for event in heard].count("long-press") == 2


def test_a_lottie_file_plays_in_step_and_brings_its_player(browser, tmp_path: Path) -> None:
    source = f"data:application/json;base64,{base64.b64encode(bytes_of(slide())).decode()}"
    length = 1000 * FRAMES // FPS
    medium = {"kind": "medium", "id": "lamp", "name": "Lamp", "x": 10, "y": 10, "width": 120, "height": 60}
    medium |= {"source": source, "length_ms": length}
    keys = [{"at_ms": 0, "value": 0}, {"at_ms": length, "value": length}]
    round_ = {"id": "plays", "name": "Plays", "period_ms": length}
    round_ |= {"courses": [{"layer": "lamp", "property": "playhead", "keys": keys}]}
    document = piece([medium], states=[{"id": "a", "name": "A"}], transitions=[], undercurrents=[round_], start="a")
    open_live(browser, tmp_path, document)
    element = "document.querySelector('[data-piece]')"
    shown = f"return {element}.querySelector('[data-layer=lamp] figure')?.dataset.frame"
    WebDriverWait(browser, 45, 0.02).until(lambda _: browser.execute_script(shown) is not None)
    browser.execute_script(f"{element}.pause()")
    for t in (0, 19, 20, 410, 790, 810, 20 * length + 100):
        browser.execute_script(f"{element}.seek({t})")
        WebDriverWait(browser, 45, 0.02).until(
            lambda _, t=t: int(browser.execute_script(shown)) == t % length * FPS // 1000, f"the frame at {t} ms"
        )
    assert browser.execute_script("return document.querySelectorAll('figure svg').length") == 1
    # The player comes along with such a file, and with no other.
    still = {**medium, "source": "data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7"}
    pages = [
        FORMATS["live"].write(timeline_in(piece([layer], states=document["states"], transitions=[], start="a")))
        for layer in (medium, still)
    ]
    assert [page.count(b"</script>") for page in pages] == [3, 2]


def test_what_a_mask_covers_is_touched_where_no_layer_lies(browser, tmp_path: Path) -> None:
    document = switch()
    far = {"x": 130, "y": 70, "width": 20, "height": 20, "fill": "#ffffff"}
    document["layers"] += [
        {"kind": "ellipse", "id": "cut", "name": "Cut", "mask": "alpha", **far},
        {"kind": "rectangle", "id": "above", "name": "Above", **far},
    ]
    open_live(browser, tmp_path, document)
    box = browser.find_element(By.CSS_SELECTOR, ".scene:not(.under) [data-layer=box]")
    ActionChains(browser, duration=0).move_to_element(box).click().perform()
    WebDriverWait(browser, 45, 0.03).until(lambda _: browser.execute_script(X) == 120)
