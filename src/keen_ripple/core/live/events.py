"""Lists of events as JSON: what somebody does, and when."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter, ValidationError

from keen_ripple.core.document import Piece, walk
from keen_ripple.core.document.fields import LayerPath, Model
from keen_ripple.core.document.read import as_fault
from keen_ripple.core.document.transitions import CueName, KeyName
from keen_ripple.core.errors import MOST_FAULTS, DocumentFault, Fault
from keen_ripple.core.limits import FARTHEST, LATEST_EVENT_MS, MOST_EVENTS
from keen_ripple.core.live.hearing import Event


class EventModel(Model):
    t_ms: Annotated[float, Field(ge=0.0, le=LATEST_EVENT_MS, description="ms from the start of the piece.")]
    cue: CueName | Literal["scroll"]
    layer: LayerPath | None = None
    key: KeyName | None = None
    y: Annotated[float, Field(ge=0.0, le=FARTHEST)] | None = Field(
        default=None, description="With `scroll`: px of the content above the screen."
    )


EVENTS: TypeAdapter[list[EventModel]] = TypeAdapter(Annotated[list[EventModel], Field(max_length=MOST_EVENTS)])


def read_events(value: Any, piece: Piece | None = None) -> list[Event]:
    """The events that a JSON value describes, on layers of the piece. Raises DocumentFault with place and remedy.

    Without a piece layers are not looked at: some may have gone since.
    """
    try:
        events = EVENTS.validate_python(value)
    except ValidationError as error:
        details = error.errors(include_url=False)[:MOST_FAULTS]
        raise DocumentFault.of([as_fault(detail) for detail in details]) from None
    faults = list(_unknown_layers(events, piece)) if piece is not None else []
    if faults:
        raise DocumentFault.of(faults)
    return [Event(event.t_ms, event.cue, event.layer, event.key, event.y) for event in events]


def _unknown_layers(events: list[EventModel], piece: Piece) -> Iterator[Fault]:
    known = {layer.id for layer, _ in walk(piece.layers)} | {section.id for section in piece.sections}
    for index, event in enumerate(events):
        if event.layer is not None and event.layer not in known:
            yield Fault(
                f"There is no layer {event.layer!r}.",
                place=f"/{index}/layer",
                value=event.layer,
                remedy="Name a layer of the piece, or none for the whole of it.",
            )
