"""Answers made smaller on their way hold what they held."""

from __future__ import annotations

import gzip
import json
from pathlib import Path

import pytest
from flask.testing import FlaskClient

from keen_ripple.web import create_app
from support import DEMO, piece

GZIP = {"Accept-Encoding": "gzip, br"}
PIECE = "/api/pieces/tide-loader"


@pytest.fixture
def client(tmp_path: Path) -> FlaskClient:
    client = create_app(tmp_path / "web.sqlite").test_client()
    client.post("/api/pieces", json={"document": DEMO["tide-loader"]})
    return client


def test_what_is_read_is_the_same_and_smaller(client: FlaskClient) -> None:
    plain, packed = client.get(PIECE), client.get(PIECE, headers=GZIP)
    assert "Content-Encoding" not in plain.headers and packed.headers["Content-Encoding"] == "gzip"
    assert gzip.decompress(packed.data) == plain.data
    assert len(packed.data) * 3 < len(plain.data)
    assert "Accept-Encoding" in plain.headers["Vary"] and "Accept-Encoding" in packed.headers["Vary"]
    # However it came, it is known again.
    assert plain.headers["ETag"] == packed.headers["ETag"]
    for known in (plain, packed):
        again = client.get(PIECE, headers={**GZIP, "If-None-Match": known.headers["ETag"]})
        assert (again.status_code, again.data) == (304, b"")


def test_faults_edits_and_pictures_come_as_they_are(client: FlaskClient) -> None:
    patch = [{"op": "replace", "path": "/name", "value": "Tide"}]
    edit = {"revision": 1, "label": "Name", "patch": patch}
    for answer in (
        client.patch(PIECE, data=json.dumps(edit), content_type="application/json", headers=GZIP),
        client.get("/api/pieces/none", headers=GZIP),
        client.get(f"{PIECE}/picture.png?at=0", headers=GZIP),
    ):
        assert "Content-Encoding" not in answer.headers


FILM = "data:video/mp4;base64," + "AAAA" * 900


def test_what_is_long_is_told_once_and_only_to_whoever_does_not_have_it(client: FlaskClient) -> None:
    layer = {"kind": "medium", "id": "film", "name": "Film", "x": 0, "y": 0, "width": 9, "height": 9}
    document = piece([{**layer, "source": FILM, "length_ms": 50}], id="reel", transitions=[], start="a")
    document["states"] = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"film": {"x": 5}}}]
    client.post("/api/pieces", json={"document": document})
    plain = client.get("/api/pieces/reel").json
    told = client.get("/api/pieces/reel", headers={"X-Parts": ""})
    assert told.headers["X-Parts"] == "apart"
    [(digest, url)] = told.json["parts"].items()
    assert url == FILM
    assert told.get_data(as_text=True).count(FILM) == 1
    # As `api/parts.ts` puts it together.
    whole = json.dumps(told.json["answer"]).replace(json.dumps(f"\x1f{digest}"), json.dumps(FILM))
    assert json.loads(whole) == plain
    assert [plain["poses"][state]["film"]["source"] for state in "ab"] == [FILM, FILM]
    moved = [{"op": "replace", "path": "/layers/0/y", "value": 3}]
    edit = {"revision": 1, "label": "Move", "patch": moved}
    answer = client.patch("/api/pieces/reel", json=edit, headers={"X-Parts": f"other,{digest}"})
    assert answer.json["parts"] == {}
    assert answer.json["answer"]["poses"]["a"]["film"]["source"] == f"\x1f{digest}"
