"""Gradients in motion: what moves of them are custom properties, registered so that browsers blend them (CSS Properties
and Values API Level 1)."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from keen_ripple.core.values import Gradient, Paint, RadialGradient, Stop
from keen_ripple.handoff.css_paints import RESTING, image_of, is_in_css, words_of
from keen_ripple.handoff.declaration import Declaration, Look


@dataclass(frozen=True)
class Registered:
    """A custom property: its name, as what its values are read, and one of them."""

    name: str
    syntax: str
    initial: str

    def lines(self) -> list[str]:
        body = (f'syntax: "{self.syntax}"', "inherits: false", f"initial-value: {self.initial}")
        return [f"@property {self.name} {{", *(f"  {part};" for part in body), "}"]


@dataclass(frozen=True)
class MovingFill:
    """The background of a box whose gradient moves, and the properties that it is made of."""

    declarations: tuple[Declaration, ...]
    registered: tuple[Registered, ...]


def moving_fill(fills: Sequence[Paint], prefix: str) -> MovingFill | None:
    """For all that fills a box in turn; None where it stands still, or is of several kinds. The names of its properties
    begin with `prefix`."""
    like = next((fill for fill in fills if not isinstance(fill, str)), None)
    if like is None or len(set(fills)) == 1 or not _are_alike(fills, like):
        return None
    words = [words_of(_as_gradient(fill, like), RESTING) for fill in fills]
    moving = [n for n in range(len(words[0])) if len({each[n] for each in words}) > 1]
    names = {n: f"--{prefix}_{words[0][n].name}" for n in moving}
    written = [f"var({names[n]})" if n in names else word.text for n, word in enumerate(words[0])]
    image = image_of(like, written, " in srgb")
    registered = tuple(Registered(name, words[0][n].syntax, words[0][n].text) for n, name in names.items())
    # Colours go on where motion is unwanted.
    properties = (
        Declaration(name, ("fill",), _word(like, n), calm=words[0][n].syntax == "<color>") for n, name in names.items()
    )
    return MovingFill((Declaration("background", (), lambda _look, _space: image), *properties), registered)


def _are_alike(fills: Sequence[Paint], like: Gradient) -> bool:
    """Whether they differ in nothing but numbers and colours; a colour is one gradient among those that differ only in
    their colours."""
    gradients = [fill for fill in fills if not isinstance(fill, str)]
    if any(each.kind != like.kind or len(each.stops) != len(like.stops) or not is_in_css(each) for each in gradients):
        return False
    if any(isinstance(fill, str) for fill in fills):
        return len({_as_gradient("#000000", each) for each in gradients}) == 1
    # The width of an ellipse is the product of two numbers.
    sides = [(each.radius, each.stretch) for each in gradients if isinstance(each, RadialGradient)]
    return not sides or any(len(set(numbers)) == 1 for numbers in zip(*sides, strict=True))


def _as_gradient(fill: Paint, like: Gradient) -> Gradient:
    if not isinstance(fill, str):
        return fill
    return like.model_copy(update={"stops": tuple(Stop(at=stop.at, colour=fill) for stop in like.stops)})


def _word(like: Gradient, n: int) -> Callable[[Look, str], str]:
    return lambda look, space: words_of(_as_gradient(look["fill"], like), space)[n].text
