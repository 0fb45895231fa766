"""What bodies and answers are made of."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, GetCoreSchemaHandler
from pydantic_core import CoreSchema, core_schema
from typing_extensions import TypeAliasType, TypedDict

from keen_ripple.core.values import ConicGradient, LinearGradient, RadialGradient


@dataclass(frozen=True)
class Unchecked:
    """Marks JSON of a `kind` of which no more is checked here than the type it stands at: the core made it, or will
    read it with faults of its own."""

    kind: Any

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        told = handler.generate_schema(self.kind)
        return core_schema.no_info_wrap_validator_function(
            lambda value, check: check(value),
            handler(source),
            json_schema_input_schema=told,
            metadata={"pydantic_js_functions": [lambda _, schema_of: schema_of(told)]},
        )


class Sent(BaseModel):
    """What bodies and answers share."""

    model_config = ConfigDict(strict=True, frozen=True, allow_inf_nan=False, serialize_by_alias=True)


class Setting(Sent):
    op: Literal["add", "replace", "test"]
    path: str
    value: Any


class Removal(Sent):
    op: Literal["remove"]
    path: str


class Relocation(Sent):
    op: Literal["move", "copy"]
    from_: str = Field(alias="from")
    path: str


Operation = TypeAliasType("Operation", Setting | Removal | Relocation)
"""One operation of JSON Patch (RFC 6902)."""
Patch = Annotated[list[Any], Unchecked(list[Operation])]
SentGradient = LinearGradient | RadialGradient | ConicGradient


class ShadowTold(TypedDict):
    """A shadow with all it has; px."""

    x: float
    y: float
    blur: float
    spread: float
    colour: str
    inset: bool


class AxisTold(TypedDict):
    """A place on an axis of a font."""

    axis: str
    value: float


SentValue = TypeAliasType(
    "SentValue",
    float | str | bool | SentGradient | tuple[ShadowTold, ...] | tuple[AxisTold, ...] | tuple[float, ...],
)
"""A value of a property."""
SentLook = TypeAliasType("SentLook", dict[str, SentValue])
"""Properties of a layer."""


class SwitchForm(TypedDict):
    """0 in a row is the first of the values, 1 the second; between them, of a fade, the share of the second."""

    kind: Literal["switch", "fade"]
    values: tuple[SentValue, SentValue]


class PlainForm(TypedDict):
    """Lengths, one in each column; or 1 / a length, 0 where there is none."""

    kind: Literal["lengths", "inverse"]


class AxesForm(TypedDict):
    """The place on each axis of a font, in this order."""

    kind: Literal["axes"]
    axes: list[str]


class ShadowsForm(TypedDict):
    """For each shadow x, y, blur, spread, then for each its colour."""

    kind: Literal["shadows"]
    inset: list[bool]


class GradientForm(TypedDict):
    """The numbers named, the place of each stop, then the colour of each."""

    kind: Literal["gradient"]
    gradient: Literal["linear", "radial", "conic"]
    numbers: list[str]
    stops: int


PathForm = TypedDict("PathForm", {"kind": Literal["path"], "commands": str, "from": list[float], "to": list[float]})
Form = TypeAliasType("Form", SwitchForm | PlainForm | AxesForm | ShadowsForm | GradientForm | PathForm)
"""What the rows of a track hold."""


class PackedTape(TypedDict):
    """`tracks`: layer, property, knots, numbers per knot, and what they hold if neither a number nor a colour.

    `data`: base64 of little-endian Float32, for each track its times, then its rows.
    """

    tracks: list[tuple[str, str, int, int, Form | None]]
    data: str
