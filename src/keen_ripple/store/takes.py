"""Takes: timings of a piece that were kept."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Any

from keen_ripple.store.connect import Connection, Row
from keen_ripple.store.faults import Damaged
from keen_ripple.store.json_text import text_of, value_of
from keen_ripple.store.pieces import Missing


@dataclass(frozen=True)
class Take:
    """The transitions of a piece as they stood when they were kept, and its undercurrents; None where an older take
    says nothing of them."""

    number: int
    name: str
    transitions: list[dict[str, Any]]
    undercurrents: list[dict[str, Any]] | None = None


def takes_of(conn: Connection, piece_id: str) -> list[Take]:
    """In the order in which they were kept; without those that are damaged."""
    rows = conn.execute(
        "SELECT * FROM take WHERE piece_id = ? AND NOT removed AND json_valid(transitions) ORDER BY number",
        (piece_id,),
    )
    return [_take(row) for row in rows]


def one(conn: Connection, piece_id: str, number: int) -> Take:
    """Raises Missing."""
    row = conn.execute(
        "SELECT * FROM take WHERE piece_id = ? AND number = ? AND NOT removed", (piece_id, number)
    ).fetchone()
    if row is None:
        raise _missing(number)
    return _take(row)


def keep(
    conn: Connection,
    piece_id: str,
    name: str,
    transitions: list[dict[str, Any]],
    undercurrents: list[dict[str, Any]] | None = None,
) -> int:
    """Keeps these timings under a name, or one like it that is free; the number of the take."""
    [number] = conn.execute("SELECT coalesce(max(number), 0) + 1 FROM take WHERE piece_id = ?", (piece_id,)).fetchone()
    conn.execute(
        "INSERT INTO take (piece_id, number, name, transitions, undercurrents) VALUES (?, ?, ?, ?, ?)",
        (
            *(piece_id, number, _free_name(conn, piece_id, name), text_of(transitions)),
            None if undercurrents is None else text_of(undercurrents),
        ),
    )
    return int(number)


def rename(conn: Connection, piece_id: str, number: int, name: str) -> None:
    """Gives a take this name, or one like it that is free. Raises Missing."""
    if one(conn, piece_id, number).name != name:
        free = _free_name(conn, piece_id, name)
        conn.execute("UPDATE take SET name = ? WHERE piece_id = ? AND number = ?", (free, piece_id, number))


def _free_name(conn: Connection, piece_id: str, wanted: str) -> str:
    """Two takes are never called the same."""
    rows = conn.execute("SELECT name FROM take WHERE piece_id = ? AND NOT removed", (piece_id,))
    taken = {row["name"] for row in rows}
    names = (wanted if count == 1 else f"{wanted} {count}" for count in itertools.count(1))
    return next(name for name in names if name not in taken)


def set_removed(conn: Connection, piece_id: str, number: int, removed: bool) -> None:
    """Takes a take away, or puts it back, by a free name where another has its own by now. Raises Missing."""
    where = "WHERE piece_id = ? AND number = ? AND removed != ?"
    row = conn.execute(f"SELECT name FROM take {where}", (piece_id, number, removed)).fetchone()
    if row is None:
        raise _missing(number)
    name = row["name"] if removed else _free_name(conn, piece_id, row["name"])
    conn.execute(f"UPDATE take SET removed = ?, name = ? {where}", (removed, name, piece_id, number, removed))


def _take(row: Row) -> Take:
    try:
        rounds = None if row["undercurrents"] is None else value_of(row["undercurrents"])
        return Take(row["number"], row["name"], value_of(row["transitions"]), rounds)
    except ValueError:
        raise Damaged(f"The take {row['name']!r} is damaged.", remedy="Delete it.") from None


def _missing(number: int) -> Missing:
    return Missing(f"There is no take {number}.", value=number, remedy="Load the takes again.")
