"""One picture: a poster, or any moment."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field

from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.frames import part_of, played
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.report import Report
from keen_ripple.render import draw_at, png
from keen_ripple.render.draw import MOST_PIXELS

# px for each px of the piece: enough to tell how much is seen.
ROUGH = 0.25


@dataclass(frozen=True)
class Still:
    name: str = "still"
    takes: Collection[str] = frozenset({"at", "scale", "ground"})
    endings: Mapping[str, str] = field(default_factory=lambda: {"still.png": "image/png"})

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        try:
            width, height = _size(timeline, options)
        except Fault as fault:
            return Report("Nothing.", (), (fault,))
        when = "the state at rest of which most is seen" if options.at is None else f"the moment {options.at:g} ms"
        return Report(f"One picture of {width} × {height} px: {when}.", (), ())

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        shown = played(timeline)
        _size(shown, options)
        return {"still.png": png(draw_at(shown, _moment(shown, options), options.scale, options.ground))}


STILL = Still()


def _size(timeline: Timeline, options: Options) -> tuple[int, int]:
    """Raises Fault for more px than are drawn at once."""
    piece = timeline.piece
    width, height = (max(round(side * options.scale), 1) for side in (piece.width, piece.height))
    if width * height > MOST_PIXELS:
        raise Fault(f"{width} × {height} px are too much.", place="/scale", remedy="Choose a smaller scale.")
    return width, height


def _moment(timeline: Timeline, options: Options) -> float:
    """As it is asked for; else the first rest of the fullest state."""
    if options.at is not None:
        return options.at
    part = part_of(timeline.run)
    rests = [segment.start_ms for segment in timeline.run.segments if segment.kind == "hold"]
    inside = [t for t in rests if part.begin_ms <= t <= part.end_ms] or [float(part.begin_ms)]
    return max(inside, key=lambda t: int(draw_at(timeline, t, ROUGH, "none")[..., 3].sum()))
