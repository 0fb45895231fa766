"""What the page is told of fonts."""

from __future__ import annotations

from typing_extensions import TypedDict


class AxisFacts(TypedDict):
    """An axis of a variable font, besides that of the weight; `tag` is its name in a document."""

    tag: str
    name: str
    low: float
    default: float
    high: float


class FontSource(TypedDict):
    """A file of a family: what it shows, `characters` as CSS writes a unicode-range, and the file as a data: URL."""

    weights: tuple[float, float]
    characters: str
    source: str


class FontFacts(TypedDict):
    """A family that the piece brings, or that comes with what stands in it. `may_be_sent` is what its own bits say."""

    files: list[FontSource]
    axes: list[AxisFacts]
    may_be_sent: bool


class CoveredFont(TypedDict):
    """A family that a piece in this one brings too, with other files: `original` is its name. Those are not shown."""

    family: str
    original: str


class LackingLetters(TypedDict):
    """Characters of a text that its family does not have, so that any other font shows them."""

    layer: str
    family: str
    letters: str
