"""What cuts elements: clips, and masks in black and white, each as one outline (CSS Masking Level 1)."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from xml.etree.ElementTree import Element

from svgelements import Matrix, Path

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.errors import ColourFault
from keen_ripple.intake.areas import Area, Pen
from keen_ripple.intake.opened import href_of, kind_of
from keen_ripple.intake.outlines import Outline, dash_of, diagonal, length, matrix_of, offset_of, path_of, placed
from keen_ripple.intake.paints import share
from keen_ripple.intake.styles import Sheet, Style

SHAPES = ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon")
GROUPS = ("g", "a", "use")
Cut = tuple[Outline | None, str]
"""An outline, None where nothing is left to be seen, and the rule by which it is filled."""
# How bright counts as white, and up to where black: what lies between is partly seen.
WHITE, BLACK = 0.98, 0.02
# Of all masks and clips of a file together, so that a small file does not make us work for long.
DEEPEST, MOST_SHAPES, MOST_CHARACTERS = 12, 1000, 200_000
# How bright light of each channel is, 0–255 (Filter Effects Level 1, luminanceToAlpha).
BRIGHTNESS = (0.2126 / 255.0, 0.7152 / 255.0, 0.0722 / 255.0)


class _Partly(Exception):
    """Something is seen in part, which no outline can say, or only one that takes too long."""


class Cuts:
    """The clips and masks of a file, by id."""

    def __init__(self, by_id: Mapping[str, Element], sheet: Sheet, view: tuple[float, float]) -> None:
        self._by_id, self._sheet, self._view = by_id, sheet, view
        self._depth = self._joined_shapes = self._characters = 0

    def clip(self, name: str, matrix: Matrix) -> Cut | None:
        """What a clip leaves of an element under a matrix; None where there is no such clip, or it goes by boxes."""
        element = self._by_id.get(name)
        if element is None or element.get("clipPathUnits") == "objectBoundingBox":
            return None
        outlines = list(self._outlines(element, matrix_of(element.get("transform", "")) * matrix))
        if len(outlines) == 1:
            return outlines[0]
        area = Area()
        try:
            for outline, rule in outlines:
                self._counted(outline)
                area = area.joined(Area.of(outline, rule))
        except _Partly:
            return None
        return area.outline()

    def _outlines(self, clip: Element, matrix: Matrix) -> Iterator[tuple[Outline, str]]:
        for child in clip:
            placing = matrix
            if kind_of(child) == "use":
                placing = offset_of(child, self._view) * matrix_of(child.get("transform", "")) * matrix
                child = self._target(child)
            path = path_of(child, kind_of(child), self._view) if kind_of(child) in SHAPES else None
            outline = placed(path, matrix_of(child.get("transform", "")) * placing) if path is not None else None
            if outline is not None:
                yield outline, self._sheet.of(child, {})["clip-rule"]

    def _target(self, use: Element) -> Element:
        return self._by_id.get(href_of(use).removeprefix("#"), use)

    def mask(self, name: str, matrix: Matrix) -> Cut | None:
        """What a mask leaves of an element under a matrix; None where it is no mask of black and white shapes."""
        element = self._by_id.get(name)
        if element is None or kind_of(element) != "mask" or element.get("maskContentUnits") == "objectBoundingBox":
            return None
        style = self._sheet.of(element, {})
        by_alpha = style["mask-type"] == "alpha"
        self._depth = 0
        try:
            area = self._drawn(element, style, matrix, Area(), lambda rgba: rgba[3] if by_alpha else _brightness(rgba))
        except _Partly:
            return None
        region = self.region(element, matrix)
        if region is not None:
            area = area.within(Area.of(region[0], "nonzero")) if region[0] else Area()
        return area.outline()

    def region(self, mask: Element, matrix: Matrix) -> Cut | None:
        """Where a mask shows anything at all; None where that is a little more than the box of what it cuts."""
        if mask.get("maskUnits") != "userSpaceOnUse" or mask.get("width") is None:
            return None
        path = path_of(mask, "rect", self._view)
        return (placed(path, matrix) if path is not None else None), "nonzero"

    def _drawn(self, parent: Element, outer: Style, matrix: Matrix, area: Area, level: Level) -> Area:
        """The area with all that is drawn inside of an element joined to it, or cut out of it."""
        self._depth += 1
        if self._depth > DEEPEST:
            raise _Partly
        for child in parent:
            kind = kind_of(child)
            style = self._sheet.of(child, outer)
            if kind not in (*SHAPES, *GROUPS) or style["display"] == "none":
                if kind in ("image", "text", "svg"):
                    raise _Partly
                continue
            if share(style["opacity"], 1.0) < 1.0 or any(style[name] != "none" for name in CHANGING):
                raise _Partly
            own = matrix_of(style["transform"]) * matrix
            if kind == "use":
                target = self._target(child)
                if target is child or kind_of(target) not in (*SHAPES, "g", "symbol"):
                    raise _Partly
                holder = Element("g")
                holder.append(target)
                area = self._drawn(holder, style, offset_of(child, self._view) * own, area, level)
            elif kind in GROUPS:
                area = self._drawn(child, style, own, area, level)
            elif style["visibility"] == "visible":
                area = self._shape(child, kind, style, own, area, level)
        self._depth -= 1
        return area

    def _counted(self, outline: Outline) -> None:
        """Of those that are joined: each takes its time. Raises _Partly for too many."""
        self._joined_shapes += 1
        self._characters += len(outline.data)
        if self._joined_shapes > MOST_SHAPES or self._characters > MOST_CHARACTERS:
            raise _Partly

    def _shape(self, element: Element, kind: str, style: Style, matrix: Matrix, area: Area, level: Level) -> Area:
        path = path_of(element, kind, self._view)
        outline = placed(path, matrix) if path is not None else None
        if path is None or outline is None:
            return area
        self._counted(outline)
        if style["fill"] != "none" and kind != "line":
            area = _laid(area, Area.of(outline, style["fill-rule"]), _seen(style, "fill", level))
        width = length(style["stroke-width"], diagonal(self._view))
        if style["stroke"] != "none" and width > 0.0:
            area = _laid(area, self._stroke(path, width, style, matrix), _seen(style, "stroke", level))
        return area

    def _stroke(self, path: Path, width: float, style: Style, matrix: Matrix) -> Area:
        pen = Pen(width, style["stroke-linecap"], style["stroke-linejoin"], *dash_of(style, self._view))
        return Area.along(path, pen, matrix)


Level = Callable[[tuple[float, float, float, float]], float]
CHANGING = ("mask", "clip-path", "filter")


def _laid(area: Area, shape: Area, seen: bool | None) -> Area:
    if seen is None:
        return area
    return area.joined(shape) if seen else area.without(shape)


def _seen(style: Style, name: str, level: Level) -> bool | None:
    """Whether what lies under a paint is seen; None where the paint changes nothing. Raises _Partly."""
    text = style["color"] if style[name].lower() == "currentcolor" else style[name]
    try:
        r, g, b, alpha = parse_colour(text)
    except ColourFault:
        raise _Partly from None
    alpha *= share(style[f"{name}-opacity"], 1.0)
    if alpha <= BLACK:
        return None
    if alpha < WHITE:
        raise _Partly
    found = level((r, g, b, alpha))
    if BLACK < found < WHITE:
        raise _Partly
    return found >= WHITE


def _brightness(rgba: tuple[float, float, float, float]) -> float:
    return sum(factor * channel for factor, channel in zip(BRIGHTNESS, rgba, strict=False)) * rgba[3]
