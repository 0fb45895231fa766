"""Long data: URLs of documents, kept once beside all texts that hold them: an edit does not write a film anew."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from keen_ripple.store.connect import Connection
from keen_ripple.store.json_text import text_of

# Characters; what is shorter stays where it is.
LONG = 2000
BEGINS = '"data:'
# A control character, as JSON escapes it: no text of a document may hold it.
MARK = '"\\u001f{}"'
MARKED = re.compile(r'"\\u001f([0-9a-f]{64})"')


def set_apart(conn: Connection, value: Any) -> str:
    """The JSON text of a value with marks; what they stand for is stored."""
    text, found = marked(value)
    keep(conn, found)
    return text


def keep(conn: Connection, found: Mapping[str, str]) -> None:
    """Stores what marks stand for."""
    conn.executemany("INSERT OR IGNORE INTO part VALUES (?, ?)", found.items())


def marked(value: Any) -> tuple[str, dict[str, str]]:
    """The JSON text of a value with marks in place of its long data: URLs, and these by their digests."""
    found: dict[str, str] = {}

    def short(inner: Any) -> Any:
        if isinstance(inner, str):
            if len(inner) <= LONG or not inner.startswith("data:"):
                return inner
            digest = digest_of(inner)
            found[digest] = inner
            return f"\x1f{digest}"
        if isinstance(inner, dict):
            return {name: short(each) for name, each in inner.items()}
        return [short(each) for each in inner] if isinstance(inner, list) else inner

    return text_of(short(value)), found


def whole(conn: Connection, text: str) -> str:
    """The text as it was before; marks of what is not there stay."""

    def part(mark: re.Match[str]) -> str:
        row = conn.execute("SELECT text FROM part WHERE digest = ?", (mark[1],)).fetchone()
        return mark[0] if row is None else f'"{row["text"]}"'

    return MARKED.sub(part, text)


@lru_cache(maxsize=8)
def digest_of(url: str) -> str:
    """What a mark says of it."""
    return hashlib.blake2b(url.encode(), digest_size=32).hexdigest()
