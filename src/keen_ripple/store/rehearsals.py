"""Rehearsals of a piece that were kept."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from keen_ripple.store.connect import Connection, Row
from keen_ripple.store.json_text import text_of, value_of
from keen_ripple.store.pieces import Missing


@dataclass(frozen=True)
class Kept:
    """Events, how long they were played (ms), and which states they reached in the revision at which it was kept."""

    number: int
    name: str
    events: Any
    until_ms: float
    revision: int
    arrivals: Any


def kept_of(conn: Connection, piece_id: str) -> list[Kept]:
    """In the order in which they were kept; without those that are damaged."""
    rows = conn.execute(
        "SELECT * FROM rehearsal WHERE piece_id = ? AND json_valid(events) AND json_valid(arrivals) ORDER BY number",
        (piece_id,),
    )
    return [_kept(row) for row in rows]


def kept(conn: Connection, piece_id: str, number: int) -> Kept:
    """One of them. Raises Missing."""
    found = next((each for each in kept_of(conn, piece_id) if each.number == number), None)
    if found is None:
        raise _missing(number)
    return found


def keep(
    conn: Connection, piece_id: str, name: str, events: Sequence[Any], until_ms: float, revision: int, arrivals: Any
) -> int:
    """Keeps these events under a name; the number of the rehearsal."""
    found = conn.execute("SELECT coalesce(max(number), 0) + 1 FROM rehearsal WHERE piece_id = ?", (piece_id,))
    [number] = found.fetchone()
    row = (piece_id, number, name, text_of(list(events)), until_ms, revision, text_of(arrivals))
    conn.execute("INSERT INTO rehearsal VALUES (?, ?, ?, ?, ?, ?, ?)", row)
    return int(number)


def drop(conn: Connection, piece_id: str, number: int) -> None:
    """Raises Missing."""
    if conn.execute("DELETE FROM rehearsal WHERE piece_id = ? AND number = ?", (piece_id, number)).rowcount == 0:
        raise _missing(number)


def _missing(number: int) -> Missing:
    return Missing(f"There is no rehearsal {number}.", value=number, remedy="Load the rehearsals again.")


def _kept(row: Row) -> Kept:
    events, arrivals = value_of(row["events"]), value_of(row["arrivals"])
    return Kept(row["number"], row["name"], events, row["until_ms"], row["revision"], arrivals)
