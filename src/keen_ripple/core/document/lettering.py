"""What texts are set in: families that the piece brings or that are shipped, and places on their axes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from keen_ripple.core.document.layers import walk
from keen_ripple.core.document.piece import Piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.fonts import FONTS


def lettering_faults(piece: Piece) -> Iterator[Fault]:
    """Families that there are twice or not at all, and states that say other axes than the layer itself."""
    yield from _families(piece)
    known = [*FONTS, *(own.family for own in piece.fonts)]
    bases = {layer.id: layer.base for layer, _ in walk(piece.layers) if layer.kind == "text"}
    for base, look, place in _looks(piece, bases):
        family = look.get("font_family")
        if family is not None and family not in known:
            yield Fault(
                f"There is no font {family!r} in this piece.",
                place=f"{place}/font_family",
                value=family,
                remedy=f"Bring it in, or choose one of these: {', '.join(known)}.",
            )
        axes, own = _axes(look), _axes(base)
        if axes is not None and axes != own:
            yield Fault(
                f"The axes {_listed(axes)} are not those of the layer itself, {_listed(own or ())}.",
                place=f"{place}/font_axes",
                value=list(axes),
                remedy="Say the same axes in the layer and in all its states, in the same order.",
            )


def _families(piece: Piece) -> Iterator[Fault]:
    seen = set(FONTS)
    for i, own in enumerate(piece.fonts):
        if own.family in seen:
            yield Fault(
                f"There is a font {own.family!r} already.",
                place=f"/fonts/{i}/family",
                value=own.family,
                remedy="Give it another name, or add its files to that one.",
            )
        seen.add(own.family)


def _looks(
    piece: Piece, bases: Mapping[str, Mapping[str, Any]]
) -> Iterator[tuple[Mapping[str, Any], Mapping[str, Any], str]]:
    """All that is said of texts: the base of the layer, what is said, and where."""
    for layer, place in walk(piece.layers):
        if layer.kind == "text":
            yield layer.base, layer.base, place
    for i, state in enumerate(piece.states):
        for text in state.changes.keys() & bases.keys():
            yield bases[text], state.of(text), f"/states/{i}/changes/{text}"
    for i, trait in enumerate(piece.traits):
        for j, option in enumerate(trait.options):
            for text in option.changes.keys() & bases.keys():
                place = f"/traits/{i}/options/{j}/changes/{text}"
                look = option.changes[text]
                yield bases[text], {name: getattr(look, name) for name in look.model_fields_set}, place


def _listed(axes: tuple[str, ...]) -> str:
    return ", ".join(axes) or "none"


def _axes(look: Mapping[str, Any]) -> tuple[str, ...] | None:
    """The axes of which something is said; None where nothing is."""
    said = look.get("font_axes")
    return None if said is None else tuple(place.axis for place in said)
