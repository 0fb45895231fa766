"""Transitions: what leads from state to state, when, and along which curve."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from keen_ripple.core import curves
from keen_ripple.core.document.fields import EasingText, Id, Milliseconds, Model
from keen_ripple.core.errors import Fault

LONGEST_SPRING_S = 60.0


class Curve(Model):
    """A duration with an easing function."""

    kind: Literal["curve"] = "curve"
    duration_ms: Milliseconds
    easing: EasingText = "ease-in-out"

    def length_ms(self) -> int:
        return self.duration_ms

    def progress(self) -> curves.Easing:
        return curves.parse_easing(self.easing)


Positive = Annotated[float, Field(gt=0.0, le=1e6)]


class Spring(Model):
    """A spring; it lasts as long as it takes to settle."""

    kind: Literal["spring"]
    stiffness: Positive
    damping: Positive
    mass: Positive = 1.0
    velocity: Annotated[float, Field(ge=-1000.0, le=1000.0, description="Progress per second at the start.")] = 0.0

    @model_validator(mode="after")
    def _settles(self) -> Spring:
        seconds = self.physics().settling_time_s()
        if seconds > LONGEST_SPRING_S:
            raise Fault(
                f"This spring takes {seconds:.0f} s to settle.",
                value=self.damping,
                remedy="Raise the damping or the stiffness until it settles within 60 s.",
            )
        return self

    def physics(self) -> curves.Spring:
        return curves.Spring(self.stiffness, self.damping, self.mass, self.velocity)

    def length_ms(self) -> int:
        return curves.Settle.of(self.physics()).duration_ms

    def progress(self) -> curves.Easing:
        return curves.Settle.of(self.physics())


Timing = Annotated[Curve | Spring, Field(discriminator="kind")]


class Lane(Model):
    """The own timing of one layer, or of one of its properties, inside a transition.

    Without a timing it has that of the transition, later by the delay.
    """

    layer: Id
    property: str | None = None
    delay_ms: Milliseconds = 0
    timing: Timing | None = None


class Transition(Model):
    """The way from one state to another.

    `hold_ms` counts from the moment the state is reached. With the cue `hold` the transition then starts by itself;
    with any other cue it is how long the state rests before the cue is heeded.
    """

    id: Id
    from_: Id = Field(alias="from")
    to: Id
    cue: Literal["hold", "tap"] = "hold"
    hold_ms: Milliseconds = 0
    style: Literal["tween", "cut"] = "tween"
    timing: Timing
    lanes: tuple[Lane, ...] = ()
