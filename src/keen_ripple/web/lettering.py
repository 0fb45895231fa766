"""What is said of the fonts of a piece, and of letters that they do not have."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import walk
from keen_ripple.core.document.piece import FontFamily
from keen_ripple.core.timeline import Timeline
from keen_ripple.core.values.font_file import Axis, ranges_of
from keen_ripple.fonts import Face, faces_of, lacking
from keen_ripple.web.contract.lettering import AxisFacts, CoveredFont, FontFacts, FontSource, LackingLetters


def lettering(after: Timeline, before: Timeline | None) -> dict[str, Any]:
    """The fonts, where they are others than before, and what they lack."""
    fonts = after.piece.fonts
    known = before is not None and before.piece.fonts == fonts
    told = {} if known else {"fonts": {family.family: facts_of_family(family) for family in fonts}}
    return {**told, "lacking": _lacking(after), "covered": _covered(after)}


@lru_cache(maxsize=64)
def facts_of_family(family: FontFamily) -> FontFacts:
    """What the page has to know of a family to show it."""
    faces = faces_of((family,), family.family)
    return FontFacts(
        files=[_source(face, source) for face, source in zip(faces, family.files, strict=True)],
        axes=[_axis(axis) for axis in axes_of(faces)],
        may_be_sent=all(face.file.may_be_sent for face in faces),
    )


def axes_of(faces: tuple[Face, ...]) -> list[Axis]:
    """The axes of all faces, each once."""
    return list({axis.tag: axis for face in reversed(faces) for axis in face.file.axes}.values())


def _axis(axis: Axis) -> AxisFacts:
    return AxisFacts(tag=axis.tag, name=axis.name, low=axis.low, default=axis.default, high=axis.high)


def _source(face: Face, source: str) -> FontSource:
    return FontSource(weights=face.file.weights, characters=ranges_of(face.characters), source=source)


def _lacking(timeline: Timeline) -> list[LackingLetters]:
    """By layer and family, in the order of the layers."""
    found: dict[tuple[str, str], str] = {}
    for layer in _texts(timeline.piece):
        for look in timeline.looks_of(layer):
            letters = lacking(faces_of(timeline.piece.fonts, look["font_family"]), look["text"])
            if letters:
                key = layer, look["font_family"]
                found[key] = "".join(dict.fromkeys(found.get(key, "") + letters))
    return [LackingLetters(layer=layer, family=family, letters=text) for (layer, family), text in found.items()]


def _covered(timeline: Timeline) -> list[CoveredFont]:
    shown = {family.family: family for family in timeline.piece.fonts}
    return [
        CoveredFont(family=own.family, original=original.name)
        for original in timeline.library.values()
        for own in original.fonts
        if shown[own.family] != own
    ]


def _texts(piece: Piece) -> list[str]:
    return [layer.id for layer, _ in walk(piece.layers) if layer.kind == "text"]
