"""The fonts that are shipped, by the name of their family."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple


class Font(NamedTuple):
    """The files of a family in `keen_ripple/fonts`, and its weights as CSS writes them.

    A character is taken from the first file that has it, as on the page, so that neighbours of one file keep their
    kerning.
    """

    files: tuple[str, ...]
    weights: str


FONTS: Mapping[str, Font] = {
    "Hanken Grotesk": Font(("hanken-grotesk-latin.woff2", "hanken-grotesk-latin-ext.woff2"), "100 900"),
    "JetBrains Mono": Font(("jetbrains-mono-latin.woff2",), "100 800"),
}
