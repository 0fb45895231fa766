"""One connection per request."""

from __future__ import annotations

import sqlite3

from flask import Flask, current_app, g

from keen_ripple.store import connect


def install(app: Flask) -> None:
    app.teardown_appcontext(_close)


def connection() -> sqlite3.Connection:
    """The connection of this request."""
    if "conn" not in g:
        g.conn = connect(current_app.config["DATABASE"])
    conn: sqlite3.Connection = g.conn
    return conn


def _close(_: BaseException | None) -> None:
    conn = g.pop("conn", None)
    if conn is not None:
        conn.close()
