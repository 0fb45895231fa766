"""What of a piece can be set while it plays: its parameters and traits, as places in what the runtime is handed.

The runtime computes no layout and no curve. So the core makes its data with probing values, and looks where they
differ: there a value stands as it is, as the four coordinates of its colour, or on a straight line. What is not like
that everywhere is named with its reason, and stays as the piece has it.
"""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property, partial, reduce
from itertools import product
from math import prod
from typing import Any, NamedTuple

from keen_ripple.core.document import Piece
from keen_ripple.core.document.parameters import Parameter, ParameterKind
from keen_ripple.core.flow.parameters import value_of, with_values
from keen_ripple.core.flow.placing import Library, placed, placements_of
from keen_ripple.core.flow.poses import poses_of
from keen_ripple.core.flow.traits import with_traits
from keen_ripple.core.live.probes import Probes, probes_of, range_of
from keen_ripple.core.live.probing import Filling, Way
from keen_ripple.core.live.slots import Path, Tree, changes, filled, put
from keen_ripple.core.live.tables import Shape, shape_of, tables_of
from keen_ripple.core.values.plain import plain

# Of one piece: ways to choose options, times what is set in each of them.
MOST_ASKED = 200

Options = Mapping[str, str]
"""Options by the ids of what they are chosen from."""


class Choice(NamedTuple):
    """A trait, or a parameter that names a state of what stands in the piece: `options` are ids with their names."""

    id: str
    name: str
    options: tuple[tuple[str, str], ...]
    shows: str


class Given(NamedTuple):
    """A parameter: what the piece has for it where that is one value, and between what it may be (px, ms, its unit)."""

    id: str
    name: str
    kind: ParameterKind
    value: str | float | None
    low: float | None
    high: float | None


class Chosen(NamedTuple):
    """With these options: what differs from those that the piece shows, and where the values stand."""

    options: Options
    changes: Sequence[tuple[Path, Any]]
    filling: Filling


@dataclass(frozen=True)
class Settable:
    """`played` is {"pose", "tables"} of the piece as it is; `left` says by name why something cannot be set."""

    played: Tree
    choices: Sequence[Choice] = ()
    given: Sequence[Given] = ()
    ways: Sequence[Chosen] = ()
    left: Sequence[tuple[str, str]] = ()

    def set(self, options: Options, values: Mapping[str, Any]) -> Tree:
        """What is played with these options and values: the law of `runtime/settings.ts`. Raises KeyError."""
        wanted = {choice.id: options.get(choice.id, choice.shows) for choice in self.choices}
        way = {tuple(way.options.items()): way for way in self.ways}[tuple(wanted.items())]
        told = reduce(lambda tree, change: put(tree, *change), way.changes, self.played)
        return filled(told, way.filling, values)


def settable(written: Piece, library: Library) -> Settable:
    """What can be set of a piece as it is written. Raises PlacingFault where it cannot be put together."""
    return _Probed(written, library).settable()


GOES_NOWHERE = "nothing that it is bound to takes its value"
TOO_MANY = "there would be too many ways to choose options"


@dataclass(frozen=True)
class _Probed:
    written: Piece
    library: Library
    # By the ids of parameters and traits, why they cannot be set.
    left: dict[str, str] = field(default_factory=dict)

    def settable(self) -> Settable:
        shown = {choice.id: choice.shows for choice in self.choices}
        ways = {options: self._way(dict(zip(shown, options, strict=True))) for options in self._every_option()}
        base = ways[tuple(shown.values())].base
        found = [
            Chosen(dict(zip(shown, options, strict=True)), changes(base, way.base), way.filling(self.left))
            for options, way in ways.items()
        ]
        used = {name for chosen in found for name, _ in chosen.filling}
        self.left.update({name: GOES_NOWHERE for name in self._given if name not in used | self.left.keys()})
        # What one way cannot set is set in none.
        kept = [c._replace(filling=[each for each in c.filling if each[0] not in self.left]) for c in found]
        given = [_given(self.written, own) for own in self._given.values() if own.id not in self.left]
        names = {own.id: own.name for own in self.written.parameters} | {t.id: t.name for t in self.written.traits}
        return Settable(base, self.choices, given, kept, [(names[name], why) for name, why in self.left.items()])

    @cached_property
    def choices(self) -> list[Choice]:
        found = {
            trait.id: Choice(trait.id, trait.name, tuple((o.id, o.name) for o in trait.options), trait.option().id)
            for trait in self.written.traits
        }
        standing = {layer.id: self.library.get(layer.piece) for layer, _ in placements_of(self.written)}
        for own in self.written.parameters:
            inner = standing.get(own.bind[0].layer or "") if own.kind == "state" else None
            states = tuple((state.id, state.name) for state in inner.states) if inner else ()
            shows = value_of(self.written, own)
            if own.id not in found and shows in dict(states):
                found[own.id] = Choice(own.id, own.name, states, str(shows))
            elif own.kind == "state":
                self.left[own.id] = GOES_NOWHERE
        while prod(len(choice.options) for choice in found.values()) * (1 + len(self._given)) > MOST_ASKED:
            name, _ = found.popitem()
            self.left[name] = TOO_MANY
        return list(found.values())

    @cached_property
    def _given(self) -> dict[str, Parameter]:
        return {own.id: own for own in self.written.parameters if own.kind != "state"}

    @cached_property
    def _probes(self) -> dict[str, Probes]:
        parameters = enumerate(self._given.values())
        return {own.id: probes_of(own, number, value_of(self.written, own)) for number, own in parameters}

    def _way(self, options: Options) -> Way:
        return Way(partial(self._played, options), self._given, self._probes)

    def _flat(self, options: Options, values: Mapping[str, Any]) -> Piece:
        # Of a trait's option no parameter knows, and of a state of what stands in it no trait.
        return placed(with_traits(with_values(self.written, {**values, **options}), options), self.library)

    @cached_property
    def _shape(self) -> Shape:
        """What all have in common, whatever is chosen and set."""
        every = [dict(zip((c.id for c in self.choices), names, strict=True)) for names in self._every_option()]
        values = [
            {name: getattr(probes, probe) for name, probes in self._probes.items()} for probe in ("first", "third")
        ]
        flat = (self._flat(options, own) for options in every for own in ({}, *values))
        return reduce(Shape.with_, map(shape_of, flat))

    def _played(self, options: Options, values: Mapping[str, Any]) -> Tree:
        piece = self._flat(options, values)
        start = poses_of(piece)[piece.start]
        pose = {layer: {name: plain(value) for name, value in look.items()} for layer, look in start.items()}
        # As whoever plays it reads it: all lists are lists.
        played: Tree = json.loads(json.dumps({"pose": pose, "tables": tables_of(piece, self._shape)}))
        return played

    def _every_option(self) -> Iterator[tuple[str, ...]]:
        return product(*([name for name, _ in choice.options] for choice in self.choices))


def _given(written: Piece, own: Parameter) -> Given:
    value = value_of(written, own)
    low, high = range_of(own, value)
    return Given(own.id, own.name, own.kind, value if isinstance(value, str | int | float) else None, low, high)
