"""What all models of the document share, and the numbers and texts they are made of."""

from __future__ import annotations

from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.limits import FARTHEST


class Model(BaseModel):
    """Frozen, exact in its types, and without unknown fields."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, allow_inf_nan=False)


def _colour(text: str) -> str:
    parse_colour(text)
    return text


Colour = Annotated[str, AfterValidator(_colour), Field(description="Any CSS colour, or none.")]
Number = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST)]
Length = Annotated[float, Field(ge=0.0, le=FARTHEST, description="px")]
Share = Annotated[float, Field(ge=0.0, le=1.0)]
