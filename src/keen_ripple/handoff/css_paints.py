"""Colours and gradients as CSS writes them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple
from urllib.parse import quote

from keen_ripple.core.blends.paints import with_places
from keen_ripple.core.colour import colour_text, oklab_of, parse_colour
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.values import ConicGradient, Gradient, LinearGradient, RadialGradient, Stop
from keen_ripple.handoff.css_text import deg, percent

# What is not blended is written in the way that is easiest to read.
RESTING = "srgb"


def colour(text: str, space: str) -> str:
    """Colours as CSS blends them in that space: oklab() in OKLab; hexadecimal ones, the legacy syntax, in sRGB."""
    if space == "srgb":
        return "transparent" if text == "none" else colour_text(parse_colour(text))
    lightness, a, b, alpha = oklab_of(text)
    plain = " ".join(css_number(c, 5) for c in (lightness, a, b))
    return f"oklab({plain})" if alpha == 1.0 else f"oklab({plain} / {css_number(alpha, 4)})"


class Word(NamedTuple):
    """A part of a gradient that may move by itself: what it is, as what CSS registers it, and how it is written."""

    name: str
    syntax: str
    text: str


def paint_image(paint: Gradient) -> str:
    """A gradient as a CSS image."""
    if isinstance(paint, RadialGradient) and not paint.is_upright:
        return _picture_of(paint)
    return image_of(paint, [word.text for word in words_of(paint, RESTING)])


def is_in_css(paint: Gradient) -> bool:
    """Whether CSS has such a gradient."""
    return not isinstance(paint, RadialGradient) or paint.is_upright


def words_of(paint: Gradient, space: str) -> list[Word]:
    """All that tells it from others of its kind, with as many stops."""
    stops = [
        (Word(f"colour-{n}", "<color>", colour(stop.colour, space)), Word(f"at-{n}", "<percentage>", percent(stop.at)))
        for n, stop in enumerate(paint.stops, 1)
    ]
    return [*_places(paint), *(word for stop in stops for word in stop)]


def _places(paint: Gradient) -> list[Word]:
    angle = [] if isinstance(paint, RadialGradient) else [Word("angle", "<angle>", deg(paint.angle))]
    if isinstance(paint, LinearGradient):
        return angle
    shares = {"x": paint.centre_x, "y": paint.centre_y}
    if isinstance(paint, RadialGradient):
        shares = {"across": paint.radius * paint.stretch, "down": paint.radius, **shares}
    return angle + [Word(name, "<percentage>", percent(share)) for name, share in shares.items()]


def image_of(paint: Gradient, words: Sequence[str], blended: str = "") -> str:
    """Such a gradient with these words in it; `blended` is said of the space between its stops."""
    count = len(_places(paint))
    stops = ", ".join(f"{colour} {at}" for colour, at in zip(words[count::2], words[count + 1 :: 2], strict=True))
    match paint:
        case LinearGradient():
            place = words[0]
        case ConicGradient():
            place = f"from {words[0]} at {words[1]} {words[2]}"
        case RadialGradient():
            place = f"{words[0]} {words[1]} at {words[2]} {words[3]}"
    return f"{paint.kind}-gradient({place}{blended}, {stops})"


def _picture_of(gradient: RadialGradient) -> str:
    """What CSS has no gradient for, as an SVG picture that is as large as the box."""
    places = " ".join(css_number(number, 5) for number in gradient.matrix)
    focus = zip(("fx", "fy"), gradient.focus, strict=True)
    attributes = " ".join(f"{name}='{css_number(at, 5)}'" for name, at in focus)
    stops = "".join(
        f"<stop offset='{css_number(stop.at, 5)}' stop-color='{colour_text(parse_colour(stop.colour))}'/>"
        for stop in premultiplied(gradient.stops)
    )
    svg = (
        "<svg xmlns='http://www.w3.org/2000/svg'>"
        f"<radialGradient id='g' cx='0' cy='0' r='1' {attributes} gradientTransform='matrix({places})'>{stops}"
        "</radialGradient><rect width='100%' height='100%' fill='url(#g)'/></svg>"
    )
    return f'url("data:image/svg+xml,{quote(svg, safe=SAFE)}")'


# What stands in a URL, and in a string of CSS, as it is.
SAFE = " ='/:().,-"
BETWEEN = 8


def premultiplied(stops: tuple[Stop, ...]) -> list[Stop]:
    """SVG blends what is partly transparent otherwise than CSS: stops in between keep to CSS's way.

    What is wholly transparent has the colour of what it is blended with, on either side.
    """
    found: list[Stop] = []
    for before, after in pairwise(stops):
        pair: tuple[Stop, ...] = (before, after)
        start, end = (parse_colour(stop.colour) for stop in pair)
        if not start[3] or not end[3]:
            shown = end if not start[3] else start
            pair = (_in(before, shown, start[3]), _in(after, shown, end[3]))
        elif start[3] != end[3] and start[:3] != end[:3] and before.at < after.at:
            places = [before.at + (after.at - before.at) * i / BETWEEN for i in range(BETWEEN + 1)]
            pair = tuple(with_places(pair, Counter(places)))
        found += [stop for stop in pair if stop not in found[-1:]]
    return found


def _in(stop: Stop, colour: Sequence[float], alpha: float) -> Stop:
    return Stop(at=stop.at, colour=colour_text((*colour[:3], alpha)))
