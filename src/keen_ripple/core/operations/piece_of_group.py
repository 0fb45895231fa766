"""A piece made of a group: its looks become states of its own, and a led placement stands in its stead.

Nothing that plays changes. The way back is `plain_layers`.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any, NamedTuple

from keen_ripple.core.document import Lane, Piece, State, Transition, walk
from keen_ripple.core.document.layers import MODELS, LayerBase
from keen_ripple.core.document.looks import Look
from keen_ripple.core.document.spans import Span, Spans
from keen_ripple.core.document.undercurrents import Undercurrent
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.free import inner_id
from keen_ripple.core.properties import names_of
from keen_ripple.core.timeline import timeline_of

# Of all layers alike, besides their properties.
SHARED = ("locked", "lets_touches_through", "touch_margin")


class Made(NamedTuple):
    """The new piece, and the piece that holds it."""

    original: Piece
    holder: Piece


def piece_of_group(piece: Piece, group_id: str, new_id: str, name: str) -> Made:
    """A piece of what is in the group, by this id and name, and the piece with a placement of it.

    Raises Fault where there is no such group, or where something is said of it that a placement cannot keep: options
    of traits, parameters, or two ways between the same states that move it differently.
    """
    group = next((layer for layer, _ in walk(piece.layers) if layer.id == group_id), None)
    if group is None or group.kind != "group" or not group.layers:
        raise Fault(f"There is no group {group_id!r} with layers.", value=group_id, remedy="Group the layers first.")
    inner = frozenset(layer.id for layer, _ in walk(group.layers))
    _refuse_what_would_be_lost(piece, group, inner)
    if group.base["layout"] != "none" or any("layout" in state.of(group_id) for state in piece.states):
        raise Fault(
            f"{group.name} places what is in it in a row or a column.",
            value=group_id,
            remedy="Group it once more, and make a piece of the group around it.",
        )
    for merged in (True, False):
        standing = _standing(piece, inner, merged)
        if standing is not None:
            original = _original(piece, group, inner, standing, new_id, name)
            if not merged or _plays(original):
                return Made(original, _holder(piece, group, inner, standing, new_id))
    raise Fault(
        f"Two ways between the same states move what is in {group.name} differently.",
        value=group_id,
        remedy="Give both the same timing and lanes, or take one of them out.",
    )


def _refuse_what_would_be_lost(piece: Piece, group: LayerBase, inner: frozenset[str]) -> None:
    for trait in piece.traits:
        if any(inner & option.changes.keys() for option in trait.options):
            raise Fault(
                f"Options of {trait.name} speak of what is in {group.name}.",
                value=group.id,
                remedy="Make a piece of the whole, or take them out first.",
            )
    bound = [own.name for own in piece.parameters if any(bind.layer in inner for bind in own.bind)]
    if bound:
        raise Fault(
            f"Copies of this piece may set {bound[0]}, which goes into {group.name}.",
            value=group.id,
            remedy="Let copies no longer set it first.",
        )


Standing = Mapping[str, str]
"""By the states of the piece: the state in which the new piece stands there."""


def _standing(piece: Piece, inner: frozenset[str], merged: bool) -> Standing | None:
    """The states of the new piece, with those that look the same as one; None where one way would not do for all."""
    rounds = [u for u in piece.undercurrents if u.states is not None and any(c.layer in inner for c in u.courses)]
    looks: dict[str, Any] = {}
    standing: dict[str, str] = {}
    for state in piece.states:
        running = [state.id in (own.states or ()) for own in rounds]
        own = {layer: state.of(layer) for layer in state.changes if layer in inner}, running
        same = next((other for other, look in looks.items() if merged and look == own), None)
        if same is None:
            looks[state.id] = own
        standing[state.id] = same or state.id
    ways: dict[tuple[str, str], Any] = {}
    for way in _ways(piece, standing):
        spans = Spans(way)
        timed = spans.own, {key: span for key, span in spans.special.items() if key[0] in inner}
        if ways.setdefault((standing[way.from_], standing[way.to]), timed) != timed:
            return None
    return standing


def _ways(piece: Piece, standing: Standing) -> Iterator[Transition]:
    """The transitions that lead what is in the group from one state to another."""
    for way in piece.transitions:
        if way.style == "tween" and standing[way.from_] != standing[way.to]:
            yield way


def _plays(piece: Piece) -> bool:
    """Whether it can be played by itself; what it holds is not looked at."""
    try:
        timeline_of(piece.model_copy(update={"layers": ()}) if _holds_others(piece) else piece)
    except Fault:
        return False
    return True


def _holds_others(piece: Piece) -> bool:
    return any(layer.kind == "placement" for layer, _ in walk(piece.layers))


def _original(
    piece: Piece, group: LayerBase, inner: frozenset[str], standing: Standing, new_id: str, name: str
) -> Piece:
    kept = set(standing.values())
    states = tuple(
        state.model_copy(update={"changes": {layer: look for layer, look in state.changes.items() if layer in inner}})
        for state in piece.states
        if state.id in kept
    )
    ways: dict[tuple[str, str], Transition] = {}
    for way in _ways(piece, standing):
        ends = standing[way.from_], standing[way.to]
        ways.setdefault(ends, _inner_way(way, inner, *ends))
    return piece.model_copy(
        update={
            "id": new_id,
            "name": name,
            "width": group.base["width"],
            "height": group.base["height"],
            "ground": None,
            "layers": group.layers,
            "states": states,
            "start": standing[piece.start],
            "transitions": tuple(ways.values()),
            "undercurrents": tuple(_rounds(piece, inner, standing, of_inner=True)),
            "parameters": (),
            "traits": (),
        }
    )


def _inner_way(way: Transition, inner: frozenset[str], from_: str, to: str) -> Transition:
    aimed = way.cue_layer if way.cue_layer in inner else None
    # What ends elsewhere is waited for by nobody here.
    cue = "hold" if way.cue == "media-end" and aimed is None else way.cue
    told = _divided(way, inner, of_inner=True)
    return way.model_copy(update={"from_": from_, "to": to, "cue": cue, "cue_layer": aimed, "early_ms": 0, **told})


def _divided(way: Transition, inner: frozenset[str], of_inner: bool, group: str = "") -> dict[str, Any]:
    """The lanes and staggers of those inside, or of the others: as they were written where they do not mix."""
    lanes = [lane for lane in way.lanes if (lane.layer in inner) == of_inner]
    staggers = [stagger for stagger in way.staggers if set(stagger.layers) & inner]
    mixed = any(not inner.issuperset(stagger.layers) for stagger in staggers) or any(
        group in stagger.layers for stagger in way.staggers
    )
    anchored = any(lane.anchor and lane.anchor.layer and (lane.anchor.layer in inner) != of_inner for lane in lanes)
    if not mixed and not anchored:
        own = staggers if of_inner else [stagger for stagger in way.staggers if stagger not in staggers]
        return {"lanes": tuple(lanes), "staggers": tuple(own)}
    spans = Spans(way).special
    resolved = [_lane(*key, span) for key, span in spans.items() if (key[0] in inner) == of_inner]
    return {"lanes": tuple(resolved), "staggers": ()}


def _rounds(piece: Piece, inner: frozenset[str], standing: Standing, of_inner: bool) -> Iterator[Undercurrent]:
    """The undercurrents with the courses of those inside, or of the others."""
    for own in piece.undercurrents:
        courses = tuple(course for course in own.courses if (course.layer in inner) == of_inner)
        if not courses:
            continue
        states = own.states
        if of_inner and states is not None:
            states = tuple(dict.fromkeys(standing[state] for state in states))
        yield own.model_copy(update={"courses": courses, "states": states})


def _holder(piece: Piece, group: LayerBase, inner: frozenset[str], standing: Standing, new_id: str) -> Piece:
    kept = names_of("placement")
    base = {name: value for name, value in group.base.items() if name in kept}
    own = {name: getattr(group, name) for name in SHARED}
    placement = MODELS["placement"].model_construct(
        kind="placement",
        id=group.id,
        name=group.name,
        piece=new_id,
        life="led",
        **{**own, **base, "state": standing[piece.start], "values": {}, "traits": {}},
    )
    return piece.model_copy(
        update={
            "layers": _replaced(piece.layers, placement),
            "states": tuple(_stated(piece, state, group.id, inner, standing) for state in piece.states),
            "transitions": tuple(_outer_way(way, group.id, inner, standing) for way in piece.transitions),
            "undercurrents": tuple(_rounds(piece, inner, standing, of_inner=False)),
        }
    )


def _replaced(layers: tuple[LayerBase, ...], placement: LayerBase) -> tuple[LayerBase, ...]:
    return tuple(
        placement
        if layer.id == placement.id
        else layer.with_values({"layers": _replaced(layer.layers, placement)})
        if layer.layers
        else layer
        for layer in layers
    )


def _stated(piece: Piece, state: State, group: str, inner: frozenset[str], standing: Standing) -> State:
    changes = {layer: look for layer, look in state.changes.items() if layer not in inner}
    told = {name: value for name, value in state.of(group).items() if name in names_of("placement")}
    if standing[state.id] != standing[piece.start]:
        told["state"] = standing[state.id]
    changes.pop(group, None)
    if told:
        changes[group] = Look.model_construct(**told)
    return state.model_copy(update={"changes": changes})


def _outer_way(way: Transition, group: str, inner: frozenset[str], standing: Standing) -> Transition:
    cue_layer = inner_id(group, way.cue_layer) if way.cue_layer and way.cue_layer in inner else way.cue_layer
    told = _divided(way, inner, of_inner=False, group=group)
    if way.style == "tween":
        told["lanes"] = (*told["lanes"], *_of_state(way, group, inner, standing))
    return way.model_copy(update={"cue_layer": cue_layer, **told})


def _of_state(way: Transition, group: str, inner: frozenset[str], standing: Standing) -> Iterator[Lane]:
    """A lane for the state of the placement, where the transition's own would not do."""
    spans = Spans(way)
    within = [span for (layer, _), span in spans.special.items() if layer in inner]
    if standing[way.from_] == standing[way.to] and within:
        # Nothing in it moves, but it takes as long as before.
        yield _lane(group, "state", max(within, key=lambda span: span.end_ms))
    elif group in spans.layers:
        # What is in it does not wait for what moves it.
        yield Lane.model_construct(layer=group, property="state", delay_ms=0)


def _lane(layer: str, name: str | None, span: Span) -> Lane:
    style: Any = "tween" if span.easing else "cut"
    return Lane.model_construct(layer=layer, property=name, delay_ms=span.start_ms, style=style, timing=span.timing)
