"""The server in earnest: slow senders are dropped, and many connections leave room for others."""

from __future__ import annotations

import socket
import threading
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest

from keen_ripple.web import create_app, server


@pytest.fixture
def port(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[int]:
    monkeypatch.setattr(server, "SLOWEST_S", 0.3)
    monkeypatch.setattr(server, "LOOK_EVERY_S", 0)
    serving = server.Server(create_app(tmp_path / "pieces.sqlite"), 0)
    thread = threading.Thread(target=serving.run, daemon=True)
    thread.start()
    yield int(serving.effective_port)
    serving.close()


def half_open(port: int, sent: bytes) -> socket.socket:
    connection = socket.create_connection(("127.0.0.1", port), timeout=20)
    connection.sendall(sent)
    return connection


def is_answered(port: int) -> bool:
    with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/pieces", timeout=20) as answer:
        return bool(answer.status == 200)


HALVES = {
    "nothing": b"",
    "half a head": b"GET /api/pieces HTTP/1.1\r\nHost: 127.0.0.1\r\n",
    "half a body": b"POST /api/pieces HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 1000\r\n\r\n{",
}


@pytest.mark.parametrize("sent", HALVES.values(), ids=HALVES.keys())
def test_many_half_open_connections_stop_nobody(port: int, sent: bytes) -> None:
    connections = [half_open(port, sent) for _ in range(120)]
    assert is_answered(port)
    for connection in connections:
        connection.close()


@pytest.mark.parametrize("sent", HALVES.values(), ids=HALVES.keys())
def test_who_does_not_come_to_an_end_is_dropped(port: int, sent: bytes) -> None:
    connection = half_open(port, sent)
    assert connection.recv(10) == b""
    # Nor does it help to send a little now and then.
    connection = half_open(port, sent)
    until = time.monotonic() + 20
    with pytest.raises(OSError):
        while time.monotonic() < until:
            connection.sendall(b"x")
            connection.settimeout(0.05)
            try:
                if connection.recv(10) == b"":
                    raise ConnectionResetError
            except TimeoutError:
                continue
    assert is_answered(port)
