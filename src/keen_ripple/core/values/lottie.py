"""Lottie files: whether one can be played here without harm, and what it says of its size and time.

The format is that of the Lottie Animation Community's specification 1.0: https://lottie.github.io/lottie-spec/.
"""

from __future__ import annotations

import json
import math
import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from keen_ripple.core.errors import Fault

LARGEST = 3_000_000
"""Bytes: what is made of them while they are read takes much more."""
LOTTIE = "data:application/json;"
"""How the data: URL of a Lottie file begins."""
DEEPEST = 60
MOST_PARTS = 400_000
MOST_LAYERS = 5000
"""All that are drawn, those of compositions counted each time that they are used."""
MOST_COPIES = 500
LARGEST_SIDE = 4096
FASTEST_FPS = 240.0
MOST_FRAMES = 36_000
FARTHEST = 1e7
EMBEDDED = re.compile(r"data:image/(png|jpeg|webp);base64,[A-Za-z0-9+/\s]+={0,2}")


class LottieFault(Fault):
    """A Lottie file that is not played here."""


@dataclass(frozen=True)
class Lottie:
    """What a file says of itself; frames are counted from its first. `apart`: what players show each in its own way."""

    width: int
    height: int
    fps: float
    frames: int
    apart: tuple[str, ...]

    @property
    def length_ms(self) -> int:
        return round(self.frames * 1000.0 / self.fps)

    def frame_at(self, t_ms: float) -> int:
        """The frame that is shown at a moment: whole ones, the last at the end."""
        return min(max(int(t_ms * self.fps / 1000.0 + 1e-6), 0), self.frames - 1)


def read_lottie(data: bytes) -> Lottie:
    """Reads a file as a whole. Raises LottieFault with its place."""
    if len(data) > LARGEST:
        remedy = f"Export it smaller: it may have {LARGEST / 1e6:.0f} MB."
        raise LottieFault(f"The file has {len(data) / 1e6:.1f} MB.", value=len(data), remedy=remedy)
    # Before anything is made of them.
    if data.count(b"[") + data.count(b"{") > MOST_PARTS:
        raise LottieFault(f"It has more than {MOST_PARTS} parts.", remedy="Simplify it.")
    try:
        root = json.loads(data)
    except (ValueError, RecursionError):
        raise LottieFault("The file is no JSON that can be read.", remedy="Export it as Lottie again.") from None
    if not isinstance(root, dict) or not isinstance(root.get("layers"), list):
        raise LottieFault("The file has no layers of Lottie.", remedy="Choose a Lottie file.")
    apart: dict[str, None] = {}
    for place, part in _parts(root):
        _check_part(place, part)
        apart |= {words: None for words, holds in APART.items() if holds(part)}
    _check_assets(root)
    numbers = {name: _number(root, name) for name in ("w", "h", "fr", "ip", "op")}
    width, height, frames = numbers["w"], numbers["h"], numbers["op"] - numbers["ip"]
    if not 1.0 <= min(width, height) <= max(width, height) <= LARGEST_SIDE:
        remedy = f"Export it with sides of 1 to {LARGEST_SIDE} px."
        raise LottieFault(f"It has {width:g} × {height:g} px.", place="/w", value=[width, height], remedy=remedy)
    if not 1.0 <= numbers["fr"] <= FASTEST_FPS:
        remedy = f"Export it with 1 to {FASTEST_FPS:g} frames per second."
        raise LottieFault(f"It has {numbers['fr']:g} frames per second.", place="/fr", remedy=remedy)
    if not 1.0 <= frames <= MOST_FRAMES:
        remedy = f"Export it with 1 to {MOST_FRAMES} frames."
        raise LottieFault(f"It has {frames:g} frames.", place="/op", value=frames, remedy=remedy)
    return Lottie(round(width), round(height), numbers["fr"], math.ceil(frames), tuple(apart))


def _number(root: dict[str, Any], name: str) -> float:
    value = root.get(name)
    if not isinstance(value, int | float) or isinstance(value, bool):
        raise LottieFault(f"{name} is no number.", place=f"/{name}", value=value, remedy="Export it as Lottie again.")
    return float(value)


Place = tuple["Place", Any] | None
"""Where a part stands: in which other, and called how; written out only where something is wrong."""


def _text(place: Place) -> str:
    found: list[str] = []
    while place is not None:
        place, key = place
        found.append(f"/{str(key)[:40]}")
    return "".join(reversed(found))


def _parts(root: dict[str, Any]) -> Iterator[tuple[Place, dict[str, Any]]]:
    """All objects of the file with their places; how deep, how many and how large is checked on the way."""
    level: list[tuple[Place, Any]] = [(None, root)]
    count = 0
    for _ in range(DEEPEST):
        below: list[tuple[Place, Any]] = []
        for place, part in level:
            if isinstance(part, dict):
                yield place, part
            count += len(part)
            if count > MOST_PARTS:
                raise LottieFault(f"It has more than {MOST_PARTS} parts.", place=_text(place), remedy="Simplify it.")
            for key, value in part.items() if isinstance(part, dict) else enumerate(part):
                if isinstance(value, dict | list):
                    below.append(((place, key), value))
                elif isinstance(value, float | int) and not abs(value) <= FARTHEST:
                    raise LottieFault(f"{value:g} is too large.", place=_text((place, key)), remedy=SMALLER)
        level = below
        if not level:
            return
    raise LottieFault("Its parts lie too deep in each other.", place=_text(level[0][0]), remedy="Simplify it.")


APART: dict[str, Callable[[dict[str, Any]], bool]] = {
    "texts without outlines": lambda part: part.get("ty") == 5,
    "masks turned inside out": lambda part: "pt" in part and bool(part.get("inv") or part.get("mode") == "s"),
    "effects": lambda part: isinstance(part.get("ef"), list) and bool(part["ef"]) and "ks" in part,
}
SMALLER = f"Numbers may go up to {FARTHEST:g}."


def _check_part(place: Place, part: dict[str, Any]) -> None:
    if isinstance(part.get("x"), str) and "k" in part:
        remedy = "Export it with its expressions turned into keyframes."
        raise LottieFault("It has an expression, which is a program.", place=_text((place, "x")), remedy=remedy)
    if part.get("fPath"):
        remedy = "Export its text as shapes."
        raise LottieFault("It loads a font from elsewhere.", place=_text((place, "fPath")), remedy=remedy)
    if part.get("ty") == "rp" and max(_numbers(part.get("c"))) > MOST_COPIES:
        remedy = f"Repeat it at most {MOST_COPIES} times."
        raise LottieFault("It repeats a shape too often.", place=_text((place, "c")), remedy=remedy)


def _numbers(value: Any) -> list[float]:
    """All numbers in a value, and 0."""
    found, left = [0.0], [value]
    while left:
        part = left.pop()
        if isinstance(part, dict | list):
            left += part.values() if isinstance(part, dict) else part
        elif isinstance(part, int | float):
            found.append(float(part))
    return found


def _check_assets(root: dict[str, Any]) -> None:
    """Pictures have to lie inside the file; compositions must not hold themselves, nor each other too often."""
    compositions: dict[str, tuple[str, Any]] = {}
    listed = root.get("assets", [])
    for index, asset in enumerate(listed if isinstance(listed, list) else []):
        if not isinstance(asset, dict):
            continue
        place = f"/assets/{index}"
        if isinstance(asset.get("layers"), list):
            compositions[str(asset.get("id"))] = (place, asset["layers"])
        elif "p" in asset and not EMBEDDED.fullmatch(str(asset["p"])):
            remedy = "Export it with its pictures inside, as PNG, JPEG or WebP."
            raise LottieFault("It loads a picture from elsewhere.", place=f"{place}/p", remedy=remedy)
    counted: dict[str, int] = {}
    total = _drawn(root["layers"], compositions, counted, ())
    if total > MOST_LAYERS:
        raise LottieFault(f"It draws {total} layers.", value=total, remedy=f"Simplify it to at most {MOST_LAYERS}.")


def _drawn(
    layers: Any, compositions: dict[str, tuple[str, Any]], counted: dict[str, int], inside: tuple[str, ...]
) -> int:
    """How many layers are drawn, with those of the compositions they show."""
    total = 0
    for layer in layers:
        total += 1
        name = str(layer.get("refId")) if isinstance(layer, dict) and "refId" in layer else None
        if name is None or name not in compositions:
            continue
        place, own = compositions[name]
        if name in inside or len(inside) > DEEPEST:
            raise LottieFault("A composition holds itself.", place=place, value=name, remedy="Take it out of itself.")
        if name not in counted:
            counted[name] = _drawn(own, compositions, counted, (*inside, name))
        total += counted[name]
    return total
