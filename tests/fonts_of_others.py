"""Fonts of others: a variable one, one with ligatures, one of a script from right to left. All under the Open Font
License, from packages that the tests of the page install."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from keen_ripple.fonts import take_font

PACKAGES = Path(__file__).parent.parent / "frontend" / "node_modules"
FILES = {
    "variable": PACKAGES / "@fontsource-variable/recursive/files/recursive-latin-full-normal.woff2",
    "ligatures": PACKAGES / "@fontsource/fira-code/files/fira-code-latin-400-normal.woff2",
    "ligatures, bold": PACKAGES / "@fontsource/fira-code/files/fira-code-latin-700-normal.woff2",
    "ligatures, more letters": PACKAGES / "@fontsource/fira-code/files/fira-code-greek-400-normal.woff2",
    "from the right": PACKAGES / "@fontsource/vazirmatn/files/vazirmatn-arabic-400-normal.woff2",
    "from the right, marks": PACKAGES / "@fontsource/vazirmatn/files/vazirmatn-latin-400-normal.woff2",
}
VARIABLE, LIGATURES, FROM_RIGHT = "Recursive Sans Linear", "Fira Code", "Vazirmatn"


@lru_cache
def source(name: str) -> str:
    """A font as a document holds it."""
    return take_font(FILES[name].read_bytes())[0]


def brought() -> list[dict[str, object]]:
    """The three families, as the `fonts` of a piece."""
    return [
        {"family": VARIABLE, "files": _all("variable")},
        {"family": LIGATURES, "files": _all("ligatures")},
        {"family": FROM_RIGHT, "files": _all("from the right")},
    ]


def _all(family: str) -> list[str]:
    return [source(name) for name in FILES if name.startswith(family)]
