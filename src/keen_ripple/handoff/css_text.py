"""Texts as CSS writes them."""

from __future__ import annotations

import re

from keen_ripple.core.curves.numbers import css_number


def css_string(text: str) -> str:
    """A string of CSS, also inside of an HTML style element: what could end either is written by its number."""
    return '"' + re.sub(r"""["\\<>\x00-\x1f]""", lambda found: f"\\{ord(found[0]):x} ", text) + '"'


def px(value: float) -> str:
    return css_number(value, 3) + ("px" if value else "")


def deg(value: float) -> str:
    return f"{css_number(value, 4)}deg"


def percent(share: float) -> str:
    return f"{css_number(share * 100.0, 4)}%"
