"""Free placements: pieces that live on their own inside of another, from the moment they are first seen.

What is around one only moves its place. So each is played by a piece of its own, with the layers that it has in the
flat piece, by the same ids; what the two say of those layers never meets.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from functools import partial
from typing import NamedTuple

from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.document.looks import Look
from keen_ripple.core.document.renaming import renamed_parts
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.flow.run import BY_ITSELF, Run


class FreeCopy(NamedTuple):
    """A free placement of a flat piece: the piece that plays it, and in which states of the piece around it is seen."""

    layer: str
    piece: Piece
    seen_in: frozenset[str]


def inner_id(placement: str, layer: str) -> str:
    """How a layer of the original is called inside of a placement."""
    return f"{placement}/{layer}"


def led_by_itself(group: LayerBase, original: Piece, start: str, around: Piece) -> Piece:
    """The piece that plays a free placement, which is laid flat already: `group`, with the layers of the original.

    From `start` on it goes where the original goes. What the original hears anywhere on itself, is heard on the group;
    its cross-fades are tweens, since it is a part of a look.
    """
    parts = renamed_parts(original, partial(inner_id, group.id))
    return original.model_copy(
        update={
            "id": around.id,
            "name": group.name,
            "start": start,
            **parts,
            "layers": (group,),
            "transitions": tuple(_as_a_part(own, group.id) for own in parts["transitions"]),
            "parameters": (),
        }
    )


def varied(original: Piece) -> Mapping[str, frozenset[str]]:
    """By layer the properties that the states of a piece, or its undercurrents, change."""
    found: dict[str, set[str]] = {}
    for state in original.states:
        for layer, look in state.changes.items():
            found.setdefault(layer, set()).update(look.model_fields_set)
    for course in (course for own in original.undercurrents for course in own.courses):
        found.setdefault(course.layer, set()).add(course.property)
    return {layer: frozenset(names) for layer, names in found.items()}


def free_copies(piece: Piece, poses: Mapping[str, Pose]) -> list[FreeCopy]:
    """The free placements of a flat piece, in painting order; those inside of them are theirs.

    Each keeps the size that it has in the start of the piece around it.
    """
    found = []
    for layer, around in _free(piece.layers, ()):
        look = poses[piece.start][layer.id]
        size = Look.model_construct(width=look["width"], height=look["height"])
        states = tuple(s.model_copy(update={"changes": {**s.changes, layer.id: size}}) for s in layer.piece.states)
        seen = frozenset(state for state, pose in poses.items() if all(_is_shown(pose[name]) for name in around))
        found.append(FreeCopy(layer.id, layer.piece.model_copy(update={"states": states}), seen))
    return found


def begins_ms(copy: FreeCopy, run: Run) -> float | None:
    """When it is first seen in a run: where a state in which it is, or the way there, begins; None if never."""
    return begins_in(copy, [(s.start_ms, s.from_, s.to) for s in run.segments], run.final_state)


def begins_in(copy: FreeCopy, ways: Sequence[tuple[float, str, str]], last: str) -> float | None:
    """The same of (start in ms, state that is left, state that is gone to), after which it is in a `last` state."""
    if not ways:
        return 0.0 if last in copy.seen_in else None
    return next((start for start, *ends in ways if copy.seen_in.intersection(ends)), None)


def _free(layers: Sequence[LayerBase], outer: tuple[str, ...]) -> Iterator[tuple[LayerBase, tuple[str, ...]]]:
    for layer in layers:
        around = (*outer, layer.id)
        if layer.life == "free" and isinstance(layer.piece, Piece):
            yield layer, around
        else:
            yield from _free(layer.layers, around)


def _is_shown(look: Mapping[str, object]) -> bool:
    return bool(look["opacity"] and look["visible"])


def _as_a_part(own: Transition, group: str) -> Transition:
    heard_anywhere = own.cue_layer is None and own.cue not in (*BY_ITSELF, "key")
    return own.model_copy(
        update={
            "cue_layer": group if heard_anywhere else own.cue_layer,
            "style": "tween" if own.style == "cross-fade" else own.style,
        }
    )
