"""Small pieces of our own to begin with; each works as it is, and is made to be changed."""

from __future__ import annotations

import json
from importlib.resources import files
from typing import Any

# In the order in which they are offered.
STARTERS = ("dots-that-lift", "bar-that-fills", "switch", "notice", "row-of-cards")


def starter(name: str) -> dict[str, Any]:
    """The document of a starter. Raises KeyError."""
    if name not in STARTERS:
        raise KeyError(name)
    document: dict[str, Any] = json.loads((files(__name__) / f"{name}.json").read_text("utf-8"))
    return document
