"""Pictures and media as data: URLs: whether there is one inside, and how large it is.

Only their first bytes are read: PNG (RFC 2083, section 11.2.2), JPEG (ITU-T T.81, annex B), WebP (RFC 9649), GIF89a;
of films no more than that they are what they say.
"""

from __future__ import annotations

import base64
import binascii
import struct
from functools import lru_cache

from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import LARGEST_PICTURE
from keen_ripple.core.values.lottie import LOTTIE, read_lottie

# Characters of base64 in which a size has to be found; a JPEG may carry much before it.
LOOKED_AT = 400_000
# Markers of a JPEG that hold its size: all frames but the tables among them.
FRAMES = {*range(0xC0, 0xD0)} - {0xC4, 0xC8, 0xCC}


class PictureFault(Fault):
    """A data: URL without a picture in it."""


def check_picture(url: str) -> str:
    """The URL as it is. Raises PictureFault where it holds no picture of the kind it names, or too large a one."""
    kind, size = _head(url)
    if size is None and not kind.startswith(("video/", "application/")):
        raise PictureFault(
            f"This is no {kind.partition('/')[2].upper()} picture.", remedy="Choose a file that a browser can show."
        )
    if size is not None and size[0] * size[1] > LARGEST_PICTURE:
        raise PictureFault(
            f"The picture has {size[0]} × {size[1]} px.",
            value=list(size),
            remedy=f"Make it smaller: it may have {LARGEST_PICTURE // 1_000_000} million px.",
        )
    return url


@lru_cache(maxsize=16)
def check_medium(url: str) -> str:
    """The same of a medium; a Lottie file is read as a whole. Raises PictureFault or LottieFault."""
    if check_picture(url).startswith(LOTTIE):
        read_lottie(base64.b64decode(url.partition(",")[2]))
    return url


@lru_cache(maxsize=256)
def _head(url: str) -> tuple[str, tuple[int, int] | None]:
    """The kind of the file, and its width and height; None where it is not of that kind, and of films."""
    head, _, text = url.partition(",")
    kind = head.removeprefix("data:").removesuffix(";base64")
    try:
        # All of it has to be base64, though only its beginning is read.
        binascii.a2b_base64(text, strict_mode=True)
        data = base64.b64decode(text[:LOOKED_AT])
        size = {"image/png": _png, "image/jpeg": _jpeg, "image/webp": _webp, "image/gif": _gif}[kind](data)
    except KeyError:
        return kind, None
    except (ValueError, struct.error, IndexError):
        return kind, None
    return kind, size if size and min(size) > 0 else None


def _png(data: bytes) -> tuple[int, int] | None:
    return struct.unpack(">II", data[16:24]) if data[:16] == b"\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR" else None


def _gif(data: bytes) -> tuple[int, int] | None:
    return struct.unpack("<HH", data[6:10]) if data[:6] in (b"GIF87a", b"GIF89a") else None


def _webp(data: bytes) -> tuple[int, int] | None:
    if data[:4] != b"RIFF" or data[8:12] != b"WEBP":
        return None
    match data[12:16]:
        case b"VP8X":
            return (1 + int.from_bytes(data[24:27], "little"), 1 + int.from_bytes(data[27:30], "little"))
        case b"VP8L":
            bits = int.from_bytes(data[21:25], "little")
            return (1 + (bits & 0x3FFF), 1 + (bits >> 14 & 0x3FFF))
        case b"VP8 ":
            width, height = struct.unpack("<HH", data[26:30])
            return (width & 0x3FFF, height & 0x3FFF)
    return None


def _jpeg(data: bytes) -> tuple[int, int] | None:
    if data[:2] != b"\xff\xd8":
        return None
    at = 2
    while data[at] == 0xFF:
        marker = data[at + 1]
        if marker in FRAMES:
            height, width = struct.unpack(">HH", data[at + 5 : at + 9])
            return (width, height)
        at += 2 + int.from_bytes(data[at + 2 : at + 4], "big")
    return None
