"""A placement turned into plain layers: what plays stays as it is, and the original is followed no more."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from typing import Any, Literal

from keen_ripple.core.document import Piece, State, Transition, walk
from keen_ripple.core.document.layers import MODELS, LayerBase
from keen_ripple.core.document.renaming import Rename, renamed_lane, renamed_transition, renamed_undercurrent
from keen_ripple.core.document.spans import Led, Span, Spans
from keen_ripple.core.document.transitions import Lane
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.placing import Library, placed, placements_of
from keen_ripple.core.properties import properties_of

LONGEST_ID = 60
# What every layer has besides its properties.
OF_ALL = ("locked", "lets_touches_through", "touch_margin", "mask")


def with_plain_layers(piece: Piece, placement: str, library: Library) -> Piece:
    """The piece with a group in place of the placement, and in it the layers of the original, by ids of their own.

    Raises Fault where there is no such placement, PlacingFault where it cannot be laid flat.
    """
    found = next((layer for layer, _ in placements_of(piece) if layer.id == placement), None)
    if found is None:
        raise Fault(f"There is no placement {placement!r}.", value=placement, remedy="Name a piece in this piece.")
    if found.life == "free":
        raise Fault(
            f"{found.name} lives free, and plain layers go with the piece that they are in.",
            value=placement,
            remedy="Let this piece lead it first.",
        )
    flat = placed(piece, library, only=placement)
    names = _names(flat, placement)
    layers = [layer for layer, _ in walk(flat.layers)]
    turned = {layer.id for layer in layers if _is_flat(layer)}
    inner = [layer.id for layer in layers if layer.id in names]
    return flat.model_copy(
        update={
            "layers": _layers(flat.layers, names),
            "states": tuple(_state(state, names, turned) for state in flat.states),
            "transitions": tuple(_transition(own, names, turned, inner) for own in flat.transitions),
            "undercurrents": tuple(renamed_undercurrent(own, _renaming(names)) for own in flat.undercurrents),
        }
    )


def _names(flat: Piece, placement: str) -> dict[str, str]:
    """Free ids for all that is called after the placement."""
    taken = {layer.id for layer, _ in walk(flat.layers)} | {own.id for own in flat.undercurrents}
    names: dict[str, str] = {}
    for inner in sorted(name for name in taken if name.startswith(f"{placement}/")):
        wanted = inner.replace("/", "-")[-LONGEST_ID:].strip("-")
        number, candidate = 1, wanted
        while candidate in taken or candidate in names.values():
            number += 1
            candidate = f"{wanted}-{number}"
        names[inner] = candidate
    return names


def _renaming(names: Mapping[str, str]) -> Rename:
    return lambda name: names.get(name, name)


def _layers(layers: Sequence[LayerBase], names: Mapping[str, str]) -> tuple[LayerBase, ...]:
    return tuple(_layer(layer, names) for layer in layers)


def _layer(layer: LayerBase, names: Mapping[str, str]) -> LayerBase:
    inner = _layers(layer.layers, names)
    if _is_flat(layer):
        own = {row.name: layer.base[row.name] for row in properties_of("group") if row.name in layer.base}
        own |= {name: getattr(layer, name) for name in OF_ALL}
        own |= {"id": names.get(layer.id, layer.id), "name": _own_name(layer, names), "kind": "group"}
        return MODELS["group"].model_construct(**own, layers=inner)
    if layer.id not in names and not inner:
        return layer
    values: dict[str, Any] = {"id": names.get(layer.id, layer.id), "name": _own_name(layer, names)}
    copy = layer.model_copy(update={**values, "layers": inner} if inner else values)
    copy.__dict__.pop("base", None)
    return copy


def _is_flat(layer: LayerBase) -> bool:
    return layer.kind == "placement" and layer.piece is None


def _own_name(layer: LayerBase, names: Mapping[str, str]) -> str:
    return layer.name.rsplit(" › ", 1)[-1] if layer.id in names else layer.name


def _state(state: State, names: Mapping[str, str], turned: Collection[str]) -> State:
    changes = {}
    for name, look in state.changes.items():
        told = state.of(name)
        if name in turned:
            # A group has no state of its own.
            told = {key: value for key, value in told.items() if key not in ("state", "values", "traits")}
        if told:
            changes[names.get(name, name)] = type(look).model_construct(**told)
    return state.model_copy(update={"changes": changes})


def _transition(own: Transition, names: Mapping[str, str], turned: Collection[str], inner: Sequence[str]) -> Transition:
    spans, of = Spans(own), _renaming(names)
    lanes = []
    for lane in own.lanes:
        if isinstance(lane, Led) or (lane.layer in turned and lane.property == "state"):
            continue
        if lane.anchor is not None and lane.anchor.layer in turned and lane.anchor.property == "state":
            start = spans.unstaggered(lane.layer, lane.property).start_ms
            lane = lane.model_copy(update={"anchor": None, "delay_ms": start})
        lanes.append(renamed_lane(lane, of))
    if own.style == "tween":
        lanes += _inner_lanes(spans, inner, names)
    return renamed_transition(own.model_copy(update={"lanes": ()}), of).model_copy(update={"lanes": tuple(lanes)})


def _inner_lanes(spans: Spans, layers: Iterable[str], names: Mapping[str, str]) -> Iterator[Lane]:
    """Lanes that say of each of the layers what the placement around it said."""
    told: dict[tuple[str, str | None], Span] = {(layer, None): spans.of(layer, None) for layer in layers}
    for led in spans.led.values():
        told.update(led.of_properties())
    for (layer, name), span in told.items():
        if span != spans.own or name is not None:
            style: Literal["tween", "cut"] = "tween" if span.easing else "cut"
            yield Lane(layer=names[layer], property=name, delay_ms=span.start_ms, style=style, timing=span.timing)
