"""What was read, as layers of a document."""

from __future__ import annotations

import json
import math
import re
from typing import Any

from pydantic import ValidationError
from svgelements import Matrix

from keen_ripple.core.document.layers import MODELS
from keen_ripple.core.document.read import as_fault
from keen_ripple.core.limits import FARTHEST
from keen_ripple.intake.outlines import Outline, ShapeFault, numbers_of

# The least side of the box in which a path is written.
LEAST_VIEW = 1.0
PLACES = 4


class Names:
    """Ids, each given once."""

    def __init__(self) -> None:
        self._taken: set[str] = set()
        self._last: dict[str, int] = {}

    def of(self, wanted: str, kind: str) -> str:
        """An id as near to the wanted one as the format allows, or else from the kind."""
        stem = re.sub(r"[^a-z0-9]+", "-", wanted.lower()).strip("-")[:56].strip("-") or kind
        name, number = stem, self._last.get(stem, 1)
        while name in self._taken:
            number += 1
            name = f"{stem}-{number}"
        self._taken.add(name)
        self._last[stem] = number
        return name


def is_upright(matrix: Matrix) -> bool:
    """Whether it moves and scales, and does no more."""
    return bool(matrix.b == matrix.c == 0.0 and matrix.a > 0.0 and matrix.d > 0.0)


def layer_of_box(kind: str, box: tuple[float, ...], matrix: Matrix) -> dict[str, Any] | None:
    """A rectangle or an ellipse, turned around its middle.

    None where its corners are not round in the way that ours are, or it is mirrored, or stretched while it is turned.
    """
    x, y, width, height, rx, ry = box
    a, b, c, d, _, _ = numbers_of(matrix)
    across, down = math.hypot(a, b), math.hypot(c, d)
    even = abs(across - down) <= 1e-6 * across and abs(a * c + b * d) <= 1e-6 * across * down
    if not is_upright(matrix) and (not even or a * d - b * c <= 0.0):
        return None
    middle = matrix.point_in_matrix_space((x + width / 2.0, y + height / 2.0))
    width, height = width * across, height * down
    place = {
        "x": round(float(middle[0]) - width / 2.0, PLACES),
        "y": round(float(middle[1]) - height / 2.0, PLACES),
        "width": round(width, PLACES),
        "height": round(height, PLACES),
    }
    _within_reach(place)
    if not is_upright(matrix):
        place["rotation"] = round(math.degrees(math.atan2(b, a)), PLACES)
    if kind != "rect":
        return {"kind": "ellipse", **place}
    radii = (rx * across, ry * down)
    if abs(radii[0] - radii[1]) > 1e-3:
        return None
    corners = ("top_left", "top_right", "bottom_right", "bottom_left")
    rounded = {f"radius_{corner}": round(radii[0], PLACES) for corner in corners} if radii[0] > 0.0 else {}
    return {"kind": "rectangle", **place, **rounded}


def _within_reach(frame: dict[str, float]) -> None:
    if any(abs(number) > FARTHEST for number in frame.values()):
        raise ShapeFault("it lies too far away")


def layer_of_path(outline: Outline, look: dict[str, Any]) -> dict[str, Any]:
    """A path in the box of its bounds."""
    left, top, right, bottom = outline.bounds
    width, height = (max(round(side, PLACES), LEAST_VIEW) for side in (right - left, bottom - top))
    frame = {"x": round(left, PLACES), "y": round(top, PLACES), "width": width, "height": height}
    _within_reach(frame)
    return {
        "kind": "path",
        **look,
        **frame,
        "path": outline.moved(-frame["x"], -frame["y"]),
        "view_width": width,
        "view_height": height,
    }


def check_layer(layer: dict[str, Any]) -> None:
    """Raises ShapeFault for a layer that no piece could hold."""
    try:
        MODELS[layer["kind"]].model_validate_json(json.dumps(layer))
    except ValidationError as error:
        [first, *_] = error.errors(include_url=False)
        fault = as_fault(first)
        raise ShapeFault(f"{fault.message[0].lower()}{fault.message[1:].removesuffix('.')}") from None


def mask_of(outline: Outline, names: Names, rule: str) -> dict[str, Any]:
    look = {
        "id": names.of("", "clip"),
        "name": "Clip",
        "mask": True,
        **({"fill_rule": rule} if rule == "evenodd" else {}),
    }
    return layer_of_path(outline, look)


def group_of(layers: list[dict[str, Any]], names: Names, name: str, opacity: float) -> dict[str, Any]:
    """A group as large as what is in it; its layers are placed from its corner."""
    left, top = min(layer["x"] for layer in layers), min(layer["y"] for layer in layers)
    right = max(layer["x"] + layer["width"] for layer in layers)
    bottom = max(layer["y"] + layer["height"] for layer in layers)
    inside = [
        {**layer, "x": round(layer["x"] - left, PLACES), "y": round(layer["y"] - top, PLACES)} for layer in layers
    ]
    size = {"width": round(right - left, PLACES), "height": round(bottom - top, PLACES)}
    group = {"kind": "group", "id": names.of(name, "group"), "name": name[:120], "x": left, "y": top, **size}
    return {**group, **({"opacity": opacity} if opacity < 1.0 else {}), "layers": inside}
