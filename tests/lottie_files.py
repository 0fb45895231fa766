"""Lottie files made here: a lamp that slides, in the newer way to write keyframes and in the older one."""

from __future__ import annotations

import json
from typing import Any

FPS, FRAMES = 50, 40


def still(value: Any) -> dict[str, Any]:
    return {"a": 0, "k": value}


def moving(*keys: tuple[int, list[float]], older: bool = False) -> dict[str, Any]:
    """Steadily from value to value; `older` says the end of each key, and of the last one its time alone."""
    ease = {"i": {"x": [1], "y": [1]}, "o": {"x": [0], "y": [0]}}
    found: list[dict[str, Any]] = [{"t": t, "s": value, **ease} for t, value in keys]
    if older:
        for key, (_, end) in zip(found, keys[1:], strict=False):
            key["e"] = end
        found[-1] = {"t": keys[-1][0]}
    return {"a": 1, "k": found}


def slide(older: bool = False, **rest: Any) -> dict[str, Any]:
    """A square of 20 px on 100 × 50, its middle from 20 to 80 in 40 frames; around it nothing."""
    shape = {"ty": "gr", "it": [
        {"ty": "rc", "p": still([0, 0]), "s": still([20, 20]), "r": still(0)},
        {"ty": "fl", "c": still([0.12, 0.48, 0.44, 1]), "o": still(100)},
        {"ty": "tr", "p": still([0, 0]), "a": still([0, 0]), "s": still([100, 100]), "r": still(0), "o": still(100)},
    ]}  # fmt: skip
    way = moving((0, [20, 25, 0]), (FRAMES, [80, 25, 0]), older=older)
    place = {"o": still(100), "r": still(0), "p": way, "a": still([0, 0, 0]), "s": still([100, 100, 100])}
    layer = {"ty": 4, "ind": 1, "ip": 0, "op": FRAMES, "st": 0, "ks": place, "shapes": [shape]}
    return {"v": "5.9.0", "fr": FPS, "ip": 0, "op": FRAMES, "w": 100, "h": 50, "assets": [], "layers": [layer], **rest}


def bytes_of(file: Any) -> bytes:
    return json.dumps(file).encode()
