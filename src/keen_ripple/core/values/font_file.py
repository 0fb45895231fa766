"""Fonts as files: what a piece has to know of one, read from WOFF2 (W3C, 2022) through fontTools.

Files come from anywhere. So what they unpack to is measured before it is believed, and what is wrong with one is said
in words.
"""

from __future__ import annotations

import base64
import io
import re
import struct
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import brotli
from fontTools.ttLib import TTFont
from fontTools.ttLib.woff2 import WOFF2DirectoryEntry

from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import LARGEST_FONT, LONGEST_NAME, MOST_AXES

PACKED = b"wOF2"
PLAIN = (b"\x00\x01\x00\x00", b"true", b"OTTO")
OTHERS = {
    b"ttcf": "This file holds several fonts.",
    b"wOFF": "This is WOFF of the first kind.",
}
# Of a WOFF2, in bytes.
HEADER = 48
# So few bytes at a time that what they unpack to stays within reason.
AT_A_TIME = 64
NEEDED = ("head", "hhea", "hmtx", "maxp", "cmap", "name", "OS/2")
OUTLINES = ("glyf", "CFF ", "CFF2")
ALL_CHARACTERS = 0x110000
MOST_CMAPS = 40
WEIGHT = "wght"
OPTICAL_SIZE = "opsz"
# Bits of OS/2.fsType (OpenType 1.9): of the lowest four only one holds, the most generous that is set.
RESTRICTED, PRINTING, EDITING = 0x2, 0x4, 0x8
WHOLE_ONLY, BITMAPS_ONLY = 0x100, 0x200


class FontFault(Fault):
    """A file that is no font, or none that can be used."""


@dataclass(frozen=True)
class Axis:
    """Of a variable font. `tag` has four characters, `low` ≤ `default` ≤ `high`."""

    tag: str
    name: str
    low: float
    default: float
    high: float


@dataclass(frozen=True)
class FontFile:
    """What is known of a font. `weights` are those that it can show, 1–1000; `axes` are all but that of the weight.

    `may_be_sent` says whether its own bits allow it to be carried inside of a file for others, `may_be_cut` whether it
    may be cut down to the letters in use.
    """

    family: str
    weights: tuple[float, float]
    axes: tuple[Axis, ...]
    characters: frozenset[int]
    may_be_sent: bool
    may_be_cut: bool


def opened(data: bytes) -> TTFont:
    """A font in WOFF2, TTF or OTF, its tables read when they are asked for. Raises FontFault."""
    kind = data[:4]
    if kind not in (PACKED, *PLAIN):
        raise FontFault(OTHERS.get(kind, "This is no font."), remedy="Choose a single font, as TTF, OTF or WOFF2.")
    try:
        if kind == PACKED:
            _check_size(data)
        font = TTFont(io.BytesIO(data), recalcTimestamp=False, recalcBBoxes=False, lazy=True)
        missing = [name for name in NEEDED if name not in font]
        if missing or not any(name in font for name in OUTLINES):
            raise FontFault(
                f"This font has no {missing[0]} table." if missing else "This font has no outlines.",
                remedy="Choose a font with outlines, as TTF, OTF or WOFF2.",
            )
        _check_characters(font.reader["cmap"])
    except FontFault:
        raise
    # fontTools has many ways to say that a file is broken.
    except Exception as error:
        raise broken(error) from None
    return font


def broken(error: Exception) -> FontFault:
    """That a file cannot be read."""
    return FontFault(f"The font cannot be read: {str(error)[:120]}", remedy="Save it again as TTF, OTF or WOFF2.")


@lru_cache(maxsize=64)
def read_font(data: bytes) -> FontFile:
    """What is known of a font in WOFF2. Raises FontFault."""
    if data[:4] != PACKED:
        raise FontFault("This is no font in WOFF2.", remedy="Bring in the file anew, as TTF, OTF or WOFF2.")
    font = opened(data)
    try:
        return _described(font)
    except FontFault:
        raise
    except Exception as error:
        raise broken(error) from None


def _described(font: TTFont) -> FontFile:
    axes = [_axis(font, each) for each in font["fvar"].axes] if "fvar" in font else []
    if len(axes) > MOST_AXES:
        raise FontFault(f"This font has {len(axes)} axes.", remedy=f"Choose one with at most {MOST_AXES}.")
    os2 = font["OS/2"]
    weight = next(((axis.low, axis.high) for axis in axes if axis.tag == WEIGHT), (os2.usWeightClass,) * 2)
    is_italic = bool(font["head"].macStyle & 2 or os2.fsSelection & 1)
    family = _family(font)[: LONGEST_NAME - 10] or "Font"
    use = os2.fsType & (RESTRICTED | PRINTING | EDITING)
    return FontFile(
        family=f"{family} Italic" if is_italic and "italic" not in family.lower() else family,
        weights=(min(max(float(weight[0]), 1.0), 1000.0), min(max(float(weight[1]), 1.0), 1000.0)),
        axes=tuple(axis for axis in axes if axis.tag != WEIGHT),
        characters=frozenset(font.getBestCmap() or ()),
        # Preview alone is enough: whoever looks at a page edits nothing.
        may_be_sent=not (use == RESTRICTED or os2.fsType & BITMAPS_ONLY),
        may_be_cut=not os2.fsType & WHOLE_ONLY,
    )


TYPOGRAPHIC_FAMILY = 16
# Names of weights (CSS Fonts Level 4, section 2.2.1), which older programs put at the end of the name of a family.
WEIGHTS = re.compile(
    r"[ -](thin|hairline|(extra|ultra) ?light|light|regular|normal|medium|(semi|demi) ?bold|bold"
    r"|(extra|ultra) ?bold|black|heavy)$",
    re.I,
)


def _family(font: TTFont) -> str:
    """The name that all weights of the family share."""
    names = font["name"]
    shared = names.getDebugName(TYPOGRAPHIC_FAMILY)
    return _printable(shared) if shared else WEIGHTS.sub("", _printable(names.getBestFamilyName() or ""))


@lru_cache(maxsize=64)
def check_font(url: str) -> str:
    """The data: URL of a font as it is. Raises FontFault."""
    font_in(url)
    return url


@lru_cache(maxsize=64)
def font_in(url: str) -> FontFile:
    """What is known of the font in a data: URL. Raises FontFault."""
    return read_font(data_in(url))


def data_in(url: str) -> bytes:
    """The WOFF2 in a data: URL."""
    return base64.b64decode(url.partition(",")[2])


def _check_size(data: bytes) -> None:
    """Unpacks what is packed once, bit by bit, so that little bytes cannot become gigabytes."""
    tables, size = struct.unpack(">H", data[12:14])[0], struct.unpack(">I", data[20:24])[0]
    file = io.BytesIO(data)
    file.seek(HEADER)
    whole = 0
    for _ in range(tables):
        entry = WOFF2DirectoryEntry()
        entry.fromFile(file)
        whole = max(whole, 0) + max(entry.length, entry.origLength)
    if whole > LARGEST_FONT:
        raise _too_large(whole)
    packed, unpacked, reader = data[file.tell() : file.tell() + size], 0, brotli.Decompressor()
    for start in range(0, len(packed), AT_A_TIME):
        if reader.is_finished():
            break
        unpacked += len(reader.process(packed[start : start + AT_A_TIME]))
        if unpacked > LARGEST_FONT:
            raise _too_large(unpacked)


def _too_large(size: int) -> FontFault:
    return FontFault(
        f"Unpacked, this font has {size / 1e6:.0f} MB.",
        remedy=f"Choose one with fewer letters: at most {LARGEST_FONT // 1_000_000} MB.",
    )


def _check_characters(table: bytes) -> None:
    """Whether a cmap table says no more than there can be: its ranges are written out when it is read.

    Raises FontFault.
    """
    count = struct.unpack(">H", table[2:4])[0]
    offsets = {struct.unpack(">HHI", table[4 + 8 * i : 12 + 8 * i])[2] for i in range(count)}
    if count > MOST_CMAPS or any(_said(table, offset) > ALL_CHARACTERS for offset in offsets):
        raise FontFault("This font says more characters than there are.", remedy="Choose another file.")


def _said(table: bytes, offset: int) -> int:
    """How many characters the ranges of a subtable hold."""
    kind = struct.unpack(">H", table[offset : offset + 2])[0]
    if kind == 4:
        segments = struct.unpack(">H", table[offset + 6 : offset + 8])[0] // 2
        ends = struct.unpack(f">{segments}H", table[offset + 14 : offset + 14 + 2 * segments])
        at = offset + 16 + 2 * segments
        starts = struct.unpack(f">{segments}H", table[at : at + 2 * segments])
        return sum(max(end - start + 1, 0) for start, end in zip(starts, ends, strict=True))
    if kind in (12, 13):
        groups = struct.unpack(">I", table[offset + 12 : offset + 16])[0]
        if offset + 16 + 12 * groups > len(table):
            return ALL_CHARACTERS + 1
        ranges = struct.iter_unpack(">III", table[offset + 16 : offset + 16 + 12 * groups])
        return sum(max(end - start + 1, 0) for start, end, _ in ranges)
    return 0


def _axis(font: TTFont, axis: Any) -> Axis:
    name = _printable(font["name"].getDebugName(axis.axisNameID) or "")[:LONGEST_NAME]
    numbers = (float(axis.minValue), float(axis.defaultValue), float(axis.maxValue))
    if not numbers[0] <= numbers[1] <= numbers[2]:
        raise FontFault(f"The axis {axis.axisTag!r} of this font has no order.", remedy="Choose another file.")
    return Axis(axis.axisTag, name or axis.axisTag, *numbers)


def _printable(text: str) -> str:
    return "".join(letter for letter in text if letter.isprintable()).strip()


def ranges_of(characters: Iterable[int]) -> str:
    """Characters as CSS says them in unicode-range, neighbours as one range."""
    spans: list[list[int]] = []
    for code in sorted(characters):
        if spans and code == spans[-1][1] + 1:
            spans[-1][1] = code
        else:
            spans.append([code, code])
    return ", ".join(f"U+{a:X}" if a == b else f"U+{a:X}-{b:X}" for a, b in spans)
