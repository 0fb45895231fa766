"""Pieces large enough to measure with."""

from __future__ import annotations

import base64
import io
import math
import random
from collections.abc import Callable
from typing import Any

import av
import numpy as np

EASINGS = ("ease-out", "cubic-bezier(0.2, 0.8, 0.3, 1)", "ease-in-out", "cubic-bezier(0.6, -0.3, 0.4, 1.3)")
COLOURS = ("#1f7a70", "#b9832b", "#d9503a", "#15293b")


def big_piece(layers: int, states: int, dense: bool = False) -> dict[str, Any]:
    """Curves and springs in turn. Every layer takes part in every other state with its place, some also with turn,
    opacity or colour; with `dense` every layer changes all of that in every state."""
    return {
        "format": 1,
        "id": "big",
        "name": "Big",
        "width": 640,
        "height": 400,
        "layers": [_layer(index) for index in range(layers)],
        "states": [
            {
                "id": f"s{n}",
                "name": f"State {n}",
                "changes": {f"l{i}": _look(i, n, dense) for i in range(layers) if dense or (i + n) % 2},
            }
            for n in range(states)
        ],
        "start": "s0",
        "transitions": [_transition(n, states, layers) for n in range(states)],
    }


def with_film(document: dict[str, Any]) -> dict[str, Any]:
    """The piece with a film of 20 s in 1920 × 1080 px, of about 3 MB."""
    data = film()
    source = f"data:video/mp4;base64,{base64.b64encode(data).decode('ascii')}"
    place = {"x": 0, "y": 0, "width": 192, "height": 108}
    layer = {"kind": "medium", "id": "film", "name": "Film", "source": source, "length_ms": 20_000, **place}
    return {**document, "layers": [*document["layers"], layer]}


def film() -> bytes:
    """A pattern that goes past."""
    file = io.BytesIO()
    with av.open(file, "w", format="mp4") as container:
        stream = container.add_stream("libx264", rate=25)
        stream.width, stream.height, stream.pix_fmt = 1920, 1080, "yuv420p"
        stream.bit_rate = 1_200_000
        rng = np.random.default_rng(1)
        pattern = (rng.random((135, 240, 3)) * 255).astype(np.uint8).repeat(8, 0).repeat(8, 1)
        for n in range(500):
            frame = av.VideoFrame.from_ndarray(np.roll(pattern, (n * 2, n * 3), (0, 1)), format="rgb24")
            container.mux(stream.encode(frame))
        container.mux(stream.encode())
    return file.getvalue()


def _layer(index: int) -> dict[str, Any]:
    kind = "ellipse" if index % 2 else "rectangle"
    place = {"x": 20 + index % 10 * 60, "y": 20 + index // 10 * 36, "width": 40, "height": 28}
    return {"kind": kind, "id": f"l{index}", "name": f"Layer {index}", "fill": COLOURS[index % 4], **place}


def _look(index: int, state: int, dense: bool) -> dict[str, Any]:
    look: dict[str, Any] = {
        "x": 20 + index % 10 * 60 + state * 7 % 30,
        "y": 20 + index // 10 * 36 + (state * 11 + index) % 25,
    }
    if dense or index % 3 == 0:
        look |= {"rotation": (state * 45 + index) % 180, "opacity": 0.4 + (state + index) % 4 * 0.2}
    if index % 3 == 0:
        look["fill"] = COLOURS[(index + state) % 4]
    return look


def _transition(index: int, states: int, layers: int) -> dict[str, Any]:
    curve = {"kind": "curve", "duration_ms": 400, "easing": EASINGS[index % 4]}
    spring = {"kind": "spring", "stiffness": 300 + 20 * index, "damping": 24}
    return {
        "id": f"t{index}",
        "from": f"s{index}",
        "to": f"s{(index + 1) % states}",
        "hold_ms": 100,
        "timing": spring if index % 2 else curve,
        "lanes": [{"layer": f"l{layers // 2}", "delay_ms": 60}],
    }


SHARED = (
    "ease",
    "ease-out",
    "cubic-bezier(0.3, 0, 0.2, 1)",
    "linear",
    "ease-in-out",
    "cubic-bezier(0.5, -0.4, 0.3, 1.4)",
)
PROPERTIES = ("x", "y", "rotation", "scale_x", "opacity", "width")


def modest(layers: int = 100, transitions: int = 6, duration_ms: int = 400) -> dict[str, Any]:
    """Six numbers of every layer change in every transition, at random but the same each time."""
    rng = random.Random(1)

    def look() -> dict[str, float]:
        places = (rng.randrange(300), rng.randrange(300), rng.randrange(360))
        return dict(zip(PROPERTIES, (*places, rng.uniform(0.5, 2), rng.random(), rng.randrange(5, 60)), strict=True))

    ids = [f"l{i}" for i in range(layers)]
    box = {"kind": "rectangle", "x": 0, "y": 0, "width": 20, "height": 20}
    states = [{"id": f"s{n}", "name": f"S{n}", "changes": {i: look() for i in ids}} for n in range(transitions)]
    ways = [
        {"id": f"t{n}", "from": f"s{n}", "to": f"s{(n + 1) % transitions}"}
        | {"timing": {"kind": "curve", "duration_ms": duration_ms, "easing": SHARED[n % 6]}}
        for n in range(transitions)
    ]
    layers_ = [{**box, "id": i, "name": i} for i in ids]
    head = {"format": 1, "id": "modest", "name": "Modest", "width": 400, "height": 400, "start": "s0"}
    return {**head, "layers": layers_, "states": states, "transitions": ways}


SHELVED = 1000


def shelf_of() -> list[dict[str, Any]]:
    """Small pieces with as many different names."""
    return [{**big_piece(6, 3), "id": f"piece-{n}", "name": f"Piece {n}"} for n in range(SHELVED)]


def heavy_pieces() -> dict[str, Callable[[], dict[str, Any]]]:
    """Pieces that come near one limit each: of moves, layers, knots, and of moves of what is no number."""
    spring = {"kind": "spring", "stiffness": 300, "damping": 5}
    steps = {"kind": "curve", "duration_ms": 400, "easing": "steps(1000)"}
    return {
        "moves": lambda: heavy(59, 200, lambda i, n: {"x": i + n, "y": n * 2 % 7, "rotation": n * 3}),
        "layers": lambda: heavy(1199, 10, lambda i, n: {"x": i % 50 + n, "y": n * 2 % 7}),
        "springs": lambda: heavy(40, 40, lambda i, n: {"x": i + n, "y": n * 2 % 7, "rotation": n}, spring),
        "colours": lambda: heavy(67, 7, lambda i, n: {"fill": f"#{(n * 99991 + i * 7919) % 0xFFFFFF:06x}"}),
        "gradients": lambda: heavy(23, 5, lambda i, n: {"fill": gradient(i * 31 + n)}),
        "morphs": lambda: with_paths(heavy(8, 3, lambda i, n: {"path": star(i * 7 + n)})),
        "steps": lambda: heavy(12, 8, lambda i, n: {"x": i + n, "y": n * 2 % 7}, steps),
    }


def colour(number: int) -> str:
    return f"#{number * 99991 % 0xFFFFFF:06x}"


def gradient(number: int) -> dict[str, Any]:
    stops = [{"at": at / 3, "colour": colour(number * 4 + at + 1)} for at in range(4)]
    return {"kind": "linear", "angle": number, "stops": stops}


def star(number: int) -> str:
    """Two rings of points, no two stars with as many."""
    rng = random.Random(number)
    return "".join(_ring(rng, centre, 3 + (number + centre) % 40) for centre in (12, 40))


def _ring(rng: random.Random, centre: int, points: int) -> str:
    turns = [math.tau * k / points for k in range(points)]
    ways = [(rng.uniform(6, 12), turn) for turn in turns]
    return "M" + "L".join(f"{centre + r * math.cos(t):.2f} {centre + r * math.sin(t):.2f}" for r, t in ways) + "Z"


def with_paths(document: dict[str, Any]) -> dict[str, Any]:
    """The same with paths in place of rectangles."""
    for index, layer in enumerate(document["layers"]):
        layer |= {"kind": "path", "path": star(index), "view_width": 52, "view_height": 52}
    return document


def heavy(
    layers: int,
    states: int,
    look: Callable[[int, int], dict[str, Any]],
    timing: dict[str, Any] | None = None,
) -> dict[str, Any]:
    timing = timing or {"kind": "curve", "duration_ms": 400, "easing": "ease-out"}
    box = {"kind": "rectangle", "x": 0, "y": 0, "width": 10, "height": 10}
    return {
        "format": 1,
        "id": "heavy",
        "name": "Heavy",
        "width": 400,
        "height": 400,
        "layers": [{**box, "id": f"l{i}", "name": f"Layer {i}"} for i in range(layers)],
        "states": [
            {"id": f"s{n}", "name": f"State {n}", "changes": {f"l{i}": look(i, n) for i in range(layers)}}
            for n in range(states)
        ],
        "start": "s0",
        "transitions": [
            {"id": f"t{n}", "from": f"s{n}", "to": f"s{(n + 1) % states}", "timing": timing} for n in range(states)
        ],
    }


def with_copies(copies: int, layers: int = 20, states: int = 6) -> list[dict[str, Any]]:
    """A piece of copies that go through all states of a smaller one, in its times; and that."""
    original = {**big_piece(layers, states), "id": "card", "name": "Card"}
    names = [f"c{n}" for n in range(copies)]
    placements = [
        {"kind": "placement", "id": name, "name": f"Copy {n}", "piece": "card", "x": 3 * n, "y": 2 * n}
        | {"width": original["width"], "height": original["height"], "state": "s0"}
        for n, name in enumerate(names)
    ]
    states_ = [
        {"id": state["id"], "name": state["name"], "changes": {name: {"state": state["id"]} for name in names}}
        for state in original["states"]
    ]
    ways = [{**way, "lanes": []} for way in original["transitions"]]
    return [
        {**original, "id": "big", "name": "Big", "layers": placements, "states": states_, "transitions": ways},
        original,
    ]
