"""Scrolling: where the content of a screen stands, and how far it has come through each of its sections."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from typing import Any

from keen_ripple.core.document import Piece
from keen_ripple.core.document.undercurrents import Course, Undercurrent

Scrolls = Sequence[tuple[float, float]]
"""(moment in ms, px from the top), in the order of time: the content stands there from then on."""


def farthest(piece: Piece) -> float:
    """How far the content can be scrolled, px; 0 where it is no longer than the screen."""
    return max(sum(section.height for section in piece.sections) - piece.height, 0.0)


def tops_of(piece: Piece) -> dict[str, float]:
    """Where each section begins, px from the top of the content."""
    tops, top = {}, 0.0
    for section in piece.sections:
        tops[section.id] = top
        top += section.height
    return tops


def scrolled_at(scrolls: Scrolls, t_ms: float) -> float:
    """How far the content is scrolled at a moment, px."""
    index = bisect_right(scrolls, t_ms, key=lambda scroll: scroll[0]) - 1
    return scrolls[index][1] if index >= 0 else 0.0


def phase_ms(piece: Piece, own: Undercurrent, course: Course, t_ms: float, y: float) -> float:
    """The moment of its period at which a course stands: by time, or by the way scrolled through its section.

    It begins where the top of the section meets that of the screen, and ends where its end does.
    """
    if own.section is None:
        return (t_ms + own.ahead_ms(course)) % own.period_ms
    section = next(each for each in piece.sections if each.id == own.section)
    share = (y - tops_of(piece)[own.section]) / section.height
    return min(max(share, 0.0), 1.0) * own.period_ms


def shift(piece: Piece, poses: Sequence[dict[str, dict[str, Any]]], ys: Sequence[float]) -> None:
    """Moves what is not pinned with the content, so many px up in each of the poses."""
    moved = [layer.id for layer in piece.layers if not layer.pinned] if piece.sections else []
    for pose, y in zip(poses, ys, strict=True):
        for layer in moved if y else ():
            look: Mapping[str, Any] = pose[layer]
            pose[layer] = {**look, "y": look["y"] - y}
