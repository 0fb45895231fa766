"""Paints: a colour, or a gradient laid over the box of its layer (SVG 2, section 14; CSS Images Level 4, section 3)."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import AfterValidator, Discriminator, Field, Tag

from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import FARTHEST
from keen_ripple.core.values.model import Colour, Model, Number, Share


class Stop(Model):
    """A colour at a share of the way."""

    at: Share
    colour: Colour


def _in_order(stops: tuple[Stop, ...]) -> tuple[Stop, ...]:
    for before, after in pairwise(stops):
        if after.at < before.at:
            raise Fault(
                f"The stop at {after.at:g} comes after the one at {before.at:g}.",
                value=after.at,
                remedy="Write the stops in the order of their places.",
            )
    return stops


Stops = Annotated[tuple[Stop, ...], Field(min_length=2, max_length=32), AfterValidator(_in_order)]
Degrees = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, description="°")]


class LinearGradient(Model):
    """Along `angle`, clockwise from upwards as in CSS; its line reaches from corner to corner of the box."""

    kind: Literal["linear"]
    angle: Degrees = 180.0
    stops: Stops


class RadialGradient(Model):
    """From a centre outwards; centre and radius are shares of the box's width and height."""

    kind: Literal["radial"]
    centre_x: Number = 0.5
    centre_y: Number = 0.5
    radius: Annotated[float, Field(ge=0.0, le=FARTHEST)] = 0.5
    stops: Stops


class ConicGradient(Model):
    """Round a centre, beginning at `angle`, clockwise from upwards as in CSS."""

    kind: Literal["conic"]
    angle: Degrees = 0.0
    centre_x: Number = 0.5
    centre_y: Number = 0.5
    stops: Stops


Gradient = LinearGradient | RadialGradient | ConicGradient
GRADIENTS = {"linear": LinearGradient, "radial": RadialGradient, "conic": ConicGradient}


def _kind(value: object) -> str:
    kind = value.get("kind") if isinstance(value, dict) else getattr(value, "kind", None)
    return kind if isinstance(kind, str) else "colour"


Paint = Annotated[
    Annotated[Colour, Tag("colour")]
    | Annotated[LinearGradient, Tag("linear")]
    | Annotated[RadialGradient, Tag("radial")]
    | Annotated[ConicGradient, Tag("conic")],
    Discriminator(_kind),
]
