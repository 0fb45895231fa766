"""Font files of others, taken in as WOFF2 with what sets letters, and nothing else."""

from __future__ import annotations

import base64
import io

from fontTools.ttLib import TTFont

from keen_ripple.core.limits import LONGEST_FONT
from keen_ripple.core.values.font_file import PACKED, FontFault, FontFile, broken, opened, read_font

# Bytes of a file as it comes. Packing takes about two seconds for each million.
LARGEST_FILE = 8_000_000
# All that shapes, places and draws outlines (OpenType 1.9); pictures of letters and signatures are left behind.
KEPT = {
    *("head", "hhea", "hmtx", "maxp", "cmap", "name", "OS/2", "post", "glyf", "loca", "cvt ", "fpgm", "prep", "gasp"),
    *("CFF ", "CFF2", "VORG", "GDEF", "GSUB", "GPOS", "BASE", "JSTF", "kern", "vhea", "vmtx"),
    *("fvar", "avar", "gvar", "cvar", "HVAR", "MVAR", "VVAR", "STAT", "COLR", "CPAL"),
}


def take_font(data: bytes) -> tuple[str, FontFile]:
    """A TTF, OTF or WOFF2 file as the data: URL of a WOFF2, and what is known of it. Raises FontFault."""
    if len(data) > LARGEST_FILE:
        raise FontFault(
            f"This file has {len(data) / 1e6:.1f} MB.",
            remedy=f"Choose a font with fewer letters: at most {LARGEST_FILE // 1_000_000} MB.",
        )
    font = opened(data)
    try:
        left = [tag for tag in sorted(font.keys()) if tag not in KEPT and tag != "GlyphOrder"]
        packed = data if data[:4] == PACKED and not left else _packed(font, left)
    except Exception as error:
        raise broken(error) from None
    url = f"data:font/woff2;base64,{base64.b64encode(packed).decode('ascii')}"
    if len(url) > LONGEST_FONT:
        raise FontFault(
            f"Packed, this font still has {len(packed) / 1e6:.1f} MB.",
            remedy=f"Choose one with fewer letters: at most {LONGEST_FONT * 3 // 4_000_000} MB.",
        )
    return url, read_font(packed)


def _packed(font: TTFont, left: list[str]) -> bytes:
    for tag in left:
        del font[tag]
    font.flavor = "woff2"
    buffer = io.BytesIO()
    font.save(buffer)
    return buffer.getvalue()
