"""Colours and gradients of SVG as ours.

A linear gradient is a linear function over the plane, whatever its units and transform; ours says the same function by
an angle and stops along the line of that angle. A radial one becomes a centre and a radius as shares of a box; where
that needs a box of other sides than the outline's, the layer gets one.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from itertools import pairwise
from typing import Any
from xml.etree.ElementTree import Element

from svgelements import Matrix

from keen_ripple.core.colour import colour_text, parse_colour
from keen_ripple.core.errors import ColourFault
from keen_ripple.intake.opened import href_of, kind_of
from keen_ripple.intake.outlines import diagonal, length, matrix_of
from keen_ripple.intake.styles import Sheet

Box = tuple[float, float, float, float]
"""(left, top, width, height)"""


def share(text: str, default: float) -> float:
    """A number or a percentage, limited to 0–1; the default for what is neither."""
    text = text.strip()
    try:
        value = float(text[:-1]) / 100.0 if text.endswith("%") else float(text)
    except ValueError:
        return default
    return round(min(max(value, 0.0), 1.0), 4) if math.isfinite(value) else default


def colour(text: str, current: str, opacity: float, note: Callable[[str], None]) -> str:
    """A CSS colour with its opacity, in canonical text."""
    text = current if text.lower() == "currentcolor" else text
    if text == "none" or text == "transparent":
        return "none"
    try:
        r, g, b, alpha = parse_colour(text)
    except ColourFault:
        note(f"the colour {text!r} is none; black instead")
        r, g, b, alpha = 0.0, 0.0, 0.0, 1.0
    return colour_text((r, g, b, alpha * opacity))


def at_least(bounds: Box) -> Box:
    """Gradients need a box, also over lines."""
    return (bounds[0], bounds[1], max(bounds[2], 1.0), max(bounds[3], 1.0))


def middle_of(paint: Any) -> str:
    """One colour instead of a gradient."""
    if isinstance(paint, dict):
        return str(paint["stops"][len(paint["stops"]) // 2]["colour"])
    return str(paint or "none")


class Gradients:
    """The gradients of a file, by id."""

    def __init__(self, by_id: Mapping[str, Element], sheet: Sheet, note: Callable[[str], None]) -> None:
        self._by_id, self._sheet, self._note = by_id, sheet, note

    def paint(self, name: str, own: Box, matrix: Matrix, opacity: float, view: tuple[float, float]) -> Any:
        """What fills the outline whose own bounds are `own`, under `matrix`: a function of the box it is laid over.

        None where there is no such gradient.
        """
        element = self._by_id.get(name)
        kind = "" if element is None else kind_of(element)
        if element is None or kind not in ("linearGradient", "radialGradient"):
            return None
        chain = self._chain(element)
        stops = self._stops(chain, opacity)
        if not stops:
            return "none"

        def get(key: str) -> str | None:
            return next((e.get(key) for e in chain if e.get(key) is not None), None)

        if len(stops) == 1:
            return stops[0]["colour"]
        if get("spreadMethod") in ("reflect", "repeat"):
            self._note(f"the gradient {name} goes on by itself; its last colours go on instead")
        boxed = get("gradientUnits") != "userSpaceOnUse"
        units = Matrix(own[2], 0, 0, own[3], own[0], own[1]) if boxed else Matrix()
        whole = (1.0, 1.0) if boxed else view
        total = matrix_of(get("gradientTransform") or "") * units * matrix
        if kind == "linearGradient":
            ends = [
                length(get(key), whole[i % 2], whole[0] if key == "x2" else 0.0)
                for i, key in enumerate(("x1", "y1", "x2", "y2"))
            ]
            return _Linear(ends, total, stops)
        middle = diagonal(whole)
        centre = [length(get(key), whole[i], whole[i] / 2.0) for i, key in enumerate(("cx", "cy"))]
        radius = length(get("r"), middle, middle / 2.0)
        for key, at in (("fx", centre[0]), ("fy", centre[1])):
            if get(key) is not None and abs(length(get(key), whole[0]) - at) > 1e-6:
                self._note(f"the gradient {name} has its focus beside its centre; it is put into the centre")
                break
        return _Radial(
            centre,
            radius,
            total,
            stops,
            lambda: self._note(f"the gradient {name} is a leaning ellipse; it is set upright"),
        )

    def _chain(self, element: Element) -> list[Element]:
        """The gradient and those that it builds on, the nearest first."""
        chain: list[Element] = []
        following: Element | None = element
        while following is not None and following not in chain:
            chain.append(following)
            name = href_of(following).removeprefix("#")
            following = self._by_id.get(name)
        return chain

    def _stops(self, chain: list[Element], opacity: float) -> list[dict[str, Any]]:
        owner = next((e for e in chain if any(str(c.tag).endswith("stop") for c in e)), None)
        found: list[dict[str, Any]] = []
        for element in owner if owner is not None else ():
            if not str(element.tag).endswith("stop"):
                continue
            style = self._sheet.of(element, {})
            at = share(element.get("offset", "0"), 0.0)
            least = found[-1]["at"] if found else 0.0
            text = colour(style["stop-color"], style["color"], share(style["stop-opacity"], 1.0) * opacity, self._note)
            found.append({"at": max(at, least), "colour": text})
        return found


class _Linear:
    def __init__(self, ends: list[float], matrix: Matrix, stops: list[dict[str, Any]]) -> None:
        x1, y1, x2, y2 = ends
        self._stops = stops
        square = (x2 - x1) ** 2 + (y2 - y1) ** 2
        determinant = matrix.a * matrix.d - matrix.b * matrix.c
        if square == 0.0 or determinant == 0.0:
            self._normal = (0.0, 0.0)
            return
        dx, dy = (x2 - x1) / square, (y2 - y1) / square
        # Covectors go by the inverse: what is constant along a line stays so.
        nx, ny = (dx * matrix.d - dy * matrix.b) / determinant, (dy * matrix.a - dx * matrix.c) / determinant
        start = matrix.point_in_matrix_space((x1, y1))
        self._normal = (nx, ny)
        self._offset = -(nx * start.x + ny * start.y)

    def laid_over(self, box: Box) -> Any:
        nx, ny = self._normal
        size = math.hypot(nx, ny)
        if size == 0.0:
            return self._stops[-1]["colour"]
        left, top, width, height = box
        ux, uy = nx / size, ny / size
        half = (abs(width * ux) + abs(height * uy)) / 2.0
        middle = nx * (left + width / 2.0) + ny * (top + height / 2.0) + self._offset
        # Progress at both ends of our line.
        first, last = middle - half * size, middle + half * size
        stops = [{"at": (s["at"] - first) / (last - first), "colour": s["colour"]} for s in self._stops]
        angle = math.degrees(math.atan2(ux, -uy)) % 360.0
        return {"kind": "linear", "angle": round(angle, 4), "stops": _within(stops)}


class _Radial:
    def __init__(
        self, centre: list[float], radius: float, matrix: Matrix, stops: list[dict[str, Any]], lean: Callable[[], None]
    ) -> None:
        self._stops = stops
        middle = matrix.point_in_matrix_space(tuple(centre))
        self._centre = (middle.x, middle.y)
        # Half the extent of the ellipse along x and y.
        self._radii = (radius * math.hypot(matrix.a, matrix.c), radius * math.hypot(matrix.b, matrix.d))
        cross = matrix.a * matrix.b + matrix.c * matrix.d
        if abs(cross) > 1e-6 * (abs(matrix.a * matrix.d) + abs(matrix.b * matrix.c)):
            lean()

    def box_for(self, bounds: Box) -> Box:
        """A box around the bounds with the sides of the ellipse."""
        left, top, width, height = bounds
        rx, ry = self._radii
        if rx <= 0.0 or ry <= 0.0 or width <= 0.0 or height <= 0.0:
            return bounds
        scale = max(width / rx, height / ry)
        return (left, top, scale * rx, scale * ry)

    def laid_over(self, box: Box) -> Any:
        left, top, width, height = box
        rx, ry = self._radii
        if rx <= 0.0 or ry <= 0.0 or width <= 0.0 or height <= 0.0:
            return self._stops[-1]["colour"]
        place = {
            "centre_x": round((self._centre[0] - left) / width, 5),
            "centre_y": round((self._centre[1] - top) / height, 5),
        }
        return {"kind": "radial", **place, "radius": round(rx / width, 5), "stops": self._stops[:32]}


def _within(stops: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """The stops between 0 and 1, with what is seen at both of these where stops lie beyond."""
    kept = [{"at": round(s["at"], 5), "colour": s["colour"]} for s in stops if 0.0 <= s["at"] <= 1.0]
    if stops[0]["at"] < 0.0:
        kept.insert(0, {"at": 0.0, "colour": _seen(stops, 0.0)})
    if stops[-1]["at"] > 1.0:
        kept.append({"at": 1.0, "colour": _seen(stops, 1.0)})
    if len(kept) == 1:
        kept *= 2
    return kept[:32]


def _seen(stops: list[dict[str, Any]], at: float) -> str:
    if at <= stops[0]["at"]:
        return str(stops[0]["colour"])
    for a, b in pairwise(stops):
        if a["at"] <= at <= b["at"]:
            share = (at - a["at"]) / (b["at"] - a["at"] or 1.0)
            one, other = parse_colour(a["colour"]), parse_colour(b["colour"])
            alpha = one[3] * (1.0 - share) + other[3] * share
            mixed = [
                (x * one[3] * (1.0 - share) + y * other[3] * share) / (alpha or 1.0)
                for x, y in zip(one[:3], other[:3], strict=True)
            ]
            return colour_text((*mixed, alpha))
    return str(stops[-1]["colour"])
