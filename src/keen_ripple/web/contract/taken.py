"""What was found in files of others."""

from __future__ import annotations

from typing import Annotated, Any

from keen_ripple.core.document.layers import Layer
from keen_ripple.web.contract.answers import Answer
from keen_ripple.web.contract.parts import Sent, Unchecked


class Artwork(Answer):
    """What was found in a drawing from outside."""

    name: str
    width: float
    height: float
    layers: Annotated[Any, Unchecked(list[Layer])]
    notes: tuple[str, ...]


class MediumFacts(Answer):
    """What was found in a medium; `length_ms` is 0 where it stands still, at `fullest_ms` most is seen of it."""

    mime: str
    width: int
    height: int
    length_ms: int
    fullest_ms: int
    notes: tuple[str, ...]


class FontTaken(Answer):
    """What was found in a font: its family, the file as WOFF2 in a data: URL, and its characters as a unicode-range."""

    family: str
    source: str
    weights: tuple[float, float]
    characters: str


class SharedFont(Sent):
    """A family that a piece of the collection brings."""

    family: str
    piece: str
    name: str


class SharedFonts(Answer):
    """The families of all pieces, each as the newest of them has it."""

    fonts: list[SharedFont]


class SharedFiles(Answer):
    """The files of a family, as a document has them."""

    family: str
    files: list[str]
