"""What a schema cannot say: names that are unique, and references that lead somewhere."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import pairwise
from typing import Any

from keen_ripple.core.document.counts import count_faults
from keen_ripple.core.document.layers import LayerBase, walk
from keen_ripple.core.document.lettering import lettering_faults
from keen_ripple.core.document.parameters import Bind
from keen_ripple.core.document.piece import Piece
from keen_ripple.core.document.spans import AnchorFault, Spans
from keen_ripple.core.document.transitions import Transition
from keen_ripple.core.document.undercurrents import Course, Undercurrent, fits
from keen_ripple.core.errors import Fault
from keen_ripple.core.properties import BY_NAME, moving_of, names_of

NUMBERS = ("linear", "perspective")
# Of sections too.
IN_VIEW = ("in-view", "out-of-view")
# What is around a free placement only moves its place.
KEPT_BY_FREE = ("state", "width", "height")
Layers = dict[str, LayerBase]


# Of what would be known, no more than this many are named.
MOST_NAMED = 12


def reference_faults(piece: Piece, sound: Piece | None = None) -> Iterator[Fault]:
    """Every fault of this kind, in the order of the document.

    `sound` has none: what the piece shares with it is not looked at again where layers and states are the same too.
    """
    too_much = list(count_faults(piece))
    yield from too_much
    if not too_much:
        yield from _references(piece, _shared(piece, sound))


def _shared(piece: Piece, sound: Piece | None) -> set[int]:
    """States and transitions, by their identity, of which nothing can have become wrong."""
    if sound is None or piece.layers is not sound.layers:
        return set()
    if [state.id for state in piece.states] != [state.id for state in sound.states]:
        return set()
    return {id(part) for part in (*sound.states, *sound.transitions)}


def _references(piece: Piece, shared: set[int]) -> Iterator[Fault]:
    layers = {layer.id: layer for layer, _ in walk(piece.layers)}
    states = {state.id for state in piece.states}
    yield from _repeated((layer.id, f"{place}/id") for layer, place in walk(piece.layers))
    yield from _repeated((state.id, f"/states/{i}/id") for i, state in enumerate(piece.states))
    yield from _repeated((t.id, f"/transitions/{i}/id") for i, t in enumerate(piece.transitions))
    for i, state in enumerate(piece.states):
        if id(state) in shared:
            continue
        for layer_id in state.changes:
            names = state.changes[layer_id].model_fields_set
            yield from _changes(layers, layer_id, names, f"/states/{i}/changes/{layer_id}")
    yield from lettering_faults(piece)
    for i, trait in enumerate(piece.traits):
        for j, option in enumerate(trait.options):
            for layer_id, look in option.changes.items():
                place = f"/traits/{i}/options/{j}/changes/{layer_id}"
                yield from _changes(layers, layer_id, look.model_fields_set, place, by_state=False)
    yield from _repeated((t.id, f"/traits/{i}/id") for i, t in enumerate(piece.traits))
    if piece.start not in states:
        yield _unknown("state", piece.start, "/start", states)
    sections = {section.id for section in piece.sections}
    yield from _repeated((s.id, f"/sections/{i}/id") for i, s in enumerate(piece.sections))
    for i, section in enumerate(piece.sections):
        if section.id in layers:
            yield Fault(
                f"A layer is called {section.id!r} too.", place=f"/sections/{i}/id", remedy="Give it another id."
            )
    for i, transition in enumerate(piece.transitions):
        if id(transition) in shared:
            continue
        place = f"/transitions/{i}"
        for end, state_id in (("from", transition.from_), ("to", transition.to)):
            if state_id not in states:
                yield _unknown("state", state_id, f"{place}/{end}", states)
        # A layer inside of a placement is only known with the library.
        outermost = (transition.cue_layer or "").split("/")
        is_inside = len(outermost) > 1 and getattr(layers.get(outermost[0]), "kind", None) == "placement"
        if is_inside or (transition.cue in IN_VIEW and transition.cue_layer in sections):
            pass
        elif transition.cue_layer is not None and transition.cue_layer not in layers:
            yield _unknown("layer", transition.cue_layer, f"{place}/cue_layer", layers)
        elif transition.cue == "reaches":
            yield from _arrival(layers[str(transition.cue_layer)], f"{place}/cue_layer")
        elif transition.cue == "media-end":
            yield from _medium(transition.cue_layer, layers, f"{place}/cue_layer")
        yield from _lanes(transition, layers, place)
    yield from _early(piece)
    if any(t.cue == "reaches" for t in piece.transitions):
        yield from _alone_with_arrivals(piece)
    yield from _repeated((u.id, f"/undercurrents/{i}/id") for i, u in enumerate(piece.undercurrents))
    for i, undercurrent in enumerate(piece.undercurrents):
        yield from _undercurrent(undercurrent, layers, states, f"/undercurrents/{i}")
        if undercurrent.section is not None and undercurrent.section not in sections:
            yield _unknown("section", undercurrent.section, f"/undercurrents/{i}/section", sections)
        if undercurrent.section and (undercurrent.phase_ms or any(c.offset_ms for c in undercurrent.courses)):
            yield Fault(
                f"{undercurrent.name} follows the scrolling, which has no phase.",
                place=f"/undercurrents/{i}",
                value=undercurrent.phase_ms,
                remedy="Set its phase, and the offsets of its courses, to 0.",
            )
    yield from _repeated((p.id, f"/parameters/{i}/id") for i, p in enumerate(piece.parameters))
    for i, parameter in enumerate(piece.parameters):
        for j, bind in enumerate(parameter.bind):
            yield from _bind(bind, piece, layers, states, f"/parameters/{i}/bind/{j}")


def _changes(layers: Layers, layer_id: str, names: Iterable[str], place: str, by_state: bool = True) -> Iterator[Fault]:
    """What is wrong with the differences of one layer, in a state or in an option."""
    if layer_id not in layers:
        yield _unknown("layer", layer_id, place, layers)
        return
    for name in names:
        layer, here = layers[layer_id], f"{place}/{name}"
        if by_state and layer.life == "free" and name in KEPT_BY_FREE:
            yield Fault(
                f"{layer.name} lives free: its {name} is the same in all states.",
                place=here,
                value=name,
                remedy="Let this piece lead it, or take this out.",
            )
        yield from _difference(layer, name, here)


def _difference(layer: LayerBase, name: str, place: str) -> Iterator[Fault]:
    if name not in names_of(layer.kind):
        yield Fault(f"A {layer.kind} has no {name}.", place=place, value=name, remedy="Remove it.")


def _alone_with_arrivals(piece: Piece) -> Iterator[Fault]:
    """What would make the times of a run depend on each other in a circle."""
    for i, transition in enumerate(piece.transitions):
        if transition.early_ms:
            yield Fault(
                "Where transitions wait for arrivals, no state is left early.",
                place=f"/transitions/{i}/early_ms",
                value=transition.early_ms,
                remedy="Set early_ms to 0.",
            )
    if piece.plays is not None:
        yield Fault(
            "Where transitions wait for arrivals, rounds are not counted.",
            place="/plays",
            value=piece.plays,
            remedy="Let it play for ever.",
        )


def _arrival(layer: LayerBase, place: str) -> Iterator[Fault]:
    if layer.kind != "placement" or layer.life != "free":
        yield Fault(
            f"{layer.name} is no piece that lives free: it arrives nowhere by itself.",
            place=place,
            value=layer.id,
            remedy="Let it live free, or wait by a hold.",
        )


def _medium(layer: str | None, layers: Layers, place: str) -> Iterator[Fault]:
    if layer is None or layers[layer].kind != "medium":
        media = [name for name, other in layers.items() if other.kind == "medium"]
        yield _unknown("medium", layer or "", place, media)


def _early(piece: Piece) -> Iterator[Fault]:
    """A state can be left early by as much as the way to it takes, and not more."""
    leaving = [(i, transition) for i, transition in enumerate(piece.transitions) if transition.early_ms]
    for i, transition in leaving:
        arriving = [t for t in piece.transitions if t.to == transition.from_]
        longest = max((_length_ms(t) for t in arriving), default=0)
        if transition.early_ms > longest:
            yield Fault(
                f"The transition leaves {transition.early_ms} ms before its state is reached, but the way there takes "
                f"{longest} ms.",
                place=f"/transitions/{i}/early_ms",
                value=transition.early_ms,
                remedy=f"Give {longest} or less, or make the way there longer.",
            )


def _length_ms(transition: Transition) -> int:
    try:
        return Spans(transition).length_ms
    except AnchorFault:
        return 0


def _lanes(transition: Transition, layers: Layers, place: str) -> Iterator[Fault]:
    faults = [*_each_lane(transition, layers, place), *_each_stagger(transition, layers, place)]
    yield from faults
    if not faults:
        try:
            # Also of a cut, which may be a tween again.
            Spans(transition.model_copy(update={"style": "tween"}))
        except AnchorFault as fault:
            yield fault.at(f"{place}/lanes")


def _each_lane(transition: Transition, layers: Layers, place: str) -> Iterator[Fault]:
    seen: set[tuple[str, str | None]] = set()
    for j, lane in enumerate(transition.lanes):
        here = f"{place}/lanes/{j}"
        yield from _target(lane.layer, lane.property, layers, here)
        if lane.anchor is not None and lane.anchor.layer is not None:
            yield from _target(lane.anchor.layer, lane.anchor.property, layers, f"{here}/anchor")
        if (lane.layer, lane.property) in seen:
            yield Fault("This lane stands twice.", place=here, value=lane.layer, remedy="Remove one of the two.")
        seen.add((lane.layer, lane.property))


def _each_stagger(transition: Transition, layers: Layers, place: str) -> Iterator[Fault]:
    for j, stagger in enumerate(transition.staggers):
        for k, layer in enumerate(stagger.layers):
            if layer not in layers:
                yield _unknown("layer", layer, f"{place}/staggers/{j}/layers/{k}", layers)


def _target(layer: str, name: str | None, layers: Layers, place: str) -> Iterator[Fault]:
    """A layer, or one of its properties that can move."""
    if layer not in layers:
        yield _unknown("layer", layer, f"{place}/layer", layers)
        return
    moving = [row.name for row in moving_of(layers[layer].kind)]
    if layers[layer].kind == "placement":
        # The lane of its state says when its own way begins.
        moving.append("state")
    if name is not None and name not in moving:
        yield _unknown("property", name, f"{place}/property", moving)


def _undercurrent(undercurrent: Undercurrent, layers: Layers, states: set[str], place: str) -> Iterator[Fault]:
    for k, state in enumerate(undercurrent.states or ()):
        if state not in states:
            yield _unknown("state", state, f"{place}/states/{k}", states)
    for j, course in enumerate(undercurrent.courses):
        here = f"{place}/courses/{j}"
        faults = list(_target(course.layer, course.property, layers, here))
        yield from faults or _course(course, undercurrent.period_ms, here)


def _course(course: Course, period_ms: int, place: str) -> Iterator[Fault]:
    row = BY_NAME[course.property]
    if row.blend not in (*NUMBERS, "paint"):
        yield Fault(
            f"An undercurrent cannot move {row.label}.",
            place=f"{place}/property",
            value=row.name,
            remedy="Choose a number or a colour.",
        )
        return
    times = [key.at_ms for key in course.keys]
    if times[0] != 0 or times[-1] > period_ms or any(a >= b for a, b in pairwise(times)):
        yield Fault(
            f"The keys stand at {', '.join(map(str, times))} ms.",
            place=f"{place}/keys",
            value=times,
            remedy=f"Begin at 0 and let them rise, up to the period of {period_ms} ms.",
        )
    for k, key in enumerate(course.keys):
        if not fits(course.property, key.value) or not isinstance(key.value, int | float | str | dict):
            yield Fault(
                f"{key.value!r} is no {row.label}.",
                place=f"{place}/keys/{k}/value",
                value=key.value,
                remedy=f"Give a {'number' if row.blend in NUMBERS else 'colour'} that the layer itself could have.",
            )
    shapes = {_shape(key.value) for key in course.keys}
    if len(shapes) > 1:
        yield Fault(
            f"The keys of {row.label} are {', '.join(sorted(shapes))}.",
            place=f"{place}/keys",
            value=sorted(shapes),
            remedy="Give all of them a colour, or gradients of one kind with the same number of stops.",
        )


def _shape(value: Any) -> str:
    """What keys have to have in common, so that one goes over into the next."""
    if not isinstance(value, dict):
        return "plain"
    stops = value.get("stops")
    return f"{value.get('kind')} with {len(stops) if isinstance(stops, list | tuple) else 'no'} stops"


def _bind(bind: Bind, piece: Piece, layers: Layers, states: set[str], place: str) -> Iterator[Fault]:
    ways, rounds = {t.id for t in piece.transitions}, {u.id for u in piece.undercurrents}
    if bind.transition is not None and bind.transition not in ways:
        yield _unknown("transition", bind.transition, f"{place}/transition", ways)
    if bind.undercurrent is not None and bind.undercurrent not in rounds:
        yield _unknown("undercurrent", bind.undercurrent, f"{place}/undercurrent", rounds)
    if bind.state is not None and bind.state not in states:
        yield _unknown("state", bind.state, f"{place}/state", states)
    if bind.layer is not None and bind.layer not in layers:
        yield _unknown("layer", bind.layer, f"{place}/layer", layers)
    elif bind.layer is not None and bind.property not in names_of(layers[bind.layer].kind):
        yield _unknown("property", str(bind.property), f"{place}/property", names_of(layers[bind.layer].kind))


def _repeated(ids: Iterable[tuple[str, str]]) -> Iterator[Fault]:
    seen: set[str] = set()
    for name, place in ids:
        if name in seen:
            yield Fault(f"The id {name!r} stands twice.", place=place, value=name, remedy="Give each its own.")
        seen.add(name)


def _unknown(what: str, name: str, place: str, known: Iterable[str]) -> Fault:
    all_names = sorted(known)
    names = ", ".join(all_names[:MOST_NAMED]) or "none yet"
    if len(all_names) > MOST_NAMED:
        names += f" and {len(all_names) - MOST_NAMED} more"
    return Fault(f"There is no {what} {name!r}.", place=place, value=name, remedy=f"Known: {names}.")
