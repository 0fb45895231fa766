"""What is told of hand-offs."""

from __future__ import annotations

from typing import Literal

from keen_ripple.web.contract.answers import Answer
from keen_ripple.web.contract.parts import Sent


class Refusal(Sent):
    message: str
    place: str
    remedy: str


class OfRun(Sent):
    """The part of the run that a file shows, ms, and whether it is played again and again."""

    begin_ms: float
    end_ms: float
    again: bool


class HandoffReport(Answer):
    """What a file for others would hold, told before it is made; `refused` says why there is none.

    `endings` are those of its files; where there are several, a download is a zip of them.
    """

    name: str
    endings: list[str]
    holds: str
    leaves_out: tuple[str, ...]
    # What is said otherwise than the format says things by itself.
    said: tuple[str, ...]
    refused: list[Refusal]
    # None for what plays the run itself, its lead-in too, or does not play.
    part: OfRun | None


class Handoffs(Answer):
    formats: list[HandoffReport]


class HandoffMeasured(Answer):
    """How far a file is from what the core computes, in a sentence; what of it was not measured so, or why nothing."""

    said: str | None
    left_out: list[str]
    why_not: str | None


class JobTold(Answer):
    """How a job stands: `share` of it is done, 0 to 1, and about `left_s` seconds are left, if that is known. `ahead`
    of it so many wait; it is left alone where it waits though none does. `sizes` are the bytes of its files by their
    endings, once they are there."""

    id: str
    state: Literal["waiting", "running", "done", "stopped", "failed"]
    share: float
    left_s: float | None
    ahead: int
    is_left_alone: bool
    sizes: dict[str, int]
    fault: Refusal | None


class Link(Answer):
    """Under `/p/` and this, whoever knows it sees the piece; none where nobody does."""

    token: str | None
