"""Areas: outlines joined, cut out of each other, and strokes as outlines."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import pathops
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.svgLib.path import parse_path
from svgelements import Matrix, Path

from keen_ripple.intake.outlines import Outline, ShapeFault, numbers_of, placed, scale_of

FILLS = {"nonzero": pathops.FillType.WINDING, "evenodd": pathops.FillType.EVEN_ODD}
RULES = {fill: rule for rule, fill in FILLS.items()}
CAPS = {"butt": pathops.LineCap.BUTT_CAP, "round": pathops.LineCap.ROUND_CAP, "square": pathops.LineCap.SQUARE_CAP}
JOINS = {"miter": pathops.LineJoin.MITER_JOIN, "round": pathops.LineJoin.ROUND_JOIN}
MITER = 4.0
# Strokes are outlined at so many times their size, since curves are met to a part of a unit.
FINE = 8.0


@dataclass(frozen=True)
class Pen:
    """How a stroke is drawn, in the units of its outline."""

    width: float
    cap: str = "butt"
    join: str = "miter"
    dash: Sequence[float] = ()
    dash_offset: float = 0.0


class Area:
    """A part of the plane, in px of the piece."""

    def __init__(self, path: pathops.Path | None = None) -> None:
        self._path = path or pathops.Path()

    @staticmethod
    def of(outline: Outline, rule: str) -> Area:
        return Area(_read(outline.data, rule))

    @staticmethod
    def along(path: Path, pen: Pen, matrix: Matrix) -> Area:
        """What a stroke along a path covers; the matrix bends outline and stroke alike."""
        larger = FINE * max(scale_of(matrix), 1e-6)
        outline = placed(path, Matrix.scale(larger))
        if outline is None:
            return Area()
        drawn = _read(outline.data, "nonzero")
        join = JOINS.get(pen.join, pathops.LineJoin.BEVEL_JOIN)
        dash = [length * larger for length in pen.dash] * (1 + len(pen.dash) % 2)
        drawn.stroke(pen.width * larger, CAPS[pen.cap], join, MITER, dash or None, pen.dash_offset * larger)
        drawn.convertConicsToQuads()
        return Area(drawn.transform(*numbers_of(Matrix.scale(1.0 / larger) * matrix)))

    def joined(self, other: Area) -> Area:
        return self._with(other, pathops.PathOp.UNION)

    def without(self, other: Area) -> Area:
        return self._with(other, pathops.PathOp.DIFFERENCE)

    def within(self, other: Area) -> Area:
        return self._with(other, pathops.PathOp.INTERSECTION)

    def _with(self, other: Area, way: pathops.PathOp) -> Area:
        try:
            # Neither where outlines begin nor which way they run is seen of an area, and both take long to keep.
            return Area(pathops.op(self._path, other._path, way, fix_winding=False, keep_starting_points=False))
        except pathops.PathOpsError:
            raise ShapeFault("its outlines cross each other in too many ways") from None

    def outline(self) -> tuple[Outline | None, str]:
        """Its outline, None where it is empty, and the rule by which that is filled."""
        pen = SVGPathPen(None, ntos=lambda number: f"{number:.6g}")
        self._path.draw(pen)
        data = pen.getCommands()
        return (placed(Path(data), Matrix()) if data else None), RULES[self._path.fillType]


def _read(data: str, rule: str) -> pathops.Path:
    path = pathops.Path(fillType=FILLS[rule])
    parse_path(data, path.getPen())
    return path
