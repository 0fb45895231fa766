"""Transitions: what leads from state to state, when, and along which curve."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator

from keen_ripple.core import curves
from keen_ripple.core.document.fields import EasingText, Id, LayerPath, Milliseconds, Model
from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import LONGEST_NAME_OF_PROPERTY, MOST_LANES, MOST_STAGGERS

LONGEST_SPRING_S = 60.0


class Curve(Model):
    """A duration with an easing function."""

    kind: Literal["curve"] = "curve"
    duration_ms: Milliseconds
    easing: EasingText = "ease-in-out"

    def length_ms(self) -> int:
        """Whole ms, 0–600,000."""
        return self.duration_ms

    def progress(self) -> curves.Easing:
        """Progress over the share of the time, both 0 at the start and 1 at the end."""
        return curves.parse_easing(self.easing)


STIFFEST = 1e6
Positive = Annotated[float, Field(gt=0.0, le=STIFFEST)]


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
        """The same spring for the arithmetic: its speed is progress per second."""
        return curves.Spring(self.stiffness, self.damping, self.mass, self.velocity)

    def length_ms(self) -> int:
        """The settling time, in whole ms."""
        return curves.Settle.of(self.physics()).duration_ms

    def progress(self) -> curves.Easing:
        """Progress over the share of the settling time."""
        return curves.Settle.of(self.physics())


Timing = Annotated[Curve | Spring, Field(discriminator="kind")]


PropertyName = Annotated[str, Field(max_length=LONGEST_NAME_OF_PROPERTY)]


class Anchor(Model):
    """Another lane, or the transition's own timing where no layer is named, from which a lane's delay counts.

    `with`: from its start; `after`: from its end; `before-end`: back from its end.
    """

    edge: Literal["with", "after", "before-end"]
    layer: Id | None = None
    property: PropertyName | None = None


class Lane(Model):
    """The own timing of one layer, or of one of its properties, inside a transition.

    Without a timing it has that of the transition, later by the delay; with the style `cut` it changes at once then.
    """

    layer: Id
    property: PropertyName | None = None
    delay_ms: Milliseconds = 0
    anchor: Anchor | None = None
    style: Literal["tween", "cut"] = "tween"
    timing: Timing | None = None


class Stagger(Model):
    """Layers delayed one after another, in the order written.

    Either from one to the next by `each_ms`, or the last of them by `total_ms`. `origin` says which begins; the easing
    spreads the delays between the first and the last.
    """

    layers: Annotated[tuple[Id, ...], Field(min_length=2, max_length=500)]
    each_ms: Milliseconds | None = None
    total_ms: Milliseconds | None = None
    origin: Literal["first", "last", "centre"] = "first"
    easing: EasingText = "linear"

    @model_validator(mode="after")
    def _one_measure(self) -> Stagger:
        if (self.each_ms is None) == (self.total_ms is None):
            raise Fault("A stagger needs one of each_ms and total_ms.", remedy="Give exactly one of the two.")
        if len(set(self.layers)) < len(self.layers):
            raise Fault(
                "A layer stands twice in this stagger.", value=list(self.layers), remedy="Name each layer once."
            )
        return self

    def delays_ms(self) -> dict[str, int]:
        """The delay of each layer in whole ms."""
        count = len(self.layers)
        ranks = {
            "first": list(range(count)),
            "last": list(range(count - 1, -1, -1)),
            # Twice the distance from the middle, so that it is whole; even numbers have two in the middle.
            "centre": [abs(2 * i - (count - 1)) - (count - 1) % 2 for i in range(count)],
        }[self.origin]
        last = max(ranks) or 1
        steps = last // 2 if self.origin == "centre" else last
        total = self.total_ms if self.total_ms is not None else (self.each_ms or 0) * steps
        spread = curves.parse_easing(self.easing)
        # Halves are rounded up; an easing that overshoots never starts a layer before the transition.
        return {
            layer: max(math.floor(total * float(spread(rank / last)) + 0.5), 0)
            for layer, rank in zip(self.layers, ranks, strict=True)
        }


CueName = Literal[
    "hold",
    "appear",
    "media-end",
    "reaches",
    "tap",
    "double-tap",
    "press",
    "release",
    "long-press",
    "over",
    "out",
    "focus",
    "blur",
    "key",
    "in-view",
    "out-of-view",
]
"""What sets a transition off; the first four need no person."""

KeyName = Annotated[str, Field(min_length=1, max_length=32, description="As `KeyboardEvent.key` names it.")]


class Transition(Model):
    """The way from one state to another.

    `hold_ms` counts from the moment the state is reached. With the cue `hold` the transition then starts by itself,
    with `appear` too, but only where the piece begins; with `media-end` once the medium that `cue_layer` names has
    played to its end, from where it stands in the state, and the hold is over; with `reaches` as soon as the free
    placement that `cue_layer` names stands in `cue_state`, and the hold is over. With any other cue it is how long the
    state rests before the cue is heeded. `early_ms` starts it so long before the state is reached, in the middle of the
    motion that leads there.
    """

    id: Id
    from_: Id = Field(alias="from")
    to: Id
    cue: CueName = "hold"
    cue_layer: LayerPath | None = Field(
        default=None, description="The layer that is tapped, pressed or pointed at, or the medium."
    )
    cue_key: KeyName | None = Field(default=None, description="With the cue `key`: which one.")
    cue_state: Id | None = Field(
        default=None, description="With the cue `reaches`: the state of the free placement that `cue_layer` names."
    )
    cue_share: Annotated[float, Field(gt=0.0, le=1.0)] = Field(
        default=0.5, description="With `in-view` and `out-of-view`: the share of the layer that is in view, or was."
    )
    hold_ms: Milliseconds = 0
    early_ms: Milliseconds = 0
    style: Literal["tween", "cut", "cross-fade"] = "tween"
    timing: Timing
    lanes: Annotated[tuple[Lane, ...], Field(max_length=MOST_LANES)] = ()
    staggers: Annotated[tuple[Stagger, ...], Field(max_length=MOST_STAGGERS)] = ()

    @model_validator(mode="after")
    def _names_its_key(self) -> Transition:
        if (self.cue == "key") != (self.cue_key is not None):
            raise Fault(
                "The cue `key` needs cue_key, and no other cue has it.",
                value=self.cue_key,
                remedy='Name a key such as "ArrowRight", or leave cue_key out.',
            )
        return self

    @model_validator(mode="after")
    def _names_what_arrives(self) -> Transition:
        if (self.cue == "reaches") != (self.cue_state is not None) or (self.cue == "reaches" and not self.cue_layer):
            raise Fault(
                "The cue `reaches` needs cue_layer and cue_state, and no other cue has a cue_state.",
                value=self.cue_state,
                remedy="Name a placement that lives free, and a state of the piece in it.",
            )
        if self.cue == "reaches" and self.early_ms:
            raise Fault(
                "What waits for an arrival cannot leave early.", value=self.early_ms, remedy="Set early_ms to 0."
            )
        return self

    @model_validator(mode="after")
    def _leaves_once(self) -> Transition:
        if self.early_ms and self.hold_ms:
            raise Fault(
                "A transition cannot both hold and leave early.",
                value=self.early_ms,
                remedy="Set either hold_ms or early_ms to 0.",
            )
        return self
