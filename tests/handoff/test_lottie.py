"""Lottie: two independent players show what the core draws; keyframes are few, curves stay curves."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from test_beyond_css import (
    CASES,
    DISC,
    ENDS,
    IN_CSS,
    PLACE,
    SHADOW,
    SWEEP,
    masked,
    moving,
    outline,
    round_of,
    seen_through,
    shape,
)
from test_element import MODULES
from test_html_in_chromium import hard

from keen_ripple.core.curves import CubicBezier, parse_easing
from keen_ripple.core.timeline import Timeline
from keen_ripple.core.values.lottie import read_lottie
from keen_ripple.handoff import AS_IT_IS, FORMATS, Options
from keen_ripple.handoff.frames import part_of, played
from keen_ripple.handoff.lottie.beyond import beyond_shapes
from keen_ripple.handoff.lottie.keys import LINE, keys_of
from keen_ripple.handoff.lottie.looks import ASIDE_MS, Span
from keen_ripple.measured import measure
from keen_ripple.render import draw_at
from support import DEMO, PLAYING, piece, pixels, timeline_in, way

PLAYER = (MODULES / "lottie-web/build/player/lottie_svg.min.js").read_text("utf-8")
PAGE = """<!doctype html><meta charset="utf-8"><style>body {{ margin: 0 }} div {{ width: {w}px; height: {h}px }}</style>
<div></div><script>{player}</script><script>
window.shown = lottie.loadAnimation({{
  container: document.querySelector('div'), renderer: 'svg', loop: true, autoplay: false, animationData: {data},
}});
</script>"""
LOADED = "const done = arguments[0]; shown.isLoaded ? done() : shown.addEventListener('DOMLoaded', done)"
MEAN, OFF, FAR = 1.5, 0.03, 16
CORNERS = {"radius_top_left": 20, "radius_bottom_right": 12}
STROKED = {"stroke": "#d9503a", "stroke_width": 6}
ROUND = {"kind": "radial", "centre_x": 0.4, "radius": 0.5, "stretch": 2 / 3, "stops": ENDS}
FADING = {"kind": "linear", "angle": 90, "stops": [{"at": 0, "colour": "#d9503a"}, {"at": 1, "colour": "#1f7a7000"}]}


def group(**rest: Any) -> dict[str, Any]:
    inside = [shape(id="one", x=0, y=0), shape("ellipse", id="two", x=30, y=20, fill="#b9832b")]
    return {"kind": "group", "id": "box", "name": "Buoy", **PLACE, "layers": inside, **rest}


# What is said as shapes; nothing of it is drawn.
SAID = {
    "turned about a corner": moving(shape(pivot_x=0, pivot_y=1), {"rotation": 70, "scale_x": 0.4, "x": 50}),
    "turned about y": moving(shape(rotation=20), {"rotation_y": 150}),
    "dashed on the way": moving(shape(**STROKED), {"stroke_dash": [5, 5]}),
    "mirrored": moving(outline(), {"scale_x": -1}),
    "larger": moving(shape(**dict.fromkeys(("radius_top_left", "radius_top_right"), 9)), {"width": 130, "height": 20}),
    "corners of their own": moving(shape(**CORNERS), {"width": 120, "radius_top_left": 0}),
    "a stroke inside": moving(shape(**STROKED, **CORNERS), {"stroke_width": 20, "stroke": "#15293b"}),
    "a ring": moving(shape("ellipse", **STROKED, fill="none"), {"width": 130, "stroke_width": 2}),
    "a stroke outside": moving(shape("ellipse", **STROKED, stroke_align="outside"), {"x": 50}),
    "dashes": moving(shape(**STROKED, stroke_dash=[14, 9], stroke_cap="butt"), {"stroke_dash_offset": 46}),
    "trimmed": moving(outline(**STROKED, trim_end=0.2), {"trim_start": 0.3, "trim_end": 0.9, "trim_offset": 0.4}),
    "a trimmed ring": moving(shape("ellipse", **STROKED, fill="none", trim_end=0.1), {"trim_end": 0.8}),
    "a trimmed box": moving(shape(**STROKED, fill="none", trim_end=0.1, stroke_align="centre"), {"trim_end": 0.7}),
    "stretched": moving(outline(**STROKED), {"width": 30, "height": 70}),
    "bent": moving({**outline(), "path": DISC}, {"path": "M45 10C90 0 70 60 45 50C0 60 20 0 45 10Z"}),
    "a gradient that turns": moving(shape(fill=SWEEP), {"fill": {**SWEEP, "angle": 200}}),
    "a gradient that fades": moving(shape(fill=FADING), {"x": 50}),
    "a gradient out of a middle": moving(shape(fill=ROUND), {"fill": {**ROUND, "centre_x": 0.8}}),
    "a stroke along a gradient": moving(outline(stroke=SWEEP, stroke_width=8), {"rotation": 90}),
    "text": moving(shape("text", text="Quay\nNine", font_size=24, text_align="left"), {"fill": "#d9503a", "x": 50}),
    "text that grows": moving(shape("text", text="Quay", font_size=20), {"font_size": 40}),
    "a group half seen": moving(group(), {"opacity": 0.3, "rotation": 60, "x": 50}),
    "an outline as a mask": masked(rotation=30),
    "a mask that shows itself": seen_through("alpha"),
    "a mask by brightness": seen_through("brightness"),
    "going round": moving(shape(), {"x": 60}, undercurrents=[round_of("rotation", 0, 20, states=["a"])]),
    "hidden at once": moving(shape(), {"visible": False}),
    "everything hard": hard(),
}  # fmt: skip
# What is drawn, and why.
DRAWN = {
    "a shadow that stays": ("it casts shadows", moving(shape(shadows=[SHADOW]), {"x": 60, "rotation": 30})),
    "blurred": ("it is blurred", moving(group(), {"blur": 4})),
    "seen in perspective": ("in perspective", moving(shape(perspective=200), {"rotation_y": 60})),
    "an ellipse of colours": ("nor a circle", moving(shape(fill={**ROUND, "stretch": 1}), {"x": 50})),
    "colours that become clear": (
        "changes its kind",
        moving(shape(fill=SWEEP), {"fill": {**SWEEP, "stops": FADING["stops"]}}),
    ),
    "leaning": ("it leans", moving(shape(skew_x=10), {"skew_x": -30, "rotation": 40})),
    "a cross-fade": ("it cross-fades", IN_CSS["a cross-fade"]),
    "other points": ("its outline changes its points", IN_CSS["other points"]),
    "a medium": CASES["a medium"],
    "a text that changes": ("its text changes", moving(shape("text", text="Quay", font_size=30), {"text": "Nine"})),
}  # fmt: skip


def written(timeline: Timeline) -> dict[str, Any]:
    [data] = FORMATS["lottie"].files(timeline, AS_IT_IS).values()
    read_lottie(data)
    found: dict[str, Any] = json.loads(data)
    return found


def looks_alike_in_a_page(browser, folder: Path, timeline: Timeline, moments: int = 6) -> None:
    """At whole frames, in the player that web pages use."""
    file, page = written(timeline), folder / "page.html"
    page.write_text(PAGE.format(w=file["w"], h=file["h"], player=PLAYER, data=json.dumps(file)), "utf-8")
    browser.get(page.as_uri())
    shown, begin = played(timeline), part_of(played(timeline).run).begin_ms
    browser.execute_async_script(LOADED)
    for frame in np.linspace(0, file["op"] - 1, moments).astype(int):
        browser.execute_script("shown.goToAndStop(arguments[0], true)", float(frame))
        ours = draw_at(shown, begin + frame * 1000.0 / file["fr"], 1.0)
        alpha = ours[..., 3:] / 255.0
        off = np.abs(pixels(browser, file["w"], file["h"]) - (ours[..., :3] * alpha + 255.0 * (1.0 - alpha)))
        assert off.mean() <= MEAN and (off.max(axis=2) > FAR).mean() <= OFF, (frame, off.mean())


def looks_alike_in_another(timeline: Timeline) -> None:
    found = measure(timeline, "lottie", AS_IT_IS)
    assert found.by == "rlottie"
    assert found.worst["mean"].value <= MEAN and found.worst["off"].value <= OFF, found.said()


@pytest.mark.parametrize("document", SAID.values(), ids=SAID)
def test_what_shapes_say_is_shown_alike_by_two_players(browser, tmp_path: Path, document: dict[str, Any]) -> None:
    timeline = timeline_in(document)
    assert not beyond_shapes(timeline)
    assert not [asset for asset in written(timeline)["assets"] if "p" in asset]
    looks_alike_in_a_page(browser, tmp_path, timeline)
    if "brightness" not in repr(document):
        looks_alike_in_another(timeline)


@pytest.mark.parametrize("case", DRAWN.values(), ids=DRAWN)
def test_what_they_cannot_is_drawn_and_named(browser, tmp_path: Path, case: tuple[str, dict[str, Any]]) -> None:
    reason, document = case
    layer = document["layers"][0]
    document["layers"] = [{name: value for name, value in layer.items() if value is not None}]
    timeline = timeline_in(document)
    [said] = FORMATS["lottie"].report(timeline, AS_IT_IS).said
    assert reason in said and "is drawn into pictures" in said
    assert [asset for asset in written(timeline)["assets"] if "p" in asset]
    looks_alike_in_a_page(browser, tmp_path, timeline)
    looks_alike_in_another(timeline)


def test_what_shows_nothing_is_left_out() -> None:
    nothing = {"kind": "group", "id": "box", "name": "Empty", "x": 0, "y": 0, "width": 9, "height": 9, "layers": []}
    cut = {**shape("ellipse", id="cut"), "mask": True}
    for layers in ([nothing], [{**nothing, "layers": [cut]}], [{**shape(), "visible": False}]):
        file = written(timeline_in(moving(layers[0], {"x": 60})))
        assert not [layer for layer in file["layers"] if layer["ty"] == 4]
    assert written(timeline_in(piece([], states=[{"id": "a", "name": "A", "changes": {}}], transitions=[])))["op"] >= 1


def test_what_cuts_by_brightness_is_said() -> None:
    said, _ = FORMATS["lottie"].report(timeline_in(seen_through("brightness")), AS_IT_IS).said
    assert "each in its own way" in said
    [letters] = FORMATS["lottie"].report(timeline_in(seen_through("alpha")), AS_IT_IS).said
    assert letters == "Buoy: letters are outlines, with edges a little lighter or darker."


@pytest.mark.parametrize("name", ["tide-loader", "sonar-watch", "pier-carousel", "berth-bookmark"])
def test_demo_pieces(browser, tmp_path: Path, name: str) -> None:
    timeline = timeline_in(DEMO[name])
    looks_alike_in_a_page(browser, tmp_path, timeline, 12)
    file, part = written(timeline), part_of(played(timeline).run)
    frames = file["op"] - (0 if part.again else 1)
    assert frames * 1000.0 / file["fr"] == pytest.approx(part.length_ms, abs=0.01)
    assert abs(file["fr"] - 60.0) < 1.0


def keys_in(part: Any) -> int:
    """How many keyframes a file has."""
    if isinstance(part, dict) and part.get("a") == 1 and isinstance(part.get("k"), list):
        return len(part["k"])
    inside = part.values() if isinstance(part, dict) else part if isinstance(part, list) else ()
    return sum(map(keys_in, inside))


@pytest.mark.parametrize("document", PLAYING.values(), ids=PLAYING)
def test_keyframes_are_few(document: dict[str, Any]) -> None:
    """Beside the knots of what is played of the tape."""
    timeline = timeline_in(document)
    if beyond_shapes(timeline) or timeline.voices or not timeline.run.loop_ms:
        return
    part = part_of(timeline.run)
    knots = sum(
        len(track.times_ms)
        for segment in timeline.run.segments
        if segment.kind == "travel" and segment.start_ms >= part.begin_ms
        for track in timeline.legs[segment.leg].tape
    )
    turns = [len(course.keys) + 2 for own in timeline.piece.undercurrents for course in own.courses]
    assert keys_in(written(timeline)) <= 1.3 * (knots + sum(turns))


def test_a_curve_stays_a_curve_and_a_cut_is_no_slope() -> None:
    document = piece()
    document["layers"].append({**document["layers"][0], "id": "still", "name": "Quay </script> ✓", "y": 60})
    file = written(timeline_in(document))
    [moved] = [layer for layer in file["layers"] if layer["nm"] == "Box"]
    x, y = moved["ks"]["p"]["x"], moved["ks"]["p"]["y"]
    assert y == {"a": 0, "k": 35}
    first, *rest = x["k"]
    assert first == {"t": 0, "s": [30], "o": {"x": [0], "y": [0]}, "i": {"x": [0.58], "y": [1]}}
    assert [(key["t"], key["s"]) for key in rest] == [(24, [130]), (pytest.approx(30, abs=0.001), [130])]
    assert file["layers"][0]["nm"] == "Quay </script> ✓" and [mark["cm"] for mark in file["markers"]] == ["B"]


rows_of_numbers = st.lists(st.floats(-500, 500), min_size=2, max_size=40)


@given(rows_of_numbers, st.sets(st.integers(1, 38)), st.sampled_from(["ease", "cubic-bezier(0.5, -0.8, 0.5, 1.8)"]))
def test_keys_are_within_the_tolerance_of_what_they_say(numbers: list[float], cuts: set[int], curve: str) -> None:
    """Of lines, jumps, and a stretch along a curve, played again as players do."""
    easing, tolerance = parse_easing(curve), 0.05
    assert isinstance(easing, CubicBezier)
    along = numbers[-1] + (numbers[0] - numbers[-1]) * easing(np.linspace(0.0, 1.0, 61))
    values = np.array([*numbers, *along[1:]])
    moments = np.arange(len(values)) * 10.0
    moments[[n for n in cuts if n < len(numbers) - 1]] += 10.0 - ASIDE_MS
    start = moments[len(numbers) - 1]
    keys = keys_of(moments, values[:, None], tolerance, [Span(start, moments[-1], easing)])
    assert [key.t_ms for key in keys] == sorted({key.t_ms for key in keys})
    for t, value in zip(moments, values, strict=True):
        now = max(i for i, key in enumerate(keys) if key.t_ms <= t)
        key, following = keys[now], keys[min(now + 1, len(keys) - 1)]
        share = (t - key.t_ms) / (following.t_ms - key.t_ms) if following is not key else 0.0
        progress = 0.0 if key.curve is None else share if key.curve == LINE else float(CubicBezier(*key.curve)(share))
        assert abs(key.row[0] + (following.row[0] - key.row[0]) * progress - value) <= tolerance + 1e-9


def test_options_that_it_has_not_are_refused() -> None:
    with pytest.raises(ValueError, match="lottie has no scale to choose"):
        FORMATS["lottie"].files(timeline_in(piece()), Options(scale=2.0))


def test_every_way_is_gone_once_where_nothing_happens_by_itself() -> None:
    document = piece(transitions=[way("a", "b", {"kind": "curve", "duration_ms": 300, "easing": "linear"}, cue="tap")])
    report = FORMATS["lottie"].report(timeline_in(document), AS_IT_IS)
    assert report.holds.startswith("Every way once") and "does not begin again" in report.holds
    assert written(timeline_in(document))["op"] > 18
