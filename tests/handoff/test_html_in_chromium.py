"""The web page in a real browser shows what the core computes, moment by moment."""

from __future__ import annotations

import base64
import random
import re
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.document import read_piece
from keen_ripple.core.measures.geometry import boxes
from keen_ripple.core.timeline import Timeline, sample, timeline_of
from keen_ripple.handoff import FORMATS
from keen_ripple.handoff.beyond_css import beyond_css
from keen_ripple.handoff.css_values import INITIAL
from keen_ripple.measured.elements import HOLD as HELD
from keen_ripple.measured.elements import LOOK
from keen_ripple.render import draw_at, draw_pose, png
from support import DEMO, PLAYING, piece, pixels, timeline_in, way

HOLD = f"""
const t = arguments[0];
{HELD}
{LOOK}
return Object.fromEntries([...document.querySelectorAll('[data-layer]')].map((element) => {{
  const [x, y, width, height, opacity, ...fill] = look(element, {{ x: 0, y: 0 }});
  return [element.dataset.layer, {{ box: [x, y, width, height], opacity, fill }}];
}}));
"""


def open_page(browser, folder: Path, document: dict[str, Any]) -> Timeline:
    timeline = timeline_in(document)
    page = folder / f"{document['id']}.html"
    page.write_bytes(FORMATS["html"].write(timeline))
    browser.get(page.as_uri())
    return timeline


# The browser gives the bounds of an element's box. A turned round corner stays inside them by 0.1 of its radius at
# 6°, so the demo turns only what has small corners.
def deviations(browser, timeline: Timeline, moments: list[float]) -> tuple[float, float, float]:
    """The greatest differences between page and core: box in px, opacity, colour in 1/255."""
    px = opacity = colour = 0.0
    # What is drawn into pictures is held against the drawing, elsewhere.
    drawn = beyond_css(timeline)
    for t, pose in zip(moments, sample(timeline, moments), strict=True):
        theirs = browser.execute_script(HOLD, t)
        bounds = boxes(timeline.piece, pose)
        assert theirs.keys() == pose.keys()
        for name, look in ((name, look) for name, look in pose.items() if name not in drawn):
            seen = theirs[name]
            px = max(px, float(np.max(np.abs(np.array(seen["box"]) - bounds[name]))))
            opacity = max(opacity, abs(seen["opacity"] - look["opacity"] * look["visible"]))
            # Gradients stand still here: they are a background image.
            if not isinstance(look.get("fill"), str):
                continue
            ours = parse_colour(look["fill"])
            colour = max(colour, abs(seen["fill"][3] - ours[3]) * 255)
            if ours[3] > 0.02:
                colour = max(colour, float(np.max(np.abs(np.array(seen["fill"][:3]) - ours[:3]))))
    return px, opacity, colour


def twenty(timeline: Timeline) -> list[float]:
    """Twenty moments over lead-in and loop, the second round included, off the very moments of cuts."""
    reach = timeline.run.total_ms + (timeline.run.loop_ms or 0)
    return [max(float(t), 0.0) for t in np.round(np.linspace(1.3, reach - 1.7, 20), 1)]


CORNERS = ("radius_top_left", "radius_bottom_right")
LINEAR = {"kind": "curve", "duration_ms": 200, "easing": "linear"}
SPRING = {"kind": "spring", "stiffness": 300, "damping": 9}


def hard(**rest: Any) -> dict[str, Any]:
    """Lead-in and loop, x and y on curves of their own, cuts upon arrival, overshoot, colours from nothing."""
    document = piece(
        id="hard",
        states=[
            {"id": "a", "name": "A", "changes": {}},
            {
                "id": "b",
                "name": "B",
                "changes": {"box": {"x": 110, "y": 60, "width": 2, "fill": "none", "opacity": 0.3, "scale_x": 1.5}},
            },
            {
                "id": "c",
                "name": "C",
                "changes": {"box": {"x": 60, "rotation": 90, "fill": "#d9503a"}},
            },
            {
                "id": "d",
                "name": "D",
                "changes": {"box": {"y": 5, "fill": "rgb(255 200 0 / 0.5)", **dict.fromkeys(CORNERS, 9)}},
            },
        ],
        transitions=[
            way("a", "b", SPRING, hold_ms=50, lanes=[{"layer": "box", "property": "y", "delay_ms": 80}]),
            way("b", "c", {**LINEAR, "easing": "steps(4, jump-both)"}, hold_ms=20),
            way("c", "d", LINEAR, style="cut"),
            way("d", "b", {**LINEAR, "easing": "cubic-bezier(0.5, -0.8, 0.5, 1.8)"}, hold_ms=30),
        ],
    )
    return {**document, **rest}


def slow() -> dict[str, Any]:
    """Half a minute, in which a cut upon arrival is but a sliver."""
    document = piece(id="slow")
    document["states"].append({"id": "c", "name": "C", "changes": {"box": {"x": 30, "fill": "#d9503a"}}})
    document["transitions"] = [
        way("a", "b", {**LINEAR, "duration_ms": 15_000}),
        way("b", "c", LINEAR, style="cut"),
        way("c", "a", {**LINEAR, "duration_ms": 15_000}, hold_ms=5000),
    ]
    return document


def over_at_once() -> dict[str, Any]:
    return piece(id="over-at-once", transitions=[way("a", "b", LINEAR, style="cut")])


def two_ways() -> dict[str, Any]:
    """x on a spring while y goes in steps: one `translate` that CSS cannot say as one curve."""
    document = piece(id="two-ways")
    document["states"][1]["changes"]["box"]["y"] = 60
    steps = {"layer": "box", "property": "y", "delay_ms": 40, "timing": {**LINEAR, "easing": "steps(3, jump-both)"}}
    document["transitions"][0] |= {"timing": SPRING, "lanes": [steps]}
    return document


def in_space(near: float) -> dict[str, Any]:
    """An eye that comes from far away, later than the turn that it sees."""
    leaning = {"width": 160, "height": 120, "rotation_x": 20, "rotation_y": 50}
    document = piece(id=f"in-space-{near:g}", width=400, height=300)
    document["layers"][0] |= leaning
    document["states"][1]["changes"]["box"] = {"perspective": near, "rotation_y": -30}
    document["transitions"][0] |= {"timing": SPRING}
    document["transitions"][0]["lanes"] = [{"layer": "box", "property": "perspective", "delay_ms": 60}]
    return document


def zoomed() -> dict[str, Any]:
    """Small things in groups that are shown twelve times as large, and turned."""
    box = {"kind": "rectangle", "id": "box", "name": "Box", "x": 1, "y": 1, "width": 4, "height": 4}
    outer: dict[str, Any] = box
    for name in ("inner", "middle", "outer"):
        around = {"x": 10, "y": 10, "width": 60, "height": 40, "scale_x": 2.3, "scale_y": 2.3}
        outer = {"kind": "group", "id": name, "name": name, **around, "layers": [outer]}
    moved = {"x": 14, "y": 12, "rotation": 25, "scale_x": 2.5}
    changes = {"box": {"x": 9, "rotation": 80}, **dict.fromkeys(("inner", "middle", "outer"), moved)}
    document = piece([outer], id="zoomed", width=900, height=700)
    document["states"][1]["changes"] = changes
    steps = [{"layer": n, "property": "x", "delay_ms": 30} for n in ("box", "inner", "middle", "outer")]
    document["transitions"][0] |= {"timing": SPRING, "lanes": steps}
    return document


def going_round(seed: int) -> dict[str, Any]:
    """What goes round in a piece that moves, and in one that rests, with phases, offsets and any keys."""
    rng = random.Random(seed)
    values: dict[str, Callable[[], Any]] = {
        "x": lambda: rng.randint(-40, 60),
        "rotation": lambda: rng.randint(-400, 400),
        "opacity": lambda: rng.choice((0, 0.3, 1)),
        "fill": lambda: rng.choice(("#c03a1e", "#1f7a70", "#1f7a7000", "#ffffff")),
    }
    easings = ("linear", "ease-in-out", "cubic-bezier(0.3, 1.6, 0.6, -0.4)", "steps(3, jump-both)")
    own = []
    for n, name in enumerate(rng.sample(sorted(values), 3)):
        period = rng.randint(3, 90) * 10
        at = [0, *sorted(rng.sample(range(1, period + 1), rng.randint(1, 4)))]
        keys = [{"at_ms": t, "value": values[name](), "easing": rng.choice(easings)} for t in at]
        course = {"layer": "lamp", "property": name, "offset_ms": rng.randint(0, 900), "keys": keys}
        own.append({"id": f"u{n}", "name": "U", "period_ms": period, "phase_ms": rng.randint(0, 900)})
        own[-1]["courses"] = [course]
    lamp = {"kind": "rectangle", "id": "lamp", "name": "Lamp", "x": 60, "y": 40, "width": 20, "height": 12}
    document = piece(id=f"round-{seed}", undercurrents=own)
    document["layers"].append(lamp)
    return document if seed % 2 else {**document, "transitions": []}


CASES = [*map(going_round, range(8)), *DEMO.values(), hard(), hard(blend="srgb"), slow(), over_at_once(), two_ways()]
CASES += [in_space(300), in_space(160), zoomed()]


@pytest.mark.parametrize("document", CASES, ids=lambda d: d["id"])
def test_page_shows_what_the_core_computes(browser, tmp_path: Path, document: dict[str, Any], record_property) -> None:
    timeline = open_page(browser, tmp_path, document)
    px, opacity, colour = deviations(browser, timeline, twenty(timeline))
    record_property("deviation", f"{px:.3f} px, {opacity:.4f} of opacity, {colour:.2f}/255")
    print(f"{document['id']}: {px:.3f} px, {opacity:.4f} of opacity, {colour:.2f}/255")
    assert px <= 0.5
    assert opacity <= 0.01
    assert colour <= 2.0


def test_jumps_beside_another_curve_stay_jumps(browser, tmp_path: Path) -> None:
    timeline = open_page(browser, tmp_path, two_ways())
    # Just before and just after the steps, which come 66⅔ ms apart from 40 ms on.
    assert deviations(browser, timeline, [39.6, 40.4, 106.3, 107.1, 172.9, 173.8, 239.6])[0] <= 0.5


@pytest.mark.parametrize("document", PLAYING.values(), ids=PLAYING.keys())
def test_calmer_where_motion_is_unwanted(browser, tmp_path: Path, document: dict[str, Any]) -> None:
    reduce = {"features": [{"name": "prefers-reduced-motion", "value": "reduce"}]}
    browser.execute_cdp_cmd("Emulation.setEmulatedMedia", reduce)
    try:
        timeline = open_page(browser, tmp_path, document)
        rest, drawn = boxes(timeline.piece, timeline.poses[timeline.run.final_state]), beyond_css(timeline)
        for t in twenty(timeline)[::4]:
            seen = browser.execute_script(HOLD, t)
            for name, box in rest.items():
                # Of what is drawn into pictures, the place of the pictures; they stand still too.
                assert name in drawn or seen[name]["box"] == pytest.approx(box, abs=0.5)
        assert (
            browser.execute_script(
                "return document.getAnimations().filter(each => each.timeline instanceof DocumentTimeline).length"
            )
            >= 1
        )
    finally:
        browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})


def test_no_script_and_nothing_from_outside() -> None:
    for document in PLAYING.values():
        text = FORMATS["html"].write(timeline_in(document)).decode()
        assert "<script" not in text
        without_fonts = re.sub(r"data:(font/woff2|image/png|image/webp);base64,[^\"]+", "", text)
        assert not re.search(r"//|@import|url\((?!\"\"\))", without_fonts)
        assert f'data-piece="{document["id"]}"' in text
        assert "prefers-reduced-motion" in text


def test_text_is_text_and_not_markup(browser, tmp_path: Path) -> None:
    shout = "<b>5 > 3 & 'so on'</b>"
    label = {"kind": "text", "id": "box", "name": "T", "x": 0, "y": 0, "width": 90, "height": 20, "text": shout}
    document = piece([label], name='"><script>x</script>')
    open_page(browser, tmp_path, document)
    assert browser.execute_script("return document.querySelector('[data-layer=box]').textContent") == shout
    assert browser.title == '"><script>x</script>'


def test_the_shipped_font_is_used(browser, tmp_path: Path) -> None:
    open_page(browser, tmp_path, DEMO["tide-loader"])
    loaded = browser.execute_async_script(
        "const done = arguments[0]; document.fonts.ready.then(() => done([...document.fonts].map(f => f.status)))"
    )
    assert loaded == ["loaded"]


FAMILIES = {"AVATAR Škoda Łódź": ["Hanken Grotesk", "Hanken Grotesk"], "AVA 12": ["Hanken Grotesk"]}


@pytest.mark.parametrize("text", FAMILIES)
def test_letters_of_one_file_stay_together(text: str) -> None:
    """A letter that both files of a family hold comes from the first, so that it keeps its kerning with the others."""
    label = {"kind": "text", "id": "box", "name": "T", "x": 0, "y": 0, "width": 90, "height": 20, "text": text}
    page = FORMATS["html"].write(timeline_of(read_piece(piece([label])))).decode()
    assert re.findall(r'font-family: "([^"]+)";\n +font-weight', page) == FAMILIES[text]
    spans = [set(span.split(", ")) for span in re.findall(r"unicode-range: ([^;]+);", page)]
    assert {"U+41", "U+56"} <= spans[0]
    assert all(not spans[0] & span for span in spans[1:])


def test_each_family_leaves_with_its_letters(browser, tmp_path: Path) -> None:
    place = {"kind": "text", "name": "T", "x": 0, "y": 0, "width": 90, "height": 20}
    labels = [
        {**place, "id": "box", "text": "Quay"},
        {**place, "id": "count", "text": "09", "font_family": "JetBrains Mono"},
    ]
    timeline = open_page(browser, tmp_path, piece(labels))
    families = browser.execute_async_script(
        "const done = arguments[0]; document.fonts.ready.then(() => done([...document.fonts].map(f => f.family)))"
    )
    assert [name.strip('"') for name in families] == ["Hanken Grotesk", "JetBrains Mono"]
    width = browser.execute_script(
        "const r = document.createRange(); r.selectNodeContents(document.querySelector('[data-layer=count]'));"
        "return r.getBoundingClientRect().width"
    )
    # Its letters are 0.6 of their size wide.
    assert width == pytest.approx(2 * 0.6 * timeline.rest["count"]["font_size"], abs=0.1)


@pytest.mark.parametrize("inset", [True, False])
@pytest.mark.parametrize("skew", [-41, 0, 48])
@pytest.mark.parametrize("stroke", ["none", "#d9503a"])
def test_shadows_that_lean_are_drawn_as_they_leave(
    browser, tmp_path: Path, inset: bool, skew: float, stroke: str
) -> None:
    shadow = {"x": 6, "y": 10, "blur": 40, "spread": 4, "colour": "#15293bcc", "inset": inset}
    box = {"kind": "rectangle", "id": "box", "name": "B", "x": 90, "y": 70, "width": 120, "height": 90}
    box |= {"fill": "#eaf0ec", "rotation": 33, "skew_x": skew, "stroke": stroke, "stroke_width": 3, "shadows": [shadow]}
    timeline = open_page(
        browser, tmp_path, piece([box], width=300, height=240, states=[{"id": "a", "name": "A"}], transitions=[])
    )
    ours = draw_pose(timeline.piece, timeline.rest, ground="white")[:, :, :3].astype(np.int16)
    assert np.abs(pixels(browser, 300, 240) - ours).mean() <= (0.8 if inset else 2.0)


def test_colour_filters_in_motion(browser, tmp_path: Path) -> None:
    box = {"kind": "rectangle", "id": "box", "name": "Box", "x": 20, "y": 20, "width": 60, "height": 60}
    box |= {
        "fill": {
            "kind": "linear",
            "angle": 40,
            "stops": [{"at": 0, "colour": "#d9503a"}, {"at": 1, "colour": "#1f7a70"}],
        }
    }
    document = piece([box], id="dusk", width=100, height=100)
    document["states"][1]["changes"]["box"] = {"brightness": 0.6, "contrast": 1.4, "saturation": 2.5, "hue": 200}
    timeline = open_page(browser, tmp_path, document)
    for t in (0.0, 110.0, 260.0, 450.0):
        browser.execute_script(HOLD, t)
        ours = draw_at(timeline, t, ground="white")[:, :, :3].astype(np.int16)
        assert np.abs(pixels(browser, 100, 100) - ours)[24:76, 24:76].max() <= 4, t


def test_what_is_trimmed_to_nothing_shows_no_caps(browser, tmp_path: Path) -> None:
    tick = {"kind": "path", "id": "box", "name": "Tick", "x": 20, "y": 20, "width": 60, "height": 60, "fill": "none"}
    tick |= {"path": "M0 30L20 50L60 0", "view_width": 60, "view_height": 60, "stroke": "#000", "stroke_width": 12}
    document = piece([{**tick, "stroke_cap": "round", "trim_end": 0}], id="tick", width=100, height=100)
    document["states"][1]["changes"]["box"] = {"trim_end": 0.5}
    timeline = open_page(browser, tmp_path, document)
    looks = [(0.0, timeline.poses["a"]), (450.0, timeline.poses["b"])]
    for t, pose in looks:
        browser.execute_script(HOLD, t)
        off = np.abs(
            pixels(browser, 100, 100) - draw_pose(timeline.piece, pose, ground="white")[:, :, :3].astype(np.int16)
        )
        assert (off.max(axis=2) > 16).mean() <= 0.01, t


def test_same_piece_same_bytes() -> None:
    first, second = (FORMATS["html"].write(timeline_of(read_piece(hard()))) for _ in range(2))
    assert first == second


ENDS = [{"at": 0, "colour": "#d9503a"}, {"at": 1, "colour": "#1f7a7000"}]


@pytest.mark.parametrize("more", [{}, {"angle": 35}, {"focus_x": 0.6, "focus_y": -0.2}])
def test_ellipses_are_drawn_as_they_leave(browser, tmp_path: Path, more: dict[str, float]) -> None:
    fill = {"kind": "radial", "centre_x": 0.4, "radius": 0.3, "stretch": 1.7, "stops": ENDS, **more}
    box = {"kind": "rectangle", "id": "box", "name": "B", "x": 10, "y": 10, "width": 120, "height": 70, "fill": fill}
    document = piece([box], width=140, height=90, states=[{"id": "a", "name": "A"}], transitions=[])
    timeline = open_page(browser, tmp_path, document)
    ours = draw_pose(timeline.piece, timeline.rest, ground="white")[:, :, :3].astype(np.int16)
    assert np.abs(pixels(browser, 140, 90) - ours).max() <= 4


@pytest.mark.parametrize("focus", [0.0, 0.3, 0.5, 1.0])
@pytest.mark.parametrize("fit", ["cover", "contain", "fill"])
def test_pictures_lie_in_their_boxes_as_they_are_drawn(browser, tmp_path: Path, fit: str, focus: float) -> None:
    stripes = np.zeros((20, 80, 4), np.uint8)
    stripes[...] = [(i // 10 * 30, 90, 200 - i // 10 * 20, 255) for i in range(80)]
    source = f"data:image/png;base64,{base64.b64encode(png(stripes)).decode()}"
    layer = {"id": "view", "name": "View", "kind": "picture", "x": 10, "y": 10, "width": 40, "height": 40}
    look = {"source": source, "fit": fit, "focus_x": focus, "focus_y": focus}
    document = piece([{**layer, **look}], width=60, height=60, states=[{"id": "a", "name": "A"}], transitions=[])
    timeline = open_page(browser, tmp_path, document)
    ours = draw_pose(timeline.piece, timeline.rest, ground="white")[:, :, :3].astype(np.int16)
    off = np.abs(pixels(browser, 60, 60) - ours)
    # At the edges of stripes pixels are mixed.
    assert (off.max(axis=2) > 40).mean() < 0.02


def test_what_is_left_out_is_what_browsers_have_by_themselves(browser) -> None:
    # Written so that there is something to blend from; none of it is seen.
    written = {"rotate", "scale", "transform", "filter", "transform-origin"}
    asked = """const [element] = document.body.children, found = {};
    for (const [css, text] of Object.entries(arguments[0])) {
      element.style.cssText = `${css}: ${text}`;
      const ours = getComputedStyle(element).getPropertyValue(css);
      element.style.cssText = `${css}: initial`;
      if (ours !== getComputedStyle(element).getPropertyValue(css)) found[css] = ours;
    }
    return found;"""
    browser.get("data:text/html,<div></div>")
    own = {css: text for css, text in INITIAL.items() if css not in written}
    found = browser.execute_script(asked, own)
    assert found == {}
