"""Which reader a medium needs, by its first bytes."""

from __future__ import annotations

import base64
from functools import lru_cache

from keen_ripple.media.films import Film
from keen_ripple.media.lotties import Drawn
from keen_ripple.media.pictures import Pictures
from keen_ripple.media.reel import LARGEST, MediumFault, Reel


@lru_cache(maxsize=6)
def reel_of(source: str) -> Reel:
    """The medium of a data: URL, kept open for the next frame. Raises MediumFault."""
    return opened(base64.b64decode(source.partition(",")[2]))


def opened(data: bytes) -> Reel:
    """The medium of a file, by its first bytes. Raises MediumFault."""
    if len(data) > LARGEST:
        raise MediumFault(
            f"The file has {len(data) / 1e6:.1f} MB.",
            value=len(data),
            remedy=f"Save it smaller: at most {LARGEST / 1e6:.0f} MB.",
        )
    if data[:4] in (b"GIF8", b"RIFF", b"\x89PNG"):
        return Pictures(data)
    if data[4:8] == b"ftyp" or data[:4] == b"\x1aE\xdf\xa3":
        return Film(data)
    if data.lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"{"):
        return Drawn(data.removeprefix(b"\xef\xbb\xbf"))
    raise MediumFault(
        "This is no medium that is read here.", remedy="Choose a GIF, APNG, WebP, MP4, WebM or Lottie file."
    )
