"""One way to choose options of a piece, asked where its parameters go."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations
from typing import Any

from keen_ripple.core.document.parameters import Parameter
from keen_ripple.core.live.probes import Probes
from keen_ripple.core.live.slots import FOLLOWS, Slot, Tree, Unlike, check_alike, filled, held, slots_between

NOT_FOLLOWED = "what it sets does not follow from it by a straight line alone"
TAKES_NO_TIME = "what takes no time by itself is a cut; give it some time first"
TOGETHER = "what it sets depends on other values too"

Filling = Sequence[tuple[str, Slot]]
"""Slots with the ids of their parameters, in the order in which they are filled."""


@dataclass(frozen=True)
class Way:
    """`play` is what the runtime is handed for values by the ids of parameters; `probes` are asked of them."""

    play: Callable[[Mapping[str, Any]], Tree]
    parameters: Mapping[str, Parameter]
    probes: Mapping[str, Probes]
    _pairs: dict[tuple[str, str], Tree] = field(default_factory=dict)

    @cached_property
    def base(self) -> Tree:
        """With what the piece has by itself."""
        return self.play({})

    def filling(self, left: dict[str, str]) -> Filling:
        """Where values go. What cannot be set is in `left` then, by id with the reason."""
        alone = {}
        for name in self.parameters:
            try:
                if name not in left:
                    alone[name] = self._alone(name)
            except Unlike:
                is_cut = self.parameters[name].kind == "time" and self.probes[name].own == 0
                left[name] = TAKES_NO_TIME if is_cut else NOT_FOLLOWED
        while alone:
            found = self._ordered(alone)
            try:
                self._check(found, ("third", "low", "high"))
                return found
            except Unlike:
                numbers = [name for name in alone if self.parameters[name].kind in ("number", "time")]
                for name in numbers or list(alone):
                    left[name] = TOGETHER
                    del alone[name]
        return []

    def _alone(self, name: str) -> list[Slot]:
        """Of one parameter, when no other is set: where it goes else is where it goes then too."""
        probes = self.probes[name]
        first, second = self.play({name: probes.first}), self.play({name: probes.second})
        slots = slots_between(first, second, (probes.first, probes.second))
        self._check([(name, slot) for slot in slots], ("first", "third", "low", "high"))
        return slots

    def _ordered(self, alone: Mapping[str, Sequence[Slot]]) -> Filling:
        """Where several go to one place, whichever has the last word there is filled last; and then what follows."""
        wins: dict[tuple[str, Slot], int] = {}
        for one, other in combinations(alone, 2):
            shared = {slot.path for slot in alone[one]} & {slot.path for slot in alone[other]}
            for slot in (slot for slot in alone[one] if slot.path in shared and slot.how not in FOLLOWS):
                won = (one, slot) if self._has_last_word(one, other, slot) else (other, _at(alone[other], slot))
                wins[won] = wins.get(won, 0) + 1
        every = [(name, slot) for name, slots in alone.items() for slot in slots]
        return sorted(every, key=lambda each: (each[1].how in FOLLOWS, wins.get(each, 0)))

    def _has_last_word(self, one: str, other: str, slot: Slot) -> bool:
        values = {name: self.probes[name].first for name in (one, other)}
        if (one, other) not in self._pairs:
            self._pairs[one, other] = self.play(values)
        found, wanted = held(self._pairs[one, other], slot), held(filled(self.base, [(one, slot)], values), slot)
        return bool(found == wanted)

    def _check(self, filling: Filling, probes: Iterable[str]) -> None:
        """Raises Unlike where filling the slots is not what the piece plays with these probes."""
        times = [slot for name, slot in filling if self.parameters[name].kind == "time"]
        loose = {slot.path if slot.how == "line" else (*slot.path, "length_ms") for slot in times}
        names = dict.fromkeys(name for name, _ in filling)
        for chosen in dict.fromkeys(tuple(getattr(self.probes[name], probe) for name in names) for probe in probes):
            values = dict(zip(names, chosen, strict=True))
            try:
                found = filled(self.base, filling, values)
            except (LookupError, TypeError) as nowhere:
                raise Unlike(values) from nowhere
            check_alike(found, self.play(values), loose)


def _at(slots: Sequence[Slot], other: Slot) -> Slot:
    return next(slot for slot in slots if slot.path == other.path)
