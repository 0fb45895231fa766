"""Files that are no database of ours, or cannot be used now: a sentence with the remedy, on start and while serving."""

from __future__ import annotations

import os
import sqlite3
import sys
from collections.abc import Callable
from pathlib import Path

import pytest

from keen_ripple.cli import main
from keen_ripple.store import connect, migrate
from keen_ripple.web import create_app
from support import piece


def foreign(path: Path) -> None:
    with sqlite3.connect(path) as conn:
        conn.execute("CREATE TABLE boats (name TEXT)")


def truncated(path: Path) -> None:
    conn = connect(path)
    migrate(conn)
    conn.close()
    path.write_bytes(path.read_bytes()[:5000])


def newer(path: Path) -> None:
    conn = connect(path)
    migrate(conn)
    conn.execute("INSERT INTO migration VALUES (99, 'x')")
    conn.close()


FILES: dict[str, tuple[Callable[[Path], object], str]] = {
    "a folder": (lambda path: path.mkdir(), "is a folder. Name a file in it"),
    "no database": (lambda path: path.write_text("half a letter" * 100), "not a database. Choose another file"),
    "of another program": (foreign, "belongs to another program: it holds the table boats. Choose another"),
    "truncated": (truncated, "is damaged. Put back a copy"),
    "newer": (newer, "does not know. Open it with a newer Keen Ripple"),
    "a device": (lambda path: path.symlink_to("/dev/null"), "--db"),
}


@pytest.mark.parametrize("case", FILES.values(), ids=FILES.keys())
def test_on_start(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], case: tuple[Callable[[Path], object], str]
) -> None:
    make, says = case
    path = tmp_path / "pieces.sqlite"
    make(path)
    before = path.read_bytes() if path.is_file() else b""
    assert main(["serve", "--db", str(path), "--port", "0"]) == 1
    error = capsys.readouterr().err
    assert says in error
    assert "Traceback" not in error
    assert not path.is_file() or path.read_bytes() == before


def test_while_serving(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sys.modules["keen_ripple.store.connect"], "PATIENCE_S", 0.05)
    path = tmp_path / "pieces.sqlite"
    client = create_app(path).test_client()
    client.post("/api/pieces", json={"document": piece()})
    rename = {"revision": 1, "label": "x", "patch": [{"op": "replace", "path": "/name", "value": "y" * 100}]}

    other = sqlite3.connect(path, isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    busy = client.patch("/api/pieces/probe", json=rename)
    assert (busy.status_code, busy.json["error"]["kind"]) == (503, "Busy")
    assert "try again" in busy.json["error"]["remedy"]
    other.execute("ROLLBACK")

    # A disk that is full, as SQLite tells it: the file may not grow.
    from keen_ripple.web import database

    def full() -> sqlite3.Connection:
        conn = connect(path)
        conn.execute(f"PRAGMA max_page_count = {conn.execute('PRAGMA page_count').fetchone()[0]}")
        return conn

    monkeypatch.setattr(database, "connect", lambda _: full())
    database._of_thread.__dict__.clear()
    long = {"op": "replace", "path": "/name", "value": "y" * 100}
    answer = client.patch("/api/pieces/probe", json={**rename, "patch": [long] * 2000})
    assert (answer.status_code, answer.json["error"]["kind"]) == (507, "DiskFull")
    assert "Make room" in answer.json["error"]["remedy"]
    database._of_thread.__dict__.clear()
    monkeypatch.undo()
    assert client.get("/api/pieces/probe").json["revision"] == 1
    assert client.patch("/api/pieces/probe", json=rename).status_code == 200


@pytest.mark.skipif(os.geteuid() == 0, reason="root may write everywhere")
def test_a_folder_that_may_not_be_written(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    tmp_path.chmod(0o500)
    assert main(["serve", "--db", str(tmp_path / "pieces.sqlite"), "--port", "0"]) == 1
    assert "--db" in capsys.readouterr().err
    tmp_path.chmod(0o700)
