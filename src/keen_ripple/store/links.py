"""Unguessable addresses of pieces, one for each, made and taken back."""

from __future__ import annotations

import secrets

from keen_ripple.store.connect import Connection
from keen_ripple.store.pieces import Missing

# So many random bytes are guessed by nobody.
BYTES = 16


def link_of(conn: Connection, piece_id: str) -> str | None:
    """The token of a piece; None where nobody is to see it."""
    row = conn.execute("SELECT token FROM link WHERE piece_id = ?", (piece_id,)).fetchone()
    return None if row is None else str(row["token"])


def make(conn: Connection, piece_id: str) -> str:
    """The token of a piece, a new one where it has none. The piece is there."""
    row = (piece_id, secrets.token_urlsafe(BYTES))
    conn.execute("INSERT INTO link VALUES (?, ?) ON CONFLICT DO NOTHING", row)
    found = link_of(conn, piece_id)
    assert found is not None
    return found


def take_back(conn: Connection, piece_id: str) -> None:
    """Whoever has the address sees nothing any more; the next one is another."""
    conn.execute("DELETE FROM link WHERE piece_id = ?", (piece_id,))


def piece_of(conn: Connection, token: str) -> str:
    """The id of the piece that an address shows. Raises Missing."""
    row = conn.execute("SELECT piece_id FROM link WHERE token = ?", (token,)).fetchone()
    if row is None:
        raise Missing(
            "Nothing is shown under this address.", remedy="Its link was taken back: ask whoever gave it to you."
        )
    return str(row["piece_id"])
