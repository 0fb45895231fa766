"""Colours and gradients of SVG as ours.

A linear gradient is a linear function over the plane, whatever its units and transform; ours says the same function by
an angle and stops along the line of that angle. A radial one is a circle under a matrix, hence an ellipse; ours says it
by a radius in shares of the box, a stretch, an angle, and where in it the focus lies.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from itertools import pairwise
from typing import Any
from xml.etree.ElementTree import Element

import numpy as np
from svgelements import Matrix

from keen_ripple.core.colour import colour_text, parse_colour
from keen_ripple.core.errors import ColourFault
from keen_ripple.intake.opened import href_of, kind_of
from keen_ripple.intake.outlines import diagonal, length, matrix_of, numbers_of
from keen_ripple.intake.styles import Sheet

Box = tuple[float, float, float, float]
"""(left, top, width, height)"""
Stops = list[dict[str, Any]]


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
        focus = [length(get(key), whole[i], centre[i]) for i, key in enumerate(("fx", "fy"))]
        return _Radial(centre, focus, radius, total, stops)

    def _chain(self, element: Element) -> list[Element]:
        """The gradient and those that it builds on, the nearest first."""
        chain: list[Element] = []
        following: Element | None = element
        while following is not None and following not in chain:
            chain.append(following)
            name = href_of(following).removeprefix("#")
            following = self._by_id.get(name)
        return chain

    def _stops(self, chain: list[Element], opacity: float) -> Stops:
        owner = next((e for e in chain if any(str(c.tag).endswith("stop") for c in e)), None)
        found: Stops = []
        for element in owner if owner is not None else ():
            if not str(element.tag).endswith("stop"):
                continue
            style = self._sheet.of(element, {})
            at = share(element.get("offset", "0"), 0.0)
            least = found[-1]["at"] if found else 0.0
            text = colour(style["stop-color"], style["color"], share(style["stop-opacity"], 1.0) * opacity, self._note)
            found.append({"at": max(at, least), "colour": text})
        return _as_svg_blends(found)


BETWEEN = 6


def _as_svg_blends(stops: Stops) -> Stops:
    """Where transparency changes along with a colour, SVG blends otherwise than CSS: stops in between keep to it."""
    found = stops[:1]
    for before, after in pairwise(stops):
        start, end = (np.array(parse_colour(stop["colour"])) for stop in (before, after))
        differ = start[3] != end[3] and any(start[:3] != end[:3])
        parts = BETWEEN if differ and before["at"] < after["at"] else 1
        for i in range(1, parts):
            share = i / parts
            at = before["at"] + (after["at"] - before["at"]) * share
            found.append({"at": round(at, 5), "colour": colour_text(start + (end - start) * share)})
        found.append(after)
    return found if len(found) <= MOST_STOPS else stops


MOST_STOPS = 32


class _Linear:
    def __init__(self, ends: list[float], matrix: Matrix, stops: Stops) -> None:
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
    """A circle with a focus in it, under any matrix: an ellipse, and a turn of the circle in itself."""

    def __init__(self, centre: list[float], focus: list[float], radius: float, matrix: Matrix, stops: Stops) -> None:
        self._stops = stops
        middle = matrix.point_in_matrix_space(tuple(centre))
        self._centre = (float(middle.x), float(middle.y))
        a, b, c, d, _, _ = numbers_of(matrix)
        self._circle = np.array([[a, c], [b, d]]) * radius
        self._focus = (np.array(focus) - centre) / radius if radius > 0.0 else np.zeros(2)

    def laid_over(self, box: Box) -> Any:
        left, top, width, height = box
        shares = np.array([[1.0 / width], [1.0 / height]]) * self._circle
        axes, (long, short), turned = np.linalg.svd(shares)
        if short < 1e-9:
            return self._stops[-1]["colour"]
        place = {
            "centre_x": round((self._centre[0] - left) / width, 5),
            "centre_y": round((self._centre[1] - top) / height, 5),
        }
        if long / short < ROUND:
            # All axes of a circle are alike: it is not turned.
            axes, turned = np.eye(2), axes @ turned
        if np.linalg.det(axes) < 0.0:
            axes, turned = axes * (1.0, -1.0), turned * ((1.0,), (-1.0,))
        angle = math.degrees(math.atan2(axes[1, 0], axes[0, 0]))
        # Of the four ways to say an ellipse the one that is turned least.
        quarters = round(angle / 90.0)
        focus = complex(*(turned @ self._focus)) * 1j**quarters
        across, down = (short, long) if quarters % 2 else (long, short)
        shape = {
            "radius": round(float(down), 5),
            "stretch": round(float(across / down), 5),
            "angle": round(angle - 90.0 * quarters, 4) + 0.0,
            "focus_x": round(focus.real, 5) + 0.0,
            "focus_y": round(focus.imag, 5) + 0.0,
        }
        said = {name: value for name, value in shape.items() if value != UNSAID[name]}
        return {"kind": "radial", **place, **said, "stops": self._stops[:32]}


# An ellipse whose sides differ by less is a circle.
ROUND = 1.0001
UNSAID = {"radius": None, "stretch": 1.0, "angle": 0.0, "focus_x": 0.0, "focus_y": 0.0}


def _within(stops: Stops) -> Stops:
    """The stops between 0 and 1, with what is seen at both of these where stops lie beyond."""
    kept = [{"at": round(s["at"], 5), "colour": s["colour"]} for s in stops if 0.0 <= s["at"] <= 1.0]
    if stops[0]["at"] < 0.0:
        kept.insert(0, {"at": 0.0, "colour": _seen(stops, 0.0)})
    if stops[-1]["at"] > 1.0:
        kept.append({"at": 1.0, "colour": _seen(stops, 1.0)})
    if len(kept) == 1:
        kept *= 2
    return kept[:32]


def _seen(stops: Stops, at: float) -> str:
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
