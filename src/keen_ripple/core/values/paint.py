"""Paints: a colour, or a gradient laid over the box of its layer (SVG 2, section 14; CSS Images Level 4, section 3)."""

from __future__ import annotations

import math
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

    def line(self, width: float, height: float) -> tuple[tuple[float, float], tuple[float, float]]:
        """Where it starts and ends in a box of that size: through the middle, as long as the corners need (CSS Images
        Level 3, section 3.1)."""
        turn = math.radians(self.angle)
        x, y = math.sin(turn), -math.cos(turn)
        half = (abs(width * x) + abs(height * y)) / 2.0
        return (width / 2.0 - x * half, height / 2.0 - y * half), (width / 2.0 + x * half, height / 2.0 + y * half)


class RadialGradient(Model):
    """From a focus outwards to an ellipse; centre and radius are shares of the box's width and height.

    As if the box were a square: a circle of that radius, `stretch` times as wide as it is high, then turned by `angle`.
    The focus lies in that circle, from its centre in shares of its radius; beyond 1 it counts as at its edge.
    """

    kind: Literal["radial"]
    centre_x: Number = 0.5
    centre_y: Number = 0.5
    radius: Annotated[float, Field(ge=0.0, le=FARTHEST)] = 0.5
    stretch: Annotated[float, Field(ge=0.0, le=FARTHEST)] = 1.0
    angle: Degrees = 0.0
    focus_x: Number = 0.0
    focus_y: Number = 0.0
    stops: Stops

    @property
    def is_upright(self) -> bool:
        """Whether it neither leans nor has its focus beside its centre, as gradients in CSS."""
        return self.angle % 180.0 == self.focus_x == self.focus_y == 0.0

    @property
    def matrix(self) -> tuple[float, float, float, float, float, float]:
        """(a, b, c, d, e, f) from the circle of radius 1 round 0 to the box, with sides of 1."""
        turn, across, down = math.radians(self.angle), self.radius * self.stretch, self.radius
        cos, sin = math.cos(turn), math.sin(turn)
        return (across * cos, across * sin, -down * sin, down * cos, self.centre_x, self.centre_y)

    @property
    def focus(self) -> tuple[float, float]:
        """In that circle, and just inside of it at most: at its edge nothing would be seen on one side."""
        far = max(math.hypot(self.focus_x, self.focus_y) / FOCUS_AT_MOST, 1.0)
        return (self.focus_x / far, self.focus_y / far)


FOCUS_AT_MOST = 0.99


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
