"""What a layer shows, as Lottie's shapes: an outline, and what fills it or runs along it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.colour import parse_colour
from keen_ripple.core.document.piece import FontFamily
from keen_ripple.core.measures.geometry import RADII, corner_radii
from keen_ripple.core.outlines import subpaths
from keen_ripple.core.properties import properties_of
from keen_ripple.core.values import Gradient, LinearGradient, Stop
from keen_ripple.handoff.css_paints import premultiplied
from keen_ripple.handoff.lottie.carried import PERCENT, PX, STANDS
from keen_ripple.handoff.lottie.keys import rounded
from keen_ripple.handoff.lottie.looks import Look, Moving, number, numbers, shares
from keen_ripple.render.shapes import OUTWARDS
from keen_ripple.render.text import outline_of_text

EIGHT_BITS = 1.0 / 255.0
COLOUR, LENGTH = 1.2 * EIGHT_BITS, 0.05
"""Tolerances: of 1, and in percent of an outline's length."""
# A quarter of a circle as a cubic: 4/3 · (√2 − 1).
ROUND = 0.5522847498
CAPS = {"butt": 1, "round": 2, "square": 3}
JOINS = {"miter": 1, "round": 2, "bevel": 3}
WHOLE: dict[str, Any] = {"a": 0, "k": 100}
UNMOVED = {"ty": "tr", **STANDS}
# What the outline of a layer goes by.
BOXES = ("width", "height", "stroke_align", "stroke_width")
OUTLINING = {
    "path": ("path", "width", "height", "view_width", "view_height"),
    "text": ("width", "height", *(row.name for row in properties_of("text") if row.group in ("Letters", "Content"))),
    "rectangle": (*BOXES, *RADII),
    "ellipse": BOXES,
    "picture": ("width", "height", *RADII),
}
Path = tuple[Floats, bool]
"""Cubics (n, 4, 2), and whether they end where they start."""


@dataclass(frozen=True)
class Shapes:
    """The shapes of one layer, whose numbers are functions of its looks."""

    layer: str
    kind: str
    looks: Sequence[Look]
    fonts: Sequence[FontFamily]

    def items(self) -> list[dict[str, Any]]:
        """All shapes, the uppermost first."""
        first = self.looks[0]
        found = []
        if self.kind != "text" and any(self._is_stroked(look) for look in self.looks):
            found.append(self._stroke(first))
        if any(look["fill"] != "none" for look in self.looks):
            fill = {**self._paint("fill", "fl", "gf"), "r": 2 if first.get("fill_rule") == "evenodd" else 1}
            found.append(_group("Fill", [*self._outline(), fill]))
        return found

    @property
    def bends(self) -> bool:
        """Whether it has more than one outline."""
        return len(self._outlined()) > 1

    def structures(self) -> set[tuple[tuple[int, bool], ...]]:
        """How many cubics its outlines have, and whether each is closed, in all looks; of a box nothing changes."""
        if self.kind not in ("path", "text"):
            return set()
        return {tuple((len(cubics), closed) for cubics, closed in self._cubics(look)) for look in self._outlined()}

    def outline(self) -> list[dict[str, Any]]:
        """The outline filled, whatever it shows: what cuts others by its form."""
        rule = 2 if self.looks[0].get("fill_rule") == "evenodd" else 1
        white = {"ty": "fl", "c": {"a": 0, "k": [1, 1, 1, 1]}, "o": WHOLE, "r": rule}
        return [_group("Outline", [*self._outline(), white])]

    def _is_stroked(self, look: Look) -> bool:
        return bool(look["stroke"] != "none" and look["stroke_width"] > 0.0)

    def _stroke(self, first: Look) -> dict[str, Any]:
        """Inside of a box it is what lies between two outlines, which never leaves it; else a line."""
        if self.kind != "path" and not any(map(_is_line, self.looks)):
            return _group("Stroke", [*self._outline(), *self._inner(), {**self._paint("stroke", "fl", "gf"), "r": 2}])
        line = {
            **self._paint("stroke", "st", "gs"),
            "w": self._number(lambda look: look["stroke_width"] if look["trim_end"] > look["trim_start"] else 0.0, PX),
            "lc": CAPS[first["stroke_cap"]],
            "lj": JOINS[first["stroke_join"]],
            "ml": 4,
        }
        if first["stroke_dash"]:
            line["d"] = self._dashes(first)
        trim = [self._trim()] if any(map(is_trimmed, self.looks)) else []
        # Along the middle of the stroke, from the top on, clockwise.
        return _group("Stroke", [*self._paths(self._cubics), *trim, line])

    def _dashes(self, first: Look) -> list[dict[str, Any]]:
        count = len(first["stroke_dash"])

        def dash(index: int) -> Moving:
            return self._number(lambda look: look["stroke_dash"][index % count], PX)

        # Players ask for names, each its own.
        lengths = [
            {"n": "dg"[index % 2], "nm": f"length {index + 1}", "v": dash(index)}
            for index in range(count * (1 + count % 2))
        ]
        offset = self._number(lambda look: look["stroke_dash_offset"], PX)
        return [*lengths, {"n": "o", "nm": "offset", "v": offset}]

    def _trim(self) -> dict[str, Any]:
        return {
            "ty": "tm",
            "s": self._number(lambda look: look["trim_start"] * 100.0, LENGTH),
            "e": self._number(lambda look: max(look["trim_end"], look["trim_start"]) * 100.0, LENGTH),
            "o": self._number(lambda look: look["trim_offset"] * 360.0, PERCENT),
            "m": 1,
        }

    def _outline(self) -> list[dict[str, Any]]:
        if self.kind in ("path", "text"):
            return self._paths(self._cubics)
        return self._box(0.0)

    def _inner(self) -> list[dict[str, Any]]:
        """As much smaller as the stroke is wide."""
        return self._box(-1.0)

    def _box(self, strokes: float) -> list[dict[str, Any]]:
        """A rectangle or an ellipse, larger by so many widths of its stroke on each side."""

        def by(look: Look) -> float:
            return float(strokes * look["stroke_width"]) if strokes else 0.0

        place = self._list(lambda look: (look["width"] / 2.0, look["height"] / 2.0), PX)
        size = self._list(lambda look: _size(look, by(look)), PX)
        if self.kind == "ellipse":
            return [{"ty": "el", "d": 1, "p": place, "s": size}]
        if all(len(set(corner_radii(look))) == 1 for look in self.looks):
            radius = self._number(lambda look: _radius(look, by(look)), PX)
            return [{"ty": "rc", "d": 1, "p": place, "s": size, "r": radius}]
        return self._paths(lambda look: [(_box_cubics("rectangle", look, by(look)), True)])

    def _paths(self, of: Callable[[Look], Sequence[Path]]) -> list[dict[str, Any]]:
        first = of(self.looks[0])
        if not self.bends:
            return [
                {"ty": "sh", "ks": {"a": 0, "k": _writes(closed)(rounded(_vertices(cubics)))}}
                for cubics, closed in first
            ]

        def path(n: int, closed: bool) -> Moving:
            return Moving(self.layer, lambda look: _vertices(of(look)[n][0]), PX, _writes(closed))

        return [{"ty": "sh", "ks": path(n, closed)} for n, (_, closed) in enumerate(first)]

    def _outlined(self) -> list[Look]:
        """One look of each that has an outline of its own."""
        names = OUTLINING[self.kind]
        return list({tuple(look[name] for name in names): look for look in self.looks}.values())

    def _cubics(self, look: Look) -> list[Path]:
        """Of a path or a text its outlines, of a box the middle of its stroke; in px of its layer."""
        if self.kind == "text":
            outline = outline_of_text(look, self.fonts)
            return [(path.cubics, path.closed) for path in subpaths(outline)] if outline else []
        if self.kind == "path":
            stretch = np.array(stretch_of(look))
            return [(path.cubics * stretch, path.marked) for path in subpaths(look["path"])]
        return [(_box_cubics(self.kind, look, OUTWARDS[look["stroke_align"]] * look["stroke_width"]), True)]

    def _paint(self, name: str, plain: str, along: str) -> dict[str, Any]:
        paints = [look[name] for look in self.looks]
        if isinstance(paints[0], str):
            opacity = self._number(lambda look: parse_colour(look[name])[3] * 100.0, PERCENT)
            shown = next((paint for paint in paints if parse_colour(paint)[3]), paints[0])
            return {"ty": plain, "c": self._colours(lambda look: _rgb(look[name], shown)), "o": opacity}
        count = len(premultiplied(paints[0].stops))
        clear = any(parse_colour(stop.colour)[3] < 1.0 for paint in paints for stop in paint.stops)
        stops = self._colours(lambda look: _stops(premultiplied(look[name].stops), clear))
        ends = [self._list(partial(_end, name, index), PX) for index in (0, 1)]
        kind = 1 if isinstance(paints[0], LinearGradient) else 2
        return {"ty": along, "o": WHOLE, "g": {"p": count, "k": stops}, "s": ends[0], "e": ends[1], "t": kind}

    def _number(self, of: Callable[[Look], float], tolerance: float) -> Moving:
        return number(self.layer, of, tolerance)

    def _list(self, of: Callable[[Look], Sequence[float]], tolerance: float) -> Moving:
        return numbers(self.layer, of, tolerance)

    def _colours(self, of: Callable[[Look], Sequence[float]]) -> Moving:
        return shares(self.layer, of, COLOUR, EIGHT_BITS)


def _group(name: str, items: list[dict[str, Any]]) -> dict[str, Any]:
    return {"ty": "gr", "nm": name, "it": [*items, UNMOVED]}


def _is_line(look: Look) -> bool:
    return look["stroke_align"] != "inside" or bool(look["stroke_dash"]) or is_trimmed(look)


def is_trimmed(look: Look) -> bool:
    return bool(look["trim_start"] > 0.0 or look["trim_end"] < 1.0)


def stretch_of(look: Look) -> tuple[float, float]:
    return look["width"] / look["view_width"], look["height"] / look["view_height"]


def _size(look: Look, by: float) -> tuple[float, float]:
    return max(look["width"] + 2.0 * by, 0.0), max(look["height"] + 2.0 * by, 0.0)


def _radius(look: Look, by: float) -> float:
    radius = corner_radii(look)[0][0]
    return max(radius + by, 0.0) if radius > 0.0 else 0.0


def _box_cubics(kind: str, look: Look, by: float) -> Floats:
    """So many px larger on each side; from the top on, clockwise: lines and corners by turns, of an ellipse the corners
    alone."""
    width, height = _size(look, by)
    left, top = (look["width"] - width) / 2.0, (look["height"] - height) / 2.0
    right, bottom = left + width, top + height
    if kind == "ellipse":
        radii = [(width / 2.0, height / 2.0)] * 4
    else:
        radii = [(max(r + by, 0.0), max(r + by, 0.0)) if r > 0.0 else (0.0, 0.0) for r, _ in corner_radii(look)]
    corners = [(left, top, 1, 1), (right, top, -1, 1), (right, bottom, -1, -1), (left, bottom, 1, -1)]
    # Where each corner begins and ends, on the way round.
    ends = []
    for index, ((x, y, across, down), (rx, ry)) in enumerate(zip(corners, radii, strict=True)):
        along, up = (x + across * rx, y), (x, y + down * ry)
        ends.append((up, along) if index % 2 == 0 else (along, up))
    cubics = []
    for index in (1, 2, 3, 0):
        corner, (start, end) = np.array(corners[index][:2]), (np.array(point) for point in ends[index])
        before = np.array(ends[index - 1][1])
        if kind != "ellipse":
            cubics.append([before, before, start, start])
        cubics.append([start, start + (corner - start) * ROUND, end + (corner - end) * ROUND, end])
    return np.array(cubics)


def _vertices(cubics: Floats) -> list[float]:
    """Each start with its handles, which are told from it; and of an open outline its end: x, y of all."""
    starts, ends = cubics[:, 0], cubics[-1, 3]
    points = np.concatenate((starts, ends[None]))
    outs = np.concatenate((cubics[:, 1] - starts, np.zeros((1, 2))))
    ins = np.concatenate((np.zeros((1, 2)), cubics[:, 2] - cubics[:, 3]))
    flat: list[float] = np.stack((points, ins, outs), axis=1).ravel().tolist()
    return flat


def _writes(closed: bool) -> Callable[[list[float]], Any]:
    def write(row: list[float]) -> Any:
        points = [row[i : i + 2] for i in range(0, len(row), 2)]
        vertices, ins, outs = points[0::3], points[1::3], points[2::3]
        if closed:
            # The last one is the first again.
            vertices, ins, outs = vertices[:-1], [ins[-1], *ins[1:-1]], outs[:-1]
        return {"c": closed, "v": vertices, "i": ins, "o": outs}

    return write


def _rgb(colour: str, shown: str) -> list[float]:
    """What is wholly transparent has no colour, and takes one that is seen."""
    r, g, b, alpha = parse_colour(colour)
    if not alpha:
        r, g, b, _ = parse_colour(shown)
    return [r / 255.0, g / 255.0, b / 255.0, 1.0]


def _stops(stops: Sequence[Stop], clear: bool) -> list[float]:
    colours = [parse_colour(stop.colour) for stop in stops]
    told = [number for stop, c in zip(stops, colours, strict=True) for number in (stop.at, *(v / 255.0 for v in c[:3]))]
    alphas = [number for stop, c in zip(stops, colours, strict=True) for number in (stop.at, c[3])]
    return told + (alphas if clear else [])


def _end(name: str, index: int, look: Look) -> tuple[float, float]:
    ends = ends_of(look[name], look["width"], look["height"])
    assert ends is not None
    return ends[index]


def ends_of(paint: Gradient, width: float, height: float) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """Where a straight gradient starts and ends, or the middle of a circle and a point of its edge; None of others."""
    if isinstance(paint, LinearGradient):
        return paint.line(width, height)
    if paint.kind == "radial" and paint.is_upright and abs(paint.stretch * width - height) < 1e-3 * height:
        centre = paint.centre_x * width, paint.centre_y * height
        return centre, (centre[0] + paint.radius * height, centre[1])
    return None
