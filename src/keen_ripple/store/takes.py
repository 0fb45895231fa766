"""Takes: timings of a piece that were kept."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from keen_ripple.store.connect import Connection, Row
from keen_ripple.store.faults import Damaged
from keen_ripple.store.json_text import text_of, value_of
from keen_ripple.store.pieces import Missing


@dataclass(frozen=True)
class Take:
    """The transitions of a piece as they stood when they were kept."""

    number: int
    name: str
    transitions: list[dict[str, Any]]


def takes_of(conn: Connection, piece_id: str) -> list[Take]:
    """In the order in which they were kept; without those that are damaged."""
    rows = conn.execute(
        "SELECT * FROM take WHERE piece_id = ? AND json_valid(transitions) ORDER BY number", (piece_id,)
    )
    return [_take(row) for row in rows]


def one(conn: Connection, piece_id: str, number: int) -> Take:
    """Raises Missing."""
    row = conn.execute("SELECT * FROM take WHERE piece_id = ? AND number = ?", (piece_id, number)).fetchone()
    if row is None:
        raise _missing(number)
    return _take(row)


def keep(conn: Connection, piece_id: str, name: str, transitions: list[dict[str, Any]]) -> int:
    """Keeps these transitions under a name; the number of the take."""
    [number] = conn.execute("SELECT coalesce(max(number), 0) + 1 FROM take WHERE piece_id = ?", (piece_id,)).fetchone()
    conn.execute("INSERT INTO take VALUES (?, ?, ?, ?)", (piece_id, number, name, text_of(transitions)))
    return int(number)


def drop(conn: Connection, piece_id: str, number: int) -> None:
    """Raises Missing."""
    if conn.execute("DELETE FROM take WHERE piece_id = ? AND number = ?", (piece_id, number)).rowcount == 0:
        raise _missing(number)


def _take(row: Row) -> Take:
    try:
        return Take(row["number"], row["name"], value_of(row["transitions"]))
    except ValueError:
        raise Damaged(f"The take {row['name']!r} is damaged.", remedy="Delete it.") from None


def _missing(number: int) -> Missing:
    return Missing(f"There is no take {number}.", value=number, remedy="Load the takes again.")
