"""The fonts of a piece, cut down to the characters in use, to be carried inside a file."""

from __future__ import annotations

import base64
from collections.abc import Collection, Iterator, Mapping
from types import MappingProxyType

from keen_ripple.core.document import walk
from keen_ripple.core.timeline import Timeline
from keen_ripple.core.values.font_file import ranges_of
from keen_ripple.fonts import Face, cut_down, faces_of, lacking
from keen_ripple.handoff.css_text import css_string

MOST_NAMED = 8


Letters = Mapping[str, Collection[str]]
"""Characters by font family."""


def font_faces(timeline: Timeline, also: Letters = MappingProxyType({})) -> Iterator[str]:
    """CSS lines that define the families that the piece's texts are set in, the fonts inside as WOFF2; with characters
    that may be seen `also`.
    """
    used = _used(timeline)
    for family in sorted({*used, *also}):
        characters = {*used.get(family, ()), *also.get(family, ())}
        for face in faces_of(timeline.piece.fonts, family):
            wanted = frozenset(map(ord, characters)) & face.characters
            if wanted - {32} and face.file.may_be_sent:
                yield from _face(face, wanted)


def font_notes(timeline: Timeline) -> Iterator[str]:
    """What whoever opens the file sees in another font: what may not be sent, and letters that no font has."""
    for family, characters in sorted(_used(timeline).items()):
        faces = faces_of(timeline.piece.fonts, family)
        if not all(face.file.may_be_sent for face in faces):
            yield f"The font {family}: its file forbids embedding. Whoever opens this needs to have it installed."
        missing = lacking(faces, characters)
        if missing:
            shown = ", ".join(missing[:MOST_NAMED]) + ("…" if missing[MOST_NAMED:] else "")
            yield f"{shown} in {family}, which does not have it: some other font shows it."


def family_notes(timeline: Timeline) -> Iterator[str]:
    """Of a file that carries no fonts."""
    for family in sorted(_used(timeline)):
        yield f"The font {family}: the page that shows the elements has to bring it."


def _used(timeline: Timeline) -> dict[str, str]:
    """The characters that are seen of each family."""
    used: dict[str, set[str]] = {}
    for layer, _ in walk(timeline.piece.layers):
        if layer.kind == "text":
            for look in timeline.looks_of(layer.id):
                used.setdefault(look["font_family"], set()).update(look["text"])
    return {family: "".join(sorted(characters)) for family, characters in used.items()}


def _face(face: Face, wanted: frozenset[int]) -> Iterator[str]:
    data = cut_down(face.data, wanted) if face.file.may_be_cut else face.data
    low, high = face.file.weights
    yield from (
        "@font-face {",
        f"  font-family: {css_string(face.family)};",
        f"  font-weight: {low:g}{f' {high:g}' * (high > low)};",
        f"  unicode-range: {ranges_of(wanted)};",
        f'  src: url("data:font/woff2;base64,{base64.b64encode(data).decode("ascii")}") format("woff2");',
        "}",
    )
