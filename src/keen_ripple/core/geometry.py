"""Where layers are: their matrices in the piece, and the bounds of their outlines."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

from keen_ripple.core import paths
from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.paths import Affine
from keen_ripple.core.poses import Pose

Box = tuple[float, float, float, float]
"""(x, y, width, height) in the piece's px."""
Look = Mapping[str, Any]
IDENTITY: Affine = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def boxes(piece: Piece, pose: Pose) -> dict[str, Box]:
    """The axis-aligned bounds of each layer's outline, transforms included, stroke left out.

    The outline of a rectangle has its round corners, that of a path is the path; groups and texts have their box.
    """
    return dict(_boxes(piece.layers, pose, IDENTITY))


def _boxes(layers: Sequence[LayerBase], pose: Pose, outer: Affine) -> list[tuple[str, Box]]:
    found: list[tuple[str, Box]] = []
    for layer in layers:
        look = pose[layer.id]
        matrix = multiply(outer, local_matrix(look))
        left, top, right, bottom = _bounds(layer.kind, look, matrix)
        found.append((layer.id, (left, top, right - left, bottom - top)))
        found += _boxes(layer.layers, pose, matrix)
    return found


def local_matrix(look: Look) -> Affine:
    """From the layer's own px, its top left corner at 0, 0, to those around it.

    As CSS has it: moved to x, y; turned, then scaled inside, about the pivot.
    """
    turn = math.radians(look["rotation"])
    cos, sin = math.cos(turn), math.sin(turn)
    a, b = cos * look["scale_x"], sin * look["scale_x"]
    c, d = -sin * look["scale_y"], cos * look["scale_y"]
    px, py = look["pivot_x"] * look["width"], look["pivot_y"] * look["height"]
    return (a, b, c, d, look["x"] + px - a * px - c * py, look["y"] + py - b * px - d * py)


def multiply(outer: Affine, inner: Affine) -> Affine:
    """The matrix that applies `inner` first."""
    a, b, c, d, e, f = outer
    p, q, r, s, t, u = inner
    return (
        a * p + c * q,
        b * p + d * q,
        a * r + c * s,
        b * r + d * s,
        a * t + c * u + e,
        b * t + d * u + f,
    )


def corner_radii(look: Look) -> list[tuple[float, float]]:
    """The radii (x, y) of the corners, clockwise from the top left, limited by the box.

    Where two would overlap all shrink by one factor: CSS Backgrounds and Borders Level 3, section 4.5.
    """
    width, height = look["width"], look["height"]
    names = ("top_left", "top_right", "bottom_right", "bottom_left")
    radii = [max(look[f"radius_{name}"], 0.0) for name in names]
    sides = [
        (width, radii[0] + radii[1]),
        (height, radii[1] + radii[2]),
        (width, radii[2] + radii[3]),
        (height, radii[3] + radii[0]),
    ]
    factor = min([1.0, *(side / sum_ for side, sum_ in sides if sum_ > 0.0)])
    return [(radius * factor, radius * factor) for radius in radii]


def _bounds(kind: str, look: Look, matrix: Affine) -> Box:
    """(left, top, right, bottom)."""
    if kind == "path":
        stretch = (look["width"] / look["view_width"], 0.0, 0.0, look["height"] / look["view_height"], 0.0, 0.0)
        return paths.bounds(look["path"], multiply(matrix, stretch))
    radii = [(0.0, 0.0)] * 4
    if kind == "ellipse":
        radii = [(look["width"] / 2.0, look["height"] / 2.0)] * 4
    elif kind == "rectangle":
        radii = corner_radii(look)
    a, b, c, d, e, f = matrix
    width, height = look["width"], look["height"]
    return (
        e - _reach(width, height, radii, -a, -c),
        f - _reach(width, height, radii, -b, -d),
        e + _reach(width, height, radii, a, c),
        f + _reach(width, height, radii, b, d),
    )


def _reach(width: float, height: float, radii: list[tuple[float, float]], dx: float, dy: float) -> float:
    """How far a rounded rectangle reaches in the direction (dx, dy): its support function.

    A corner's arc adds √((rx·dx)² + (ry·dy)²) to the reach of the arc's centre, as far as the direction leaves the box
    at that corner.
    """
    corners = zip(((0, 0), (1, 0), (1, 1), (0, 1)), radii, strict=True)
    best = -math.inf
    for (right, bottom), (rx, ry) in corners:
        centre_x = width - rx if right else rx
        centre_y = height - ry if bottom else ry
        out_x, out_y = max(dx if right else -dx, 0.0), max(dy if bottom else -dy, 0.0)
        best = max(best, centre_x * dx + centre_y * dy + math.hypot(rx * out_x, ry * out_y))
    return best
