"""Shadows as in CSS box-shadow (CSS Backgrounds and Borders Level 3, section 6.1)."""

from __future__ import annotations

from keen_ripple.core.values.model import Colour, Length, Model, Number


class Shadow(Model):
    """One shadow of a layer's outline; px. The first of a list lies on top."""

    x: Number = 0.0
    y: Number = 0.0
    blur: Length = 0.0
    spread: Number = 0.0
    colour: Colour = "#00000040"
    inset: bool = False
