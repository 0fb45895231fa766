"""Several outlines brought to the same commands, so that the way from any to any other is point by point.

Where they do not have them already, each is paired with the one that has most to it, and all are cut at the corners of
all. Of two outlines it is the same as `matched`.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import lru_cache, reduce

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.outlines.morph import best_begun, matched, merged, sound_pairs, written
from keen_ripple.core.outlines.subpath import Subpath, subpaths

Part = Subpath | Floats
"""Of an outline: the subpath of it that belongs to others, or the point (2,) that they shrink to."""


@lru_cache(maxsize=256)
def alike(outlines: tuple[str, ...]) -> tuple[str, tuple[Floats, ...]]:
    """(commands, coordinates of each outline), as `matched` gives them. Raises PathFault for text that is none."""
    first, *others = outlines
    if not others:
        commands, coordinates, _ = matched(first, first)
        return commands, (coordinates,)
    if len(others) == 1:
        commands, *ends = matched(first, others[0])
        return commands, tuple(ends)
    return _as_written(outlines) or _brought(outlines)


@lru_cache(maxsize=256)
def are_alike(outlines: tuple[str, ...]) -> bool:
    """Whether they can stay as they are written."""
    return _as_written(outlines) is not None


def _as_written(outlines: Sequence[str]) -> tuple[str, tuple[Floats, ...]] | None:
    """Where that leads from each to each through sound shapes."""
    texts = [text for text in map(written, outlines) if text is not None]
    commands = {text[0] for text in texts}
    if len(texts) < len(outlines) or len(commands) > 1:
        return None
    for index, one in enumerate(outlines):
        for other in outlines[:index]:
            if matched(one, other)[0] not in commands:
                return None
    return commands.pop(), tuple(coordinates for _, coordinates in texts)


def _brought(outlines: Sequence[str]) -> tuple[str, tuple[Floats, ...]]:
    paths = [subpaths(outline) for outline in outlines]
    main = max(range(len(paths)), key=lambda i: (len(paths[i]), sum(len(p.cubics) for p in paths[i]), -i))
    commands, coordinates = "", [list[Floats]() for _ in outlines]
    for parts in _slots(paths, main):
        own = [part for part in parts if isinstance(part, Subpath)]
        shares = reduce(merged, [part.shares for part in own])
        marked = all(part.marked for part in own)
        commands += "M" + "C" * (len(shares) - 1) + ("Z" if marked else "")
        for part, kept in zip(parts, coordinates, strict=True):
            if isinstance(part, Subpath):
                cubics = part.cut_at(shares)
                kept.append(np.concatenate((cubics[0, 0], cubics[:, 1:].ravel())))
            else:
                kept.append(np.tile(part, 3 * len(shares) - 2))
    return commands, tuple(np.concatenate(kept) for kept in coordinates)


def _slots(paths: Sequence[tuple[Subpath, ...]], main: int) -> Iterator[list[Part]]:
    """What belongs together, a part of each outline: for each subpath of the main one, then those that it has not."""
    partners: dict[int, list[Part]] = {id(path): [path] * len(paths) for path in paths[main]}
    own: list[list[Part]] = []
    for index, path in enumerate(paths):
        if index == main:
            continue
        for pair, _ in sound_pairs(paths[main], path):
            if pair.one is None:
                assert pair.other is not None
                alone: list[Part] = [pair.point] * len(paths)
                alone[index] = pair.other
                own.append(alone)
            else:
                partners[id(pair.one)][index] = best_begun(pair.other, pair.one) if pair.other else pair.point
    yield from partners.values()
    yield from own
