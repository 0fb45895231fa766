"""Sets of timings: others made of one, and what they differ in."""

from __future__ import annotations

from keen_ripple.core.document import read_piece
from keen_ripple.core.document.transitions import Curve, Spring
from keen_ripple.core.operations.takes import differences, varied
from support import piece, way

CURVE = {"kind": "curve", "duration_ms": 400, "easing": "ease-out"}
SPRING = {"kind": "spring", "stiffness": 420, "damping": 24}


def test_only_what_differs_is_told() -> None:
    now = read_piece(piece())
    lane = {"layer": "box", "delay_ms": 40, "timing": {**CURVE, "duration_ms": 90}}
    other = read_piece(piece(transitions=[way("a", "b", SPRING, hold_ms=20, lanes=[lane])]))
    assert differences([now, now]) == []
    sprung = "hold 20 · spring 420/24/1, 591 ms · Box +40 90 ms ease-out"
    assert differences([now, other]) == [
        ("transition", "a-to-b", "A → B", ["hold 0 · 400 ms ease-out", sprung]),
        ("transition", "b-to-a", "B → A", ["hold 100 · cut", "–"]),
    ]


def test_another_set_is_made_of_one() -> None:
    lane = {"layer": "box", "delay_ms": 40, "timing": {**CURVE, "duration_ms": 90}}
    cut = way("b", "a", CURVE, style="cut", hold_ms=100)
    now = read_piece(piece(transitions=[way("a", "b", CURVE, lanes=[lane]), cut]))
    # A curve lends its easing; what keeps to itself, and cuts, stay as they are.
    eased = varied(now, timing=Curve(kind="curve", duration_ms=1, easing="linear"))
    assert differences([now, eased]) == [("transition", "a-to-b", "A → B", ["400 ms ease-out", "400 ms linear"])]
    sprung = varied(now, timing=Spring.model_validate(SPRING))
    assert sprung.transitions[0].timing == Spring.model_validate(SPRING)
    assert sprung.transitions[1] == now.transitions[1]
    slower = varied(now, 1.5)
    assert slower.transitions[0].timing.length_ms() == 600
    assert slower.transitions[1].hold_ms == 150
    assert varied(now) == now


def test_what_goes_round_differs_too() -> None:
    keys = [{"at_ms": 0, "value": 1}, {"at_ms": 300, "value": 0.4}]
    course = {"layer": "box", "property": "opacity", "keys": keys}
    glow = {"id": "glow", "name": "Glow", "period_ms": 600, "courses": [course]}
    now = read_piece(piece(undercurrents=[glow]))
    later = read_piece(piece(undercurrents=[{**glow, "phase_ms": 50, "courses": [{**course, "offset_ms": 20}]}]))
    assert differences([now, later, read_piece(piece())]) == [
        (
            *("undercurrent", "glow", "Glow"),
            ["600 ms · Box opacity at 0, 300", "600 ms · phase 50 · Box opacity at 0, 300 +20", "–"],
        )
    ]
    slower = varied(later, 2.0).undercurrents[0]
    assert (slower.period_ms, slower.phase_ms, slower.courses[0].offset_ms) == (1200, 100, 40)
