"""CSS colours as numbers: OKLab for blending, sRGB for showing.

OKLab and its matrices are those of Björn Ottosson, "A perceptual color space for image processing" (2020), as CSS
Color Level 4 gives them; the sRGB transfer function is IEC 61966-2-1.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.errors import ColourFault

if TYPE_CHECKING:
    from coloraide import Color

NONE = "none"
# Nearly all colours of a piece are written so; they are read without the library, which takes a while to load.
HEXADECIMAL = re.compile(r"#(?:[0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})", re.IGNORECASE)

_OKLAB_TO_LMS = np.array(
    [
        [1.0, 0.3963377773761749, 0.2158037573099136],
        [1.0, -0.1055613458156586, -0.0638541728258133],
        [1.0, -0.0894841775298119, -1.2914855480194092],
    ]
)
_LMS_TO_LINEAR = np.array(
    [
        [4.0767416360759583, -3.3077115392580629, 0.2309699031821043],
        [-1.2684379732850315, 2.6097573492876882, -0.3413193760026570],
        [-0.0041960761386756, -0.7034186179359362, 1.7076146940746117],
    ]
)
_LINEAR_TO_LMS = np.linalg.inv(_LMS_TO_LINEAR)
_LMS_TO_OKLAB = np.linalg.inv(_OKLAB_TO_LMS)


@lru_cache(maxsize=4096)
def parse_colour(text: str) -> tuple[float, float, float, float]:
    """(r, g, b, alpha) of any CSS colour, r, g, b in 0–255 and inside sRGB, alpha in 0–1; `none` is transparent."""
    text = text.strip()
    if text.lower() == NONE:
        return (0.0, 0.0, 0.0, 0.0)
    if HEXADECIMAL.fullmatch(text):
        return _hexadecimal(text[1:])
    try:
        colour = _colour(text).convert("srgb").clip()
    except (ValueError, TypeError) as error:
        raise ColourFault(
            f"{text!r} is not a colour.",
            value=text,
            remedy="Write a CSS colour such as #1f7a70, hsl(174 59% 30%), or none.",
        ) from error
    r, g, b = (float(c) * 255.0 for c in colour.coords(nans=False))
    return (r, g, b, float(colour.alpha(nans=False)))


@lru_cache(maxsize=4096)
def oklab_of(text: str) -> tuple[float, float, float, float]:
    """(L, a, b, alpha) of a CSS colour in OKLab, not premultiplied; sRGB does not limit it."""
    r, g, b, alpha = parse_colour(text)
    if alpha == 0.0 or not HEXADECIMAL.fullmatch(text.strip()):
        return _coordinates(text, "oklab", 1.0)
    srgb = np.array([r, g, b]) / 255.0
    linear = np.where(srgb <= 0.04045, srgb / 12.92, ((srgb + 0.055) / 1.055) ** 2.4)
    lightness, across, along = (_LMS_TO_OKLAB @ np.cbrt(_LINEAR_TO_LMS @ linear)).tolist()
    return (lightness, across, along, alpha)


@lru_cache(maxsize=4096)
def srgb_of(text: str) -> tuple[float, float, float, float]:
    """(r, g, b, alpha) of a CSS colour, r, g, b in 0–255 where sRGB can show it, beyond where it cannot."""
    if HEXADECIMAL.fullmatch(text.strip()) and parse_colour(text)[3]:
        return parse_colour(text)
    return _coordinates(text, "srgb", 255.0)


def _hexadecimal(digits: str) -> tuple[float, float, float, float]:
    """#rgb, #rgba, #rrggbb or #rrggbbaa without its sign: CSS Color Level 4, section 5.2."""
    if len(digits) <= 4:
        digits = "".join(digit * 2 for digit in digits)
    r, g, b, alpha = bytes.fromhex(digits.ljust(8, "f"))
    return (float(r), float(g), float(b), alpha / 255.0)


def _colour(text: str) -> Color:
    from coloraide import Color

    return Color(text)


def _coordinates(text: str, space: str, unit: float) -> tuple[float, float, float, float]:
    if parse_colour(text)[3] == 0.0:
        return (0.0, 0.0, 0.0, 0.0)
    colour = _colour(text.strip()).convert(space)
    a, b, c = (float(value) * unit for value in colour.coords(nans=False))
    return (a, b, c, float(colour.alpha(nans=False)))


def oklab_to_srgb(lab: Floats) -> Floats:
    """Rows (L, a, b), L clamped to 0–1 as browsers do, to rows (r, g, b) clipped to 0–255."""
    clamped = np.column_stack((np.clip(lab[:, 0], 0.0, 1.0), lab[:, 1:]))
    linear = (clamped @ _OKLAB_TO_LMS.T) ** 3 @ _LMS_TO_LINEAR.T
    size = np.abs(linear)
    curved = np.where(size <= 0.0031308, 12.92 * size, 1.055 * size ** (1 / 2.4) - 0.055)
    return np.asarray(np.clip(np.sign(linear) * curved, 0.0, 1.0) * 255.0)


def colour_text(rgba: Floats | Sequence[float]) -> str:
    """The canonical text: #rrggbb, #rrggbbaa where it is translucent."""
    r, g, b, alpha = rgba
    channels = [r, g, b] if alpha >= 1.0 - 1e-9 else [r, g, b, alpha * 255.0]
    return "#" + "".join(f"{min(max(int(c + 0.5), 0), 255):02x}" for c in channels)
