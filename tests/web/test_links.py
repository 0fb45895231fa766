"""Links: one piece, read only, under an address that nobody guesses."""

from __future__ import annotations

import pytest

from support import piece


@pytest.fixture
def at(client) -> str:
    client.post("/api/pieces", json={"document": piece(id="lamp", name="Lamp")})
    return "/api/pieces/lamp/link"


def test_a_link_is_made_seen_and_taken_back(client, at: str) -> None:
    assert client.get(at).get_json() == {"token": None}
    token = client.post(at).get_json()["token"]
    assert len(token) >= 22 and client.post(at).get_json()["token"] == token == client.get(at).get_json()["token"]
    shown = client.get(f"/p/{token}")
    assert shown.status_code == 200 and b"<title>Lamp</title>" in shown.data
    policy = shown.headers["Content-Security-Policy"]
    assert "frame-ancestors *" in policy and "sandbox allow-scripts;" in policy and "default-src 'none'" in policy
    assert shown.headers["Cross-Origin-Resource-Policy"] == "cross-origin"
    # It shows the piece as it is now.
    rename = [{"op": "replace", "path": "/name", "value": "Deck lamp"}]
    client.patch("/api/pieces/lamp", json={"revision": 1, "label": "Rename", "patch": rename})
    assert b"<title>Deck lamp</title>" in client.get(f"/p/{token}").data
    assert client.delete(at).get_json() == {"token": None}
    gone = client.get(f"/p/{token}")
    assert gone.status_code == 404 and gone.mimetype == "text/plain" and b"taken back" in gone.data
    assert client.post(at).get_json()["token"] != token


def test_what_is_removed_is_shown_no_more(client, at: str) -> None:
    token = client.post(at).get_json()["token"]
    client.delete("/api/pieces/lamp")
    assert client.get(f"/p/{token}").status_code == 404
    assert client.post(at).status_code == 404
    client.post("/api/pieces/lamp/restore")
    assert client.get(f"/p/{token}").status_code == 200


@pytest.mark.parametrize("token", ["", "lamp", "../api/pieces", "%00", "x" * 5000])
def test_guessing_shows_nothing(client, at: str, token: str) -> None:
    client.post(at)
    answer = client.get(f"/p/{token}")
    assert answer.status_code == 404 and b"Lamp" not in answer.data


def test_nothing_else_is_framed_by_others(client, at: str) -> None:
    for path in ("/", "/pieces/lamp", "/api/pieces", at):
        assert "frame-ancestors 'none'" in client.get(path).headers["Content-Security-Policy"], path
    other = {"Origin": "https://quay.example"}
    assert client.post(at, headers=other).status_code == 403
