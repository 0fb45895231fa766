"""Moving pictures for people who only look: frames drawn once, as GIF, APNG, WebP, WebM or a sprite sheet."""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import accumulate

import numpy as np

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.frames import (
    Frame,
    check_room,
    columns_of,
    frames_of,
    on_a_sheet,
    part_of,
    pictures,
    played,
    slots_of,
)
from keen_ripple.handoff.options import OF_PICTURES, Options
from keen_ripple.handoff.progress import stage
from keen_ripple.handoff.report import Report, left_out_by_cue
from keen_ripple.media import encoders
from keen_ripple.render import png
from keen_ripple.render.draw import Pixels

SHEET_SIDE = 8192
"""px; larger pictures are refused by some that show them."""
PALETTE_FRAMES, PALETTE_PIXELS = 24, 2_000_000
HELD_PIXELS = 60_000_000
"""Of all frames of the palette together; else they are drawn twice."""
BY_DRAWING = 0.5
"""The share of a GIF's time."""
CLOCK_OF_GIF_MS, FASTEST_OF_GIF = 10, 50.0


@dataclass(frozen=True)
class Drawn:
    """What an encoder is given: the frames of a timeline and how they are to look."""

    timeline: Timeline
    frames: Sequence[Frame]
    again: bool
    options: Options

    def pixels(self, chosen: Iterable[int] | None = None) -> Iterator[Pixels]:
        """Of all frames, or of the chosen ones."""
        frames = self.frames if chosen is None else [self.frames[i] for i in chosen]
        return pictures(self.timeline, frames, self.options)

    @property
    def lengths_ms(self) -> list[int]:
        return [frame.length_ms for frame in self.frames]

    @property
    def is_clear(self) -> bool:
        """Whether what lies behind may be seen through."""
        ground = self.options.ground or self.timeline.piece.ground or "none"
        return parse_colour(ground)[3] < 1.0


Encode = Callable[[Drawn], bytes]
FramesOf = Callable[[Timeline, float, int], list[Frame]]


@dataclass(frozen=True)
class MovingPicture:
    """One file of frames. `clock_ms` is the step in which it says its times."""

    name: str
    media_type: str
    encode: Encode
    fps: float
    fastest: float = 120.0
    clock_ms: int = 1
    takes: Collection[str] = OF_PICTURES

    @property
    def endings(self) -> Mapping[str, str]:
        # As browsers and file managers know it.
        return {"png" if self.name == "apng" else self.name: self.media_type}

    def report(self, timeline: Timeline, options: Options) -> Report:
        return _report(self, timeline, options)

    def files(self, timeline: Timeline, options: Options) -> Files:
        drawn = self.drawn(timeline, options)
        return dict.fromkeys(self.endings, self.encode(drawn))

    def drawn(self, timeline: Timeline, options: Options, frames: FramesOf = frames_of) -> Drawn:
        """Raises Fault for options that it does not have, and for pictures that are too many or too large."""
        options.check(self.name, self.takes)
        fps = options.fps or self.fps
        if fps > self.fastest:
            remedy = f"Choose at most {self.fastest:g} per second."
            raise Fault(f"{self.name} cannot say {fps:g} pictures per second.", place="/fps", remedy=remedy)
        timeline = played(timeline)
        found = frames(timeline, fps, self.clock_ms)
        check_room(timeline, found, options)
        return Drawn(timeline, found, part_of(timeline.run).again, options)


def _report(form: MovingPicture | SpriteSheet, timeline: Timeline, options: Options) -> Report:
    shown = played(timeline)
    part = part_of(shown.run)
    notes = (*part.left_out, *left_out_by_cue(shown, "a picture answers to nobody"))
    try:
        drawn = _planned(form, timeline, options)
    except Fault as fault:
        return Report("Nothing.", notes, (fault,))
    width, height = check_room(shown, drawn.frames, options)
    if len(drawn.frames) == 1:
        return Report(f"One picture of {width} × {height} px: nothing moves.", notes, ())
    length = sum(drawn.lengths_ms)
    if part.again and length != part.length_ms:
        notes = (f"{length - part.length_ms:+d} ms of the loop: the times of a GIF are hundredths of a second.", *notes)
    if form.name == "gif" and drawn.is_clear:
        note = "Half transparency: of a GIF each pixel is seen or not. A background keeps soft edges soft."
        notes = (note, *notes)
    if form.name == "webm":
        note = "Half of the sharpness of colours, as in all such films: a larger scale shows less of that."
        notes = (note, *notes)
    what = "Every way once" if shown is not timeline else "The loop" if part.again else "The run"
    rate = f"{options.fps or form.fps:g} pictures a second"
    how = ", over and over" if part.again else ""
    return Report(f"{what}, {part.length_ms} ms, {rate} of {width} × {height} px{how}.", notes, ())


def _planned(form: MovingPicture | SpriteSheet, timeline: Timeline, options: Options) -> Drawn:
    """What would be drawn, known at once where there is room for all frames even if no two look the same."""
    try:
        return form.drawn(timeline, options, slots_of)
    except Fault:
        return form.drawn(timeline, options)


def _gif(drawn: Drawn) -> bytes:
    """The frames that the palette is made of are drawn first."""
    count = len(drawn.frames)
    chosen = sorted({round(i) for i in np.linspace(0, count - 1, PALETTE_FRAMES)})
    width, height = check_room(drawn.timeline, drawn.frames, drawn.options)
    some: list[Pixels] = []
    known: dict[int, Pixels] = {}
    step = max(math.ceil(math.sqrt(width * height * len(chosen) / PALETTE_PIXELS)), 1)
    first = len(chosen) / count * BY_DRAWING
    with stage(0.0, first):
        for i, pixels in zip(chosen, drawn.pixels(chosen), strict=True):
            some.append(pixels[::step, ::step].copy())
            if width * height * len(chosen) <= HELD_PIXELS:
                known[i] = pixels
    with stage(first, 1.0):
        frames = _in_order(drawn, known)
        return encoders.gif(frames, drawn.lengths_ms, drawn.again, some, drawn.options.dither)


def _in_order(drawn: Drawn, known: dict[int, Pixels]) -> Iterator[Pixels]:
    """All frames; those that are known are let go of as they are given."""
    others = drawn.pixels([i for i in range(len(drawn.frames)) if i not in known])
    for i in range(len(drawn.frames)):
        yield known.pop(i) if i in known else next(others)


GIF = MovingPicture("gif", "image/gif", _gif, 25.0, FASTEST_OF_GIF, CLOCK_OF_GIF_MS, takes=OF_PICTURES | {"dither"})
APNG = MovingPicture("apng", "image/apng", lambda d: encoders.apng(d.pixels(), d.lengths_ms, d.again), 30.0)
WEBP = MovingPicture("webp", "image/webp", lambda d: encoders.webp(d.pixels(), d.lengths_ms, d.again), 30.0)
WEBM = MovingPicture("webm", "video/webm", lambda d: encoders.webm(d.pixels(), d.lengths_ms, d.is_clear), 60.0)


@dataclass(frozen=True)
class SpriteSheet:
    """All frames on one picture, row by row, and a JSON file that says where each is and when."""

    name: str = "sprite"
    fps: float = 30.0
    takes: Collection[str] = OF_PICTURES

    @property
    def endings(self) -> Mapping[str, str]:
        return {"sprite.png": "image/png", "sprite.json": "application/json"}

    def report(self, timeline: Timeline, options: Options) -> Report:
        return _report(self, timeline, options)

    def drawn(self, timeline: Timeline, options: Options, frames: FramesOf = frames_of) -> Drawn:
        """Raises Fault for options that it does not have, and for frames that have no room on one picture."""
        options.check(self.name, self.takes)
        timeline = played(timeline)
        found = frames(timeline, options.fps or self.fps, 1)
        width, height = check_room(timeline, found, options)
        columns, rows = _grid(len(found), width, height)
        if columns * width > SHEET_SIDE or rows * height > SHEET_SIDE:
            fault = f"{len(found)} pictures of {width} × {height} px have no room on one of {SHEET_SIDE} px."
            raise Fault(fault, place="/scale", remedy="Choose a smaller scale, or fewer per second.")
        return Drawn(timeline, found, part_of(timeline.run).again, options)

    def files(self, timeline: Timeline, options: Options) -> Files:
        drawn = self.drawn(timeline, options)
        width, height = check_room(drawn.timeline, drawn.frames, options)
        columns, _ = _grid(len(drawn.frames), width, height)
        places = [(i % columns * width, i // columns * height) for i in range(len(drawn.frames))]
        said = _said(drawn, places, width, height)
        sheet = png(on_a_sheet(drawn.pixels(), len(drawn.frames), columns))
        return {"sprite.png": sheet, "sprite.json": (json.dumps(said, indent=1) + "\n").encode()}


def _grid(count: int, width: int, height: int) -> tuple[int, int]:
    """Columns and rows."""
    columns = columns_of(count, width, height, SHEET_SIDE // width)
    return columns, math.ceil(count / columns)


def _said(drawn: Drawn, places: Sequence[tuple[int, int]], width: int, height: int) -> dict[str, object]:
    """Times in ms, places in px of the sheet."""
    starts = [0, *accumulate(drawn.lengths_ms)]
    return {
        "piece": drawn.timeline.piece.id,
        "picture": f"{drawn.timeline.piece.id}.sprite.png",
        "width": width,
        "height": height,
        "scale": drawn.options.scale,
        "length_ms": starts[-1],
        "again": drawn.again,
        "frames": [
            {"x": x, "y": y, "start_ms": start, "length_ms": frame.length_ms}
            for frame, (x, y), start in zip(drawn.frames, places, starts, strict=False)
        ],
    }


SPRITE = SpriteSheet()
