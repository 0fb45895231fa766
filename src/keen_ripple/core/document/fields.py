"""The kinds of value that a document holds, each checked where it is read."""

from __future__ import annotations

import re
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BeforeValidator, Discriminator, Field, Tag

from keen_ripple.core.curves import parse_easing
from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import (
    FARTHEST,
    LONGEST_EASING,
    LONGEST_FONT,
    LONGEST_NAME,
    LONGEST_PATH,
    MOST_AXES,
    MOST_PARAMETERS,
    MOST_TRAITS,
)
from keen_ripple.core.outlines import canonical, parse
from keen_ripple.core.properties import Property
from keen_ripple.core.values import AxisPlace, Model, Paint, Shadow
from keen_ripple.core.values.data_url import check_medium, check_picture
from keen_ripple.core.values.font_file import check_font
from keen_ripple.core.values.model import Colour, Length

__all__ = [
    "Colour",
    "EasingText",
    "FontText",
    "Id",
    "LayerPath",
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
    parse(text)
    return canonical(text)


def _printable(text: str) -> str:
    found = UNPRINTABLE.search(text)
    if found:
        raise Fault(
            f"The text holds a sign that cannot be shown, U+{ord(found[0]):04X}.",
            value=text,
            remedy="Take it out, or write the text anew.",
        )
    return text


def _each_once(places: tuple[AxisPlace, ...]) -> tuple[AxisPlace, ...]:
    names = [place.axis for place in places]
    twice = next((name for name in names if names.count(name) > 1), None)
    if twice is not None:
        raise Fault(f"The axis {twice!r} stands twice.", value=twice, remedy="Say it once.")
    return places


def _whole(value: Any) -> Any:
    # JSON has one kind of number: 240.0 is as whole as 240.
    return int(value) if isinstance(value, float) and value.is_integer() else value


# Control characters and what is no character at all: no XML, and so no SVG, can hold them.
UNPRINTABLE = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\ufffe\uffff]")
ID = r"^[a-z0-9]+(-[a-z0-9]+)*$"
Id = Annotated[
    str, Field(pattern=ID, max_length=64, description="Lower-case letters and digits, in words joined by hyphens.")
]
LayerPath = Annotated[
    str,
    Field(
        pattern=ID.replace("$", "(/[a-z0-9]+(-[a-z0-9]+)*)*$"),
        max_length=512,
        description="The id of a layer; inside of a placement after its id and a slash.",
    ),
]
Name = Annotated[str, Field(min_length=1, max_length=LONGEST_NAME), AfterValidator(_printable)]
Milliseconds = Annotated[int, BeforeValidator(_whole), Field(ge=0, le=600_000, description="Whole milliseconds.")]
EasingText = Annotated[
    str, Field(max_length=LONGEST_EASING, description="A CSS easing function."), AfterValidator(_easing)
]
PathData = Annotated[str, Field(max_length=LONGEST_PATH, description="SVG path data."), AfterValidator(_path)]
Size = Annotated[float, Field(ge=1.0, le=8192.0, description="px")]
PICTURE = r"^data:image/(png|jpeg|webp);base64,[A-Za-z0-9+/]+={0,2}$"
MEDIUM = r"^data:(image/(gif|webp|png)|video/(mp4|webm)|application/json);base64,[A-Za-z0-9+/]+={0,2}$"
MediumText = Annotated[
    str,
    Field(pattern=MEDIUM, max_length=8_000_000, description="A medium as a data: URL."),
    AfterValidator(check_medium),
]
FONT = r"^data:font/woff2;base64,[A-Za-z0-9+/]+={0,2}$"
FontText = Annotated[
    str, Field(pattern=FONT, max_length=LONGEST_FONT, description="A font as a data: URL."), AfterValidator(check_font)
]
MediumLength = Annotated[int, BeforeValidator(_whole), Field(ge=1, le=600_000, description="Whole milliseconds.")]
SourceText = Annotated[
    str,
    Field(pattern=PICTURE, max_length=4_000_000, description="A picture as a data: URL."),
    AfterValidator(check_picture),
]

# What a parameter can be set to: a text, a colour, a picture, a state; a number or a time.
VALUES = ("text", "number")
Value = Annotated[
    Annotated[str, Field(max_length=4_000_000), AfterValidator(_printable), Tag("text")]
    | Annotated[float, Field(ge=-FARTHEST, le=FARTHEST), Tag("number")],
    Discriminator(lambda value: "text" if isinstance(value, str) else "number"),
]

_TYPES: dict[str, Any] = {
    "colour": Colour,
    "paint": Paint,
    "path": PathData,
    "visible": bool,
    "shadows": Annotated[tuple[Shadow, ...], Field(max_length=16)],
    "dash": Annotated[tuple[Length, ...], Field(max_length=16)],
    "axes": Annotated[tuple[AxisPlace, ...], Field(max_length=MOST_AXES), AfterValidator(_each_once)],
    "font_family": Name,
    "text": Annotated[str, Field(max_length=2000), AfterValidator(_printable)],
    "source": SourceText,
    "state": Id,
    "traits": Annotated[dict[Id, Id], Field(max_length=MOST_TRAITS)],
    "values": Annotated[dict[Id, Value], Field(max_length=MOST_PARAMETERS)],
}


def property_type(row: Property) -> Any:
    """The annotated type of one row of the property table."""
    if row.choices:
        return Literal[row.choices]
    if row.name in _TYPES or row.blend in _TYPES:
        return _TYPES.get(row.name) or _TYPES[row.blend]
    low = -FARTHEST if row.low is None else row.low
    high = FARTHEST if row.high is None else row.high
    return Annotated[float, Field(ge=low, le=high, description=row.unit or None)]
