"""What CSS keyframes cannot say is drawn into pictures: the page shows it as the core draws it, and says so."""

from __future__ import annotations

import base64
import io
import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image, ImageDraw

from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff import AS_IT_IS, FORMATS
from keen_ripple.handoff.frames import slots_of
from keen_ripple.measured import measure
from keen_ripple.measured.elements import PAGES
from keen_ripple.render import draw_at
from support import piece, pixels, timeline_in, way

HOLD = "for (const each of document.getAnimations()) { each.pause(); each.currentTime = arguments[0]; }"
# What Chromium holds shows where it was, unless it has stood still for a frame.
STAND_STILL = """
for (const each of document.getAnimations()) each.pause();
requestAnimationFrame(() => requestAnimationFrame(arguments[0]));
"""
ENDS = [{"at": 0, "colour": "#d9503a"}, {"at": 1, "colour": "#1f7a70"}]
OTHER = [{"at": 0.3, "colour": "#b9832b20"}, {"at": 1, "colour": "#15293b"}]
SWEEP = {"kind": "linear", "angle": 30, "stops": ENDS}
PLACE = {"x": 20, "y": 15, "width": 90, "height": 60}
SHADOW = {"x": 0, "y": 4, "blur": 8, "spread": 0, "colour": "#15293b80"}
PENNANT = "M0 0L90 30L0 60Q30 30 0 0Z"
STAR, DISC = "M45 0L60 40L90 45L60 50L45 60L30 50L0 45L30 40Z", "M45 0C90 0 90 60 45 60C0 60 0 0 45 0Z"


def shape(kind: str = "rectangle", **rest: Any) -> dict[str, Any]:
    return {"kind": kind, "id": "box", "name": "Buoy", **PLACE, "fill": "#1f7a70", **rest}


def outline(**rest: Any) -> dict[str, Any]:
    return shape("path", path=STAR, view_width=90, view_height=60, **rest)


def flag() -> str:
    """Six frames of 50 ms."""
    frames = []
    for n in range(6):
        frames.append(Image.new("RGB", (30, 20), "#b9832b"))
        ImageDraw.Draw(frames[-1]).rectangle((n * 5, 0, n * 5 + 4, 20), fill="#15293b")
    file = io.BytesIO()
    frames[0].save(file, "GIF", save_all=True, append_images=frames[1:], duration=50)
    return f"data:image/gif;base64,{base64.b64encode(file.getvalue()).decode()}"


def round_of(name: str, *values: Any, period: int = 300, by: str = "linear", **rest: Any) -> dict[str, Any]:
    step = period // len(values)
    keys = [{"at_ms": n * step, "value": value, "easing": by} for n, value in enumerate(values)]
    course = {"layer": "box", "property": name, "keys": keys}
    return {"id": "round", "name": f"Round of {name}", "period_ms": period, "courses": [course], **rest}


def moving(layer: dict[str, Any], change: dict[str, Any], **rest: Any) -> dict[str, Any]:
    states = [{"id": "a", "name": "A", "changes": {}}, {"id": "b", "name": "B", "changes": {"box": change}}]
    return piece([layer], width=160, height=100, states=states, **rest)


def masked(**mask: Any) -> dict[str, Any]:
    cut = {"kind": "ellipse", "id": "cut", "name": "Porthole", "x": 10, "y": 5, "width": 60, "height": 40, "mask": True}
    group = {"kind": "group", "id": "box", "name": "Buoy", **PLACE, "layers": [cut | mask, shape(id="in", x=0, y=0)]}
    return moving(group, {"x": 60})


def seen_through(by: str) -> dict[str, Any]:
    """As a flag in motion shows it: dark and bright, opaque and less so."""
    document = masked(kind="group", mask=by, width=90, height=60, layers=[
        shape(id="sky", x=2, y=3, width=60, height=50, fill=SWEEP, opacity=0.8),
        outline(id="star", x=30, y=10, fill="#ffffff"),
        {**shape("text", id="word", x=0, y=0, text="Quay"), "fill": "#fffb", "font_size": 30, "font_weight": 800},
    ])  # fmt: skip
    document["states"][1]["changes"] |= {"star": {"rotation": 90, "x": -20}, "in": {"fill": "#d9503a"}}
    return document


def repainted() -> dict[str, Any]:
    """The paint of what cuts by its outline is not seen."""
    document = masked(fill=SWEEP)
    document["states"][1]["changes"]["cut"] = {"fill": {"kind": "conic", "stops": ENDS}}
    return document


def turning() -> dict[str, Any]:
    """A rectangle turns as it cuts, with its round corners."""
    document = masked(kind="rectangle", radius_top_left=12)
    document["states"][1]["changes"]["cut"] = {"rotation": 70, "scale_y": 1.4, "width": 40}
    return document


def far_away() -> dict[str, Any]:
    """What is in the group lies far from it, and is seen all the same."""
    document = masked(rotation=30)
    [group] = document["layers"]
    group["x"] -= 3000
    for inner in group["layers"]:
        inner["x"] += 3000
    document["states"][1]["changes"] = {"box": {"x": -2940}}
    return document


LONG = {"kind": "curve", "duration_ms": 300, "easing": "ease-in-out"}
FADE = [way("a", "b", {"kind": "curve", "duration_ms": 400, "easing": "ease-out"}, style="cross-fade")]
BACK = way("b", "a", {"kind": "curve", "duration_ms": 300, "easing": "linear"}, hold_ms=60)
CASES = {
    "a cross-fade of a wheel": (
        "it cross-fades, and Buoy has to be drawn: a gradient of it moves",
        moving(shape(fill=SWEEP), {"x": 60, "fill": {"kind": "conic", "stops": ENDS}}, transitions=[*FADE, BACK]),
    ),
    "a medium": (
        "it plays a medium",
        moving({**shape("medium", source=flag(), length_ms=300), "fill": None}, {"x": 60}),
    ),
    "a mask that turns": ("what the mask Porthole in it cuts moves", turning()),
    "a mask far from its group": ("far from its group", far_away()),
    "a stroke along a wheel": (
        "stroke lies along a gradient",
        moving(shape("ellipse", stroke={"kind": "conic", "stops": ENDS}, stroke_width=6), {"x": 60}),
    ),
    "a gradient in a text": (
        "a gradient fills it",
        moving(shape("text", text="Quay", font_size=30, fill=SWEEP), {"x": 50}),
    ),
    "a gradient of another kind": (
        "a gradient of it moves",
        moving(shape(fill=SWEEP), {"fill": {"kind": "conic", "stops": ENDS}}),
    ),
    "more shadows around a stroke": (
        "its box-shadow changes in several ways at once",
        moving(
            shape(shadows=[SHADOW], stroke="#15293b", stroke_width=2),
            {"shadows": [SHADOW, {**SHADOW, "inset": True}], "stroke_width": 6},
        ),
    ),
    "rounds that hardly meet": (
        "what moves its translate goes round together too seldom",
        moving(shape(), {"x": 60}, undercurrents=[round_of("y", 15, 35, period=1031)]),
    ),
}


ARC = {"stroke": "#15293b", "stroke_width": 7, "fill": "#b9832b80", "trim_start": 0.1, "trim_end": 0.4}
ROUND = {"radius_top_left": 20, "radius_top_right": 6, "radius_bottom_right": 12}
WORDS = shape("text", text="Quay", font_size=30, font_weight=700, fill="#15293b")
CHANGED = [
    way("a", "b", {"kind": "curve", "duration_ms": 400, "easing": "cubic-bezier(0.3, 0, 0.6, 1)"}),
    way("b", "a", {"kind": "curve", "duration_ms": 300, "easing": "linear"}, hold_ms=60),
]


def fading() -> dict[str, Any]:
    """Three looks that fade into each other, with all that CSS says in several elements, in between one that moves."""
    document = masked(kind="path", path=DISC, view_width=90, view_height=60, opacity=0.7)
    [group] = document["layers"]
    arc = {**ARC, "stroke": SWEEP, "id": "arc", "name": "Arc", "opacity": 0.6}
    sky = shape(id="sky", x=40, y=30, fill=SWEEP, opacity=0.5)
    document["layers"] = [sky, group, outline(id="star", x=70, fill=SWEEP), shape("ellipse", **arc)]
    document["layers"].append({**WORDS, "id": "word", "x": 5})
    document["states"] += [{"id": "c", "name": "C", "changes": {"word": {"text": "Nine"}, "box": {"y": 30}}}]
    document["states"][1]["changes"] |= {"star": {"rotation": 30, "y": 4}, "arc": {"trim_end": 0.9, "y": 5}}
    document["undercurrents"] = [round_of("rotation", 0, 25, period=400)]
    document["undercurrents"][0]["courses"][0]["layer"] = "sky"
    over = {"kind": "curve", "duration_ms": 250, "easing": "cubic-bezier(0.3, -0.6, 0.6, 1.5)"}
    document["transitions"] = [
        *FADE,
        way("b", "c", over, style="cross-fade"),
        way("c", "a", {"kind": "curve", "duration_ms": 200, "easing": "linear"}, hold_ms=50),
    ]
    return document


def photo(colour: str) -> str:
    file = io.BytesIO()
    Image.effect_noise((12, 8), 90).convert("RGB").point(lambda v: v // 2 + int(colour[1:3], 16) // 2).save(file, "PNG")
    return f"data:image/png;base64,{base64.b64encode(file.getvalue()).decode()}"


# Of it all CSS says itself.
IN_CSS = {
    "a dashed stroke": moving(shape(stroke="#15293b", stroke_width=4, stroke_dash=[9, 5]), {"width": 120}),
    "a stroke outside": moving(
        shape(stroke="#d9503a", stroke_width=6, stroke_align="outside", **ROUND), {"x": 50, "height": 40}
    ),
    "a stroke that widens": moving(
        shape(stroke="#d9503a", stroke_width=2, stroke_align="centre", stroke_join="miter"), {"stroke_width": 14}
    ),
    "an arc": moving(shape("ellipse", **ARC), {"trim_end": 0.95, "trim_offset": 0.6, "rotation": 90}),
    "an arc from nothing": moving(shape("ellipse", **ARC | {"trim_end": 0.1, "fill": "none"}), {"trim_end": 0.9}),
    "a frame that is drawn": moving(
        shape(**ARC | ROUND | {"stroke_align": "centre"}), {"trim_end": 0.8, "width": 120, "radius_top_left": 2}
    ),
    "an arc that goes round": moving(
        shape("ellipse", stroke="#15293b", stroke_width=7),
        {"x": 60},
        undercurrents=[round_of("trim_end", 0.1, 0.9, 0.5)],
    ),
    "round and round": moving(
        shape(), {}, undercurrents=[round_of("x", 10, 60, 30) | {"courses": [
            round_of("x", 10, 60, 30)["courses"][0] | {"offset_ms": 70}, round_of("y", 5, 35)["courses"][0],
        ]}],
    ),
    "in some states": moving(
        shape(), {"x": 60}, transitions=CHANGED, undercurrents=[round_of("rotation", 5, 40, period=380, states=["a"])]
    ),
    "in the last state": moving(
        shape(),
        {"x": 60, "rotation": 80},
        undercurrents=[round_of("rotation", 5, 40, states=["b"])],
        transitions=CHANGED[:1],
    ),
    "x by states, y going round": moving(
        shape(), {"x": 60}, undercurrents=[round_of("y", 15, 35, 20)], transitions=CHANGED,
    ),
    "by states, and round in two ways": moving(
        shape(opacity=0.4),
        {"x": 60, "opacity": 1, "fill": "#d9503a"},
        undercurrents=[
            {**round_of("y", 15, 35, period=240), "id": "up"},
            {**round_of("x", 20, 50, period=160, states=["b"]), "id": "across", "phase_ms": 70},
            {**round_of("fill", "#1f7a70", "#2a4fd9"), "id": "glow"},
        ],
    ),
    "one round hides the other": moving(
        shape(), {"x": 60, "rotation": 30}, undercurrents=[
            {**round_of("rotation", 5, 40, period=1009), "id": "hidden"}, round_of("rotation", 0, -40, period=1010),
        ],
    ),
    "by steps": moving(
        shape(), {}, undercurrents=[round_of("x", 10, 60) | {"courses": [
            round_of("x", 10, 60, 30)["courses"][0] | {"offset_ms": 70},
            round_of("y", 0, 35, by="steps(3)")["courses"][0],
        ]}],
    ),
    "to and fro": moving(
        shape(), {}, undercurrents=[round_of("x", 10, 60) | {"courses": [
            round_of(name, 5, 35)["courses"][0] for name in ("x", "y", "width", "stroke_width")
        ]}],
    ),
    "more shadows": moving(
        shape(shadows=[SHADOW], stroke="#15293b", stroke_width=3),
        {"shadows": [{**SHADOW, "inset": True, "blur": 20, "colour": "#000"}, {**SHADOW, "x": 9}], "x": 60},
    ),
    "fewer shadows of an outline": moving(
        outline(shadows=[SHADOW, {**SHADOW, "x": 12, "colour": "#d9503a"}]), {"shadows": [], "rotation": 20},
        transitions=CHANGED,
    ),
    "a line that becomes dashed": moving(
        outline(stroke="#15293b", stroke_width=4, fill="none"), {"stroke_dash": [9, 5, 2]}, transitions=CHANGED
    ),
    "a text that changes": moving(WORDS, {"text": "Nine\nferries"}, transitions=CHANGED),
    "a text in three": moving(
        WORDS, {"text": "Nine"}, transitions=[CHANGED[0], way("b", "c", LONG), way("c", "a", LONG, hold_ms=20)],
    ),
    "a picture that changes": moving(
        {**shape("picture", source=photo("#20"), fit="contain", focus_x=0.2, **ROUND), "fill": None},
        {"source": photo("#e0"), "x": 60},
        transitions=CHANGED,
    ),
    "a gradient that turns": moving(shape(fill=SWEEP), {"fill": {**SWEEP, "angle": 200, "stops": OTHER}, "x": 50}),
    "a gradient from a colour": moving(shape("ellipse", fill=SWEEP), {"fill": "#2a4fd9"}, blend="srgb"),
    "a gradient that goes round": moving(
        shape(fill=SWEEP), {}, transitions=[], undercurrents=[round_of("fill", SWEEP, {**SWEEP, "angle": 210})]
    ),
    "a circle that wanders": moving(
        shape(fill={"kind": "radial", "radius": 0.4, "stops": ENDS}),
        {"fill": {"kind": "radial", "radius": 0.7, "centre_x": 0.1, "stops": OTHER}},
    ),
    "a wheel": moving(
        shape("ellipse", fill={"kind": "conic", "angle": 30, "stops": [*ENDS, *OTHER[1:]]}),
        {"fill": {"kind": "conic", "angle": -240, "centre_y": 0.8, "stops": [*OTHER, *OTHER[1:]]}},
    ),
    "a stroke along a gradient": moving(shape("ellipse", stroke=SWEEP, stroke_width=6), {"x": 60}),
    "a gradient in an outline": moving(
        outline(fill=SWEEP, stroke={"kind": "radial", "angle": 30, "stretch": 0.6, "stops": OTHER}, stroke_width=5),
        {"x": 60, "width": 70, "opacity": 0.8},
    ),
    "a turned mask": masked(rotation=30, opacity=0.4),
    "a mask whose paint changes": repainted(),
    "an outline as a mask": masked(kind="path", path=DISC, view_width=90, view_height=60, fill="#fff4"),
    "other points": moving(outline(stroke="#15293b", stroke_width=4), {"path": DISC, "x": 60}),
    "other points three times": moving(
        outline(), {"path": DISC}, transitions=[*CHANGED[:1], way("b", "c", LONG), way("c", "a", LONG, hold_ms=60)]
    ),
    "an outline that bends": moving(
        outline(), {"path": STAR.replace("45 60", "45 40").replace("M45 0", "M40 5"), "rotation": 20}
    ),
}  # fmt: skip
IN_CSS["other points three times"]["states"].append({"id": "c", "name": "C", "changes": {"box": {"path": PENNANT}}})
IN_CSS["a text in three"]["states"].append({"id": "c", "name": "C", "changes": {"box": {"text": "Ferries"}}})
IN_CSS["a cross-fade"] = moving(shape(), {"x": 60, "fill": "#d9503a"}, transitions=[*FADE, BACK])
IN_CSS["a cross-fade after a lead-in"] = moving(
    shape(opacity=0.6), {"x": 60}, transitions=[BACK, *FADE, way("c", "a", LONG, style="cross-fade")], start="c"
)
IN_CSS["a cross-fade after a lead-in"]["states"].append({"id": "c", "name": "C", "changes": {"box": {"y": 40}}})
IN_CSS["cross-fades in a row"] = fading()
IN_CSS["fades as it appears"] = moving(
    shape(opacity=0.9), {"opacity": 0.3, "visible": False}, transitions=[way("a", "b", LONG), BACK]
)
# The second state is the first one, and nothing moves.
IN_CSS["begins elsewhere"] = {**moving(outline(), {"path": DISC}), "start": "b", "transitions": []}


ELSEWHERE = {
    **dict.fromkeys(
        (
            "a stroke outside",
            "a frame that is drawn",
            "an outline that bends",
            *(case for case in IN_CSS if "other points" in case),
        ),
        "Buoy: browsers without the CSS property d keep its first outline.",
    ),
    **{
        case: "WebKit shows some of the background through it while it cross-fades."
        for case in IN_CSS
        if "cross-fade" in case
    },
    "a picture that changes": "Buoy: WebKit shows its pictures too bright while they change.",
}


def middles(timeline: Timeline) -> list[float]:
    """Moments of the run and of what follows: each picture stands for its middle."""
    if not timeline.run.total_ms and not timeline.run.common_loop_ms:
        return [0.0]
    slots = slots_of(timeline, 60.0)
    chosen = [slots[i] for i in np.linspace(0, len(slots) - 2, 14).astype(int)]
    length = timeline.run.common_loop_ms or 0
    return [slot.t_ms + slot.length_ms / 2 + length * (n % 2) for n, slot in enumerate(chosen)]


@pytest.mark.parametrize("case", CASES, ids=CASES.keys())
def test_it_is_shown_as_it_is_drawn(browser, tmp_path: Path, case: str) -> None:
    reason, document = CASES[case]
    layer = document["layers"][0]
    document["layers"] = [{name: value for name, value in layer.items() if value is not None}]
    timeline = timeline_in(document)
    report = FORMATS["html"].report(timeline, AS_IT_IS)
    assert not report.refused
    [said] = report.said
    assert reason in said and "drawn into pictures" in said
    looks_as_drawn(browser, tmp_path, timeline)


@pytest.mark.parametrize("case", IN_CSS)
def test_css_says_it_and_draws_no_picture(browser, tmp_path: Path, case: str) -> None:
    document = IN_CSS[case]
    document["layers"] = [{k: v for k, v in layer.items() if v is not None} for layer in document["layers"]]
    timeline = timeline_in(document)
    said = FORMATS["html"].report(timeline, AS_IT_IS).said
    assert said == ((ELSEWHERE[case],) if case in ELSEWHERE else ())
    looks_as_drawn(browser, tmp_path, timeline)
    worst = measure(timeline, "html", AS_IT_IS).worst
    assert worst["px"].value <= 0.5 and worst["opacity"].value <= 0.01 and worst["colour"].value <= 2.0


@pytest.mark.parametrize("by", ["alpha", "brightness"])
def test_masks_by_what_they_show_need_no_picture(browser, tmp_path: Path, by: str) -> None:
    timeline = timeline_in(seen_through(by))
    told = "Porthole: WebKit does not show what it cuts, since that moves."
    assert FORMATS["html"].report(timeline, AS_IT_IS).said == (told,)
    looks_as_drawn(browser, tmp_path, timeline)
    assert measure(timeline, "html", AS_IT_IS).worst["px"].value <= 0.5


OTHERS = [
    (form, case)
    for form in ("css", "animate", "svg")
    for case in (
        "an arc",
        "a frame that is drawn",
        "a text in three",
        "an outline that bends",
        "other points three times",
        "round and round",
        "a wheel",
        "cross-fades in a row",
    )
    # A page of somebody else has fonts of its own.
    if form != "animate" or case not in ("a text in three", "cross-fades in a row")
]


@pytest.mark.parametrize("form, case", OTHERS)
def test_so_do_other_formats(browser, tmp_path: Path, form: str, case: str) -> None:
    timeline = timeline_in(IN_CSS[case])
    files = FORMATS[form].files(timeline, AS_IT_IS)
    content = files["svg"] if form == "svg" else PAGES[form](timeline, files)[0].encode()
    looks_as_drawn(browser, tmp_path, timeline, content, "svg" if form == "svg" else "html")


def looks_as_drawn(
    browser, tmp_path: Path, timeline: Timeline, content: bytes | None = None, ending: str = "html"
) -> None:
    page = tmp_path / f"page.{ending}"
    page.write_bytes(content or FORMATS["html"].files(timeline, AS_IT_IS)["html"])
    browser.get(page.as_uri())
    browser.execute_async_script(STAND_STILL)
    for t in middles(timeline):
        browser.execute_script(HOLD, t)
        theirs = pixels(browser, 160, 100)
        off = np.abs(theirs - draw_at(timeline, t, ground="white")[:, :, :3].astype(np.int16))
        assert off.mean() <= 1.5, t
        assert (off.max(axis=2) > 16).mean() <= 0.03, t


WHEEL = {"stroke": {"kind": "conic", "stops": ENDS}, "stroke_width": 6, "fill": "#fffdf7"}
GOES = {"x": 55, "y": 20, "rotation": 70, "scale_x": 0.6, "scale_y": 1.2, "opacity": 0.5, "pivot_x": 0.1}
CARRIED = {
    "goes and turns": (True, moving(shape("ellipse", **WHEEL), GOES)),
    "goes and turns after a lead-in": (
        True,
        moving(
            shape("ellipse", **WHEEL), GOES, start="c", transitions=[way("c", "a", LONG), way("a", "b", LONG), BACK]
        ),
    ),
    "turns round beside the states": (
        True,
        moving(shape(**WHEEL, x=40), {"y": 30}, undercurrents=[round_of("rotation", 0, 40, 0)]),
    ),
    "grows as it turns": (
        False,
        moving(shape(**WHEEL), {"x": 40, "width": 30, "height": 80, "rotation": 120, "pivot_x": 0, "pivot_y": 1}),
    ),
}
CARRIED["goes and turns after a lead-in"][1]["states"].append(
    {"id": "c", "name": "C", "changes": {"box": {"x": 50, "skew_x": 20}}}
)


@pytest.mark.parametrize("form", ["html", "css", "animate", "svg", "lottie"])
@pytest.mark.parametrize("case", CARRIED)
def test_what_is_drawn_is_carried_as_it_lies(browser, tmp_path: Path, case: str, form: str) -> None:
    """Of what only goes, turns and fades there is one picture."""
    is_one, document = CARRIED[case]
    timeline = timeline_in(document)
    files = FORMATS[form].files(timeline, AS_IT_IS)
    [file, *_] = files.values()
    if form == "lottie":
        # One picture needs no composition in which pictures follow each other.
        assert (len(json.loads(file)["assets"]) == 1) == is_one
        worst = measure(timeline, form, AS_IT_IS, files).worst
        assert worst["mean"].value <= 1.5 and worst["off"].value <= 0.03
        return
    assert (b"background-position" in file or b"backgroundPosition" in file) != is_one
    content = file if form in ("html", "svg") else PAGES[form](timeline, files)[0].encode()
    looks_as_drawn(browser, tmp_path, timeline, content, "svg" if form == "svg" else "html")


def test_what_css_says_stays_css_beside_it() -> None:
    lamp = {"kind": "rectangle", "id": "lamp", "name": "Lamp", "x": 0, "y": 0, "width": 9, "height": 9}
    document = moving(shape(fill=SWEEP), {"fill": {"kind": "conic", "stops": ENDS}})
    document["layers"].append(lamp)
    document["states"][1]["changes"]["lamp"] = {"x": 50}
    page = FORMATS["html"].files(timeline_in(document), AS_IT_IS)["html"].decode()
    assert "animation-timing-function: ease-out" in page and page.count("image/webp") == 1
    assert FORMATS["html"].report(timeline_in(document), AS_IT_IS).said == (
        "Buoy is drawn into pictures: a gradient of it moves.",
    )


def test_a_long_run_is_drawn_less_often(monkeypatch) -> None:
    slow = {"kind": "curve", "duration_ms": 400_000, "easing": "linear"}
    document = moving(
        shape(fill=SWEEP, x=0), {"fill": {"kind": "conic", "stops": ENDS}}, transitions=[way("a", "b", slow)]
    )
    monkeypatch.setattr("keen_ripple.handoff.flipbook.MOST_FRAMES", 24)
    page = FORMATS["html"].files(timeline_in(document), AS_IT_IS)["html"].decode()
    assert 20 < page.count("background-position") < 30
