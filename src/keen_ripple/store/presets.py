"""Presets: timings with names, shared by all pieces."""

from __future__ import annotations

from typing import Any

from keen_ripple.store.connect import Connection
from keen_ripple.store.json_text import text_of, value_of
from keen_ripple.store.pieces import Missing


def all_presets(conn: Connection) -> list[tuple[str, dict[str, Any]]]:
    """Names and timings, in the order of the names; without those that are damaged."""
    rows = conn.execute("SELECT * FROM preset WHERE json_valid(timing) ORDER BY name")
    return [(row["name"], value_of(row["timing"])) for row in rows]


def put(conn: Connection, name: str, timing: dict[str, Any]) -> None:
    """Keeps the timing under this name, in place of what had it before."""
    conn.execute("INSERT OR REPLACE INTO preset VALUES (?, ?)", (name, text_of(timing)))


def remove(conn: Connection, name: str) -> None:
    """Raises Missing."""
    if conn.execute("DELETE FROM preset WHERE name = ?", (name,)).rowcount == 0:
        raise Missing(f"There is no preset {name!r}.", value=name, remedy="Load the page again.")
