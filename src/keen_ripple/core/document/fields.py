"""The kinds of value that a document holds, each checked where it is read."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.curves import parse_easing
from keen_ripple.core.paths import parse as parse_path
from keen_ripple.core.properties import Property


class Model(BaseModel):
    """Frozen, exact in its types, and without unknown fields."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, allow_inf_nan=False)


def _colour(text: str) -> str:
    parse_colour(text)
    return text


def _easing(text: str) -> str:
    parse_easing(text)
    return text


def _path(text: str) -> str:
    parse_path(text)
    return text


def _whole(value: Any) -> Any:
    # JSON has one kind of number: 240.0 is as whole as 240.
    return int(value) if isinstance(value, float) and value.is_integer() else value


Id = Annotated[
    str,
    Field(
        pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$",
        max_length=64,
        description="Lower-case letters and digits, in words joined by hyphens.",
    ),
]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Milliseconds = Annotated[int, BeforeValidator(_whole), Field(ge=0, le=600_000, description="Whole milliseconds.")]
Colour = Annotated[str, AfterValidator(_colour), Field(description="Any CSS colour, or none.")]
EasingText = Annotated[str, AfterValidator(_easing), Field(description="A CSS easing function.")]
PathData = Annotated[str, AfterValidator(_path), Field(description="SVG path data.")]
Size = Annotated[float, Field(ge=1.0, le=8192.0, description="px")]
# Beyond this the arithmetic of browsers loses fractions of a pixel.
FAR = 100_000.0


def property_type(row: Property) -> Any:
    """The annotated type of one row of the property table."""
    if row.choices:
        return Literal[row.choices]
    if row.blend == "colour":
        return Colour
    if row.name == "path":
        return PathData
    if row.name == "text":
        return Annotated[str, Field(max_length=2000)]
    low = -FAR if row.low is None else row.low
    high = FAR if row.high is None else row.high
    return Annotated[float, Field(ge=low, le=high, description=row.unit or None)]
