"""Every state of every piece, drawn here and by the page in Chromium, pixel by pixel."""

from __future__ import annotations

import base64
from typing import Any

import numpy as np
import pytest
import skia

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.render import draw_pose
from support import DEMO, piece, pixels, timeline_in

pytestmark = pytest.mark.xdist_group("ui")

# The pose that is on the stage, by itself, at its own size, on white.
ALONE = """
const scene = document.querySelector('[data-stage=pose] .scene').cloneNode(true);
scene.style.transform = 'none';
const alone = document.body.appendChild(document.createElement('div'));
alone.id = 'alone';
alone.style.cssText = 'position: fixed; inset: 0; z-index: 9999; overflow: hidden; background: #fff';
alone.append(scene);
return document.fonts.ready.then(() => [scene.offsetWidth, scene.offsetHeight]);
"""


def page_shows(bench, state: str) -> np.ndarray[Any, Any]:
    bench.browser.execute_script("document.querySelector('#alone')?.remove()")
    bench.one(f"[data-state='{state}']").click()
    bench.one(f"[data-state='{state}'][aria-pressed='true']")
    width, height = bench.browser.execute_script(ALONE)
    return pixels(bench.browser, width, height)


SEEN_PX = 700


@pytest.mark.parametrize("name", DEMO)
def test_states_look_as_on_the_page(bench, name: str) -> None:
    timeline = timeline_in(DEMO[name])
    # The page spreads out what is longer than its screen.
    height = max(sum(section.height for section in timeline.piece.sections), timeline.piece.height)
    piece = timeline.piece.model_copy(update={"height": height})
    ground = piece.ground or "white"
    bench.open(f"/pieces/{name}")
    for state, pose in timeline.poses.items():
        theirs = page_shows(bench, state)
        # As far down as a window shows it.
        ours = draw_pose(piece, pose, ground=ground)[:SEEN_PX, :, :3].astype(np.int16)
        off = np.abs(ours - theirs[:SEEN_PX])
        assert off.mean() <= 1.2, state
        assert (off.max(axis=2) > 16).mean() <= 0.02, state


PICTURE = "data:image/png;base64," + base64.b64encode(
    bytes(skia.Image.fromarray(np.arange(12 * 8 * 4, dtype=np.uint8).reshape(8, 12, 4) | np.uint8(128)).encodeToData())
).decode("ascii")
STOPS = [{"at": 0, "colour": "#d9503a"}, {"at": 0.4, "colour": "#fff8"}, {"at": 1, "colour": "#1f7a70"}]
ROUND = {"radius_top_left": 12, "radius_bottom_right": 30, "radius_top_right": 4}
SHADOW = {"x": 3, "y": 5, "blur": 9, "spread": 2, "colour": "#15293b80"}
TICK = {"path": "M4 20L18 34L44 6", "view_width": 48, "view_height": 40, "fill": "none", "stroke": "#15293b"}
LEANING = {"kind": "radial", "centre_x": 0.4, "radius": 0.3, "stretch": 1.8, "angle": 35, "stops": STOPS}
FOCUSED = {"kind": "radial", "focus_x": 0.6, "focus_y": -0.4, "stops": STOPS}
ALONG = {"stroke": {"kind": "linear", "angle": 60, "stops": STOPS}, "stroke_width": 7}
LAYERS: list[dict[str, Any]] = [
    {"kind": "rectangle", "fill": {"kind": "linear", "angle": 30, "stops": STOPS}, **ROUND},
    {"kind": "ellipse", "fill": {"kind": "radial", "centre_x": 0.3, "radius": 0.7, "stops": STOPS}},
    {"kind": "rectangle", "fill": {"kind": "conic", "angle": 40, "centre_y": 0.4, "stops": STOPS}, **ROUND},
    {"kind": "rectangle", "fill": "#fff", "shadows": [SHADOW, {**SHADOW, "x": -8, "colour": "#d9503a"}], **ROUND},
    {"kind": "ellipse", "fill": "#e9e2cf", "shadows": [{**SHADOW, "inset": True}]},
    {"kind": "rectangle", "fill": "#b9832b", "blur": 3, "opacity": 0.7},
    {"kind": "rectangle", "fill": "none", "stroke": "#1f7a70", "stroke_width": 5, "stroke_align": "outside", **ROUND},
    {"kind": "ellipse", "fill": "#e9e2cf", "stroke": "#d9503a", "stroke_width": 6, "stroke_align": "centre"},
    {"kind": "rectangle", "fill": "#fff", "stroke": "#15293b", "stroke_width": 4, **ROUND},
    {"kind": "rectangle", "fill": "none", "stroke": "#15293b", "stroke_width": 3, "stroke_dash": [9, 5, 2]},
    {"kind": "ellipse", "fill": "none", "stroke": "#1f7a70", "stroke_width": 5, "trim_start": 0.1, "trim_end": 0.7},
    {"kind": "path", **TICK, "stroke_width": 5, "trim_end": 0.8, "stroke_join": "round"},
    {"kind": "path", **TICK, "stroke_width": 4, "view_width": 24, "stroke_cap": "square"},
    {"kind": "path", **TICK, "fill": {"kind": "linear", "stops": STOPS}, "stroke": "none", "shadows": [SHADOW]},
    {"kind": "rectangle", "fill": "#1f7a70", "rotation": 20, "skew_x": 15, "scale_x": 0.8, "pivot_y": 0},
    {"kind": "rectangle", "fill": "#1f7a70", "rotation_y": 50, "rotation_x": 20, "perspective": 200},
    {"kind": "path", **TICK, "stroke_width": 6, "stroke_cap": "round", "trim_end": 0.6},
    {"kind": "picture", "source": PICTURE, "fit": "contain", **ROUND},
    {"kind": "text", "text": "Gate 9\nLate", "font_size": 15, "font_weight": 650, "letter_spacing": 1},
    {"kind": "text", "text": "Late by a tide-table", "font_size": 9, "white_space": "pre-wrap", "text_align": "left"},
    {"kind": "text", "text": "Quay", "font_family": "JetBrains Mono", "text_align": "right", "fill": "#d9503a"},
    {"kind": "picture", "source": PICTURE, "brightness": 1.3, "contrast": 0.7, "saturation": 2.5, "hue": 130},
    {"kind": "path", **TICK, "fill": "#b9832b", "shadows": [SHADOW], "saturation": 0.2, "hue": -70, "contrast": 1.6},
    {"kind": "rectangle", "fill": LEANING, **ROUND},
    {"kind": "ellipse", "fill": FOCUSED},
    {"kind": "rectangle", "fill": {**LEANING, "angle": 0, "focus_x": 0}},
    {"kind": "rectangle", "fill": {**LEANING, "focus_x": -5}},
    {"kind": "path", **TICK, "fill": {**LEANING, "focus_y": 0.5}, "stroke": "none"},
    {"kind": "text", "text": "Quay", "font_size": 19, "font_weight": 800, "fill": LEANING},
    {"kind": "rectangle", "fill": "#fff", **ALONG, **ROUND},
    {"kind": "rectangle", "fill": "none", **ALONG, "stroke_align": "outside", "stroke_dash": [9, 5]},
    {"kind": "ellipse", "fill": "none", "stroke": LEANING, "stroke_width": 8, "stroke_align": "centre"},
    {"kind": "ellipse", "fill": "none", "stroke": {"kind": "conic", "angle": 50, "stops": STOPS}, "stroke_width": 6,
     "trim_start": 0.1},
    {"kind": "path", **TICK, **ALONG, "view_width": 24, "stroke_cap": "round"},
    {"kind": "path", **TICK, "stroke": {**FOCUSED, "radius": 0.8}, "stroke_width": 9, "trim_end": 0.7},
    {"kind": "group", "opacity": 0.5, "layers": [
        {"kind": "ellipse", "id": "cut", "name": "C", "x": 4, "y": 4, "width": 30, "height": 30, "mask": True},
        {"kind": "rectangle", "id": "band", "name": "B", "x": 0, "y": 12, "width": 48, "height": 14, "fill": "#d9503a"},
        {"kind": "rectangle", "id": "post", "name": "P", "x": 12, "y": 0, "width": 14, "height": 40, "fill": "#15293b"},
    ]},
    *({"kind": "group", "opacity": 0.8, "rotation": 8, "layers": [
        {"kind": kind, "id": f"by-{by}", "name": "M", "x": 4, "y": 2, "width": 40, "height": 34, "mask": by, **look},
        {"kind": "rectangle", "id": f"in-{by}", "name": "I", "x": -4, "y": -4, "width": 50, "height": 44,
         "fill": {"kind": "linear", "angle": 20, "stops": STOPS}},
    ]} for by, kind, look in (
        ("alpha", "text", {"text": "Quay", "font_size": 19, "font_weight": 800, "fill": "#d9503acc"}),
        ("brightness", "ellipse", {"fill": {"kind": "radial", "stops": STOPS}, "opacity": 0.9, "blur": 1}),
    )),
]  # fmt: skip


def test_everything_that_a_layer_can_have_looks_as_on_the_page(bench) -> None:
    cells = [
        {
            "id": f"l{i}",
            "name": f"L{i}",
            "x": 20 + i % 5 * 80,
            "y": 16 + i // 5 * 64,
            "width": 48,
            "height": 40,
            **layer,
        }
        for i, layer in enumerate(LAYERS)
    ]
    document = piece(cells, id="sampler", width=420, height=520, states=[{"id": "a", "name": "A"}], transitions=[])
    bench.put(document)
    theirs = page_shows(bench, "a")
    timeline = timeline_of(read_piece(document))
    off = np.abs(draw_pose(timeline.piece, timeline.poses["a"], ground="white")[:, :, :3].astype(np.int16) - theirs)
    for i in range(len(LAYERS)):
        x, y = i % 5 * 80, i // 5 * 64
        cell = off[y : y + 72, x : x + 88]
        # A cell is full of its layer, and of letters the edges are nearly all.
        most = (0.7, 0.02) if LAYERS[i]["kind"] == "text" else (0.5, 0.01)
        assert cell.mean() <= most[0], LAYERS[i]
        assert (cell.max(axis=2) > 16).mean() <= most[1], LAYERS[i]
