"""What no tape can say, as pictures: a layer with all that is in it, drawn frame by frame onto one sheet that CSS steps
through. It shows the lead-in once, and then the loop for ever."""

from __future__ import annotations

import base64
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import reduce

import numpy as np

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.document import Piece, walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.measures.geometry import boxes
from keen_ripple.core.timeline import Timeline, sample
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css
from keen_ripple.handoff.css_text import px
from keen_ripple.handoff.frames import MOST_FRAMES, Frame, Part, columns_of, joined, on_a_sheet, part_of, slots_in
from keen_ripple.handoff.progress import along, stage
from keen_ripple.media.encoders import webp_still
from keen_ripple.render.draw import Area, Pixels, draw_parts

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
PLACES = 5


@dataclass(frozen=True, eq=False)
class Flipbook:
    """The pictures of one layer, or of the whole piece: where they lie in its group (px), and which is seen when."""

    layer: str
    area: Area
    scale: float
    cells: tuple[Pixels, ...]
    # (length of all in ms, start of each frame in ms with its cell); the loop is empty where the run ends.
    lead_in: Strip
    loop: Strip
    # Where motion is unwanted.
    rest: int

    @property
    def columns(self) -> int:
        return _columns(len(self.cells), self.area, self.scale)

    def style(self) -> dict[str, str]:
        """Of its element, without its motion."""
        left, top, width, height = self.area
        rows = -(-len(self.cells) // self.columns)
        size = f"{px(width * self.columns)} {px(height * rows)}"
        data = base64.b64encode(webp_still(on_a_sheet(self.cells, len(self.cells), self.columns))).decode()
        return {
            "translate": f"{px(left)} {px(top)}",
            "width": px(width),
            "height": px(height),
            "background": f'url("data:image/webp;base64,{data}") {self._place(self.rest)} / {size} no-repeat',
        }

    def animation(self, name: str) -> str:
        """Steps: each picture stays until the next."""
        parts = []
        if self.lead_in[0] and self.lead_in[1]:
            parts.append(f"{name}_lead-in {self.lead_in[0]}ms step-end both")
        if self.loop[1]:
            parts.append(f"{name} {self.loop[0]}ms step-end {self.lead_in[0]}ms infinite")
        return ", ".join(parts)

    def keyframes(self, name: str) -> Iterator[str]:
        for suffix, (length, frames) in (("_lead-in", self.lead_in), ("", self.loop)):
            if not length or not frames:
                continue
            yield f"@keyframes {name}{suffix} {{"
            for start, cell in [*(frame for frame in frames if frame[0] < length), (length, frames[-1][1])]:
                at = css_number(start / length * 100.0, PLACES)
                yield f"  {at}% {{ background-position: {self._place(cell)}; }}"
            yield "}"

    def web_animations(self) -> list[tuple[list[dict[str, object]], dict[str, object]]]:
        """The same for the Web Animations API: keyframes, each list with its timing."""
        found: list[tuple[list[dict[str, object]], dict[str, object]]] = []
        for (length, frames), again in ((self.lead_in, False), (self.loop, True)):
            if not length or not frames:
                continue
            steps: list[dict[str, object]] = [
                {"offset": round(start / length, 9), "easing": "step-end", "backgroundPosition": self._place(cell)}
                for start, cell in [*(frame for frame in frames if frame[0] < length), (length, frames[-1][1])]
            ]
            timing: dict[str, object] = {"duration": length}
            timing |= {"delay": self.lead_in[0], "iterations": None} if again else {"fill": "both"}
            found.append((steps, timing))
        return found

    def _place(self, cell: int) -> str:
        _, _, width, height = self.area
        return f"{px(-(cell % self.columns) * width)} {px(-(cell // self.columns) * height)}"


Strip = tuple[int, list[tuple[float, int]]]


def flipbooks_of(timeline: Timeline, own_markup: bool = False) -> dict[str, Flipbook]:
    """Of each layer that CSS cannot show, or of the whole piece; see `beyond_css`."""
    return {layer: flipbook_of(timeline, layer) for layer in along(list(beyond_css(timeline, own_markup)))}


def flipbook_of(timeline: Timeline, layer_id: str) -> Flipbook:
    """Drawn as often and as finely as there is room for."""
    layer = next((layer for layer, _ in walk(timeline.piece.layers) if layer.id == layer_id), None)
    part = part_of(timeline.run)
    before = Part(0, part.begin_ms if part.again else 0, again=False)
    slowest = MOST_FRAMES * 1000.0 / max(part.length_ms, before.length_ms, 1)
    rates = [rate for rate in RATES if rate <= slowest] or [slowest]
    area: Area | None = None
    for rate in rates:
        strips = _strips(timeline, layer, before, part, rate)
        with stage(0.0, ROUGH_SHARE):
            area = area or _area(timeline, layer, [*strips[0], *strips[1]])
        count = len(strips[0]) + len(strips[1])
        scale = next((scale for scale in SCALES if _has_room(count, area, scale)), None)
        if scale or rate == rates[-1]:
            with stage(ROUGH_SHARE, 1.0):
                return _drawn(timeline, layer, area, scale or SCALES[-1], (before, part), strips)
    raise AssertionError


Strips = tuple[list[Frame], list[Frame]]


def _strips(timeline: Timeline, layer: LayerBase | None, before: Part, part: Part, rate: float) -> Strips:
    """The frames of the lead-in and of the loop, of a run that ends all in the second."""
    own = None if layer is None else {inner.id for inner, _ in walk([layer])}
    lead_in = joined(timeline, slots_in(before, rate)[:-1], own) if before.length_ms else []
    return lead_in, joined(timeline, slots_in(part, rate), own)


def _drawn(
    timeline: Timeline, layer: LayerBase | None, area: Area, scale: float, parts: tuple[Part, Part], strips: Strips
) -> Flipbook:
    before, part = parts
    cells: list[Pixels] = []
    known: dict[bytes, int] = {}

    def moment_of(frame: Frame) -> float:
        # The middle of what it stands for: it is off by half of it at most.
        within = min(frame.length_ms, 1000.0 / RATES[0]) / 2.0 if frame.t_ms < part.end_ms else 0.0
        return frame.t_ms + within

    def cell_of(pixels: Pixels) -> int:
        key = pixels.tobytes()
        if key not in known:
            known[key] = len(cells)
            cells.append(pixels)
        return known[key]

    frames = [*strips[0], *strips[1]]
    drawn = draw_parts(timeline, [moment_of(frame) for frame in frames], layer, area, scale)
    both = [(frame.t_ms, cell_of(pixels)) for frame, pixels in zip(along(frames), drawn, strict=True)]
    lead_in, loop = both[: len(strips[0])], both[len(strips[0]) :]
    rest = loop[-1][1]
    if not part.again:
        return Flipbook(_id(layer), area, scale, tuple(cells), (part.end_ms, loop), (0, []), rest)
    loop = [(start - part.begin_ms, cell) for start, cell in loop]
    return Flipbook(_id(layer), area, scale, tuple(cells), (before.length_ms, lead_in), (part.length_ms, loop), rest)


def _id(layer: LayerBase | None) -> str:
    return WHOLE if layer is None else layer.id


def _area(timeline: Timeline, layer: LayerBase | None, frames: Sequence[Frame]) -> Area:
    """Where anything of the layer is seen in any of the frames, in whole px of its group."""
    if layer is None:
        return (0.0, 0.0, timeline.piece.width, timeline.piece.height)
    moments = [frame.t_ms for frame in frames]
    area = reach_of(timeline.piece, [layer], sample(timeline, moments))
    rough = min(ROUGH, ROUGH_SIDE / max(area[2:]))
    drawn = draw_parts(timeline, moments, layer, area, rough)
    return seen_in(area, rough, (pixels for _, pixels in zip(along(moments), drawn, strict=True)))


def reach_of(piece: Piece, layers: Sequence[LayerBase], poses: Sequence[Pose]) -> Area:
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
