"""The seam of loops that close by a cut, in everything that a layer can differ in: by value and by picture."""

from __future__ import annotations

from typing import Any

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.render import measured_seam
from support import piece, way

PLACE = {"id": "box", "name": "Box", "x": 40, "y": 20, "width": 40, "height": 40}
CIRCLE = {"kind": "ellipse", **PLACE, "fill": "#1f7a70"}
SQUARE = {"kind": "rectangle", **PLACE, "fill": "#1f7a70"}
TEXT = {"kind": "text", **PLACE, "text": "Quay"}
LINE = {"kind": "rectangle", **PLACE, "fill": "none", "stroke": "#15293b", "stroke_width": 3}
SHADOW = {"x": 0, "y": 4, "blur": 6, "spread": 0, "colour": "#15293b"}
STOPS = [{"at": 0, "colour": "#ffffff"}, {"at": 1, "colour": "#1f7a70"}]
GRADIENT = {**SQUARE, "fill": {"kind": "linear", "angle": 0, "stops": STOPS}}
TURNED = {"kind": "linear", "angle": 90, "stops": STOPS}
HALF = {"kind": "linear", "angle": 0, "stops": [{"at": 0, "colour": "#ffffff"}, {"at": 0.5, "colour": "#1f7a70"}]}

# Layer, what the last state changes of it, and (px, colour) of the seam; a bound, or None where only a picture tells.
OPEN: dict[str, tuple[dict[str, Any], dict[str, Any], float | None, float | None]] = {
    "a place": (SQUARE, {"x": 140}, 100, None),
    "a shadow moves": ({**SQUARE, "shadows": [SHADOW]}, {"shadows": [{**SHADOW, "y": 14}]}, 10, None),
    "a shadow comes": (SQUARE, {"shadows": [SHADOW]}, None, 0.5),
    "a blur": (SQUARE, {"blur": 5}, 5, None),
    "a gradient turns": (GRADIENT, {"fill": TURNED}, None, None),
    "a stop moves": (GRADIENT, {"fill": HALF}, None, None),
    "a gradient changes colour": (
        GRADIENT,
        {"fill": {**TURNED, "angle": 0, "stops": [STOPS[0], {"at": 1, "colour": "#d9503a"}]}},
        None,
        0.1,
    ),
    "a colour becomes a gradient": (SQUARE, {"fill": TURNED}, None, None),
    "a stroke widens": (LINE, {"stroke_width": 9}, 6, None),
    "a stroke moves outside": (LINE, {"stroke_align": "outside"}, None, None),
    "letters grow": (TEXT, {"font_size": 30}, 14, None),
    "another text": (TEXT, {"text": "Pier"}, None, None),
    "another weight": (TEXT, {"font_weight": 900}, None, None),
    "a dash": (LINE, {"stroke_dash": [6, 4]}, 4, None),
    "a trim": (LINE, {"trim_end": 0.5}, 80, None),
    "it goes": (SQUARE, {"visible": False}, None, 0.5),
    "a square turns by an eighth": (SQUARE, {"rotation": 45}, 5, None),
    "a gradient in a turned circle": ({**CIRCLE, "fill": GRADIENT["fill"]}, {"rotation": 90}, 5, None),
}
CLOSED: dict[str, tuple[dict[str, Any], dict[str, Any]]] = {
    "nothing": (SQUARE, {}),
    "a circle turned": (CIRCLE, {"rotation": 137}),
    "a square turned by a quarter": (SQUARE, {"rotation": 90}),
    "a square mirrored": (SQUARE, {"scale_x": -1}),
    "a place of what is not seen": ({**SQUARE, "opacity": 0}, {"x": 140}),
    "a colour of what is not seen": ({**SQUARE, "visible": False}, {"fill": "#d9503a"}),
    "the width of no stroke": (SQUARE, {"stroke_width": 9}),
    "a turned text that is empty": ({**TEXT, "text": " "}, {"rotation": 90}),
}


def seam(layer: dict[str, Any], changes: dict[str, Any]):
    curve = {"kind": "curve", "duration_ms": 100, "easing": "linear"}
    states = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"box": changes}}]
    ways = [way("a", "b", curve), way("b", "a", curve, hold_ms=100, style="cut")]
    document = piece([layer], states=states, transitions=ways, width=240, height=120)
    return measured_seam(timeline_of(read_piece(document)))


@pytest.mark.parametrize("case", OPEN.values(), ids=OPEN.keys())
def test_what_jumps_is_open(case: tuple[dict[str, Any], dict[str, Any], float | None, float | None]) -> None:
    layer, changes, px, colour = case
    found = seam(layer, changes)
    assert found.is_open
    assert found.picture > 0.0
    assert found.px >= px - 1e-6 if px else True
    assert found.colour >= colour if colour else True
    assert found.to_json()["layer"] == "box"


@pytest.mark.parametrize("case", CLOSED.values(), ids=CLOSED.keys())
def test_what_looks_the_same_is_closed(case: tuple[dict[str, Any], dict[str, Any]]) -> None:
    found = seam(*case)
    assert not found.is_open
    assert (found.px, found.colour, found.picture or 0.0) == (0.0, 0.0, 0.0)
