"""Faces: the files of a family, and which of them show a text in a weight, as browsers choose them."""

from __future__ import annotations

import io
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

from fontTools.ttLib import TTFont

from keen_ripple.core.document.piece import FontFamily
from keen_ripple.core.fonts import FONTS
from keen_ripple.core.values.font_file import FontFile, data_in, opened, read_font

MEDIUM = 500.0


@dataclass(frozen=True, eq=False)
class Face:
    """One file of a family. `data` is WOFF2; `characters` are those that it shows, since no file before it has them."""

    family: str
    data: bytes
    file: FontFile
    characters: frozenset[int]

    def unpacked(self, spaced: bool) -> bytes:
        """The font without its compression, as drawing needs it; of letters that are `spaced`, without ligatures."""
        return _unpacked(self.data, spaced)


def faces_of(fonts: Iterable[FontFamily], family: str) -> tuple[Face, ...]:
    """The faces of a family that a piece brings or that is shipped; of the first shipped where there is none so called.

    Those of one weight share the characters: each is shown by the first that has it.
    """
    own = next((each for each in fonts if each.family == family), None)
    if own is not None:
        return _brought(own.family, own.files)
    return _shipped(family if family in FONTS else next(iter(FONTS)))


def chosen(faces: Sequence[Face], weight: float) -> tuple[Face, ...]:
    """Those of the weight that is shown for this one: CSS Fonts Level 4, section 5.2."""
    spans = {face.file.weights for face in faces}
    best = min(spans, key=lambda span: _apart(span, weight))
    return tuple(face for face in faces if face.file.weights == best)


@lru_cache(maxsize=4096)
def lacking(faces: tuple[Face, ...], text: str) -> str:
    """The characters of a text that no face has, each once; none of what is not seen."""
    known = _characters(faces)
    return "".join(dict.fromkeys(c for c in text if ord(c) not in known and c.isprintable() and not c.isspace()))


@lru_cache(maxsize=64)
def _characters(faces: tuple[Face, ...]) -> frozenset[int]:
    return frozenset[int]().union(*(face.file.characters for face in faces))


def _apart(span: tuple[float, float], weight: float) -> tuple[int, float]:
    """How far a span of weights is from one: first in which direction it is looked for, then by how much."""
    low, high = span
    if low <= weight <= high:
        return 0, 0.0
    heavier, lighter = low - weight, weight - high
    if 400.0 <= weight <= MEDIUM:
        # Up to 500 first, then what is lighter, then what is heavier.
        if heavier > 0.0:
            return (1, heavier) if low <= MEDIUM else (3, heavier)
        return 2, lighter
    first_lighter = weight < 400.0
    return (1 if (lighter > 0.0) == first_lighter else 2), max(heavier, lighter)


@lru_cache(maxsize=64)
def _brought(family: str, sources: tuple[str, ...]) -> tuple[Face, ...]:
    return _sharing(family, [data_in(source) for source in sources])


@lru_cache
def _shipped(family: str) -> tuple[Face, ...]:
    folder = files("keen_ripple") / "fonts"
    return _sharing(family, [(folder / name).read_bytes() for name in FONTS[family]])


def _sharing(family: str, data: Iterable[bytes]) -> tuple[Face, ...]:
    shown: dict[tuple[float, float], frozenset[int]] = {}
    found = []
    for each in data:
        file = read_font(each)
        before = shown.get(file.weights, frozenset())
        shown[file.weights] = before | file.characters
        found.append(Face(family, each, file, file.characters - before))
    return tuple(found)


# Ligatures and what depends on neighbours, which are left out where space is put between letters: CSS Text Level 3,
# section 8.2. Joined letters stay joined.
UNSPACED = ("liga", "clig", "dlig", "hlig", "calt")


def _unpacked(data: bytes, spaced: bool) -> bytes:
    font: TTFont = opened(data)
    font.flavor = None
    features = font["GSUB"].table.FeatureList if spaced and "GSUB" in font else None
    for record in features.FeatureRecord if features else ():
        if record.FeatureTag in UNSPACED:
            record.Feature.LookupListIndex.clear()
    buffer = io.BytesIO()
    font.save(buffer)
    return buffer.getvalue()
