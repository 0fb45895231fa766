"""Numbers as CSS text."""

from __future__ import annotations


def css_number(value: float, digits: int = 6) -> str:
    """The shortest plain decimal within `digits` places: 0.5, -1, 1280; never an exponent, never -0."""
    text = f"{value:.{digits}f}".rstrip("0").rstrip(".") if digits else f"{value:.0f}"
    return "0" if text in ("-0", "") else text
