"""Letters as dark or light as browsers show them.

Rasterised letters are corrected for the eye: by a contrast and a gamma that go with the luminance of their colour
(Skia, `SkMaskGamma.cpp`, `SkTMaskGamma_build_correcting_lut`). The library here is built with other constants than
Chromium, and its correction cannot be switched off. So letters are drawn in a grey, as a mask; the correction of that
grey is undone, the one of Chromium put in its place, and the paint is seen through the mask.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

import numpy as np
import skia

from keen_ripple.core.arrays import Floats

# Contrast and gamma: those that skia-python is built with, and those of Chromium where no desktop says others.
OURS = (0.5, 2.2)
CHROMIUM = (0.2, 1.2)
# In sRGB; of its luminance only three bits count.
GREY = 0x80
WEIGHTS = np.array([0.2126, 0.7152, 0.0722])


def seen_through(canvas: skia.Canvas, paint: skia.Paint, area: skia.Rect, draw: Callable[[skia.Paint], None]) -> None:
    """Draws the paint where `draw` sets letters with the paint that it is given; nothing beyond `area`."""
    canvas.saveLayer(area)
    canvas.saveLayer(area, skia.Paint(ColorFilter=_corrected(_luminance(paint))))
    draw(skia.Paint(Color=skia.ColorSetRGB(GREY, GREY, GREY), AntiAlias=True))
    canvas.restore()
    through = skia.Paint(paint)
    through.setBlendMode(skia.BlendMode.kSrcIn)
    canvas.drawPaint(through)
    canvas.restore()


def _luminance(paint: skia.Paint) -> int:
    """Of a plain colour, 0–7; a gradient is seen through black letters, in the page too."""
    if paint.getShader() is not None:
        return 0
    colour = paint.getColor4f()
    channels = np.array([colour.fR, colour.fG, colour.fB]) ** CHROMIUM[1]
    return _three_bits(float(WEIGHTS @ channels) ** (1.0 / CHROMIUM[1]) * 255.0)


def _three_bits(value: float) -> int:
    return min(max(round(value), 0), 255) >> 5


@lru_cache(maxsize=8)
def _corrected(luminance: int) -> skia.ColorFilter:
    shares = np.arange(256) / 255.0
    drawn = _correction(shares, _three_bits(GREY), *OURS)
    table = _correction(np.interp(shares, drawn, shares), luminance, *CHROMIUM)
    alpha = np.round(np.clip(table, 0.0, 1.0) * 255.0).astype(np.uint8).tolist()
    return skia.TableColorFilter.MakeARGB(alpha, None, None, None)


def _correction(shares: Floats, luminance: int, contrast: float, gamma: float) -> Floats:
    """What becomes of shares of a pixel that are covered by letters of a luminance of 0–7."""
    # Three bits, repeated until there are eight.
    source = ((luminance << 5) | (luminance << 2) | (luminance >> 1)) / 255.0
    behind = 1.0 - source
    shares = shares + (1.0 - shares) * shares * contrast * behind**gamma
    seen = (source**gamma * shares + behind**gamma * (1.0 - shares)) ** (1.0 / gamma)
    return np.asarray((seen - behind) / (source - behind))
