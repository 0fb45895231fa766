"""The kinds of value that a document holds, each checked where it is read."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BeforeValidator, Field

from keen_ripple.core.curves import parse_easing
from keen_ripple.core.outlines import parse as parse_path
from keen_ripple.core.properties import Property
from keen_ripple.core.values import Model, Paint, Shadow
from keen_ripple.core.values.model import FAR, Colour, Length

__all__ = [
    "Colour",
    "EasingText",
    "Id",
    "MediumLength",
    "MediumText",
    "Milliseconds",
    "Model",
    "Name",
    "Size",
    "property_type",
]


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
EasingText = Annotated[str, AfterValidator(_easing), Field(description="A CSS easing function.")]
PathData = Annotated[str, AfterValidator(_path), Field(description="SVG path data.")]
Size = Annotated[float, Field(ge=1.0, le=8192.0, description="px")]
PICTURE = r"^data:image/(png|jpeg|webp);base64,[A-Za-z0-9+/]+={0,2}$"
MEDIUM = r"^data:(image/(gif|webp)|video/(mp4|webm));base64,[A-Za-z0-9+/]+={0,2}$"
MediumText = Annotated[str, Field(pattern=MEDIUM, max_length=16_000_000, description="A medium as a data: URL.")]
MediumLength = Annotated[int, BeforeValidator(_whole), Field(ge=1, le=600_000, description="Whole milliseconds.")]
SourceText = Annotated[str, Field(pattern=PICTURE, max_length=4_000_000, description="A picture as a data: URL.")]

_TYPES: dict[str, Any] = {
    "colour": Colour,
    "paint": Paint,
    "path": PathData,
    "visible": bool,
    "shadows": Annotated[tuple[Shadow, ...], Field(max_length=16)],
    "dash": Annotated[tuple[Length, ...], Field(max_length=16)],
    "text": Annotated[str, Field(max_length=2000)],
    "source": SourceText,
}


def property_type(row: Property) -> Any:
    """The annotated type of one row of the property table."""
    if row.choices:
        return Literal[row.choices]
    if row.name in _TYPES or row.blend in _TYPES:
        return _TYPES.get(row.name) or _TYPES[row.blend]
    low = -FAR if row.low is None else row.low
    high = FAR if row.high is None else row.high
    return Annotated[float, Field(ge=low, le=high, description=row.unit or None)]
