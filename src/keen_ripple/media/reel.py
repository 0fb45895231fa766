"""A medium as its frames: what is shown at any moment of it, whatever file it came from."""

from __future__ import annotations

import threading
from abc import ABC, abstractmethod

import numpy as np
from numpy.typing import NDArray

from keen_ripple.core.errors import Fault

Pixels = NDArray[np.uint8]
"""RGBA, not premultiplied; shape (height, width, 4)."""

LARGEST = 6_000_000
"""Bytes: as a data: URL a third more, which is what a document takes."""
MOST_PIXELS = 9_000_000
MOST_FRAMES = 3000
MOST_FRAMES_OF_FILM = 40_000
LONGEST_MS = 600_000


class MediumFault(Fault):
    """A medium that cannot be read, or is too large."""


class Reel(ABC):
    """Frames that follow each other. One reader at a time: a decoder stands at one place of its file."""

    width: int
    height: int
    length_ms: int
    mime: str
    notes: tuple[str, ...] = ()

    def __init__(self) -> None:
        self._lock = threading.Lock()

    def at(self, t_ms: float) -> Pixels:
        """The frame that is shown `t_ms` from the beginning: the first one before that, the last one at the end."""
        with self._lock:
            return self._at(min(max(t_ms, 0.0), float(self.length_ms)))

    @abstractmethod
    def _at(self, t_ms: float) -> Pixels: ...


def check_size(
    width: int, height: int, frames: int, length_ms: float, most_in_all: int = 0, most_frames: int = MOST_FRAMES
) -> None:
    """Raises MediumFault for what takes too much room or time; `most_in_all` are px of all frames, 0 for any."""
    if width * height > MOST_PIXELS:
        raise MediumFault(
            f"The medium has {width} × {height} px.",
            value=[width, height],
            remedy=f"Save it smaller: it may have {MOST_PIXELS // 1_000_000} million px.",
        )
    if frames > most_frames or 0 < most_in_all < width * height * frames:
        raise MediumFault(
            f"The medium has {frames} frames of {width} × {height} px.",
            value=frames,
            remedy=f"Save it shorter or smaller, with at most {most_frames} frames; or as a film.",
        )
    if length_ms > LONGEST_MS:
        raise MediumFault(
            f"The medium takes {length_ms / 1000:.0f} s.",
            value=length_ms,
            remedy=f"Cut it to at most {LONGEST_MS // 60_000} minutes.",
        )
