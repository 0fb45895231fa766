"""Font files of others, taken in as WOFF2 with what sets letters, and nothing else."""

from __future__ import annotations

import base64
import io

from fontTools.ttLib import TTFont

from keen_ripple.core.limits import LONGEST_FONT
from keen_ripple.core.values.font_file import FontFault, FontFile, broken, check_characters, opened, read_font

# Bytes of a file as it comes. Packing takes about two seconds for each million.
LARGEST_FILE = 8_000_000
PLAIN = (b"\x00\x01\x00\x00", b"true", b"OTTO")
OTHERS = {
    b"ttcf": "This file holds several fonts.",
    b"wOFF": "This is WOFF of the first kind.",
}
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
    font = _opened(data)
    try:
        left = [tag for tag in sorted(font.keys()) if tag not in KEPT and tag != "GlyphOrder"]
        packed = data if data[:4] == b"wOF2" and not left else _packed(font, left)
    except Exception as error:
        raise broken(error) from None
    url = f"data:font/woff2;base64,{base64.b64encode(packed).decode('ascii')}"
    if len(url) > LONGEST_FONT:
        raise FontFault(
            f"Packed, this font still has {len(packed) / 1e6:.1f} MB.",
            remedy=f"Choose one with fewer letters: at most {LONGEST_FONT * 3 // 4_000_000} MB.",
        )
    return url, read_font(packed)


def _opened(data: bytes) -> TTFont:
    kind = data[:4]
    if kind == b"wOF2":
        return opened(data)
    if kind not in PLAIN:
        raise FontFault(OTHERS.get(kind, "This is no font."), remedy="Choose a single font, as TTF, OTF or WOFF2.")
    try:
        font = TTFont(io.BytesIO(data), recalcTimestamp=False, recalcBBoxes=False, lazy=True)
        check_characters(font.reader["cmap"])
    except FontFault:
        raise
    except Exception as error:
        raise broken(error) from None
    return font


def _packed(font: TTFont, left: list[str]) -> bytes:
    for tag in left:
        del font[tag]
    font.flavor = "woff2"
    buffer = io.BytesIO()
    font.save(buffer)
    return buffer.getvalue()
