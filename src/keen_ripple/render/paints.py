"""Colours and gradients as Skia paints, laid out as CSS does."""

from __future__ import annotations

from typing import Any

import skia

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.values import ConicGradient, Gradient, LinearGradient, RadialGradient

# Stops in between are blended premultiplied, as browsers do.
PREMULTIPLIED = 1


def argb(colour: str) -> int:
    """A CSS colour, rounded to eight bits a channel as the page shows it."""
    r, g, b, alpha = parse_colour(colour)
    return int(skia.Color(*(int(c + 0.5) for c in (r, g, b, alpha * 255.0))))


def fill(
    paint: str | Gradient, width: float, height: float, stretched: tuple[float, float] = (1.0, 1.0), **drawn: Any
) -> skia.Paint:
    """What fills a box of that size, or is drawn along its outline; coordinates from its top left corner.

    `stretched`: by which factors the box is larger than the sides that say how a gradient lies in it.
    """
    # Not by its setters: a shader that is set later loses its places.
    if isinstance(paint, str):
        return skia.Paint(AntiAlias=True, Color=argb(paint), **drawn)
    shader = _shader(paint, width, height)
    return skia.Paint(AntiAlias=True, Shader=shader.makeWithLocalMatrix(skia.Matrix.Scale(*stretched)), **drawn)


def _shader(gradient: Gradient, width: float, height: float) -> skia.Shader:
    stops = {
        "colors": [argb(stop.colour) for stop in gradient.stops],
        "positions": [stop.at for stop in gradient.stops],
        "flags": PREMULTIPLIED,
    }
    match gradient:
        case LinearGradient():
            points = [skia.Point(*end) for end in gradient.line(width, height)]
            return skia.GradientShader.MakeLinear(points=points, **stops)
        case ConicGradient():
            x, y = gradient.centre_x * width, gradient.centre_y * height
            # CSS counts from the top, Skia from the right.
            turned = skia.Matrix.RotateDeg(gradient.angle - 90.0, skia.Point(x, y))
            return skia.GradientShader.MakeSweep(cx=x, cy=y, localMatrix=turned, **stops)
        case RadialGradient():
            return _radial(gradient, width, height, stops)


def _radial(gradient: RadialGradient, width: float, height: float, stops: dict[str, Any]) -> skia.Shader:
    """An ellipse: a unit circle, placed. One without any extent shows its last colour."""
    a, b, c, d, e, f = gradient.matrix
    if abs(a * d - b * c) * width * height < 1e-12:
        return skia.Shaders.Color(stops["colors"][-1])
    matrix = skia.Matrix.Scale(width, height).preConcat(skia.Matrix.MakeAll(a, c, e, b, d, f, 0, 0, 1))
    if gradient.focus == (0.0, 0.0):
        return skia.GradientShader.MakeRadial(center=skia.Point(0, 0), radius=1.0, localMatrix=matrix, **stops)
    return skia.GradientShader.MakeTwoPointConical(
        start=skia.Point(*gradient.focus),
        startRadius=0.0,
        end=skia.Point(0, 0),
        endRadius=1.0,
        localMatrix=matrix,
        **stops,
    )
