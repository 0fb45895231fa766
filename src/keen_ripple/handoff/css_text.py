"""Texts as CSS writes them."""

from __future__ import annotations

import re


def css_string(text: str) -> str:
    """A string of CSS, also inside of an HTML style element: what could end either is written by its number."""
    return '"' + re.sub(r"""["\\<>\x00-\x1f]""", lambda found: f"\\{ord(found[0]):x} ", text) + '"'
