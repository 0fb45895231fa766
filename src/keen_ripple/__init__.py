"""Keen Ripple: choreographed micro-animations for product interfaces.

>>> import keen_ripple
>>> piece = keen_ripple.read(path)

See `keen_ripple.library` for what there is, and docs/use-from-python.md for how it is used.
"""

from keen_ripple.library import (
    assemble,
    bundle,
    document_of,
    draw,
    hand_off,
    read,
    rehearsal,
    rehearse,
    retime,
    sample,
    seam,
    take_svg,
    timeline,
)

__all__ = [
    "assemble",
    "bundle",
    "document_of",
    "draw",
    "hand_off",
    "read",
    "rehearsal",
    "rehearse",
    "retime",
    "sample",
    "seam",
    "take_svg",
    "timeline",
]
