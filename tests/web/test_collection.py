"""Pieces as files: onto the shelf and off it, by the page and by the command line."""

from __future__ import annotations

import io
import json
import zipfile
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient

from keen_ripple import collection, starters
from keen_ripple.cli import main
from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.store import connect
from keen_ripple.web import create_app
from support import DEMO, piece


def archive(method: int = zipfile.ZIP_STORED, **files: Any) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", method) as made:
        for name, content in files.items():
            made.writestr(f"{name}.json", content if isinstance(content, str) else json.dumps(content))
    return out.getvalue()


def broken(data: bytes) -> bytes:
    """With another first byte of what is packed."""
    at = len("good.json") + 30
    return data[:at] + b"\xff" + data[at + 1 :]


def documents(client: FlaskClient) -> dict[str, Any]:
    shelf = client.get("/api/pieces").json["pieces"]
    return {each["id"]: client.get(f"/api/pieces/{each['id']}").json["document"] for each in shelf}


def shelf_size(client: FlaskClient) -> int:
    return len(client.get("/api/pieces").json["pieces"])


def test_the_whole_shelf_out_and_in_again(client: FlaskClient, tmp_path: Path) -> None:
    whole = client.get("/api/collection").data
    assert client.get("/api/collection").data == whole
    other = create_app(tmp_path / "other.sqlite").test_client()
    answer = other.post("/api/collection", data=whole)
    assert (answer.status_code, sorted(answer.json["added"]), answer.json["known"]) == (201, sorted(DEMO), 0)
    assert documents(other) == documents(client)
    # What is there already is not put there twice.
    assert other.post("/api/collection", data=whole).json == {"added": [], "known": len(DEMO)}


def test_by_the_command_line_beside_code(client: FlaskClient, tmp_path: Path, capsys) -> None:
    folder, other = tmp_path / "pieces", tmp_path / "other.sqlite"
    export = ["export", str(folder), "--db", str(tmp_path / "web.sqlite")]
    assert main(export) == 0
    assert {path.stem for path in folder.iterdir()} == set(DEMO)
    # Only what has changed is written.
    capsys.readouterr()
    assert main(export) == 0
    assert json.loads(capsys.readouterr().out) == {"written": []}
    assert main(["run", str(folder / "pier-carousel.json"), "--library", str(folder)]) == 0
    assert main(["import", *map(str, sorted(folder.iterdir())), "--db", str(other)]) == 0
    assert documents(create_app(other).test_client()) == documents(client)


def test_an_id_that_another_piece_has_is_not_taken_from_it(client: FlaskClient) -> None:
    holder = {**DEMO["pier-carousel"], "name": "Other carousel"}
    card = {**DEMO["pier-card"], "name": "Other card"}
    answer = client.post("/api/collection", data=archive(a=holder, b=card))
    assert answer.json["added"] == ["pier-card-2", "pier-carousel-2"]
    made = client.get("/api/pieces/pier-carousel-2").json["document"]
    assert {layer["piece"] for layer in made["layers"][0]["layers"]} == {"pier-card-2"}
    assert client.get("/api/pieces/pier-card").json["document"]["name"] == "Pier card"


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"no archive", "no zip archive"),
        (archive(), "no piece in this archive"),
        (broken(archive(good=piece(), method=zipfile.ZIP_DEFLATED)), "no zip archive"),
        (archive(good=piece(), bad="{"), "bad.json: "),
        (archive(good=piece(), bad={**piece(), "id": "b", "start": "nowhere"}), "bad.json: "),
        (archive(one=piece(), two={**piece(), "name": "Another"}), "'probe'"),
        (archive(one={**piece(), "layers": [], "extra": 1}), "one.json: "),
    ],
    ids=["no archive", "empty", "broken", "no JSON", "no piece", "two of one id", "unknown field"],
)
def test_what_cannot_be_read_is_said_and_nothing_is_stored(client: FlaskClient, data: bytes, says: str) -> None:
    before = shelf_size(client)
    answer = client.post("/api/collection", data=data)
    assert answer.status_code == 422 or answer.status_code == 400
    assert says in answer.json["error"]["message"]
    assert answer.json["error"]["remedy"]
    assert shelf_size(client) == before


def test_an_archive_that_unpacks_to_too_much_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(collection, "LARGEST_COLLECTION", 1000)
    with pytest.raises(Fault, match="more than"):
        collection.unzipped(archive(a=" " * 2000))
    monkeypatch.setattr(collection, "MOST_FILES", 1)
    with pytest.raises(Fault, match="more than"):
        collection.unzipped(archive(a="{}", b="{}"))


def test_a_damaged_piece_is_named_and_the_others_are_saved(client: FlaskClient, tmp_path: Path) -> None:
    conn = connect(tmp_path / "web.sqlite")
    with conn:
        conn.execute("UPDATE piece SET document = '[]' WHERE id = 'fog-notice'")
    conn.close()
    with zipfile.ZipFile(io.BytesIO(client.get("/api/collection").data)) as whole:
        assert len(whole.namelist()) == len(DEMO)
        assert whole.read(collection.LEFT_OUT).decode().startswith("fog-notice: ")


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["import", "none.json"], "none.json"),
        (["export", "out", "--db", "none.sqlite"], "There is no database"),
    ],
)
def test_files_that_are_not_there(arguments: list[str], says: str, tmp_path: Path, monkeypatch, capsys) -> None:
    monkeypatch.chdir(tmp_path)
    assert main(arguments) == 1
    assert says in capsys.readouterr().err


@pytest.mark.parametrize("name", starters.STARTERS)
def test_starters_are_sound_and_become_pieces_of_ones_own(client: FlaskClient, name: str) -> None:
    read_piece(starters.starter(name))
    answer = client.post("/api/pieces", json={"name": "Harbour gull", "starter": name})
    assert answer.json == {"id": "harbour-gull"}
    made = client.get("/api/pieces/harbour-gull").json
    assert made["document"]["name"] == "Harbour gull"
    assert made["run"]["total_ms"] or any(way["cue"] == "tap" for way in made["document"]["transitions"])
    # The newest comes first.
    assert client.get("/api/pieces").json["pieces"][0]["id"] == "harbour-gull"
