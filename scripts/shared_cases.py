"""Cases that the core works out and the page must work out alike: where both have to know the same rule.

They are written beside the generated types, and `frontend/src/app/sharedCases.test.ts` runs them.
"""

from __future__ import annotations

import random
from itertools import pairwise
from typing import Any

import numpy as np

from keen_ripple.core.blends.outlines import OUTLINE
from keen_ripple.core.document import read_piece
from keen_ripple.core.measures.geometry import CORNERS, placed, seen
from keen_ripple.core.outlines.path_data import bounds
from keen_ripple.core.timeline import timeline_of

STAR = "M10 0L13 7L20 8L15 13L16 20L10 17L4 20L5 13L0 8L7 7Z"
LEAF = "M0 10C0 4 6 0 12 0Q20 0 20 8Q20 20 8 20C3 20 0 16 0 10Z"
RINGS = "M0 0H20V20H0ZM5 5V15H15V5Z"
TURNED = ("rotation", "skew_x", "skew_y", "rotation_x", "rotation_y")
# Seeds of the pieces whose layers are turned at random; enough for every transform to meet every other.
SEEDS = range(12)


def shared_cases() -> dict[str, list[dict[str, Any]]]:
    return {"corners": _corners(), "bounds": _bounds(), "moments": _moments(), "outlines": _outlines()}


def _piece(layers: list[dict], states: list[dict], transitions: list[dict], **rest: Any) -> dict[str, Any]:
    size = {"format": 1, "id": "case", "name": "Case", "width": 200, "height": 160}
    return {**size, "layers": layers, "states": states, "start": states[0]["id"], "transitions": transitions, **rest}


def _corners() -> list[dict[str, Any]]:
    """The corners of a layer in two groups, each of them turned, stretched, skewed and seen in perspective."""
    return [_nested(random.Random(seed)) for seed in SEEDS]


def _nested(chance: random.Random) -> dict[str, Any]:
    layers: list[dict] = [{"kind": "rectangle", "id": "leaf", "name": "Leaf", "fill": "#15293b", **_look(chance)}]
    for name in ("inner", "outer"):
        layers = [{"kind": "group", "id": name, "name": name, "layers": layers, **_look(chance)}]
    document = _piece(layers, [{"id": "a", "name": "A"}], [])
    timeline = timeline_of(read_piece(document))
    pose = timeline.poses["a"]
    found = {
        layer.id: seen(CORNERS * [pose[layer.id]["width"], pose[layer.id]["height"]], matrix)
        for layer, matrix in placed(timeline.piece.layers, pose)
    }
    looks = {name: {key: value for key, value in look.items() if _is_plain(value)} for name, look in pose.items()}
    return {"layers": layers, "pose": looks, "corners": {name: _rounded(at) for name, at in found.items()}}


def _look(chance: random.Random) -> dict[str, float]:
    """A place and a size, and about half of the transforms."""
    turned = {name: chance.randrange(-40, 41) for name in TURNED if chance.random() < 0.5}
    scale = {name: chance.choice((-1, 0.5, 1, 1.7)) for name in ("scale_x", "scale_y")}
    pivot = {name: chance.choice((0, 0.5, 1, 1.2)) for name in ("pivot_x", "pivot_y")}
    size = {"width": chance.randrange(10, 90), "height": chance.randrange(10, 90)}
    place = {"x": chance.randrange(-30, 60), "y": chance.randrange(-30, 60)}
    return {**place, **size, **turned, **scale, **pivot, "perspective": chance.choice((0, 0.5, 300, 900))}


def _bounds() -> list[dict[str, Any]]:
    """Left, top, right and bottom of outlines."""
    paths = (STAR, LEAF, RINGS, "M0 0C40 0 -20 20 20 20", "M3 3L9 3", "M0 0Q10 20 20 0ZM30 5C30 0 40 0 40 5")
    return [{"path": path, "bounds": _rounded(bounds(path, (1, 0, 0, 1, 0, 0)))} for path in paths]


def _moments() -> list[dict[str, Any]]:
    """What is shown after so long: in loops, with a lead-in, so many times, and of what ends."""
    steps = [("a", "b", 120), ("b", "c", 0), ("c", "b", 40)]
    return [_moment(steps), _moment(steps, plays=2), _moment(steps[:2]), _moment([("a", "b", 0), ("b", "a", 333)])]


def _moment(steps: list[tuple[str, str, int]], **rest: Any) -> dict[str, Any]:
    layer = {"kind": "rectangle", "id": "box", "name": "Box", "x": 0, "y": 0, "width": 10, "height": 10}
    states = [{"id": name, "name": name, "changes": {"box": {"x": 10 * i}}} for i, name in enumerate("abc")]
    transitions = [
        {"id": f"{a}{b}", "from": a, "to": b, "hold_ms": hold, "timing": {"kind": "curve", "duration_ms": 250}}
        for a, b, hold in steps
    ]
    run = timeline_of(read_piece(_piece([{**layer, "fill": "#15293b"}], states, transitions, **rest))).run
    # Both sides of every edge, and the middle between two.
    edges = sorted({0, run.total_ms, *(edge for s in run.segments for edge in (s.start_ms, s.end_ms))})
    times = [t for a, b in pairwise(edges) for t in (a, a + 0.25, (a + b) / 2, b - 0.25)]
    if run.loop_ms is not None:
        times += [run.lead_in_ms + run.loop_ms + t for t in (0, 0.5, 200)]
    times = [t for t in times if run.end_ms is None or t < run.end_ms]
    told = {**run.to_json(), "final_state": run.final_state, "total_ms": run.total_ms}
    return {"run": told, "times": [[t, run.within(t), *run.states_at(run.within(t))] for t in times]}


def _outlines() -> list[dict[str, Any]]:
    """Outlines on their way into each other: the form that the page is given, and the numbers of what is shown."""
    return [_outline(a, b) for a, b in ((STAR, LEAF), (RINGS, STAR), (LEAF, RINGS))]


def _outline(a: str, b: str) -> dict[str, Any]:
    between = OUTLINE.between(a, b)
    shares = [0.0, 0.3, 0.5, 1.0, 1.08]
    texts = [between.value(row) for row in between.rows(np.array(shares))]
    return {"form": between.form, "shares": shares, "texts": texts}


def _is_plain(value: object) -> bool:
    return isinstance(value, (int, float, str, bool))


def _rounded(numbers: Any) -> list[Any]:
    return np.round(np.asarray(numbers, dtype=float), 6).tolist()
