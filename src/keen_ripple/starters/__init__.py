"""Small pieces of our own to begin with; each works as it is, and is made to be changed."""

from __future__ import annotations

import json
from importlib.resources import files
from typing import Any, Literal, get_args

# In the order in which they are offered.
Starter = Literal["dots-that-lift", "bar-that-fills", "switch", "notice", "row-of-cards"]
STARTERS: tuple[Starter, ...] = get_args(Starter)


def starter(name: Starter) -> dict[str, Any]:
    """The document of a starter."""
    document: dict[str, Any] = json.loads((files(__name__) / f"{name}.json").read_text("utf-8"))
    return document
