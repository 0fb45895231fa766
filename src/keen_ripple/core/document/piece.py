"""The whole document."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field

from keen_ripple.core.document.fields import Colour, FontText, Id, Model, Name, Size
from keen_ripple.core.document.layers import Layer
from keen_ripple.core.document.looks import Look
from keen_ripple.core.document.parameters import Parameter
from keen_ripple.core.document.traits import Trait
from keen_ripple.core.document.transitions import Transition
from keen_ripple.core.document.undercurrents import Undercurrent
from keen_ripple.core.limits import (
    MOST_FONT_FILES,
    MOST_FONTS,
    MOST_GUIDES,
    MOST_LAYERS,
    MOST_PARAMETERS,
    MOST_SECTIONS,
    MOST_STATES,
    MOST_TRAITS,
    MOST_TRANSITIONS,
    MOST_UNDERCURRENTS,
)

FORMAT = 1
# Times that tell gestures apart, ms. 300 is how long browsers on phones wait after a tap whether another follows, and
# 500 after which they take a held finger for a long press; both are the usual values of touch systems.
DOUBLE_TAP_MS = 300
LONG_PRESS_MS = 500


def _number(value: Any) -> Any:
    # To Python, and so to what compares with it, true is 1.
    return str(value) if isinstance(value, bool) else value


Inset = Annotated[float, Field(ge=0.0, le=8192.0, description="px")]


class State(Model):
    """A keyframed look of the whole piece, as differences from the base, by layer."""

    id: Id
    name: Name
    changes: Annotated[dict[str, Look], Field(max_length=MOST_LAYERS)] = Field(default={})

    def of(self, layer_id: str) -> dict[str, Any]:
        """The properties of the layer that this state sets."""
        look = self.changes.get(layer_id)
        if look is None:
            return {}
        values = look.__dict__
        return {name: values[name] for name in look.model_fields_set}


class Section(Model):
    """A part of a content that is longer than its screen, under those before it."""

    id: Id
    name: Name
    height: Size


class SafeArea(Model):
    """How far from each edge of the piece the system of a device may lie over it, px. A guide: nothing follows it."""

    top: Inset = 0
    right: Inset = 0
    bottom: Inset = 0
    left: Inset = 0


Lying = Annotated[tuple[Annotated[float, Field(ge=-8192.0, le=8192.0)], ...], Field(max_length=MOST_GUIDES)]


class Guides(Model):
    """Lines to which layers snap while they are pulled, px from the left and from the top; nothing that plays follows.

    Besides, edges snap to every `grid` px, where that is said.
    """

    upright: Lying = ()
    level: Lying = ()
    grid: Annotated[float, Field(ge=1.0, le=1024.0, description="px")] | None = None


class FontFamily(Model):
    """A family that the piece brings, as files of its weights; a character comes from the first that has it."""

    family: Name
    files: Annotated[tuple[FontText, ...], Field(min_length=1, max_length=MOST_FONT_FILES)]


class Piece(Model):
    """One micro-animation."""

    format: Annotated[Literal[1], BeforeValidator(_number)] = Field(description="The version of this format.")
    id: Id
    name: Name
    width: Size
    height: Size
    ground: Colour | None = None
    clips: bool = Field(default=False, description="Whether what lies beyond its edge is cut off.")
    safe_area: SafeArea | None = Field(default=None, description="What is kept free at the edges of a screen.")
    guides: Guides | None = Field(default=None, description="Lines to which layers snap.")
    blend: Literal["oklab", "srgb"] = Field(default="oklab", description="The colour space of blending.")
    fonts: Annotated[tuple[FontFamily, ...], Field(max_length=MOST_FONTS)] = Field(
        default=(), description="Families besides those that are shipped."
    )
    layers: Annotated[tuple[Layer, ...], Field(max_length=MOST_LAYERS)] = ()
    states: tuple[State, ...] = Field(min_length=1, max_length=MOST_STATES)
    start: Id = Field(description="The state in which the piece starts.")
    transitions: Annotated[tuple[Transition, ...], Field(max_length=MOST_TRANSITIONS)] = ()
    plays: Annotated[int, Field(ge=1, le=10_000)] | None = Field(
        default=None, description="How often the loop is played before the piece rests; null for ever."
    )
    double_tap_ms: Annotated[int, Field(ge=50, le=2000)] = Field(
        default=DOUBLE_TAP_MS, description="Two taps within this time are one double tap."
    )
    long_press_ms: Annotated[int, Field(ge=50, le=5000)] = Field(
        default=LONG_PRESS_MS, description="What is held down for this time is pressed long."
    )
    undercurrents: Annotated[tuple[Undercurrent, ...], Field(max_length=MOST_UNDERCURRENTS)] = ()
    traits: Annotated[tuple[Trait, ...], Field(max_length=MOST_TRAITS)] = Field(
        default=(), description="Kinds in which the piece comes; a placement of it may choose."
    )
    sections: Annotated[tuple[Section, ...], Field(max_length=MOST_SECTIONS)] = Field(
        default=(), description="The content, where it is longer than the piece and scrolls."
    )
    parameters: Annotated[tuple[Parameter, ...], Field(max_length=MOST_PARAMETERS)] = Field(
        default=(), description="What a placement of this piece may set."
    )
