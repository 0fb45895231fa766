"""Parameters: values of a piece that each of its placements may set for itself."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from keen_ripple.core.document.fields import Id, Model, Name
from keen_ripple.core.document.transitions import PropertyName
from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import MOST_BINDS

ParameterKind = Literal["text", "colour", "number", "time", "picture", "state"]


class Bind(Model):
    """One place that a parameter is written into.

    A `property` of a `layer`: its base, or what `state` says of it; of a gradient the colour of a `stop`, of shadows
    that of a `shadow`, both counted from 0; of the values of a placement that of its original's `parameter`. Or the
    duration of a `transition`, or with `hold` how long its state is held before it, or the period of an `undercurrent`,
    in whole ms.
    """

    layer: Id | None = None
    property: PropertyName | None = None
    state: Id | None = None
    stop: Annotated[int, Field(ge=0, lt=64)] | None = None
    shadow: Annotated[int, Field(ge=0, lt=64)] | None = None
    parameter: Id | None = None
    transition: Id | None = None
    hold: bool = False
    undercurrent: Id | None = None

    @model_validator(mode="after")
    def _leads_somewhere(self) -> Bind:
        targets = [name for name in ("layer", "transition", "undercurrent") if getattr(self, name) is not None]
        if len(targets) != 1 or (self.layer is None) != (self.property is None):
            raise Fault(
                "A value is bound to a property of a layer, to a transition, or to an undercurrent.",
                value=targets,
                remedy="Give layer and property, or transition, or undercurrent.",
            )
        if (self.property == "values") != (self.parameter is not None):
            raise Fault(
                "Of the values of a placement one parameter of its original is bound.",
                value=self.parameter,
                remedy="Give the property `values` with the id of a parameter, or neither.",
            )
        return self


class Parameter(Model):
    """A value with a name, and where it goes. What a placement does not set stays as the piece itself has it."""

    id: Id
    name: Name
    kind: ParameterKind
    bind: Annotated[tuple[Bind, ...], Field(min_length=1, max_length=MOST_BINDS)]
