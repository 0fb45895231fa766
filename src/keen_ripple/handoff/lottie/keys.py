"""Values in motion as Lottie's keyframes: along the curve itself where that is what happens, else along as few straight
lines as the tolerance allows (Lottie specification 1.0, "Properties")."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import pairwise
from typing import Any, NamedTuple

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.fit import fit_lines
from keen_ripple.handoff.lottie.looks import ASIDE_MS, JUMP_MS, Looks, Moving, Span

PLACES, PLACES_OF_TIME = 3, 4
Handles = tuple[float, float, float, float]
LINE: Handles = (0.0, 0.0, 1.0, 1.0)


class Key(NamedTuple):
    """A row at a moment, and how it goes on to the next: along a curve, or not until then (None)."""

    t_ms: float
    row: tuple[float, ...]
    curve: Handles | None


def written(tree: Any, looks: Looks, frames_per_ms: float) -> Any:
    """A part of the file with all its values: those that never change as one, the others with keyframes."""
    if isinstance(tree, Moving):
        return _property(tree, looks, frames_per_ms)
    if isinstance(tree, dict):
        return {name: written(part, looks, frames_per_ms) for name, part in tree.items()}
    return [written(part, looks, frames_per_ms) for part in tree] if isinstance(tree, list) else tree


def values_in(tree: Any) -> list[Moving]:
    """All that may move in a part of the file."""
    if isinstance(tree, Moving):
        return [tree]
    parts = tree.values() if isinstance(tree, dict) else tree if isinstance(tree, list) else ()
    return [value for part in parts for value in values_in(part)]


def stands(rows: Floats, tolerance: float) -> bool:
    """Whether nothing moves by so much that it could be seen."""
    return bool(np.all(np.ptp(rows, axis=0) <= tolerance / 2.0))


def _property(moving: Moving, looks: Looks, frames_per_ms: float) -> dict[str, Any]:
    rows = looks.rows(moving)
    if stands(rows, moving.tolerance):
        return {"a": 0, "k": moving.write(rounded(rows[0]))}
    keys = keys_of(looks.moments, rows, moving.tolerance, looks.spans(moving.layer))
    begin = looks.part.begin_ms
    return {"a": 1, "k": [_key(key, moving, (key.t_ms - begin) * frames_per_ms) for key in keys]}


def _key(key: Key, moving: Moving, t: float) -> dict[str, Any]:
    value = moving.write(rounded(key.row))
    found: dict[str, Any] = {"t": _whole(round(t, PLACES_OF_TIME)), "s": value if isinstance(value, list) else [value]}
    if key.curve is None:
        return {**found, "h": 1}
    x1, y1, x2, y2 = rounded(key.curve)
    return {**found, "o": {"x": [x1], "y": [y1]}, "i": {"x": [x2], "y": [y2]}}


def rounded(row: Iterable[float]) -> list[float]:
    """As they stand in the file."""
    return [_whole(round(float(number), PLACES)) for number in row]


def _whole(number: float) -> float:
    """Whole numbers without a point."""
    return int(number) if number == int(number) else number


def keys_of(moments: Floats, rows: Floats, tolerance: float, spans: list[Span]) -> list[Key]:
    """Keyframes of rows (n, columns) at moments: within the tolerance of them, and of the lines between."""
    far = np.any(np.abs(np.diff(rows, axis=0)) > tolerance, axis=1)
    jumps = np.flatnonzero(far & (np.diff(moments) < JUMP_MS)) + 1
    keys: list[Key] = []
    for inside in np.split(np.arange(len(moments)), jumps):
        stretch = _smooth(moments[inside], rows[inside], tolerance, spans)
        keys += [*stretch[:-1], stretch[-1]._replace(curve=None)]
    # Nothing follows the last one.
    keys[-1] = keys[-1]._replace(curve=LINE)
    return keys


def _smooth(moments: Floats, rows: Floats, tolerance: float, spans: list[Span]) -> list[Key]:
    """Where it goes along a curve that keyframe alone, and lines before and after it."""
    keys: list[Key] = []
    at = 0
    for span in spans:
        first, last = np.searchsorted(moments, (span.start_ms - ASIDE_MS / 2.0, span.end_ms - ASIDE_MS / 2.0))
        if moments[-1] > span.end_ms - JUMP_MS:
            # It ends where the stretch does: a jump follows, or the end of a loop.
            last = min(last, len(moments) - 1)
        if first < at or last >= len(moments) or last - first < 3:
            continue
        if _is_along(moments[first : last + 1], rows[first : last + 1], tolerance, span):
            keys += _lines(moments[at : first + 1], rows[at : first + 1], tolerance)[:-1]
            easing = span.easing
            keys.append(Key(span.start_ms, tuple(rows[first]), (easing.x1, easing.y1, easing.x2, easing.y2)))
            at = int(last)
    return keys + _lines(moments[at:], rows[at:], tolerance)


def _is_along(moments: Floats, rows: Floats, tolerance: float, span: Span) -> bool:
    """Whether the rows move, and as the curve does."""
    progress = span.easing((moments - span.start_ms) / (span.end_ms - span.start_ms))[:, None]
    along = rows[0] + (rows[-1] - rows[0]) * progress
    return bool(np.all(np.abs(along - rows) <= tolerance)) and not stands(rows, tolerance)


def _lines(moments: Floats, rows: Floats, tolerance: float) -> list[Key]:
    knots = fit_lines(moments, rows, tolerance * 0.7)
    keys = [Key(t, tuple(row), LINE) for t, *row in knots.tolist()]
    # What stands still until the next says so.
    still = [now.row == then.row for now, then in pairwise(keys)]
    return [key._replace(curve=None) if same else key for key, same in zip(keys, [*still, False], strict=True)]
