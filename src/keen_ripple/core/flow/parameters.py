"""A piece with values of its own for its parameters, as one of its placements has it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from itertools import pairwise
from typing import Any

from pydantic import TypeAdapter, ValidationError

from keen_ripple.core.document import Piece, State, walk
from keen_ripple.core.document.fields import Milliseconds
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.document.looks import Look
from keen_ripple.core.document.parameters import Bind, Parameter
from keen_ripple.core.document.undercurrents import Undercurrent, fits
from keen_ripple.core.properties import BY_NAME
from keen_ripple.core.values.paint import Gradient

_TIME: TypeAdapter[int] = TypeAdapter(Milliseconds)


def with_values(piece: Piece, values: Mapping[str, Any]) -> Piece:
    """The piece with these values, by the ids of its parameters.

    What it has no parameter for, and what does not fit where it would go, is left out: a copy stays playable, whatever
    becomes of its original.
    """
    for parameter in piece.parameters:
        if parameter.id in values:
            for bind in parameter.bind:
                piece = _bound(piece, bind, values[parameter.id])
    return piece


def value_of(piece: Piece, parameter: Parameter) -> Any:
    """What the piece itself has for a parameter, at the first place that it is bound to; None where that is gone."""
    bind = parameter.bind[0]
    if bind.transition is not None:
        way = next((own for own in piece.transitions if own.id == bind.transition), None)
        if bind.hold:
            return way.hold_ms if way is not None else None
        timing = way.timing if way is not None else None
        return timing.duration_ms if timing is not None and timing.kind == "curve" else None
    if bind.undercurrent is not None:
        return next((own.period_ms for own in piece.undercurrents if own.id == bind.undercurrent), None)
    layer = next((own for own, _ in walk(piece.layers) if own.id == bind.layer), None)
    if layer is None:
        return None
    state = next((state for state in piece.states if state.id == bind.state), None)
    value = {**layer.base, **(state.of(layer.id) if state else {})}.get(str(bind.property))
    if bind.parameter is not None:
        return value.get(bind.parameter) if isinstance(value, Mapping) else None
    if bind.shadow is not None:
        return value[bind.shadow].colour if isinstance(value, tuple) and bind.shadow < len(value) else None
    if bind.stop is None:
        return value if isinstance(value, str | float | int) else None
    return value.stops[bind.stop].colour if isinstance(value, Gradient) and bind.stop < len(value.stops) else None


def _bound(piece: Piece, bind: Bind, value: Any) -> Piece:
    if bind.transition is not None:
        return _timed(piece, bind.transition, bind.hold, value)
    if bind.undercurrent is not None:
        ms = _whole_ms(value, 1)
        rounds = (_paced(own, ms) if ms and own.id == bind.undercurrent else own for own in piece.undercurrents)
        return piece.model_copy(update={"undercurrents": tuple(rounds)})
    assert bind.layer is not None and bind.property is not None
    if bind.state is not None:
        return piece.model_copy(update={"states": tuple(_state(state, bind, value) for state in piece.states)})
    return piece.model_copy(
        update={"layers": _each(piece.layers, bind.layer, lambda layer: _layer(layer, bind, value))}
    )


def _paced(own: Undercurrent, period_ms: int) -> Undercurrent:
    """With another period, and its keys at the same shares of it; as it is where they would fall on each other."""

    def paced(ms: int) -> int:
        return (2 * ms * period_ms + own.period_ms) // (2 * own.period_ms)

    courses = []
    for course in own.courses:
        times = [paced(key.at_ms) for key in course.keys]
        if any(a >= b for a, b in pairwise(times)):
            return own
        keys = tuple(key.model_copy(update={"at_ms": at}) for key, at in zip(course.keys, times, strict=True))
        courses.append(course.model_copy(update={"keys": keys, "offset_ms": paced(course.offset_ms)}))
    return own.model_copy(update={"period_ms": period_ms, "phase_ms": paced(own.phase_ms), "courses": tuple(courses)})


def _timed(piece: Piece, transition: str, hold: bool, value: Any) -> Piece:
    ms = _whole_ms(value, 0)

    def timed(own: Any) -> Any:
        if ms is None or own.id != transition:
            return own
        if hold:
            # What is left early is not held.
            return own if own.early_ms else own.model_copy(update={"hold_ms": ms})
        if own.timing.kind != "curve":
            return own
        return own.model_copy(update={"timing": own.timing.model_copy(update={"duration_ms": ms})})

    return piece.model_copy(update={"transitions": tuple(map(timed, piece.transitions))})


def _whole_ms(value: Any, least: int) -> int | None:
    try:
        ms = _TIME.validate_python(value)
    except ValidationError:
        return None
    return ms if ms >= least else None


def _each(
    layers: tuple[LayerBase, ...], layer_id: str, change: Callable[[LayerBase], LayerBase]
) -> tuple[LayerBase, ...]:
    """The layers with one of them changed, wherever it lies; the others are the same objects."""
    found = []
    for layer in layers:
        inner = _each(layer.layers, layer_id, change) if layer.layers else layer.layers
        changed = (
            layer
            if all(a is b for a, b in zip(inner, layer.layers, strict=True))
            else layer.with_values({"layers": inner})
        )
        found.append(change(changed) if layer.id == layer_id else changed)
    return tuple(found)


def _layer(layer: LayerBase, bind: Bind, value: Any) -> LayerBase:
    name = str(bind.property)
    told = _told(bind, value, getattr(layer, name, None))
    return layer if told is None else layer.with_values({name: told})


def _state(state: State, bind: Bind, value: Any) -> State:
    if state.id != bind.state:
        return state
    look = state.of(str(bind.layer))
    told = _told(bind, value, look.get(str(bind.property)))
    if told is None:
        return state
    changed = Look.model_construct(**{**look, str(bind.property): told})
    return state.model_copy(update={"changes": {**state.changes, str(bind.layer): changed}})


def _is_colour(value: Any) -> bool:
    return isinstance(value, str) and fits("fill", value)


def _told(bind: Bind, value: Any, before: Any) -> Any:
    """What stands there with this value; None where it does not fit."""
    row = BY_NAME.get(str(bind.property))
    if row is None:
        return None
    if bind.parameter is not None:
        return {**(before or {}), bind.parameter: value}
    if bind.shadow is not None:
        if not isinstance(before, tuple) or bind.shadow >= len(before) or not _is_colour(value):
            return None
        shadows = list(before)
        shadows[bind.shadow] = shadows[bind.shadow].model_copy(update={"colour": value})
        return tuple(shadows)
    if bind.stop is not None:
        if not isinstance(before, Gradient) or bind.stop >= len(before.stops) or not _is_colour(value):
            return None
        stops = list(before.stops)
        stops[bind.stop] = stops[bind.stop].model_copy(update={"colour": value})
        return before.model_copy(update={"stops": tuple(stops)})
    return value if fits(row.name, value) else None
