"""The fonts that are shipped, by the name of their family."""

from __future__ import annotations

from collections.abc import Mapping

FONTS: Mapping[str, tuple[str, ...]] = {
    "Hanken Grotesk": ("hanken-grotesk-latin.woff2", "hanken-grotesk-latin-ext.woff2"),
    "JetBrains Mono": ("jetbrains-mono-latin.woff2",),
}
"""Their files in `keen_ripple/fonts`. A character is taken from the first that has it, as on the page, so that
neighbours of one file keep their kerning."""
