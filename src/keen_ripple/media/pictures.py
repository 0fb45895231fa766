"""Moving pictures: GIF, APNG and WebP, read by Pillow."""

from __future__ import annotations

import io
from bisect import bisect_right
from itertools import accumulate

import numpy as np
from PIL import Image, UnidentifiedImageError

from keen_ripple.media.reel import MediumFault, Pixels, Reel, check_size

MOST_IN_ALL = 300_000_000
"""Pixels of all frames together: each is read once to know when it is shown."""
FORMATS = ("GIF", "WEBP", "PNG")
HASTY_MS, INSTEAD_MS = 10, 100
"""What is to be shown no longer than the first is shown for the second, as browsers do."""


WRONG = (UnidentifiedImageError, OSError, ValueError, SyntaxError, EOFError, Image.DecompressionBombError)


class Pictures(Reel):
    """Frames with times of their own, each laid over those before it as the file says."""

    def __init__(self, data: bytes) -> None:
        super().__init__()
        self._data = data
        try:
            self._begin()
            self.width, self.height = self._image.size
            check_size(self.width, self.height, 1, 0.0)
            self.frames = getattr(self._image, "n_frames", 1) - self._first
            check_size(self.width, self.height, self.frames, 0.0, MOST_IN_ALL)
            self._begin()
            lengths = [self._step() for _ in range(self.frames)]
        except MediumFault:
            raise
        except WRONG:
            raise MediumFault(
                "The file cannot be read as moving pictures.", remedy="Save it again, or choose another."
            ) from None
        self.mime = f"image/{(self._image.format or 'gif').lower()}"
        self._starts = [0.0, *accumulate(lengths)][:-1]
        self.length_ms = round(sum(lengths)) if len(lengths) > 1 else 0
        check_size(self.width, self.height, self.frames, self.length_ms)
        self._begin()

    def _begin(self) -> None:
        """Before the first frame. Decoders go forward reliably, and not all of them back."""
        self._image = Image.open(io.BytesIO(self._data), formats=FORMATS)
        # A picture for those who cannot play an APNG is no frame of it.
        self._first = int(bool(getattr(self._image, "default_image", False)))
        self._index = -1

    def _step(self) -> float:
        """Goes on to the next frame; its ms."""
        self._index += 1
        self._image.seek(self._index + self._first)
        # What a frame says of itself, it says only once it is read.
        self._image.load()
        ms = float(self._image.info.get("duration", 0.0))
        return ms if ms > HASTY_MS else float(INSTEAD_MS)

    def _at(self, t_ms: float) -> Pixels:
        wanted = max(bisect_right(self._starts, t_ms) - 1, 0)
        if wanted < self._index:
            self._begin()
        if wanted > self._index:
            while self._index < wanted:
                self._step()
            self._shown = np.asarray(self._image.convert("RGBA"), dtype=np.uint8)
        return self._shown
