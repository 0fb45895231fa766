"""Where layers are: their matrices in the piece, and the bounds of their outlines.

Matrices are 3×3 and act on columns (x, y, 1) of homogeneous coordinates, so that they can say perspective too.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from functools import lru_cache
from typing import Any

import numpy as np

from keen_ripple.core import outlines
from keen_ripple.core.arrays import Floats
from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import PICTURES

Box = tuple[float, float, float, float]
"""(x, y, width, height) in the piece's px."""
Look = Mapping[str, Any]
IDENTITY: Floats = np.eye(3)
# Points at which an outline is measured that is seen in perspective.
POINTS_PER_CURVE = 64
SELDOM = ("rotation_x", "rotation_y", "skew_x", "skew_y")
RADII = ("radius_top_left", "radius_top_right", "radius_bottom_right", "radius_bottom_left")
ROUNDED = ("rectangle", *PICTURES)
CORNERS = np.array([[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]])
# What is this near to the eye or behind it is cut off there.
NEAREST = 1e-3


def boxes(piece: Piece, pose: Pose) -> dict[str, Box]:
    """The axis-aligned bounds of each layer's outline, transforms included, stroke left out.

    The outline of a rectangle has its round corners, that of a path is the path; all others have their box.
    """
    found: dict[str, Box] = {}
    for layer, matrix in placed(piece.layers, pose):
        left, top, right, bottom = _bounds(layer.kind, pose[layer.id], matrix)
        found[layer.id] = (left, top, right - left, bottom - top)
    return found


def frames(piece: Piece, pose: Pose) -> dict[str, Box]:
    """The same of each layer's box, whatever its outline."""
    found: dict[str, Box] = {}
    for layer, matrix in placed(piece.layers, pose):
        left, top, right, bottom = _bounds("group", pose[layer.id], matrix)
        found[layer.id] = (left, top, right - left, bottom - top)
    return found


def placed(layers: Sequence[LayerBase], pose: Pose, outer: Floats = IDENTITY) -> Iterator[tuple[LayerBase, Floats]]:
    """Every layer in painting order with its matrix: from its own px to the piece's."""
    for layer in layers:
        matrix = outer @ local_matrix(pose[layer.id])
        yield layer, matrix
        yield from placed(layer.layers, pose, matrix)


def local_matrix(look: Look) -> Floats:
    """From the layer's own px, its top left corner at 0, 0, to those around it.

    As CSS has it with `translate`, `rotate`, `scale`, and in `transform` perspective, turns about x and y, and skews:
    the last of them is done first, all about the pivot (CSS Transforms Level 2, section 6).
    """
    turn = math.radians(look["rotation"])
    cos, sin = math.cos(turn), math.sin(turn)
    across, down = look["scale_x"], look["scale_y"]
    px, py = look["pivot_x"] * look["width"], look["pivot_y"] * look["height"]
    a, b, c, d = cos * across, sin * across, -sin * down, cos * down
    e, f = look["x"] + px, look["y"] + py
    if any(look[name] for name in SELDOM):
        matrix = np.array([[a, c, e], [b, d, f], [0.0, 0.0, 1.0]]) @ _turned_in_space(look) @ _skewed(look)
        return np.asarray(matrix @ np.array([[1.0, 0.0, -px], [0.0, 1.0, -py], [0.0, 0.0, 1.0]]))
    return np.array([[a, c, e - a * px - c * py], [b, d, f - b * px - d * py], [0.0, 0.0, 1.0]])


def _skewed(look: Look) -> Floats:
    """skewX · skewY."""
    along, down = math.tan(math.radians(look["skew_x"])), math.tan(math.radians(look["skew_y"]))
    return np.array([[1.0 + along * down, along, 0.0], [down, 1.0, 0.0], [0.0, 0.0, 1.0]])


def _turned_in_space(look: Look) -> Floats:
    """perspective(d) · rotateX(α) · rotateY(β), of a flat layer and seen flat: z left out of 4×4."""
    a, b = math.radians(look["rotation_x"]), math.radians(look["rotation_y"])
    # rotateX · rotateY of (x, y, 0): its z is what perspective divides by.
    x = (math.cos(b), 0.0)
    y = (math.sin(a) * math.sin(b), math.cos(a))
    z = (-math.cos(a) * math.sin(b), math.sin(a))
    # CSS takes a perspective below 1 px for 1 px.
    eye = -1.0 / max(look["perspective"], 1.0) if look["perspective"] else 0.0
    return np.array([[*x, 0.0], [*y, 0.0], [z[0] * eye, z[1] * eye, 1.0]])


def corner_radii(look: Look) -> list[tuple[float, float]]:
    """The radii (x, y) of the corners, clockwise from the top left, limited by the box.

    Where two would overlap all shrink by one factor: CSS Backgrounds and Borders Level 3, section 4.5.
    """
    width, height = look["width"], look["height"]
    radii = [max(look[name], 0.0) for name in RADII]
    sides = [
        (width, radii[0] + radii[1]),
        (height, radii[1] + radii[2]),
        (width, radii[2] + radii[3]),
        (height, radii[3] + radii[0]),
    ]
    factor = min([1.0, *(side / sum_ for side, sum_ in sides if sum_ > 0.0)])
    return [(radius * factor, radius * factor) for radius in radii]


def _radii(kind: str, look: Look) -> list[tuple[float, float]]:
    if kind == "ellipse":
        return [(look["width"] / 2.0, look["height"] / 2.0)] * 4
    return corner_radii(look) if kind in ROUNDED else [(0.0, 0.0)] * 4


def _bounds(kind: str, look: Look, matrix: Floats) -> Box:
    """(left, top, right, bottom)."""
    if np.any(matrix[2] != (0.0, 0.0, 1.0)):
        return _bounds_of(seen(outline_points(kind, look), matrix))
    a, c, e, b, d, f = matrix[:2].ravel().tolist()
    if kind == "path":
        u, v = look["width"] / look["view_width"], look["height"] / look["view_height"]
        return outlines.bounds(look["path"], (a * u, b * u, c * v, d * v, e, f))
    radii = _radii(kind, look)
    width, height = look["width"], look["height"]
    return (
        e - _reach(width, height, radii, -a, -c),
        f - _reach(width, height, radii, -b, -d),
        e + _reach(width, height, radii, a, c),
        f + _reach(width, height, radii, b, d),
    )


def _reach(width: float, height: float, radii: list[tuple[float, float]], dx: float, dy: float) -> float:
    """How far a rounded rectangle reaches in the direction (dx, dy): its support function.

    It is the hull of the arcs of its corners. Where the direction points out of the box at a corner, that arc reaches
    √((rx·dx)² + (ry·dy)²) beyond its centre; elsewhere the farthest point of an arc is one of its ends.
    """
    corners = zip(((0, 0), (1, 0), (1, 1), (0, 1)), radii, strict=True)
    best = -math.inf
    for (right, bottom), (rx, ry) in corners:
        side_x, side_y = width * right, height * bottom
        centre_x = width - rx if right else rx
        centre_y = height - ry if bottom else ry
        if (dx if right else -dx) > 0.0 and (dy if bottom else -dy) > 0.0:
            best = max(best, centre_x * dx + centre_y * dy + math.hypot(rx * dx, ry * dy))
        else:
            best = max(best, side_x * dx + centre_y * dy, centre_x * dx + side_y * dy)
    return best


def shape_of(kind: str, look: Look) -> tuple[Any, ...]:
    """What the outline in the layer's own px depends on: the same shape, the same points."""
    names = ["width", "height"]
    if kind == "path":
        names += ["path", "view_width", "view_height"]
    elif kind in ROUNDED:
        names += RADII
    return tuple(look[name] for name in names)


def outline_points(kind: str, look: Look, per_curve: int = POINTS_PER_CURVE) -> Floats:
    """Points (n, 2) along the outline in the layer's own px; the same number and order for the same kind of outline."""
    size = (look["width"], look["height"])
    if kind == "path":
        even = np.linspace(0.0, 1.0, per_curve * 4)
        points = np.concatenate([path.points_at(even) for path in outlines.subpaths(look["path"])])
        return np.asarray(points * size / (look["view_width"], look["view_height"]))
    radii = np.array(_radii(kind, look))
    middles = CORNERS * size + (1.0 - 2.0 * CORNERS) * radii
    return np.asarray((middles[:, None] + radii[:, None] * _arcs(per_curve)).reshape(-1, 2))


@lru_cache
def _arcs(points: int) -> Floats:
    """Quarters of a circle, one for each corner, clockwise from the left; shape (4, points, 2)."""
    turns = np.radians(180.0 + 90.0 * np.arange(4)[:, None] + np.linspace(0.0, 90.0, points))
    return np.stack((np.cos(turns), np.sin(turns)), axis=-1)


def seen(points: Floats, matrix: Floats) -> Floats:
    """Points (n, 2) under a matrix."""
    flat = points @ matrix[:2, :2].T + matrix[:2, 2]
    depth = matrix[2]
    if depth[0] == 0.0 and depth[1] == 0.0:
        return np.asarray(flat)
    return np.asarray(flat / np.maximum(points @ depth[:2] + depth[2], NEAREST)[:, None])


def _bounds_of(points: Floats) -> Box:
    (left, top), (right, bottom) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
    return left, top, right, bottom
