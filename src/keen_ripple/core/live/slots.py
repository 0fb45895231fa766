"""Places of a value in JSON: found between two probes, and filled with any other value."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from functools import reduce
from typing import Any, Literal, NamedTuple

from keen_ripple.core.blends.colours import SPACES
from keen_ripple.core.blends.coordinates.colours import premultiplied

Tree = Any
"""A value of JSON."""
Path = tuple[str | int, ...]
"""The way to a place in it."""

# What is on a line may be off it by the digits that are written; whole milliseconds by their rounding.
OFF_LINE, ROUNDED_MS = 1e-6, 1.0
DIGITS = 9


# How what follows from others is found, when they are in their places.
FOLLOWS = ("longest", "fades")


class Unlike(Exception):
    """Two trees of which one cannot be made from the other by putting values in their places."""


class Slot(NamedTuple):
    """Where a value goes: as it is; as a colour in that space, four numbers from there on; or as `at_0` and, for each
    1, `slope` more. And what follows from values in other places: the `longest` span of the transition there is its
    length, at least `at_0`; and the motion there `fades` into each other all that it shows at rest.
    """

    how: Literal["as-it-is", "oklab", "srgb", "line", "longest", "fades"]
    path: Path
    at_0: float = 0.0
    slope: float = 0.0


def put(tree: Tree, path: Sequence[str | int], value: Any) -> Tree:
    """The tree with a value in a place; what is not on the way there is the same object."""
    if not path:
        return value
    copy: Any = list(tree) if isinstance(tree, list) else dict(tree)
    copy[path[0]] = put(copy[path[0]], path[1:], value)
    return copy


def at(tree: Tree, path: Sequence[str | int]) -> Any:
    """What is in a place."""
    return reduce(lambda inner, key: inner[key], path, tree)


def filled(tree: Tree, filling: Iterable[tuple[str, Slot]], values: Mapping[str, Any]) -> Tree:
    """The tree with values, by the ids of parameters, in their slots; where two go to one place the later one stays."""
    for name, slot in filling:
        if name in values:
            tree = _filled(tree, slot, values[name])
    return tree


def held(tree: Tree, slot: Slot) -> Any:
    """What is in a slot."""
    if slot.how in SPACES:
        start = int(slot.path[-1])
        return at(tree, slot.path[:-1])[start : start + 4]
    return at(tree, slot.path)


def _filled(tree: Tree, slot: Slot, value: Any) -> Tree:
    if slot.how == "as-it-is":
        return put(tree, slot.path, value)
    if slot.how == "line":
        return put(tree, slot.path, slot.at_0 + slot.slope * value)
    if slot.how == "longest":
        longest = max(span["end_ms"] for span in at(tree, slot.path)["spans"])
        return put(tree, (*slot.path, "length_ms"), max(longest, slot.at_0))
    if slot.how == "fades":
        return put(tree, slot.path, _fading(at(tree, slot.path)))
    *way, start = slot.path
    row = at(tree, way)
    return put(tree, way, [*row[:start], *_coordinates(slot.how, value), *row[int(start) + 4 :]])


def _fading(motion: dict[str, Any]) -> dict[str, Any]:
    """The same as `FadeCoordinates` of what it shows."""
    values = list(dict.fromkeys(motion["rest"].values()))
    places = {state: [float(value == own) for own in values] for state, value in motion["rest"].items()}
    tolerances = motion["tolerances"][:1] * len(values)
    return {**motion, "form": {**motion["form"], "values": values}, "places": places, "tolerances": tolerances}


def changes(before: Tree, after: Tree, path: Path = ()) -> list[tuple[Path, Any]]:
    """What has to be put into `before` so that it is `after`; rows of numbers are put as a whole."""
    if before == after:
        return []
    keys = _keys(before, after)
    if keys is None or (isinstance(after, list) and all(isinstance(each, int | float) for each in after)):
        return [(path, after)]
    return [found for key in keys for found in changes(before[key], after[key], (*path, key))]


def slots_between(first: Tree, second: Tree, values: tuple[Any, Any]) -> list[Slot]:
    """Where a value stands that is the one in the first tree, and the other in the second.

    Raises Unlike where the trees have other parts, or differ in what the value does not explain.
    """
    found = (_explained(first, path, (before, after), values) for path, before, after in _differing(first, second, ()))
    return sorted(dict.fromkeys(found), key=lambda slot: slot.how in FOLLOWS)


def check_alike(found: Tree, wanted: Tree, loose: Collection[Path] = ()) -> None:
    """Raises Unlike where two trees differ in more than what is written of a number; in `loose`, than a rounded ms."""
    for path, a, b in _differing(found, wanted, ()):
        off = ROUNDED_MS if path in loose else OFF_LINE
        if not _is_number(a) or not _is_number(b) or not math.isclose(a, b, rel_tol=OFF_LINE, abs_tol=off):
            raise Unlike(path)


def _explained(first: Tree, path: Path, found: tuple[Any, Any], values: tuple[Any, Any]) -> Slot:
    (before, after), (one, other) = found, values
    if isinstance(one, str):
        if found == values:
            return Slot("fades", path[:-3]) if path[-3:-1] == ("form", "values") else Slot("as-it-is", path)
        slot = _colour_slot(at(first, path[:-1]), path, before, one)
    else:
        is_number = _is_number(before) and _is_number(after)
        slot = _line(first, path, (after - before) / (other - one), before, one) if is_number else None
    if slot is None:
        raise Unlike(path)
    return slot


def _line(first: Tree, path: Path, slope: float, before: float, probe: float) -> Slot:
    way, last = path[:-1], path[-1]
    if last == "length_ms" and len(way) > 1 and way[-2] == "transitions" and at(first, way)["fade"] is None:
        spans = max(span["end_ms"] for span in at(first, way)["spans"])
        return Slot("longest", way, before if before > spans else 0.0)
    return Slot("line", path, round(before - slope * probe, DIGITS), round(slope, DIGITS))


def _colour_slot(row: Any, path: Path, before: Any, probe: str) -> Slot | None:
    if not _is_number(before) or not isinstance(row, list) or not _is_colour(probe):
        return None
    last = int(path[-1])
    for how in SPACES:
        wanted = _coordinates(how, probe)
        for start in range(max(last - 3, 0), last + 1):
            found = row[start : start + 4]
            if len(found) == 4 and all(_is_near(a, b) for a, b in zip(found, wanted, strict=True)):
                return Slot("oklab" if how == "oklab" else "srgb", (*path[:-1], start))
    return None


def _coordinates(space: str, colour: str) -> list[float]:
    return [float(number) for number in premultiplied(SPACES[space], colour)]


def _is_colour(text: str) -> bool:
    return text.startswith("#")


def _is_near(a: float, b: float) -> bool:
    return math.isclose(a, b, abs_tol=OFF_LINE)


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def _differing(first: Tree, second: Tree, path: Path) -> Iterator[tuple[Path, Any, Any]]:
    if first is second or first == second:
        return
    keys = _keys(first, second)
    if keys is not None:
        for key in keys:
            yield from _differing(first[key], second[key], (*path, key))
    elif isinstance(first, dict | list) or isinstance(second, dict | list):
        raise Unlike(path)
    else:
        yield path, first, second


def _keys(first: Tree, second: Tree) -> Collection[Any] | None:
    """Of two objects with the same keys, or two lists of the same length; none of all others."""
    if isinstance(first, dict) and isinstance(second, dict) and first.keys() == second.keys():
        return first.keys()
    if isinstance(first, list) and isinstance(second, list) and len(first) == len(second):
        return range(len(first))
    return None
