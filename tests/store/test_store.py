"""Atomic writes, migrations, and a history that survives."""

from __future__ import annotations

import copy
import json
import random
import sqlite3
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import DocumentFault, Fault
from keen_ripple.store import atomic, connect, history, migrate, pieces
from keen_ripple.store.faults import Damaged
from keen_ripple.store.migrate import MigrationFault
from support import piece


@pytest.fixture
def conn(tmp_path: Path) -> Iterator[sqlite3.Connection]:
    conn = connect(tmp_path / "store.sqlite")
    migrate(conn)
    yield conn
    conn.close()


def names(conn: sqlite3.Connection) -> list[str]:
    return [stored.id for stored in pieces.shelf(conn)]


@pytest.mark.parametrize("nested", [False, True], ids=["bare", "nested"])
@pytest.mark.parametrize("failing", [False, True], ids=["kept", "failing"])
def test_atomic(conn: sqlite3.Connection, nested: bool, failing: bool) -> None:
    def write() -> None:
        with atomic(conn):
            pieces.add(conn, piece(id="inner"))
            if failing:
                raise RuntimeError

    if nested:
        with atomic(conn):
            pieces.add(conn, piece(id="outer"))
            with suppress(RuntimeError):
                write()
    else:
        with suppress(RuntimeError):
            write()
    assert not conn.in_transaction
    assert names(conn) == ["inner"] * (not failing) + ["outer"] * nested


ONE, TWO = "CREATE TABLE a (x TEXT);\nINSERT INTO a VALUES ('one; two');", "CREATE TABLE b (y TEXT);"


def test_migrations_run_once_and_in_order(tmp_path: Path) -> None:
    conn = connect(tmp_path / "m.sqlite")
    for known in ({1: ONE}, {1: ONE, 2: TWO}, {1: ONE, 2: TWO}):
        migrate(conn, known)
    assert [row["x"] for row in conn.execute("SELECT x FROM a")] == ["one; two"]
    assert conn.execute("SELECT count(*) FROM migration").fetchone()[0] == 2


@pytest.mark.parametrize(
    ("known", "says"),
    [
        ({1: ONE}, "does not know"),
        ({1: ONE + "\n", 2: TWO}, "not the one of this program"),
        ({1: ONE, 3: TWO}, "without a gap"),
        ({1: ONE, 2: TWO, 3: "CREATE TABLE c (z TEXT); CREATE TABLE c (z TEXT);"}, "already exists"),
    ],
)
def test_migrations_that_do_not_fit_change_nothing(tmp_path: Path, known: dict[int, str], says: str) -> None:
    conn = connect(tmp_path / "m.sqlite")
    migrate(conn, {1: ONE, 2: TWO})
    before = list(conn.iterdump())
    with pytest.raises((MigrationFault, sqlite3.OperationalError), match=says):
        migrate(conn, known)
    assert list(conn.iterdump()) == before


def set_x(value: float) -> list[dict[str, Any]]:
    return [{"op": "replace", "path": "/layers/0/x", "value": value}]


def edit(conn: sqlite3.Connection, revision: int, value: float):
    return made(conn, history.edit, revision, f"x {value}", set_x(value)).after


def made(conn: sqlite3.Connection, propose, revision: int, *rest: Any) -> history.Change:
    with atomic(conn):
        change = propose(conn, "probe", revision, *rest)
        history.record(conn, change)
    return change


def test_undo_and_redo_survive_a_new_connection(tmp_path: Path) -> None:
    path = tmp_path / "store.sqlite"
    conn = connect(path)
    migrate(conn)
    pieces.add(conn, piece())
    edit(conn, 1, 50)
    edit(conn, 2, 60)
    conn.close()
    conn = connect(path)
    change = made(conn, history.undo, 3)
    undone, patch = change.after, change.patch
    assert (undone.document["layers"][0]["x"], undone.revision, undone.undo, undone.redo) == (50, 4, "x 50", "x 60")
    assert patch == set_x(50)
    redone = made(conn, history.redo, 4).after
    assert (redone.document["layers"][0]["x"], redone.revision, redone.redo) == (60, 5, None)
    with atomic(conn), pytest.raises(history.NothingToDo):
        history.redo(conn, "probe", 5)


def test_what_is_nudged_in_one_go_is_undone_at_once(conn: sqlite3.Connection) -> None:
    pieces.add(conn, piece())
    for value, burst in ((11, None), (12, "a"), (13, "a"), (14, "a"), (15, "b"), (16, None)):
        revision = pieces.load(conn, "probe").revision
        made(conn, history.edit, revision, f"x {value}", set_x(value), burst)

    def walk(step) -> list[float]:
        found = []
        with suppress(history.NothingToDo):
            while True:
                found.append(made(conn, step, pieces.load(conn, "probe").revision).after.document["layers"][0]["x"])
        return found

    assert walk(history.undo) == [15, 14, 11, 10]
    assert walk(history.redo) == [11, 14, 15, 16]
    # After an undo a burst does not go on: what was undone could not be made again.
    made(conn, history.undo, pieces.load(conn, "probe").revision)
    made(conn, history.edit, pieces.load(conn, "probe").revision, "x 17", set_x(17), "b")
    assert walk(history.undo)[:2] == [15, 14]


def test_a_stale_edit_is_refused_with_what_changed(conn: sqlite3.Connection) -> None:
    pieces.add(conn, piece())
    edit(conn, 1, 50)
    edit(conn, 2, 60)
    with pytest.raises(history.Stale) as caught:
        edit(conn, 1, 70)
    assert caught.value.revision == 3
    assert caught.value.changes == [
        {"label": "x 50", "patch": set_x(50)},
        {"label": "x 60", "patch": set_x(60)},
    ]
    assert pieces.load(conn, "probe").document["layers"][0]["x"] == 60


def test_what_is_proposed_or_refused_leaves_no_trace(conn: sqlite3.Connection) -> None:
    pieces.add(conn, piece())
    before = list(conn.iterdump())
    with atomic(conn):
        history.edit(conn, "probe", 1, "x", set_x(1))
    for patch in ([{"op": "replace", "path": "/id", "value": "other"}], [{"op": "remove", "path": "/none"}]):
        with pytest.raises(Fault), atomic(conn):
            history.record(conn, history.edit(conn, "probe", 1, "x", patch))
    assert list(conn.iterdump()) == before


def test_a_long_random_walk_leads_back(conn: sqlite3.Connection) -> None:
    pieces.add(conn, piece())
    chance = random.Random(9)
    past, present, future = [], copy.deepcopy(piece()), []
    for step in range(150):
        revision = pieces.load(conn, "probe").revision
        choice = chance.random()
        if choice < 0.35 and past:
            future.append(present)
            present = past.pop()
            stored = made(conn, history.undo, revision).after
        elif choice < 0.5 and future:
            past.append(present)
            present = future.pop()
            stored = made(conn, history.redo, revision).after
        else:
            past.append(present)
            present, future = copy.deepcopy(present), []
            present["layers"].append({**piece()["layers"][0], "id": f"box-{step}"})
            patch = [{"op": "add", "path": "/layers/-", "value": present["layers"][-1]}]
            stored = made(conn, history.edit, revision, "add", patch).after
        assert stored == pieces.load(conn, "probe")
        assert stored.document == present
        assert (stored.undo is not None, stored.redo is not None) == (bool(past), bool(future))


def test_removed_pieces_can_be_put_back(conn: sqlite3.Connection) -> None:
    pieces.add(conn, piece())
    pieces.set_removed(conn, "probe", True)
    assert names(conn) == []
    with pytest.raises(pieces.Missing):
        pieces.load(conn, "probe")
    assert pieces.free_id(conn, "probe") == "probe-2"
    pieces.set_removed(conn, "probe", False)
    assert names(conn) == ["probe"]
    with pytest.raises(pieces.Missing):
        pieces.set_removed(conn, "other", True)


DAMAGED = {
    "no JSON": b"{half",
    "no object": b"[1]",
    "another id": b'{"id": "other", "name": "Other", "width": 1, "height": 1}',
    "no UTF-8": b'{"id": "probe", "name": "\xff", "width": 1, "height": 1}',
    "half a character": b'{"id": "probe", "name": "\xed\xa0\x80", "width": 1, "height": 1}',
    "nothing": b"",
}


@pytest.mark.parametrize("content", DAMAGED.values(), ids=DAMAGED.keys())
def test_a_damaged_row_hides_no_other_and_can_be_read_and_removed(conn: sqlite3.Connection, content: bytes) -> None:
    pieces.add(conn, piece())
    pieces.add(conn, piece(id="sound"))
    conn.execute("UPDATE piece SET document = CAST(? AS TEXT) WHERE id = 'probe'", (content,))
    [sound, damaged] = pieces.shelf(conn)
    assert (sound.id, sound.name, sound.fault) == ("sound", "Probe", None)
    with pytest.raises(Damaged) as caught:
        pieces.load(conn, "probe")
    assert caught.value.remedy
    assert pieces.stored_bytes(conn, damaged.row) == ("probe", content)
    pieces.set_removed(conn, "probe", True)
    assert names(conn) == ["sound"]


FILM = "data:video/mp4;base64," + "AAAA" * 3000


def with_film(name: str) -> dict[str, Any]:
    layer = {"kind": "medium", "id": "film", "name": "Film", "x": 0, "y": 0, "width": 9, "height": 9}
    return piece([{**layer, "source": FILM, "length_ms": 50}], id=name, states=[{"id": "a", "name": "A"}])


def test_what_is_long_is_kept_once_whatever_holds_it(conn: sqlite3.Connection) -> None:
    # Words are no film, however they begin.
    words = {
        "kind": "text",
        "id": "word",
        "name": 'data: "x"',
        "x": 0,
        "y": 0,
        "width": 9,
        "height": 9,
        "text": "data:,",
    }
    document = with_film("one")
    document["layers"].append(words)
    pieces.add(conn, document)
    pieces.add(conn, with_film("two"))
    change(conn, "one", [{"op": "remove", "path": "/layers/0"}])
    change(conn, "one", [{"op": "add", "path": "/layers/0", "value": document["layers"][0]}])
    assert pieces.load(conn, "one").document == document
    [(kept,)] = conn.execute("SELECT text FROM part").fetchall()
    assert kept == FILM
    stored = [row[0] for row in conn.execute("SELECT document FROM piece UNION ALL SELECT patch FROM revision")]
    stored += [text for row in conn.execute("SELECT patch, inverse FROM edit") for text in row]
    assert max(map(len, stored)) < 1200
    for back in range(2):
        record(conn, history.undo(conn, "one", 3 + back))
    assert pieces.load(conn, "one").document == document
    assert pieces.stored_bytes(conn, 1)[1].decode() == json.dumps(document, ensure_ascii=False, separators=(",", ":"))
    with pytest.raises(history.Stale) as caught:
        history.edit(conn, "one", 2, "Late", [])
    assert caught.value.changes[0]["patch"][0]["value"]["source"] == FILM


def test_what_was_stored_before_it_was_kept_apart_is_read_too(conn: sqlite3.Connection) -> None:
    document = with_film("old")
    pieces.add(conn, document)
    conn.execute("UPDATE piece SET document = ?", (json.dumps(document),))
    conn.execute("DELETE FROM part")
    assert pieces.load(conn, "old").document == document
    change(conn, "old", [{"op": "add", "path": "/name", "value": "New"}])
    assert pieces.load(conn, "old").document == {**document, "name": "New"}


def test_a_film_that_is_lost_is_told_with_its_place(tmp_path: Path) -> None:
    conn = connect(tmp_path / "lost.sqlite")
    migrate(conn)
    pieces.add(conn, with_film("lost"))
    conn.execute("DELETE FROM part")
    document = pieces.load(conn, "lost").document
    with pytest.raises(DocumentFault) as caught:
        read_piece(document)
    assert caught.value.place == "/layers/0/source"
    conn.close()


def record(conn: sqlite3.Connection, change: history.Change) -> None:
    with atomic(conn):
        history.record(conn, change)


def change(conn: sqlite3.Connection, name: str, patch: list[dict[str, Any]]) -> None:
    record(conn, history.edit(conn, name, pieces.load(conn, name).revision, "Change", patch))


def test_every_commit_is_on_the_disk(conn: sqlite3.Connection) -> None:
    assert conn.execute("PRAGMA synchronous").fetchone()[0] == 2
    assert conn.execute("PRAGMA journal_mode").fetchone()[0] == "wal"
