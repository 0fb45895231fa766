"""Fonts cut down to the characters in use, with all that sets these: kerning, ligatures, joined letters, axes."""

from __future__ import annotations

import io
from functools import lru_cache

from fontTools.subset import Options, Subsetter

from keen_ripple.core.values.font_file import opened


@lru_cache(maxsize=128)
def cut_down(data: bytes, characters: frozenset[int]) -> bytes:
    """The WOFF2 of a font with these characters alone."""
    font = opened(data)
    options = Options()
    options.flavor = "woff2"
    subsetter = Subsetter(options)
    subsetter.populate(unicodes=characters)
    subsetter.subset(font)
    font.flavor = "woff2"
    buffer = io.BytesIO()
    font.save(buffer)
    return buffer.getvalue()
