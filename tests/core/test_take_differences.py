"""What sets of timings differ in."""

from __future__ import annotations

from keen_ripple.core.document import read_piece
from keen_ripple.core.takes import differences
from support import piece, way

CURVE = {"kind": "curve", "duration_ms": 400, "easing": "ease-out"}
SPRING = {"kind": "spring", "stiffness": 420, "damping": 24}


def test_only_what_differs_is_told() -> None:
    now = read_piece(piece())
    lane = {"layer": "box", "delay_ms": 40, "timing": {**CURVE, "duration_ms": 90}}
    other = read_piece(piece(transitions=[way("a", "b", SPRING, hold_ms=20, lanes=[lane])]))
    assert differences([now, now]) == []
    assert differences([now, other]) == [
        ("A → B", ["hold 0 · 400 ms ease-out", "hold 20 · spring 420/24/1, 591 ms · box +40 90 ms ease-out"]),
        ("B → A", ["hold 100 · cut", "–"]),
    ]
