"""A run as pictures that follow each other: which moments are drawn, and how long each is seen."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.flow.run import Run
from keen_ripple.core.live.made import made_events
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.timeline import Timeline, each_sample, left_at, timeline_of_rehearsal
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.progress import along
from keen_ripple.media.ahead import ahead
from keen_ripple.render import draw_each
from keen_ripple.render.draw import Pixels

MOST_FRAMES = 3600
MOST_PIXELS = 400_000_000
"""Of all pictures together."""
LONGEST_ROUND_MS = 60_000
"""A common loop that is longer is not drawn whole."""


@dataclass(frozen=True)
class Part:
    """What of a run is shown, ms, and whether it begins again after that; `left_out` says what is not."""

    begin_ms: int
    end_ms: int
    again: bool
    left_out: tuple[str, ...] = ()

    @property
    def length_ms(self) -> int:
        return self.end_ms - self.begin_ms


@dataclass(frozen=True)
class Frame:
    """A picture of the moment `t_ms`, seen for `length_ms`: longer than others where nothing moves."""

    t_ms: float
    length_ms: int


def played(timeline: Timeline) -> Timeline:
    """What is shown of a piece: where nothing happens by itself, what happens when every way is gone once."""
    if timeline.run.total_ms or timeline.rehearsal is not None or not timeline.piece.transitions:
        return timeline
    try:
        return timeline_of_rehearsal(rehearse(timeline.piece, *made_events(timeline.piece)))
    except Fault:
        # Nothing can be set off: its start stands still.
        return timeline


def part_of(run: Run) -> Part:
    """One round of what goes on for ever, else all of it. A moving picture begins again with its first frame, so a
    lead-in, which comes once, is not in it."""
    if run.end_ms is not None:
        return Part(0, run.end_ms, again=False)
    loop, left_out = run.loop_ms or 0, []
    begin, common = run.lead_in_ms, run.common_loop_ms
    if common is not None and common <= LONGEST_ROUND_MS:
        begin, loop = max(begin, run.common_from_ms), common
    elif common != loop:
        length = "never" if common is None else f"only after {common} ms"
        left_out.append(f"What goes round beside the loop meets it again {length}: at the end of {loop} ms it jumps.")
    if begin:
        left_out.append(f"The lead-in of {begin} ms: what is played over and over begins with the loop.")
    return Part(begin, begin + loop, again=True, left_out=tuple(left_out))


def frames_of(timeline: Timeline, fps: float, clock_ms: int = 1) -> list[Frame]:
    """The frames of the part that is shown; what looks the same is one frame. Raises Fault for more than 3600."""
    return joined(timeline, slots_of(timeline, fps, clock_ms))


def slots_of(timeline: Timeline, fps: float, clock_ms: int = 1) -> list[Frame]:
    """All frames at `fps`, as near as a clock of whole `clock_ms` can say; together they last exactly as long as the
    part, rounded to that clock. A part that is not played again ends with its last look."""
    return slots_in(part_of(timeline.run), fps, clock_ms)


def slots_in(part: Part, fps: float, clock_ms: int = 1) -> list[Frame]:
    """The same of any part."""
    count = max(round(part.length_ms * fps / 1000.0), 1)
    if count > MOST_FRAMES:
        most = MOST_FRAMES * 1000.0 / part.length_ms
        remedy = f"Choose at most {most:.3g} per second."
        raise Fault(f"{part.length_ms} ms would be {count} pictures.", place="/fps", value=fps, remedy=remedy)
    cuts = sorted({round(part.length_ms * i / count / clock_ms) * clock_ms for i in range(count + 1)})
    slots = [Frame(part.begin_ms + start, end - start) for start, end in pairwise(cuts)]
    if not part.again:
        slots.append(Frame(part.end_ms, max(round(1000.0 / fps / clock_ms), 1) * clock_ms))
    return slots


def joined(timeline: Timeline, slots: Sequence[Frame], of: Callable[[Pose], Pose] = lambda pose: pose) -> list[Frame]:
    """Without those that show what the one before shows; `of` leaves of a pose what is shown."""
    found: list[Frame] = []
    before = None
    for slot, pose in zip(slots, each_sample(timeline, [slot.t_ms for slot in slots]), strict=True):
        look = (of(pose), left_at(timeline, slot.t_ms))
        if found and look == before:
            found[-1] = Frame(found[-1].t_ms, found[-1].length_ms + slot.length_ms)
        else:
            found.append(slot)
        before = look
    return found


def check_room(timeline: Timeline, frames: Sequence[Frame], options: Options) -> tuple[int, int]:
    """Width and height of each picture, px. Raises Fault for pictures that are too many px together."""
    piece = timeline.piece
    width, height = (max(round(side * options.scale), 1) for side in (piece.width, piece.height))
    pixels = width * height * len(frames)
    if pixels > MOST_PIXELS:
        remedy = "Choose a smaller scale, or fewer per second."
        raise Fault(f"{len(frames)} pictures of {width} × {height} px are too much.", place="/scale", remedy=remedy)
    return width, height


def pictures(timeline: Timeline, frames: Sequence[Frame], options: Options) -> Iterator[Pixels]:
    """The frames, drawn one by one: (height, width, 4), RGBA, not premultiplied. While one is worked at, the next is
    drawn."""
    drawn = draw_each(timeline, [frame.t_ms for frame in frames], options.scale, options.ground)
    yield from ahead(lambda _: next(drawn), along(frames))


def columns_of(count: int, width: float, height: float, most: int) -> int:
    """How many columns a sheet of so many pictures has, at most `most`: it is as near to a square as can be."""
    return int(min(max(round((count * height / width) ** 0.5), 1), max(most, 1), count))


def on_a_sheet(frames: Iterable[Pixels], count: int, columns: int) -> Pixels:
    """So many pictures of one size, row by row."""
    sheet = None
    for index, pixels in enumerate(frames):
        height, width = pixels.shape[:2]
        if sheet is None:
            sheet = np.zeros((-(-count // columns) * height, columns * width, 4), np.uint8)
        y, x = index // columns * height, index % columns * width
        sheet[y : y + height, x : x + width] = pixels
    assert sheet is not None
    return sheet
