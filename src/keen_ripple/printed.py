"""Looks as they are printed: plain JSON, numbers to six places."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from keen_ripple.core.document import Piece


def seen(piece: Piece, pose: Mapping[str, Mapping[str, Any]]) -> Any:
    """Every value of every layer, and where its outline is."""
    from keen_ripple.core.measures.geometry import boxes

    bounds = boxes(piece, pose)
    return rounded({name: {**plain_look(look), "box": bounds[name]} for name, look in pose.items()})


def plain_look(look: Mapping[str, Any]) -> dict[str, Any]:
    from keen_ripple.core.values.plain import plain

    return {name: plain(value) for name, value in look.items()}


def rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, 6) + 0.0
    if isinstance(value, dict):
        return {key: rounded(item) for key, item in value.items()}
    return [rounded(item) for item in value] if isinstance(value, list | tuple) else value
