"""What a schema cannot say: names that are unique, and references that lead somewhere."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from keen_ripple.core.document.layers import LayerBase, walk
from keen_ripple.core.document.piece import Piece
from keen_ripple.core.document.transitions import Transition
from keen_ripple.core.errors import Fault
from keen_ripple.core.properties import names_of, properties_of


def reference_faults(piece: Piece) -> Iterator[Fault]:
    """Every fault of this kind, in the order of the document."""
    layers = {layer.id: layer for layer, _ in walk(piece.layers)}
    states = {state.id for state in piece.states}
    yield from _repeated((layer.id, f"{place}/id") for layer, place in walk(piece.layers))
    yield from _repeated((state.id, f"/states/{i}/id") for i, state in enumerate(piece.states))
    yield from _repeated((t.id, f"/transitions/{i}/id") for i, t in enumerate(piece.transitions))
    for i, state in enumerate(piece.states):
        for layer_id in state.changes:
            place = f"/states/{i}/changes/{layer_id}"
            if layer_id not in layers:
                yield _unknown("layer", layer_id, place, layers)
                continue
            for name in state.changes[layer_id].model_fields_set:
                yield from _difference(layers[layer_id], name, f"{place}/{name}")
    if piece.start not in states:
        yield _unknown("state", piece.start, "/start", states)
    for i, transition in enumerate(piece.transitions):
        place = f"/transitions/{i}"
        for end, state_id in (("from", transition.from_), ("to", transition.to)):
            if state_id not in states:
                yield _unknown("state", state_id, f"{place}/{end}", states)
        yield from _lanes(transition, layers, place)


def _difference(layer: LayerBase, name: str, place: str) -> Iterator[Fault]:
    if name not in names_of(layer.kind):
        yield Fault(f"A {layer.kind} has no {name}.", place=place, value=name, remedy="Remove it.")


def _lanes(transition: Transition, layers: dict[str, LayerBase], place: str) -> Iterator[Fault]:
    seen: set[tuple[str, str | None]] = set()
    for j, lane in enumerate(transition.lanes):
        here = f"{place}/lanes/{j}"
        if lane.layer not in layers:
            yield _unknown("layer", lane.layer, f"{here}/layer", layers)
            continue
        varying = [row.name for row in properties_of(layers[lane.layer].kind) if row.varies]
        if lane.property is not None and lane.property not in varying:
            yield _unknown("property", lane.property, f"{here}/property", varying)
        if (lane.layer, lane.property) in seen:
            yield Fault("This lane stands twice.", place=here, value=lane.layer, remedy="Remove one of the two.")
        seen.add((lane.layer, lane.property))


def _repeated(ids: Iterable[tuple[str, str]]) -> Iterator[Fault]:
    seen: set[str] = set()
    for name, place in ids:
        if name in seen:
            yield Fault(f"The id {name!r} stands twice.", place=place, value=name, remedy="Give each its own.")
        seen.add(name)


def _unknown(what: str, name: str, place: str, known: Iterable[str]) -> Fault:
    names = ", ".join(sorted(known)) or "none yet"
    return Fault(f"There is no {what} {name!r}.", place=place, value=name, remedy=f"Known: {names}.")
