"""Presets: timings with names, shared by all pieces."""

from __future__ import annotations

import json
import sqlite3
from typing import Any

from keen_ripple.store.pieces import Missing


def all_presets(conn: sqlite3.Connection) -> list[tuple[str, dict[str, Any]]]:
    """Names and timings, in the order of the names."""
    return [(row["name"], json.loads(row["timing"])) for row in conn.execute("SELECT * FROM preset ORDER BY name")]


def put(conn: sqlite3.Connection, name: str, timing: dict[str, Any]) -> None:
    """Keeps the timing under this name, in place of what had it before."""
    conn.execute("INSERT OR REPLACE INTO preset VALUES (?, ?)", (name, json.dumps(timing)))


def remove(conn: sqlite3.Connection, name: str) -> None:
    """Raises Missing."""
    if conn.execute("DELETE FROM preset WHERE name = ?", (name,)).rowcount == 0:
        raise Missing(f"There is no preset {name!r}.", value=name, remedy="Load the page again.")
