"""What no tape can say, as pictures: a layer with all that is in it, drawn frame by frame onto one sheet that CSS steps
through. It shows the lead-in once, and then the loop for ever."""

from __future__ import annotations

import base64
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property, reduce

import numpy as np

from keen_ripple.core.document import Piece, walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.measures.geometry import boxes
from keen_ripple.core.timeline import Timeline, each_sample
from keen_ripple.handoff.animation import Animation, Keyframe
from keen_ripple.handoff.css_text import px
from keen_ripple.handoff.frames import MOST_FRAMES, Frame, Part, columns_of, joined, on_a_sheet, part_of, slots_in
from keen_ripple.handoff.parts import looks_shown
from keen_ripple.handoff.progress import along, stage
from keen_ripple.media.encoders import webp_still
from keen_ripple.render.draw import Area, Pixels, draw_each, draw_layer

# How fine, and how often: the first that has room on a sheet is taken.
SCALES = (2.0, 1.0, 0.5)
RATES = (60.0, 30.0, 15.0)
SHEET_SIDE, MOST_PIXELS = 8192, 32_000_000
# At this scale, or on so many px, is looked where anything is seen at all; so many of these px around it are kept.
ROUGH, ROUGH_SIDE, AROUND = 0.25, 800.0, 1.5
# Of the time that all takes, about.
ROUGH_SHARE = 0.3
# px around all boxes, in which shadows and blurs end.
BEYOND = 160.0

# A layer that lies as it is drawn: what may carry it instead, and leaves what it shows as it is.
UPRIGHT = {
    **dict.fromkeys(("x", "y", "rotation", "skew_x", "skew_y", "rotation_x", "rotation_y", "perspective"), 0.0),
    **dict.fromkeys(("scale_x", "scale_y", "opacity"), 1.0),
    "visible": True,
}
# Where any moment may be seen, it is off by half of that time at most.
MIDDLE = 0.5
# Drawn as fine as it is ever seen, up to so many times.
FINEST = 4.0

Strip = tuple[int, list[tuple[float, int]]]
"""Length of all in ms, start of each frame in ms with its cell."""


@dataclass(frozen=True, eq=False)
class Flipbook:
    """The pictures of one layer, or of the whole piece, and which is seen when. They lie (px) in its group, or in the
    layer itself, if that is drawn upright."""

    area: Area
    scale: float
    cells: tuple[Pixels, ...]
    # The loop is empty where the run ends.
    lead_in: Strip
    loop: Strip
    # Where motion is unwanted.
    rest: int
    upright: bool

    @property
    def columns(self) -> int:
        return _columns(len(self.cells), self.area, self.scale)

    def look(self) -> dict[str, str]:
        """The CSS of its element, without motion."""
        left, top, width, height = self.area
        rows = -(-len(self.cells) // self.columns)
        size = f"{px(width * self.columns)} {px(height * rows)}"
        data = base64.b64encode(webp_still(on_a_sheet(self.cells, len(self.cells), self.columns))).decode()
        return {
            **({} if self.upright else {"translate": f"{px(left)} {px(top)}"}),
            "width": px(width),
            "height": px(height),
            "background": f'url("data:image/webp;base64,{data}") {self._place(self.rest)} / {size} no-repeat',
        }

    def animations(self, name: str) -> Iterator[Animation]:
        """Steps: each picture stays until the next."""
        (before, lead_in), (length, loop) = self.lead_in, self.loop
        if len(self.cells) == 1:
            return
        if before and lead_in:
            yield Animation(f"{name}_lead-in", 0, before, 1, self._steps(before, lead_in), easing="step-end")
        if loop:
            yield Animation(name, before, length, None, self._steps(length, loop), easing="step-end")

    def _steps(self, length: int, frames: Sequence[tuple[float, int]]) -> tuple[Keyframe, ...]:
        shown = [*(frame for frame in frames if frame[0] < length), (float(length), frames[-1][1])]
        return tuple(Keyframe(start, {"background-position": self._place(cell)}) for start, cell in shown)

    def _place(self, cell: int) -> str:
        _, _, width, height = self.area
        return f"{px(-(cell % self.columns) * width)} {px(-(cell // self.columns) * height)}"


def flipbook_of(timeline: Timeline, layer_id: str, upright: bool = False, within: float = MIDDLE) -> Flipbook:
    """Of a layer, or of the whole piece: drawn as often and as finely as there is room for. Each picture shows the
    moment `within` (0–1) the time that it stands for."""
    layer = next((layer for layer, _ in walk(timeline.piece.layers) if layer.id == layer_id), None)
    part = part_of(timeline.run)
    before = Part(0, part.begin_ms if part.again else 0, again=False)
    slowest = MOST_FRAMES * 1000.0 / max(part.length_ms, before.length_ms, 1)
    rates = [rate for rate in RATES if rate <= slowest] or [slowest]
    drawing = _Drawing(timeline, layer, upright, within)
    area: Area | None = None
    for rate in rates:
        strips = drawing.strips(before, part, rate)
        with stage(0.0, ROUGH_SHARE):
            area = area or drawing.area([*strips[0], *strips[1]])
        count = len(strips[0]) + len(strips[1])
        scales = [scale * drawing.finer for scale in SCALES]
        scale = next((scale for scale in scales if _has_room(count, area, scale)), None)
        if scale or rate == rates[-1]:
            with stage(ROUGH_SHARE, 1.0):
                return drawing.flipbook(area, scale or SCALES[-1], (before, part), strips)
    raise AssertionError


Strips = tuple[list[Frame], list[Frame]]


@dataclass(frozen=True)
class _Drawing:
    """What is drawn: a layer, or the whole piece; as it lies, or upright."""

    timeline: Timeline
    layer: LayerBase | None
    upright: bool
    within: float

    def strips(self, before: Part, part: Part, rate: float) -> Strips:
        """The frames of the lead-in and of the loop, of a run that ends all in the second."""
        lead_in = joined(self.timeline, slots_in(before, rate)[:-1], self._seen) if before.length_ms else []
        return lead_in, joined(self.timeline, slots_in(part, rate), self._seen)

    def _seen(self, pose: Pose) -> Pose:
        """As much of a pose as is drawn."""
        if self.layer is None:
            return pose
        own = {inner.id: pose[inner.id] for inner, _ in walk([self.layer])}
        return {**own, self.layer.id: {**pose[self.layer.id], **UPRIGHT}} if self.upright else own

    @cached_property
    def finer(self) -> float:
        """How much larger it is carried than it is, at most."""
        if self.layer is None or not self.upright:
            return 1.0
        sizes = [abs(look[of]) for look in looks_shown(self.timeline, self.layer.id) for of in ("scale_x", "scale_y")]
        return float(min(max(1.0, *sizes), FINEST))

    def pictures(self, moments: Sequence[float], area: Area, scale: float) -> Iterator[Pixels]:
        if self.layer is None:
            return draw_each(self.timeline, moments, scale, "none")
        piece, layer = self.timeline.piece, self.layer
        return (draw_layer(piece, layer, pose, area, scale) for pose in self._poses(moments))

    def _poses(self, moments: Sequence[float]) -> Iterator[Pose]:
        return map(self._seen, each_sample(self.timeline, moments))

    def area(self, frames: Sequence[Frame]) -> Area:
        """Where anything is seen in any of the frames, in whole px."""
        piece = self.timeline.piece
        if self.layer is None:
            return (0.0, 0.0, piece.width, piece.height)
        moments = [frame.t_ms for frame in frames]
        area = reach_of(piece, [self.layer], self._poses(moments))
        rough = min(ROUGH, ROUGH_SIDE / max(area[2:]))
        drawn = self.pictures(moments, area, rough)
        return seen_in(area, rough, (pixels for _, pixels in zip(along(moments), drawn, strict=True)))

    def flipbook(self, area: Area, scale: float, parts: tuple[Part, Part], strips: Strips) -> Flipbook:
        before, part = parts
        cells: list[Pixels] = []
        known: dict[bytes, int] = {}

        def moment_of(frame: Frame) -> float:
            length_ms = min(frame.length_ms, 1000.0 / RATES[0]) if frame.t_ms < part.end_ms else 0.0
            return frame.t_ms + length_ms * self.within

        def cell_of(pixels: Pixels) -> int:
            key = pixels.tobytes()
            if key not in known:
                known[key] = len(cells)
                cells.append(pixels)
            return known[key]

        frames = [*strips[0], *strips[1]]
        drawn = self.pictures([moment_of(frame) for frame in frames], area, scale)
        both = [(frame.t_ms, cell_of(pixels)) for frame, pixels in zip(along(frames), drawn, strict=True)]
        lead_in, loop = both[: len(strips[0])], both[len(strips[0]) :]
        rest = loop[-1][1]
        if part.again:
            loop = [(start - part.begin_ms, cell) for start, cell in loop]
            timed: tuple[Strip, Strip] = (before.length_ms, lead_in), (part.length_ms, loop)
        else:
            timed = (part.end_ms, loop), (0, [])
        return Flipbook(area, scale, tuple(cells), *timed, rest, self.upright)


def reach_of(piece: Piece, layers: Sequence[LayerBase], poses: Iterable[Pose]) -> Area:
    """As far as layers of one group can be seen at all: their boxes in all these poses, with room for shadows, blur and
    long texts, px of that group."""
    alone = piece.model_copy(update={"layers": tuple(layers)})
    found = np.array([box for pose in poses for box in boxes(alone, pose).values()])
    left, top = found[:, :2].min(axis=0).tolist()
    right, bottom = (found[:, :2] + found[:, 2:]).max(axis=0).tolist()
    more = BEYOND + max(right - left, bottom - top) / 2.0
    return (left - more, top - more, right - left + 2.0 * more, bottom - top + 2.0 * more)


def seen_in(area: Area, scale: float, drawn: Iterable[Pixels]) -> Area:
    """The part of an area in which anything is seen in one of its pictures, in whole px."""
    # One after another: all of them together may be gigabytes.
    seen = reduce(np.logical_or, (pixels[..., 3] > 0 for pixels in drawn))
    if not seen.any():
        return (0.0, 0.0, 1.0, 1.0)
    # Between two looks it may go a little farther, and what is seen a little is lost in the rough.
    around = AROUND / scale
    rows, columns = np.flatnonzero(seen.any(axis=1)), np.flatnonzero(seen.any(axis=0))
    x, y = area[0] + columns[0] / scale - around, area[1] + rows[0] / scale - around
    right, bottom = area[0] + (columns[-1] + 1) / scale + around, area[1] + (rows[-1] + 1) / scale + around
    return (float(round(x)), float(round(y)), float(round(right - x)), float(round(bottom - y)))


def _has_room(count: int, area: Area, scale: float) -> bool:
    width, height = (max(round(side * scale), 1) for side in area[2:])
    columns = _columns(count, area, scale)
    rows = -(-count // columns)
    fits = columns * width <= SHEET_SIDE and rows * height <= SHEET_SIDE
    return fits and columns * width * rows * height <= MOST_PIXELS


def _columns(count: int, area: Area, scale: float) -> int:
    _, _, width, height = area
    return columns_of(count, width, height, int(SHEET_SIDE / max(width * scale, 1.0)))
