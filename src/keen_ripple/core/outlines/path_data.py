"""SVG path data as outlines."""

from __future__ import annotations

import math
from functools import lru_cache

from fontTools.misc.transform import Transform
from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.recordingPen import RecordingPen
from fontTools.pens.transformPen import TransformPen
from fontTools.svgLib.path import parse_path

from keen_ripple.core.errors import PathFault

Affine = tuple[float, float, float, float, float, float]
"""(a, b, c, d, e, f) as in CSS matrix(): x′ = a·x + c·y + e, y′ = b·x + d·y + f."""


@lru_cache(maxsize=2048)
def parse(data: str) -> RecordingPen:
    """The outline that SVG path data draws. Raises PathFault where it is not path data or has no point."""
    pen = RecordingPen()
    try:
        parse_path(data, pen)
    except Exception as error:  # the parser raises whatever it stumbles over
        raise _fault(data) from error
    points = [c for _, operands in pen.value for point in operands if point is not None for c in point]
    if not points or not all(map(math.isfinite, points)):
        raise _fault(data)
    return pen


def bounds(data: str, matrix: Affine) -> tuple[float, float, float, float]:
    """(left, top, right, bottom) of the outline under the matrix; exact also for curves."""
    pen = BoundsPen(None)
    parse(data).replay(TransformPen(pen, Transform(*matrix)))
    left, top, right, bottom = pen.bounds or (0.0, 0.0, 0.0, 0.0)
    return (float(left), float(top), float(right), float(bottom))


def _fault(data: str) -> PathFault:
    short = data if len(data) <= 40 else data[:37] + "…"
    return PathFault(
        f"{short!r} is not SVG path data.", value=data, remedy="Write commands such as M0 0 L20 0 L20 10 Z."
    )
