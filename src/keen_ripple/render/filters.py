"""Colour filters as matrices."""

from __future__ import annotations

from collections.abc import Mapping
from math import cos, radians, sin
from typing import Any

# The shares of red, green and blue in brightness.
LUMINANCE = (0.213, 0.715, 0.072)
# How far a hue that is turned by a right angle takes each channel from the others.
TURNED = ((-0.213, -0.715, 0.928), (0.143, 0.140, -0.283), (-0.787, 0.715, 0.072))


def colour_matrices(look: Mapping[str, Any]) -> list[list[float]]:
    """For each filter that has an effect its 4×5 matrix, row by row, of unpremultiplied channels from 0 to 1.

    Filter Effects Level 1, 9.6 (the functions as SVG filters) and feColorMatrix.
    """
    found = []
    if look["brightness"] != 1.0:
        found.append(_rows(_scaled(look["brightness"])))
    if look["contrast"] != 1.0:
        found.append(_rows(_scaled(look["contrast"]), 0.5 - 0.5 * look["contrast"]))
    if look["saturation"] != 1.0:
        found.append(_rows(_grey_and(look["saturation"])))
    if look["hue"] % 360.0:
        found.append(_rows(_hue_turned(radians(look["hue"]))))
    return found


Channels = list[list[float]]


def _rows(channels: Channels, added: float = 0.0) -> list[float]:
    colours = [number for row in channels for number in (*row, 0.0, added)]
    return [*colours, 0.0, 0.0, 0.0, 1.0, 0.0]


def _scaled(factor: float) -> Channels:
    return [[factor * (row == column) for column in range(3)] for row in range(3)]


def _grey_and(share: float) -> Channels:
    """Grey, and a share of what each channel differs from it."""
    return [[LUMINANCE[c] * (1.0 - share) + share * (row == c) for c in range(3)] for row in range(3)]


def _hue_turned(angle: float) -> Channels:
    grey = _grey_and(cos(angle))
    return [[grey[row][column] + sin(angle) * TURNED[row][column] for column in range(3)] for row in range(3)]
