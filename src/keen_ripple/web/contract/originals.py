"""What the page is told of pieces that stand in a piece."""

from __future__ import annotations

from typing import Literal, NotRequired

from typing_extensions import TypedDict

from keen_ripple.core.document.parameters import ParameterKind
from keen_ripple.web.contract.parts import Sent


class OriginalState(Sent):
    id: str
    name: str


class OriginalParameter(Sent):
    """`value` is what the original itself has; none where what it was bound to has gone. `states` are those of which a
    choice of state chooses: of the piece that stands in the original.
    """

    id: str
    name: str
    kind: ParameterKind
    value: str | float | None
    states: list[OriginalState]


class OriginalTrait(Sent):
    """`shows` is the option that the original itself shows."""

    id: str
    name: str
    shows: str
    options: list[OriginalState]


class Original(Sent):
    """What whoever sets a placement has to know of the piece in it."""

    name: str
    start: str
    states: list[OriginalState]
    parameters: list[OriginalParameter]
    traits: list[OriginalTrait]


class DrawnLayer(TypedDict):
    """What a scene has to know of a layer, besides its looks; inside of a copy its id is `copy/layer`."""

    id: str
    name: str
    kind: Literal["group", "rectangle", "ellipse", "path", "text", "picture", "medium", "placement"]
    locked: bool
    mask: bool
    pinned: NotRequired[bool]
    layers: NotRequired[list[DrawnLayer]]
