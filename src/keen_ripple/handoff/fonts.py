"""The shipped fonts, cut down to the characters in use, to be carried inside a file."""

from __future__ import annotations

import base64
import io
from collections.abc import Iterator
from functools import lru_cache
from importlib.resources import files

from fontTools.subset import Options, Subsetter
from fontTools.ttLib import TTFont

from keen_ripple.core.document import walk
from keen_ripple.core.fonts import FONTS
from keen_ripple.core.timeline import Timeline


def font_faces(timeline: Timeline) -> Iterator[str]:
    """CSS lines that define the families that the piece's texts are set in, the fonts inside as WOFF2."""
    used: dict[str, set[str]] = {}
    for layer, _ in walk(timeline.piece.layers):
        if layer.kind == "text":
            for look in timeline.looks_of(layer.id):
                used.setdefault(look["font_family"], set()).update(look["text"])
    for family in FONTS:
        yield from _faces(family, "".join(sorted(used.get(family, ()))))


@lru_cache(maxsize=64)
def _faces(family: str, characters: str) -> tuple[str, ...]:
    lines: list[str] = []
    names, weights = FONTS[family]
    missing = {ord(c) for c in characters}
    for name in names:
        font = TTFont(io.BytesIO((files("keen_ripple") / "fonts" / name).read_bytes()), recalcTimestamp=False)
        wanted = missing & set(font.getBestCmap())
        if not wanted - {32}:
            continue
        missing -= wanted
        span = ", ".join(f"U+{c:X}" for c in sorted(wanted))
        lines += [
            "@font-face {",
            f'  font-family: "{family}";',
            f"  font-weight: {weights};",
            f"  unicode-range: {span};",
            f'  src: url("data:font/woff2;base64,{_cut_down(font, wanted)}") format("woff2");',
            "}",
        ]
    return tuple(lines)


def _cut_down(font: TTFont, wanted: set[int]) -> str:
    """The font with these characters alone, as base64 of WOFF2."""
    options = Options()
    options.flavor = "woff2"
    subsetter = Subsetter(options)
    subsetter.populate(unicodes=wanted)
    subsetter.subset(font)
    font.flavor = "woff2"
    buffer = io.BytesIO()
    font.save(buffer)
    return base64.b64encode(buffer.getvalue()).decode("ascii")
