"""What is written of a layer: CSS properties, each with what of its look they show."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

Look = Mapping[str, Any]


@dataclass(frozen=True)
class Declaration:
    """One CSS property, the rows of the property table that it shows, and how its value is written.

    `calm` ones may go on where motion is unwanted: they change how things look, not where they are.
    """

    css: str
    shows: tuple[str, ...]
    text: Callable[[Look, str], str]
    calm: bool = False
    # Pairs of these rows that it multiplies, and how near to that its value has to be on its way.
    products: tuple[tuple[str, str], ...] = ()
    near: float = 0.0
