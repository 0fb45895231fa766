"""All that the runtime needs to play a piece and answer to events, as JSON: looked up, put on lines, and summed.

Motion there is what `live.stage` says, with each curve and each spring's two responses as straight lines:

    curves       {"u", "p"}: progress at shares of the time
    springs      {"t_s", "rest", "throw"}: the two responses; {"k", "drag"}: for their speeds; {"thrown_ms"}
    motions      {"layer", "property", "form", "low", "high", "places"}: what differs among states, a place for each
    voices       {"copy", "seen_in", "tables"}: free placements, seen in some states, with tables of their own
    transitions  with {"spans", "of"}: the times that there are, and which of them a motion has, the first if none
"""

from __future__ import annotations

import math
from collections.abc import Container, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache, reduce
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.coordinates import Coordinates
from keen_ripple.core.curves import Easing, Settle, Spring, Steps
from keen_ripple.core.curves.fit import fit_lines
from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.document.spans import Span, Spans
from keen_ripple.core.flow.finer import AS_IT_IS, Finer, finer_of, reaches_of
from keen_ripple.core.flow.free import free_copies
from keen_ripple.core.flow.media import STEADY, playing_on, rest_ms
from keen_ripple.core.flow.poses import Pose, poses_of
from keen_ripple.core.flow.run import BY_ITSELF
from keen_ripple.core.flow.scrolling import tops_of
from keen_ripple.core.flow.tape import TRACE_ERROR, TapeTrack
from keen_ripple.core.flow.track import limits_of
from keen_ripple.core.flow.undercurrents import course_tape
from keen_ripple.core.live.cast import leavings
from keen_ripple.core.live.interrupt import tolerances_of
from keen_ripple.core.live.stage import varying
from keen_ripple.core.properties import BY_NAME, Property
from keen_ripple.core.values.plain import plain

# Of a tolerance the share that a table may take: what is taken over again and again adds up.
SHARE = 0.2
# Of progress: never coarser, and never finer than curves are traced.
COARSEST, FINEST = 5e-5, 4e-6
DIGITS = 8


@dataclass(frozen=True, eq=False)
class _Motion:
    layer: str
    name: str
    coordinates: Coordinates
    places: Mapping[str, Floats]
    values: Mapping[str, Any]

    @property
    def farthest(self) -> float:
        """The longest way between two states, in tolerances."""
        ways = np.ptp(np.stack(list(self.places.values())), axis=0)
        tolerances = tolerances_of(self.coordinates, self.name)
        return float(np.max(ways / np.where(tolerances > 0.0, tolerances, np.inf), initial=0.0))

    def to_json(self) -> dict[str, Any]:
        row = BY_NAME[self.name]
        limits = limits_of(row)
        return {
            "layer": self.layer,
            "property": self.name,
            "form": self.coordinates.form,
            "tolerances": tolerances_of(self.coordinates, self.name).tolist(),
            "low": limits[0],
            "high": limits[1],
            "jumps": row.blend == "discrete",
            "calm": is_calm(row),
            "places": {state: place.tolist() for state, place in self.places.items()},
            # At rest it is what was written, exactly.
            "rest": {state: plain(value) for state, value in self.values.items()},
        }


@dataclass
class _Tables:
    """Curves and springs by their numbers, each once."""

    tolerance: float
    curves: dict[Easing, int] = field(default_factory=dict)
    springs: dict[Spring, int] = field(default_factory=dict)

    def span(self, span: Span) -> dict[str, Any]:
        """A span with the number of its table; a cut has none."""
        times: dict[str, Any] = {"start_ms": span.start_ms, "end_ms": span.end_ms}
        if isinstance(span.easing, Settle):
            spring = replace(span.easing.spring, velocity=0.0)
            number = self.springs.setdefault(spring, len(self.springs))
            return {**times, "spring": number, "velocity": span.easing.spring.velocity}
        if span.easing is None:
            return times
        return {**times, "curve": self.curve(span.easing)}

    def curve(self, easing: Easing) -> int:
        """The number of a curve."""
        return self.curves.setdefault(easing, len(self.curves))

    def to_json(self) -> dict[str, Any]:
        curves = [curve_table(curve, self.tolerance) for curve in self.curves]
        return {"curves": curves, "springs": [spring_table(spring, self.tolerance) for spring in self.springs]}


@dataclass(frozen=True)
class Shape:
    """What tables have to have in common to be put in each other's place: the motions, and how fine they are."""

    motions: frozenset[tuple[str, str]] = frozenset()
    tolerance: float = math.inf

    def with_(self, other: Shape) -> Shape:
        """What suits both."""
        return Shape(self.motions | other.motions, min(self.tolerance, other.tolerance))


ANY_SHAPE = Shape()


def shape_of(piece: Piece) -> Shape:
    """The shape that the tables of a flat piece have by themselves, with those of what lives in it."""
    poses = poses_of(piece)
    motions = list(_motions(piece, poses, ()))
    own = Shape(frozenset((m.layer, m.name) for m in motions), _tolerance(motions, _finer(piece, poses)))
    return reduce(Shape.with_, (shape_of(copy.piece) for copy in free_copies(piece, poses)), own)


def tables_of(piece: Piece, shape: Shape = ANY_SHAPE) -> dict[str, Any]:
    """The runtime's data of a flat piece; with a `shape`, with its motions too, and just as fine.

    Raises RunFault where its loop takes no time and it counts its rounds.
    """
    poses = poses_of(piece)
    motions = list(_motions(piece, poses, shape.motions))
    finer = _finer(piece, poses)
    tables = _Tables(shape.tolerance if math.isfinite(shape.tolerance) else _tolerance(motions, finer))
    by_layer: dict[str, list[tuple[int, str]]] = {}
    for index, motion in enumerate(motions):
        by_layer.setdefault(motion.layer, []).append((index, motion.name))
    tops = tops_of(piece)
    transitions = [_transition(piece, transition, by_layer, tables) for transition in piece.transitions]
    return {
        "name": piece.name,
        "start": piece.start,
        "states": [{"id": state.id, "name": state.name} for state in piece.states],
        "double_tap_ms": piece.double_tap_ms,
        "long_press_ms": piece.long_press_ms,
        "sections": [
            {"id": section.id, "name": section.name, "top": tops[section.id], "height": section.height}
            for section in piece.sections
        ],
        "layers": list(_layers(piece.layers, None, poses[piece.start], {(m.layer, m.name) for m in motions})),
        "motions": [motion.to_json() for motion in motions],
        "transitions": transitions,
        "leavings": leavings(piece),
        "plays": piece.plays,
        "undercurrents": list(_undercurrents(piece, finer, poses[piece.start])),
        "voices": [
            {"copy": copy.layer, "seen_in": sorted(copy.seen_in), "tables": tables_of(copy.piece, shape)}
            for copy in free_copies(piece, poses)
        ],
        **tables.to_json(),
    }


def _finer(piece: Piece, poses: Mapping[str, Pose]) -> Mapping[str, Finer]:
    return finer_of(piece, reaches_of(piece, poses, {}))


def _motions(piece: Piece, poses: Mapping[str, Pose], also: Container[tuple[str, str]]) -> Iterator[_Motion]:
    for (layer, name), lie in varying(piece, poses, also).items():
        looks = {state: pose[layer][name] for state, pose in poses.items()}
        yield _Motion(layer, name, lie, {state: lie.place(value) for state, value in looks.items()}, looks)


def _tolerance(motions: Sequence[_Motion], finer: Mapping[str, Finer]) -> float:
    """In progress: small enough for whatever goes farthest."""
    farthest = max(
        (m.farthest / finer.get(m.layer, AS_IT_IS).share(BY_NAME[m.name]) for m in motions),
        default=1.0,
    )
    return min(max(SHARE / max(farthest, 1.0), FINEST), COARSEST)


def _layers(
    layers: Sequence[LayerBase], around: str | None, look: Pose, moved: Container[tuple[str, str]]
) -> Iterator[dict[str, Any]]:
    for layer in layers:
        through, margin = layer.lets_touches_through, layer.touch_margin
        # By what does not differ among the states; the rest is among the motions.
        seen = all(look[layer.id][name] for name in ("opacity", "visible") if (layer.id, name) not in moved)
        yield {"id": layer.id, "name": layer.name, "around": around, "through": through, "margin": margin, "seen": seen}
        yield from _layers(layer.layers, layer.id, look, moved)


def _transition(
    piece: Piece, own: Transition, motions: Mapping[str, Sequence[tuple[int, str]]], tables: _Tables
) -> dict[str, Any]:
    """`spans` begin with the transition's own, which all motions have that `of` does not name."""
    spans, fades = Spans(own), own.style == "cross-fade"
    first = spans.own._replace(start_ms=0, end_ms=0, easing=None) if fades else spans.own
    found, of = {first: 0}, dict[int, int]()
    for layer in () if fades else motions:
        for index, name in motions[layer]:
            number = found.setdefault(spans.of(layer, name), len(found))
            if number:
                of[index] = number
    medium = playing_on(piece, own)
    return {
        "id": own.id,
        "from": own.from_,
        "to": own.to,
        "cue": own.cue,
        "layer": own.cue_layer,
        "key": own.cue_key,
        "arrival": own.cue_state,
        "share": own.cue_share,
        "hold_ms": own.hold_ms,
        "rest_ms": rest_ms(piece, own) if own.cue in BY_ITSELF else 0,
        "early_ms": own.early_ms,
        "length_ms": spans.length_ms,
        "fade": _fade(own, tables) if fades else None,
        "medium": medium and [medium.layer, medium.start, medium.end, tables.curve(STEADY)],
        "spans": [tables.span(span) for span in found],
        "of": of,
    }


def _fade(own: Transition, tables: _Tables) -> dict[str, Any] | None:
    length = own.timing.length_ms()
    return {"length_ms": length, "curve": tables.curve(own.timing.progress())} if length else None


def _undercurrents(piece: Piece, finer: Mapping[str, Finer], rest: Pose) -> Iterator[dict[str, Any]]:
    for undercurrent in piece.undercurrents:
        tracks = [_track(track, rest) for track in course_tape(undercurrent, piece.blend, finer)]
        states = undercurrent.states and list(undercurrent.states)
        section = undercurrent.section
        yield {"period_ms": undercurrent.period_ms, "section": section, "states": states, "tracks": tracks}


def _track(track: TapeTrack, rest: Pose) -> dict[str, Any]:
    rows = [_rounded(row) for row in track.rows]
    named = {"layer": track.layer, "property": track.property, "form": track.form}
    # `rest` is what is shown where it does not run, unless the property is among the motions.
    still = plain(rest[track.layer][track.property])
    named["calm"] = is_calm(BY_NAME[track.property])
    return {**named, "times": _rounded(track.times_ms), "rows": rows, "rest": still}


@lru_cache(maxsize=512)
def curve_table(easing: Easing, tolerance: float) -> dict[str, Any]:
    """{"u", "p"} of a curve, within `tolerance` of progress; equal u are a jump. `stands` says that it only jumps."""
    knots = fit_lines(*easing.trace(), max(tolerance - TRACE_ERROR, tolerance / 2.0))
    stands = isinstance(easing, Steps)
    # What is done at the very moment of a step is met by the same side of it everywhere.
    u = knots[:, 0].tolist() if stands else _rounded(knots[:, 0])
    return {"u": u, "p": _rounded(knots[:, 1]), "stands": stands}


@lru_cache(maxsize=512)
def spring_table(spring: Spring, tolerance: float) -> dict[str, Any]:
    """The two responses of a spring over the time in which any throw has died away, within `tolerance`."""
    frequency = math.sqrt(spring.stiffness / spring.mass)
    thrown_ms = math.ceil(spring.thrown_s() * 1000.0 - 1e-9)
    steps = 2 * Settle(replace(spring, velocity=frequency), thrown_ms).density()
    t = np.linspace(0.0, 1.0, steps + 1) ** 2 * (thrown_ms / 1000.0)
    rest, throw = spring.responses(t)
    knots = fit_lines(t, np.column_stack((rest, throw * frequency)), tolerance)
    return {
        "t_s": _rounded(knots[:, 0]),
        "rest": _rounded(knots[:, 1]),
        "throw": _rounded(knots[:, 2] / frequency),
        "k": spring.stiffness / spring.mass,
        "drag": spring.damping / spring.mass,
        "thrown_ms": thrown_ms,
    }


def is_calm(row: Property) -> bool:
    """Whether it goes on where motion is unwanted: what changes how things look, and not where they are."""
    return row.blend in ("paint", "fade", "visible", "discrete") or row.name == "opacity"


def _rounded(numbers: Floats) -> list[float]:
    return [round(number, DIGITS) + 0.0 for number in numbers.tolist()]
