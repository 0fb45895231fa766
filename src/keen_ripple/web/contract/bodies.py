"""What the page sends. Faults have their place in the body, and a remedy."""

from __future__ import annotations

from typing import Annotated, Any, Literal, TypeVar

from flask import request
from pydantic import Field, ValidationError

from keen_ripple.core.document import Piece, parsed
from keen_ripple.core.document.fields import Id, Value
from keen_ripple.core.document.piece import SafeArea
from keen_ripple.core.document.read import as_fault
from keen_ripple.core.document.transitions import Timing
from keen_ripple.core.limits import LATEST_EVENT_MS, MOST_KEPT_EVENTS, MOST_PARAMETERS
from keen_ripple.core.live.events import EventModel
from keen_ripple.starters import Starter
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.contract.parts import Patch, Sent, Unchecked

LARGEST_NUMBER = 1e12
MOST_STEPS = 100
LONGEST_PRESET_NAME = 40
Amount = Annotated[float, Field(ge=-LARGEST_NUMBER, le=LARGEST_NUMBER)]
B = TypeVar("B", bound="Body")


class Body(Sent):
    """What is sent as application/json."""


class NewPiece(Body):
    """A new piece by `name`: empty, of this size (px) where one is given, or as a `starter`; a copy of the piece
    `copy_of`; or the piece `document`."""

    name: str | None = None
    width: float | None = None
    height: float | None = None
    safe_area: SafeArea | None = None
    copy_of: str | None = None
    starter: Starter | None = None
    document: Annotated[dict[str, Any], Unchecked(Piece)] | None = None


class At(Body):
    """What is done to one revision."""

    revision: int


class Edit(At):
    """Edits that follow each other with the same `burst` are undone together."""

    label: str
    patch: Patch
    burst: str = ""


class NewRehearsal(Body):
    """What somebody did, and how long it was played."""

    name: str
    events: Annotated[list[Any], Unchecked(list[EventModel]), Field(max_length=MOST_KEPT_EVENTS)]
    until_ms: Annotated[float, Field(ge=0.0, le=LATEST_EVENT_MS)]


class Trial(Body):
    patch: Patch


class BetweenStates(Body):
    """`count` states on the way, spread along the easing."""

    from_: str = Field(alias="from")
    to: str
    count: Annotated[int, Field(ge=1, le=MOST_STEPS)]
    easing: str


class PathOf(Body):
    """The way of one layer, a point every so many ms."""

    layer: str
    every_ms: Amount


class GraphFor(Body):
    layer: str
    property: str


class ColourAt(Body):
    """A place in px of the piece."""

    state: str
    x: Amount
    y: Amount


class PlainLayers(Body):
    """The placement that is to become a group."""

    layer: str


class PieceOfGroup(Body):
    """The group of which a piece is to be made; it is called as the group is."""

    layer: str


class Retiming(Body):
    """By a factor, to a length in ms, or to frames per second."""

    by: Literal["factor", "length", "frames"]
    value: Amount


class TriedValues(Body):
    """Values by the ids of parameters."""

    values: Annotated[dict[Id, Value], Field(max_length=MOST_PARAMETERS)]


class SpringShape(Body):
    """A spring by what is seen of it; the overshoot as a share of the way, the start speed in progress per second."""

    overshoot: Amount
    settling_ms: Amount
    mass: Amount = 1.0
    velocity: Amount = 0.0


class Preset(Body):
    """A timing with a name, for every piece."""

    name: str
    timing: Timing


class PresetName(Body):
    name: str


class NewTake(Body):
    """The current timing, or that of take `of`; varied where it says how."""

    name: str
    of: int | None = None
    factor: Amount | None = None
    timing: Timing | None = None


class NewName(Body):
    """Another name for what is there."""

    name: str


class Drawing(Body):
    """The text of an SVG file."""

    name: str
    svg: str


def body(kind: type[B]) -> B:
    """What was sent, read as `kind`. Raises RequestFault, and DocumentFault for what is no JSON."""
    value = parsed(request.get_data()) if request.is_json else None
    if not isinstance(value, dict):
        raise RequestFault("The request holds no JSON object.", remedy="Send one, as application/json.")
    try:
        return kind.model_validate(value)
    except ValidationError as error:
        fault = as_fault(error.errors(include_url=False)[0])
        raise RequestFault(fault.message, place=fault.place, value=fault.value, remedy=fault.remedy) from None
