"""Long data: URLs of documents, kept once beside all texts that hold them: an edit does not write a film anew."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterator, Mapping
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


def apart(text: str) -> tuple[str, dict[str, str]]:
    """JSON text with marks in place of its long data: URLs, and these by their digests."""
    kept: list[str] = []
    found: dict[str, str] = {}
    done = 0
    for start, end in _urls(text):
        url = text[start + 1 : end - 1]
        digest = _digest(url)
        found[digest] = url
        kept += (text[done:start], MARK.format(digest))
        done = end
    return "".join((*kept, text[done:])), found


def set_apart(conn: Connection, text: str) -> str:
    """The text with marks; what they stand for is stored."""
    marked, found = apart(text)
    keep(conn, found)
    return marked


def keep(conn: Connection, found: Mapping[str, str]) -> None:
    """Stores what marks stand for."""
    conn.executemany("INSERT OR IGNORE INTO part VALUES (?, ?)", found.items())


def marked(value: Any) -> tuple[str, dict[str, str]]:
    """The JSON text of a value as `apart` gives it, without writing what is long first."""
    found: dict[str, str] = {}

    def short(inner: Any) -> Any:
        if isinstance(inner, str):
            if len(inner) <= LONG or not inner.startswith("data:"):
                return inner
            digest = _digest(inner)
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
def _digest(url: str) -> str:
    return hashlib.blake2b(url.encode(), digest_size=32).hexdigest()


def _urls(text: str) -> Iterator[tuple[int, int]]:
    """Where long data: URLs stand, quotes included; there is nothing in them that JSON would escape."""
    start = text.find(BEGINS)
    while start >= 0:
        end = text.find('"', start + 1) + 1
        if end - start - 2 > LONG:
            yield start, end
        start = text.find(BEGINS, max(end - 1, start + 1))
