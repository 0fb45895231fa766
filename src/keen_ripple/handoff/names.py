"""What layers are called in CSS: after their names, so that whoever reads it knows them."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence

from keen_ripple.core.document import walk
from keen_ripple.core.document.layers import LayerBase

# Classes that the page has besides.
TAKEN = ("piece", "content", "pinned", "drawn")
LONGEST = 48


def class_names(layers: Sequence[LayerBase]) -> dict[str, str]:
    """For each layer, by its id, a class of its own: `fog-high`, and `fog-high-2` for the next of that name.

    What lies in a placement begins with the name of that. A name without Latin letters or digits leaves the id.
    """
    found: dict[str, str] = {}
    used = set(TAKEN)
    for layer, _ in walk(layers):
        copy, _, _ = layer.id.rpartition("/")
        stem = "-".join(filter(None, (found.get(copy, ""), _written(layer.name) or _written(layer.id))))
        # A class cannot begin with a digit.
        wanted = stem if stem[:1].isalpha() else f"layer-{stem}"
        name, number = wanted, 1
        while name in used:
            number += 1
            name = f"{wanted}-{number}"
        used.add(name)
        found[layer.id] = name
    return found


def css_name(*ids: str) -> str:
    """Of keyframes and custom properties, which all of a page shares: the ids of a piece and what is in it, two dashes
    between them, since no id has two; a slash becomes two underscores, and what is added has one before it."""
    return "--".join(id_.replace("/", "__") for id_ in ids)


def in_comment(text: str) -> str:
    """On one line; nothing in it ends the comment that it stands in."""
    return " ".join(text.split()).replace("*/", "*∕")


def _written(name: str) -> str:
    """Small Latin letters and digits, apart by dashes; accents are left out."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode("ascii").lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:LONGEST].strip("-")
