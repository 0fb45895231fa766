"""What the page loads before it can be used stays small."""

from __future__ import annotations

import gzip
import json
from pathlib import Path
from typing import Any

import pytest

DIST = Path(__file__).parents[2] / "src" / "keen_ripple" / "web" / "dist"
MOST = {
    "shelf": 200_000,
    "workbench": 370_000,
    "run-sheet": 386_000,
    "takes": 386_000,
    "rehearse": 386_000,
    "handoff": 386_000,
}


def loaded(chunks: dict[str, Any], name: str) -> set[str]:
    """The chunk with all that it needs at once."""
    found, left = set(), [name]
    while left:
        chunk = left.pop()
        if chunk not in found:
            found.add(chunk)
            left += chunks[chunk].get("imports", [])
    return found


@pytest.mark.parametrize("page", MOST)
def test_a_page_loads_no_more_than_it_needs(page: str) -> None:
    chunks = json.loads((DIST / ".vite" / "manifest.json").read_text("utf-8"))
    names = {chunk.get("name"): name for name, chunk in chunks.items()}
    needed = loaded(chunks, "index.html") | loaded(chunks, names[page])
    files = [DIST / chunks[name]["file"] for name in sorted(needed)]
    sizes = {file.name: len(gzip.compress(file.read_bytes())) for file in files}
    assert sum(sizes.values()) <= MOST[page], sizes
    assert sum(names[other] in needed for other in MOST) <= 2, "pages are loaded with each other"


@pytest.mark.parametrize(
    ("script", "most"), [("runtime", 9_050), ("live", 19_700), ("element", 20_500), ("settings", 1_600)]
)
def test_what_leaves_stays_small(script: str, most: int) -> None:
    built = DIST.parents[1] / "handoff" / "built" / f"{script}.js"
    assert len(gzip.compress(built.read_bytes())) <= most
