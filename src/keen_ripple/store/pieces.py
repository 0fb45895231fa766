"""Pieces on the shelf."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass
from threading import Lock
from typing import Any, NamedTuple

from keen_ripple.core.document.bundle import bundled, standing_in
from keen_ripple.core.errors import Fault, quoted
from keen_ripple.store import parts
from keen_ripple.store.connect import Connection, Row
from keen_ripple.store.faults import Damaged
from keen_ripple.store.json_text import value_of


class Missing(Fault):
    """There is no such piece."""


class Used(Fault):
    """A piece that others hold."""


# Of those that hold a piece.
MOST_NAMED = 6


@dataclass(frozen=True)
class StoredPiece:
    """A piece as it stands; `undo` and `redo` name the edits that can be taken back and made again. `marked`: it holds
    something long, which is stored beside it or will be."""

    id: str
    document: dict[str, Any]
    revision: int
    done: int
    undo: str | None
    redo: str | None
    marked: bool = False


SELECT = """
    SELECT piece.*,
        (SELECT label FROM edit WHERE piece_id = piece.id AND number = piece.done) AS undo,
        (SELECT label FROM edit WHERE piece_id = piece.id AND number = piece.done + 1) AS redo
    FROM piece
"""


@dataclass(frozen=True)
class ShelfEntry:
    """What the shelf tells of a piece before it is looked at; `fault` says what is wrong with a row that is none."""

    row: int
    id: str
    revision: int
    name: str
    width: float
    height: float
    # None until they have been worked out; `loop_ms` also where the run ends.
    total_ms: int | None = None
    loop_ms: int | None = None
    fault: str | None = None


def shelf(conn: Connection) -> list[ShelfEntry]:
    """All pieces that have not been removed, the newest first. One that is damaged hides none of the others."""
    rows = conn.execute("""
        SELECT rowid, id, revision, total_ms, loop_ms, json_valid(document) AS valid,
            CASE WHEN json_valid(document) THEN json_extract(document, '$.name', '$.width', '$.height') END AS head
        FROM piece WHERE NOT removed ORDER BY position DESC, id
    """)
    return [_head(row) for row in rows]


def _head(row: Row) -> ShelfEntry:
    name, width, height = value_of(row["head"]) if row["valid"] else (None, None, None)
    if isinstance(name, str) and isinstance(width, int | float) and isinstance(height, int | float):
        known = (row["total_ms"], row["loop_ms"])
        return ShelfEntry(row["rowid"], row["id"], row["revision"], _shown(name), width, height, *known)
    name = _shown(row["id"])
    return ShelfEntry(row["rowid"], name, row["revision"], name, 1, 1, fault="What is stored here is no piece.")


def _shown(text: str) -> str:
    """Bytes that are no UTF-8, made visible."""
    return text.encode("utf-8", "surrogateescape").decode("utf-8", "replace")


def stored_bytes(conn: Connection, row_number: int) -> tuple[str, bytes]:
    """The id of a row, and what is stored in it, whatever it is. Raises Missing."""
    row = conn.execute("SELECT id, document FROM piece WHERE rowid = ? AND NOT removed", (row_number,)).fetchone()
    if row is None:
        raise _missing(str(row_number))
    return row["id"], parts.whole(conn, row["document"]).encode("utf-8", "surrogateescape")


def load(conn: Connection, piece_id: str) -> StoredPiece:
    """One piece. Raises Missing, and Damaged where what is stored is no JSON object."""
    row = conn.execute(f"{SELECT} WHERE id = ? AND NOT removed", (piece_id,)).fetchone()
    if row is None:
        raise _missing(piece_id)
    return _stored(conn, row)


def everything(conn: Connection) -> tuple[list[dict[str, Any]], list[str]]:
    """The documents of all pieces on the shelf, and what is said of those that are damaged."""
    documents, left_out = [], []
    for entry in shelf(conn):
        try:
            documents.append(load(conn, entry.id).document)
        except (Damaged, Missing) as fault:
            left_out.append(f"{entry.name}: {fault.message}")
    return documents, left_out


class SharedFont(NamedTuple):
    """A family that a piece brings: its name, the id of the piece and what that is called."""

    family: str
    piece: str
    name: str


def fonts(conn: Connection) -> list[SharedFont]:
    """The families that the pieces on the shelf bring, those of the newest last."""
    rows = conn.execute("""
        SELECT json_extract(font.value, '$.family') AS family, piece.id, json_extract(piece.document, '$.name') AS name
        FROM (SELECT * FROM piece WHERE NOT removed AND json_valid(document)) AS piece,
            json_each(piece.document, '$.fonts') AS font
        ORDER BY piece.position, piece.id
    """)
    return [SharedFont(row["family"], row["id"], row["name"]) for row in rows]


def placed_in(conn: Connection, document: dict[str, Any]) -> dict[str, StoredPiece]:
    """The pieces that stand in a document, and those that stand in them, by their ids; removed ones too, so that
    nothing that holds one is lost with it. What is not there or damaged is left out."""
    found: dict[str, StoredPiece] = {}

    def load(piece_id: str) -> dict[str, Any] | None:
        row = conn.execute(f"{SELECT} WHERE id = ?", (piece_id,)).fetchone()
        try:
            stored = _stored(conn, row) if row is not None else None
        except Damaged:
            return None
        if stored is not None:
            found[piece_id] = stored
        return stored.document if stored is not None else None

    standing_in(document, load)
    return found


def bundle_of(conn: Connection, piece_id: str) -> dict[str, Any]:
    """The document of a piece with all that stands in it. Raises Missing."""
    document = load(conn, piece_id).document
    return bundled(document, {name: other.document for name, other in placed_in(conn, document).items()})


@dataclass(frozen=True)
class Use:
    """A piece that holds another, so many times."""

    of: str
    id: str
    name: str
    count: int


def uses(conn: Connection) -> list[Use]:
    """Which pieces hold which others, in the order of the shelf."""
    rows = conn.execute("""
        SELECT layer.atom AS of, piece.id, json_extract(piece.document, '$.name') AS name, count(*) AS count
        FROM piece, json_tree(CASE WHEN json_valid(document) THEN document ELSE '{}' END, '$.layers') AS layer
        WHERE NOT removed AND layer.key = 'piece' AND layer.type = 'text'
        GROUP BY layer.atom, piece.id ORDER BY piece.position, piece.id
    """)
    return [Use(row["of"], row["id"], row["name"], row["count"]) for row in rows]


def revision_of(conn: Connection, piece_id: str) -> tuple[int, bool]:
    """The number of its newest revision, and whether other pieces may stand in it. Raises Missing."""
    row = conn.execute(
        "SELECT revision, instr(document, '\"placement\"') AS found FROM piece WHERE id = ? AND NOT removed",
        (piece_id,),
    ).fetchone()
    if row is None:
        raise _missing(piece_id)
    return int(row["revision"]), row["found"] > 0


def add(conn: Connection, document: dict[str, Any]) -> None:
    """Puts a new piece on the shelf, in revision 1."""
    conn.execute(
        "INSERT INTO piece (id, position, document, revision)"
        " VALUES (?, (SELECT coalesce(max(position), 0) + 1 FROM piece), ?, 1)",
        (document["id"], parts.set_apart(conn, document)),
    )


def forget_lengths_around(conn: Connection, piece_id: str) -> None:
    """What is known of the runs of pieces that hold this one, at any depth, after it has changed."""
    holding, waiting = set[str](), [piece_id]
    while waiting:
        # As `text_of` writes it.
        rows = conn.execute("SELECT id FROM piece WHERE instr(document, ?)", (f'"piece":"{waiting.pop()}"',))
        fresh = {row["id"] for row in rows} - holding
        holding |= fresh
        waiting += fresh
    conn.executemany("UPDATE piece SET total_ms = NULL, loop_ms = NULL WHERE id = ?", [(name,) for name in holding])


def set_lengths(conn: Connection, piece_id: str, total_ms: int, loop_ms: int | None) -> None:
    """What the shelf tells of the run."""
    conn.execute("UPDATE piece SET total_ms = ?, loop_ms = ? WHERE id = ?", (total_ms, loop_ms, piece_id))


def has(conn: Connection, document: dict[str, Any]) -> bool:
    """Whether the shelf has just this piece, by this id."""
    row = conn.execute("SELECT document FROM piece WHERE id = ? AND NOT removed", (document["id"],)).fetchone()
    return row is not None and bool(value_of(parts.whole(conn, row["document"])) == document)


def free_id(conn: Connection, wanted: str) -> str:
    """`wanted`, or the first of wanted-2, wanted-3 … that no piece has or had."""
    taken = {row["id"] for row in conn.execute("SELECT id FROM piece")}
    number, candidate = 1, wanted
    while candidate in taken:
        number += 1
        candidate = f"{wanted}-{number}"
    return candidate


def set_removed(conn: Connection, piece_id: str, removed: bool) -> None:
    """Takes a piece off the shelf, or puts it back; nothing of it is lost. Raises Missing, and Used for one that stands
    in others."""
    users = [use for use in uses(conn) if use.of == piece_id] if removed else []
    if users:
        names = ", ".join(f"{use.name} × {use.count}" for use in users[:MOST_NAMED])
        raise Used(
            f"It stands in other pieces: {names}.",
            value=[use.id for use in users],
            remedy="Turn its placements there into plain layers, or take them out, first.",
        )
    done = conn.execute("UPDATE piece SET removed = ? WHERE id = ?", (int(removed), piece_id))
    if done.rowcount == 0:
        raise _missing(piece_id)


def _missing(piece_id: str) -> Missing:
    return Missing(f"There is no piece {quoted(piece_id)}.", value=piece_id, remedy="Go back to the shelf.")


def _stored(conn: Connection, row: Row) -> StoredPiece:
    try:
        row["document"].encode()
        document = _document(conn, row["document"])
    except (ValueError, RecursionError) as error:
        raise _damaged(f"{quoted(str(error), 120)}.") from None
    if not isinstance(document, dict) or document.get("id") != row["id"]:
        raise _damaged("it is not the piece that it should be.")
    marked = parts.MARKED.search(row["document"]) is not None or parts.BEGINS in row["document"]
    return StoredPiece(row["id"], document, row["revision"], row["done"], row["undo"], row["redo"], marked)


_read: OrderedDict[str, Any] = OrderedDict()
_lock = Lock()
KEPT = 8


def _document(conn: Connection, text: str) -> Any:
    """The value of a stored text. Of those that hold films and the like the last ones are kept: nobody changes them."""
    if not parts.MARKED.search(text):
        return value_of(text)
    with _lock:
        found = _read.get(text)
    if found is None:
        found = value_of(parts.whole(conn, text))
        remember(text, found)
    return found


def remember(text: str, document: Any) -> None:
    """Keeps the value of a stored text with marks, so that it need not be put together for the next edit."""
    if parts.MARKED.search(text):
        with _lock:
            _read[text] = document
            while len(_read) > KEPT:
                _read.popitem(last=False)


def _damaged(why: str) -> Damaged:
    return Damaged(
        f"What is stored of this piece is damaged: {why}",
        remedy="Download what is stored, and mend it there or put back a copy of the database.",
    )
