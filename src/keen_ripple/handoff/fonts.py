"""The shipped fonts, cut down to the characters in use, to be carried inside a file."""

from __future__ import annotations

import base64
import io
from functools import lru_cache
from importlib.resources import files

from fontTools.subset import Options, Subsetter
from fontTools.ttLib import TTFont

FAMILY = "Hanken Grotesk"
FILES = ("hanken-grotesk-latin.woff2", "hanken-grotesk-latin-ext.woff2")


@lru_cache(maxsize=64)
def font_faces(characters: str) -> tuple[str, ...]:
    """CSS lines that define the family for these characters, the font inside as WOFF2. Empty for no characters."""
    faces = []
    for name in FILES:
        font = TTFont(io.BytesIO((files("keen_ripple") / "fonts" / name).read_bytes()), recalcTimestamp=False)
        wanted = {ord(c) for c in characters} & set(font.getBestCmap())
        if not wanted - {32}:
            continue
        options = Options()
        options.flavor = "woff2"
        subsetter = Subsetter(options)
        subsetter.populate(unicodes=wanted)
        subsetter.subset(font)
        font.flavor = "woff2"
        buffer = io.BytesIO()
        font.save(buffer)
        data = base64.b64encode(buffer.getvalue()).decode("ascii")
        span = ", ".join(f"U+{c:X}" for c in sorted(wanted))
        faces += [
            "@font-face {",
            f'  font-family: "{FAMILY}";',
            "  font-weight: 100 900;",
            f"  unicode-range: {span};",
            f'  src: url("data:font/woff2;base64,{data}") format("woff2");',
            "}",
        ]
    return tuple(faces)
