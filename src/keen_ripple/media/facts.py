"""What a piece has to know of a medium."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from keen_ripple.media.opened import opened
from keen_ripple.media.reel import MediumFault, Reel

LOOKED_AT = 10
"""Moments at which is looked for the fullest frame."""


@dataclass(frozen=True)
class Facts:
    """`length_ms` is 0 for what stands still; at `fullest_ms` most is seen of it. `notes`: what is drawn otherwise."""

    mime: str
    width: int
    height: int
    length_ms: int
    fullest_ms: int
    notes: tuple[str, ...] = ()


def facts_of(data: bytes) -> Facts:
    """Of a file. Raises MediumFault."""
    reel = opened(data)
    try:
        fullest_ms = _fullest_ms(reel)
        return Facts(reel.mime, reel.width, reel.height, reel.length_ms, fullest_ms, reel.notes)
    except (OSError, ValueError, EOFError, SyntaxError) as error:
        raise MediumFault(f"A frame of the file cannot be read: {error}.", remedy="Save it again.") from None


def _fullest_ms(reel: Reel) -> int:
    """The earliest moment at which most differs from an empty picture."""
    moments = [round(share * reel.length_ms / LOOKED_AT) for share in range(LOOKED_AT if reel.length_ms else 1)]
    # So that hardly any more does not count.
    return max(moments, key=lambda t: (round(_ink(reel, t), 2), -t))


def _ink(reel: Reel, t_ms: float) -> float:
    """How much is seen, 0–1: what is opaque, and how far it is from being all of one colour."""
    pixels = reel.at(t_ms)[:: max(reel.height // 90, 1), :: max(reel.width // 90, 1)].astype(np.float64) / 255.0
    alpha = pixels[..., 3]
    middle = np.median(pixels[..., :3].reshape(-1, 3), axis=0)
    apart = np.abs(pixels[..., :3] - middle).max(axis=-1)
    return float((alpha * (0.5 + 0.5 * apart)).mean())
