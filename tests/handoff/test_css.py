"""A stylesheet and its markup: by itself it plays as the core does, by attribute it goes as each transition does."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path
from typing import Any

import pytest
from test_html_in_chromium import hard

from keen_ripple.core.measures.geometry import RADII, boxes
from keen_ripple.core.timeline import Timeline, sample
from keen_ripple.handoff import AS_IT_IS, FORMATS
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css
from keen_ripple.handoff.css import way_alone
from keen_ripple.handoff.stylesheet import said
from support import DEMO, piece, timeline_in, way

# Everything that moves in the second of two instances, held at a moment.
AT = """
const root = document.querySelectorAll('main > div')[1];
const moving = document.getAnimations().filter(
  (each) => root.contains(each.effect.target) && each.timeline instanceof DocumentTimeline);
for (const each of moving) { each.pause(); each.currentTime = arguments[0]; }
const [left, top] = [root.getBoundingClientRect().x, root.getBoundingClientRect().y];
return Object.fromEntries([...root.querySelectorAll('[data-layer]')].map((element) => {
  const box = element.getBoundingClientRect(), style = getComputedStyle(element);
  return [element.dataset.layer, [box.x - left, box.y - top, box.width, box.height, Number(style.opacity)]];
}));
"""
GO = """
const root = document.querySelectorAll('main > div')[1];
delete root.dataset.from;
root.dataset.state = arguments[0];
for (const each of document.getAnimations()) if (each instanceof CSSTransition) each.finish();
root.getBoundingClientRect();
root.dataset.from = arguments[0];
root.dataset.state = arguments[1];
// None of it is over before it is looked at.
for (const each of document.getAnimations()) each.pause();
"""


SHARES = """
const texts = document.querySelectorAll('main > div:nth-child(2) [data-layer="label"] > div');
return [...texts].map((text) => Number(getComputedStyle(text).opacity));
"""


def open_twice(browser, folder: Path, timeline: Timeline) -> None:
    """Two of them on a page of somebody else, whose own rules reach nothing in them."""
    files = FORMATS["css"].files(timeline, AS_IT_IS)
    own = "main > div { margin: 3px } .box, .buoy-1 { color: red }"
    markup = files["markup.html"].decode()
    head = f"<style>{own}</style><style>{files['css'].decode()}</style>"
    page = folder / "page.html"
    page.write_text(f"<!doctype html>{head}<main>{markup}{markup}</main>", "utf-8")
    browser.get(page.as_uri())


def check(browser, timeline: Timeline, layers: Iterable[str], moments: list[float], where: str) -> None:
    for t, pose in zip(moments, sample(timeline, moments), strict=True):
        seen = browser.execute_script(AT, t)
        # A browser tells the bounds of the whole box, whatever its corners.
        square = {name: {**look, **dict.fromkeys(RADII, 0.0)} for name, look in pose.items()}
        bounds = boxes(timeline.piece, square)
        for name in layers:
            assert seen[name][:4] == pytest.approx(bounds[name], abs=0.5), (where, name, t)
            opacity = pose[name]["opacity"] * pose[name]["visible"]
            assert seen[name][4] == pytest.approx(opacity, abs=0.01), (where, name, t)


@pytest.mark.parametrize("document", [*DEMO.values(), hard()], ids=[*DEMO, "hard"])
def test_by_itself_and_by_attribute(browser, tmp_path: Path, document: dict[str, Any]) -> None:
    timeline = timeline_in(document)
    drawn = beyond_css(timeline)
    report = FORMATS["css"].report(timeline, AS_IT_IS)
    assert not report.refused
    if WHOLE in drawn:
        return
    open_twice(browser, tmp_path, timeline)
    layers = [layer.id for layer in said(timeline.piece.layers, drawn)]
    reach = timeline.run.total_ms + (timeline.run.loop_ms or 0)
    if reach:
        check(browser, timeline, layers, [reach * share for share in (0.013, 0.21, 0.47, 0.74, 0.93)], "by itself")
    led = [layer for layer in layers if timeline.voice_of(layer) is None]
    round_and_round = {course.layer for own in timeline.piece.undercurrents for course in own.courses}
    for each in timeline.piece.transitions:
        alone = way_alone(timeline, each)
        # What jumps here and not in the core is said.
        jumping = beyond_css(alone)
        browser.execute_script(GO, each.from_, each.to)
        length = alone.run.total_ms
        moments = [length * share for share in (0.05, 0.3, 0.6, 0.9)] if WHOLE not in jumping else []
        still = {layer for layer in led if layer in jumping or layer in round_and_round}
        inside = {inner for layer in still for inner in led if inner.startswith(f"{layer}/")}
        check(
            browser, alone, [layer for layer in led if layer not in still | inside], [*moments, length + 1.0], each.id
        )


def test_what_jumps_is_said_and_nothing_gets_out_of_a_name() -> None:
    sweep = {"kind": "linear", "angle": 0, "stops": [{"at": 0, "colour": "#fff"}, {"at": 1, "colour": "#15293b"}]}
    document = piece(name="Buoy */ </style><script>alert(1)</script>", start="a")
    document["layers"][0] |= {"fill": sweep, "name": "*/ } * { display: none"}
    document["states"][1]["changes"]["box"]["fill"] = {**sweep, "kind": "conic"}
    spring = {"kind": "spring", "stiffness": 200, "damping": 12}
    document["transitions"] = [way("a", "b", spring, cue="tap"), way("b", "a", spring, cue="tap")]
    timeline = timeline_in(document)
    assert any(
        "jumps from A to B: a gradient of it moves" in line for line in FORMATS["css"].report(timeline, AS_IT_IS).said
    )
    files = FORMATS["css"].files(timeline, AS_IT_IS)
    css, html = files["css"].decode(), files["markup.html"].decode()
    assert css.count("*/") == 1 and "<script" not in html and "display: none" not in css
    assert css.count("--spring-1: linear(") == 1 and "var(--spring-1)" in css


def test_masks_and_texts_follow_the_attribute(browser, tmp_path: Path) -> None:
    mask = {
        "kind": "rectangle",
        "id": "window",
        "name": "Window",
        "x": 5,
        "y": 5,
        "width": 40,
        "height": 30,
        "mask": True,
    }
    label = {"kind": "text", "id": "label", "name": "Label", "x": 0, "y": 0, "width": 90, "height": 20, "text": "Quay"}
    document = piece(start="a")
    document["layers"] = [mask, *document["layers"], label]
    document["states"][1]["changes"] |= {"window": {"x": 25, "width": 60}, "label": {"text": "Nine"}}
    curve = {"kind": "curve", "duration_ms": 200, "easing": "linear"}
    document["transitions"] = [way("a", "b", curve, cue="tap"), way("b", "a", curve, cue="tap")]
    timeline = timeline_in(document)
    report = FORMATS["css"].report(timeline, AS_IT_IS)
    assert not report.leaves_out and not report.said
    open_twice(browser, tmp_path, timeline)
    cut = "return getComputedStyle(document.querySelectorAll('[data-mask]')[1]).clipPath"
    browser.execute_script(GO, "a", "b")
    cuts = [(browser.execute_script(AT, t), browser.execute_script(cut))[1] for t in (0, 100, 199.9)]
    # Top, right edge, bottom edge and left, as a browser tells them.
    edges = [[round(float(n)) for n in re.findall(r"[0-9.]+(?=px)", text)[:4]] for text in cuts]
    assert edges == [[5, 45, 35, 5], [5, 65, 35, 15], [5, 85, 35, 25]]
    browser.execute_script(GO, "a", "b")
    texts = [(browser.execute_script(AT, t), browser.execute_script(SHARES))[1] for t in (0, 50, 100, 199.9)]
    assert texts == [[1, 0], [0.75, 0.25], [0.5, 0.5], pytest.approx([0, 1], abs=0.001)]


LOOKS = """
const root = document.querySelectorAll('main > div')[1], origin = root.getBoundingClientRect().x;
return Object.fromEntries([...root.querySelectorAll('[data-look]')].map((look) =>
  [look.dataset.look, [Number(getComputedStyle(look).opacity),
    look.querySelector('.buoy').getBoundingClientRect().x - origin]]));
"""


def test_cross_fades_follow_the_attribute(browser, tmp_path: Path) -> None:
    """The look that is left stands where it stood; of each the share as it is computed."""
    document = piece(start="a")
    document["layers"][0] |= {"name": "Buoy", "x": 10}
    document["states"][1]["changes"]["box"] = {"x": 50}
    curve = {"kind": "curve", "duration_ms": 200, "easing": "linear"}
    document["transitions"] = [
        way("a", "b", curve, cue="tap", style="cross-fade"),
        way("b", "a", {**curve, "duration_ms": 400}, cue="tap"),
    ]
    timeline = timeline_in(document)
    assert not FORMATS["css"].report(timeline, AS_IT_IS).said
    open_twice(browser, tmp_path, timeline)
    browser.execute_script(GO, "a", "b")
    seen = [(browser.execute_script(AT, t), browser.execute_script(LOOKS))[1] for t in (0, 50, 150, 199.9)]
    for share, look in zip((0, 0.25, 0.75, 1), seen, strict=True):
        assert look == {"": pytest.approx([share, 50], abs=1e-3), "a": pytest.approx([1 - share, 10], abs=1e-3)}
    browser.execute_script(GO, "b", "a")
    assert (browser.execute_script(AT, 200), browser.execute_script(LOOKS))[1] == {"": [1, 30], "a": [0, 10]}


def test_what_goes_round_does_so_where_each_state_has_it(browser, tmp_path: Path) -> None:
    """One property moved by the states and by an undercurrent that runs in one of them."""
    document = piece(start="a")
    keys = [{"at_ms": 0, "value": 10, "easing": "linear"}, {"at_ms": 100, "value": 40, "easing": "linear"}]
    course = {"layer": "box", "property": "y", "keys": keys}
    document["undercurrents"] = [
        {"id": "swell", "name": "Swell", "period_ms": 200, "states": ["b"], "courses": [course]}
    ]
    document["states"][1]["changes"]["box"] = {"x": 50}
    curve = {"kind": "curve", "duration_ms": 300, "easing": "linear"}
    document["transitions"] = [way("a", "b", curve, cue="tap"), way("b", "a", curve, cue="tap")]
    timeline = timeline_in(document)
    said = FORMATS["css"].report(timeline, AS_IT_IS).said
    name = document["layers"][0]["name"]
    assert said == (f"{name} begins its rounds anew as data-state changes.",)
    open_twice(browser, tmp_path, timeline)
    for each in timeline.piece.transitions:
        browser.execute_script(GO, each.from_, each.to)
        check(browser, way_alone(timeline, each), ["box"], [30.0, 150.0, 290.0, 350.0, 440.0, 777.0], each.id)
    browser.execute_script("for (const each of document.querySelectorAll('[data-from]')) delete each.dataset.from;")
    browser.execute_script("document.querySelectorAll('main > div')[1].dataset.state = 'b'")
    seen = [browser.execute_script(AT, t)["box"][:2] for t in (0, 50, 150, 300)]
    assert seen == [pytest.approx([50, y], abs=0.01) for y in (10, 25, 25, 40)]


def test_a_way_that_nobody_goes_by_itself_may_be_more_than_css_says() -> None:
    """It is said that it jumps, and all else is there."""
    document = piece(start="a")
    cast = {"x": 0, "y": 2, "blur": 4, "spread": 0, "colour": "#000"}
    document["layers"][0] |= {"stroke": "#15293b", "stroke_width": 2}
    document["states"][1]["changes"]["box"] = {"shadows": [{**cast, "inset": True}, cast], "stroke_width": 5}
    document["transitions"] = [way("a", "b", {"kind": "curve", "duration_ms": 300, "easing": "linear"}, cue="tap")]
    timeline = timeline_in(document)
    [told] = FORMATS["css"].report(timeline, AS_IT_IS).said
    assert told.endswith("jumps from A to B: its box-shadow changes in several ways at once.")
    assert '.probe[data-state="b"]' in FORMATS["css"].files(timeline, AS_IT_IS)["css"].decode()
