"""What a hand-off will hold of a piece, told before anybody takes it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import Timeline

BY_ITSELF = ("hold", "appear", "media-end", "reaches")


@dataclass(frozen=True)
class Report:
    """`holds` is what comes out, `leaves_out` what of the piece does not; `refused` is why nothing comes out at all."""

    holds: str
    leaves_out: tuple[str, ...]
    refused: tuple[Fault, ...]
    # What is said otherwise than the format says things by itself.
    said: tuple[str, ...] = ()


def report_of(timeline: Timeline, refused: Sequence[Fault], notes: Iterable[str] = ()) -> Report:
    """Of a format that plays what happens by itself. `notes` say what else is left out."""
    left_out = left_out_by_cue(timeline, "this page answers to nobody")
    return Report(held(timeline), (*notes, *left_out), tuple(refused))


def held(timeline: Timeline) -> str:
    """What plays by itself, and for how long."""
    run = timeline.run
    if timeline.rehearsal is not None:
        return f"What happened in {run.total_ms} ms of a rehearsal, played once."
    if not run.total_ms:
        return "The start state, standing still: nothing happens by itself."
    if run.loop_ms is None:
        return f"The run of {run.total_ms} ms, played once."
    lead_in = f", after a lead-in of {run.lead_in_ms} ms" if run.lead_in_ms else ""
    return f"The loop of {run.loop_ms} ms{lead_in}."


def left_out_by_cue(timeline: Timeline, why: str) -> Iterator[str]:
    """The ways that are not seen in what plays by itself."""
    if timeline.rehearsal is not None:
        # It is a film: what did not happen in it is not in it.
        return
    names = {state.id: state.name for state in timeline.piece.states}
    played = {segment.transition for segment in timeline.run.segments}
    for transition in timeline.piece.transitions:
        way = f"{names[transition.from_]} → {names[transition.to]}"
        if transition.cue not in BY_ITSELF:
            yield f"{way}: it waits for {transition.cue}, and {why}."
        elif transition.id not in played:
            yield f"{way}: it is never reached by itself."
