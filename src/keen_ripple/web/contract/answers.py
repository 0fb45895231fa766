"""What the server answers."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from flask import Response
from pydantic import Field
from pydantic_core import to_json

from keen_ripple.core.document import Piece
from keen_ripple.core.document.transitions import Timing, Transition
from keen_ripple.core.document.undercurrents import Undercurrent
from keen_ripple.core.flow.run import SegmentTold
from keen_ripple.core.live.compared import Change
from keen_ripple.core.live.events import EventModel
from keen_ripple.core.measures.readings import LegReading, TimingReading
from keen_ripple.core.measures.seam import SeamTold
from keen_ripple.store.pieces import ShelfEntry, Use
from keen_ripple.web.contract.lettering import CoveredFont, FontFacts, LackingLetters
from keen_ripple.web.contract.originals import DrawnLayer, Original, OriginalParameter
from keen_ripple.web.contract.parts import PackedTape, Patch, Sent, SentLook, Unchecked


class Answer(Sent):
    """What is answered as application/json."""

    def told(self, status: int = 200) -> Response:
        """The response that says it; what was never set is left out."""
        fields = type(self).model_fields
        said = {fields[name].alias or name: getattr(self, name) for name in fields if name in self.model_fields_set}
        return Response(to_json(said, by_alias=True), status, mimetype="application/json")


class Made(Answer):
    id: str


class Shelved(Answer):
    """The ids of pieces that are new on the shelf, and how many were there already."""

    added: list[str]
    known: int


class Numbered(Answer):
    number: int


class Named(Answer):
    name: str


class Row(Answer):
    row: int


class Revision(Answer):
    """`holds` is another text whenever something that stands in the piece has changed."""

    revision: int
    holds: str


class Shelf(Answer):
    """The pieces, and which of them stand in which others."""

    pieces: list[ShelfEntry]
    uses: list[Use]


class RunningUndercurrent(Sent):
    """What goes round on its own: a tape of one period."""

    id: str
    period_ms: int
    section: str | None
    states: tuple[str, ...] | None
    tape: PackedTape


class RunReading(Sent):
    """`transitions` and `legs`: for each segment the transition it belongs to and the leg that plays it; neither where
    the piece rests while others play in it. From `common_from_ms` on everything looks after `common_loop_ms` as before,
    undercurrents and free placements too."""

    lead_in_ms: int
    loop_ms: int | None
    total_ms: int
    final_state: str
    segments: list[SegmentTold]
    transitions: list[str]
    legs: list[str]
    plays: int | None
    common_loop_ms: int | None
    common_from_ms: int
    undercurrents: list[RunningUndercurrent]
    voices: list[RunningVoice]


class RunningVoice(Sent):
    """A free placement: its run, which begins at a moment of the one around it, with the tapes of its legs and what its
    poses have of the properties that it moves."""

    placement: str
    begins_ms: float
    run: RunReading
    tapes: dict[str, PackedTape]
    poses: Annotated[Any, Unchecked(dict[str, dict[str, SentLook]])]


class TransitionReading(LegReading):
    """With the tracks of its tape that the page does not have yet."""

    tape: PackedTape


class Motion(Answer):
    """What the core made of states and transitions; after an edit, of those that changed.

    `layers` are what is drawn, with what stands in placements; none where that is just what the document says.
    `originals` are the pieces that stand in them, by their ids. `fonts` are all families but the shipped ones.
    """

    layers: Annotated[Any, Unchecked(list[DrawnLayer] | None)] = None
    originals: Annotated[Any, Unchecked(dict[str, Original])] = Field(default_factory=dict)
    fonts: dict[str, FontFacts] = Field(default_factory=dict)
    lacking: list[LackingLetters] = Field(default_factory=list)
    covered: list[CoveredFont] = Field(default_factory=list)
    poses: Annotated[Any, Unchecked(dict[str, dict[str, SentLook]])]
    seam: SeamTold | None
    transitions: Annotated[Any, Unchecked(dict[str, TransitionReading])]


class Computed(Motion):
    run: RunReading


class Head(Sent):
    """A revision; `undo` and `redo` name the edits that can be taken back and made again. `holds` is another text
    whenever something that stands in the piece has changed."""

    id: str
    revision: int
    holds: str
    undo: str | None
    redo: str | None


class WholeAnswer(Head, Computed):
    document: Annotated[Any, Unchecked(Piece)]


class ChangeAnswer(Head, Motion):
    """What an edit changed: the run only where it is another."""

    run: RunReading | None = None
    patch: Patch


class Steps(Answer):
    """What each state on the way would say, by layer."""

    steps: Annotated[Any, Unchecked(list[dict[str, SentLook]])]


class Points(Answer):
    points: list[tuple[float, float]]


class GraphOf(Answer):
    """A property through the run as its curves have it: [ms, value, per second], and the extremes."""

    points: list[tuple[float, float, float]]
    low: float
    high: float
    fastest: float


class Colour(Answer):
    colour: str


class Retimed(Answer):
    """An edit as the server worked it out."""

    label: str
    patch: Patch


class Parameters(Answer):
    """What copies of the piece may set, with what it has itself."""

    parameters: list[OriginalParameter]


class MadeOfGroup(Answer):
    """The new piece is on the shelf; the edit puts it in place of the group."""

    id: str
    label: str
    patch: Patch


class FittedSpring(Answer):
    """`held` says what held it back, if it is another one than was asked for."""

    timing: Annotated[Any, Unchecked(Timing)]
    reading: TimingReading
    held: str | None


class KeptPreset(Sent):
    name: str
    timing: Annotated[Any, Unchecked(Timing)]


class Presets(Answer):
    presets: list[KeptPreset]


class Take(Sent):
    """A timing that was kept; without motion where it does not fit the piece any more, which the fault says."""

    number: int
    name: str
    transitions: Annotated[Any, Unchecked(list[Transition])]
    undercurrents: Annotated[Any, Unchecked(list[Undercurrent])]
    computed: Computed | None
    fault: str | None
    # How many of its transitions lead from or to a state that has gone; they are left out.
    lost: int


class Difference(Sent):
    """What differs by its id; `name` is that of its states, or its own."""

    kind: Literal["transition", "undercurrent"]
    id: str
    name: str
    cells: list[str]


class Takes(Answer):
    """`table`: what differs, the piece as it stands first, then every take that fits."""

    takes: list[Take]
    table: list[Difference]


class KeptRehearsal(Sent):
    """Events that were kept, and how they come to something else than at that revision; the fault says why they cannot
    be played any more."""

    number: int
    name: str
    events: Annotated[Any, Unchecked(list[EventModel])]
    until_ms: float
    revision: int
    changes: list[Change]
    fault: str | None


class MadeRehearsal(Sent):
    """Events that set off every transition once."""

    events: Annotated[Any, Unchecked(list[EventModel])]
    until_ms: float


class Rehearsals(Answer):
    """`tables` are the runtime's; `made` is what the core acts by itself."""

    tables: Annotated[Any, Unchecked(dict[str, Any])]
    made: MadeRehearsal
    kept: list[KeptRehearsal]


class PastRevision(Sent):
    revision: int
    label: str


class History(Answer):
    history: list[PastRevision]


class OtherEdit(Sent):
    label: str
    patch: Patch


class FaultTold(Sent):
    """What is wrong, where, what stood there, and what to do."""

    message: str
    place: str
    value: Any
    remedy: str


class ErrorTold(FaultTold):
    """`all`: of a piece, each of its faults. Of a stale edit: the newest revision, and what came in between."""

    kind: str
    all: tuple[FaultTold, ...] = ()
    revision: int | None = None
    changes: tuple[OtherEdit, ...] = ()


class Failure(Answer):
    error: ErrorTold
