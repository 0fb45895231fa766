"""Whatever is sent: it is refused with place and remedy, or it is stored and opens; damaged rows hide no others."""

from __future__ import annotations

import json
import sqlite3
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient

from keen_ripple.store import connect, migrate
from keen_ripple.store.migrate import shipped
from keen_ripple.web import create_app
from support import piece

PROBE = "/api/pieces/probe"


@pytest.fixture
def client(tmp_path: Path) -> FlaskClient:
    client = create_app(tmp_path / "web.sqlite").test_client()
    assert client.post("/api/pieces", json={"document": piece()}).status_code == 201
    return client


def replaced(path: str, value: Any) -> list[dict[str, Any]]:
    return [{"op": "add", "path": path, "value": value}]


def nested(depth: int) -> dict[str, Any]:
    group: dict[str, Any] = piece()["layers"][0]
    for level in range(depth):
        box = {"x": 0, "y": 0, "width": 9, "height": 9}
        group = {"kind": "group", "id": f"g{level}", "name": "Group", **box, "layers": [group]}
    return group


def turning(count: int) -> list[dict[str, Any]]:
    keys = [{"at_ms": 0, "value": 0}, {"at_ms": 1, "value": 360}]
    course = {"layer": "box", "property": "rotation", "keys": keys}
    return [{"id": f"u{n}", "name": "Turn", "period_ms": 1000 + n, "courses": [course]} for n in range(count)]


def picture(source: str) -> dict[str, Any]:
    box = {"x": 0, "y": 0, "width": 9, "height": 9}
    return {"kind": "picture", "id": "photo", "name": "Photo", **box, "source": source}


def outline(path: str) -> dict[str, Any]:
    box = {"x": 0, "y": 0, "width": 9, "height": 9, "view_width": 9, "view_height": 9}
    return {"kind": "path", "id": "line", "name": "Line", **box, "path": path}


TIMING = "/transitions/0/timing"
HOSTILE: dict[str, tuple[list[dict[str, Any]], str, str]] = {
    "steps without end": (replaced(f"{TIMING}/easing", "steps(99999999999)"), f"{TIMING}/easing", "at most 1000"),
    "endless bezier": (replaced(f"{TIMING}/easing", "cubic-bezier(0.1, 1e999, 0.2, 1)"), f"{TIMING}/easing", "Write"),
    "steep bezier": (replaced(f"{TIMING}/easing", "cubic-bezier(0.1, 1e99, 0.2, 1)"), f"{TIMING}/easing", "from -100"),
    "far path": (replaced("/layers/-", outline("M0 0L1e300 5")), "/layers/1/path", "within 100000"),
    "path of something else": (replaced("/layers/-", outline('M0 0L5 5") url(x')), "/layers/1/path", "M0 0"),
    "undercurrents without end": (replaced("/undercurrents", turning(800)), "/undercurrents", "at most 64"),
    "no picture": (
        replaced("/layers/-", picture("data:image/png;base64,aGVsbG8=")),
        "/layers/1/source",
        "that a browser can show",
    ),
    "no base64": (replaced("/layers/-", picture("data:image/png;base64,aGVsbG8")), "/layers/1/source", "browser"),
    "no source": (replaced("/layers/-", picture("pier.png")), "/layers/1/source", "PNG, JPEG or WebP"),
    "huge picture": (
        replaced("/layers/-", picture("data:image/gif;base64,R0lGODlhAQABAAAAACw=")),
        "/layers/1/source",
        "PNG, JPEG or WebP",
    ),
    "unprintable name": (replaced("/name", "a\x00b"), "/name", "Take it out"),
    "format as a truth": (replaced("/format", True), "/format", "Choose 1"),
    "deep groups": (replaced("/layers/-", nested(70)), "/layers/1" + "/layers/0" * 64, "Ungroup"),
    "very deep groups": (replaced("/layers/-", nested(170)), "", "out of each other"),
    "too many layers": (
        replaced("/layers", [{**piece()["layers"][0], "id": f"l{n}"} for n in range(1201)]),
        "/layers",
        "at most 1200",
    ),
    "many looks": (
        replaced("/layers", [{**piece()["layers"][0], "id": f"l{n}"} for n in range(1100)] + piece()["layers"])
        + replaced("/states", [*piece()["states"], *({"id": f"s{n}", "name": "S"} for n in range(20))]),
        "/states",
        "12000 looks",
    ),
    "colours without end": (
        replaced("/layers", [{**piece()["layers"][0], "id": f"l{n}", "fill": f"#{n:06x}"} for n in range(700)])
        + replaced("/states/0/changes", {})
        + replaced("/states/1/changes", {f"l{n}": {"fill": "#abcdef"} for n in range(700)})
        + replaced("/transitions/0/lanes", []),
        "/transitions",
        "Change less",
    ),
    "outlines without end": (
        replaced("/layers/-", outline("M0 0h1v1z" * 250))
        + replaced("/states/0/changes/line", {"path": "M0 0h2v1h-1z" * 250}),
        "/transitions",
        "Change less",
    ),
    "left too early": (
        replaced("/transitions/1/hold_ms", 0) + replaced("/transitions/1/early_ms", 5000),
        "/transitions/1/early_ms",
        "Give 400 or less",
    ),
    "copies of copies": (
        [{"op": "copy", "from": "/layers", "path": "/layers/-"}] * 40,
        "/layers/-",
        "",
    ),
    "a path that is none": ([{"op": "add", "path": 5, "value": 1}], "", ""),
    "an operation that is none": ([{"path": "/name", "value": 1}], "", "JSON Patch"),
}


@pytest.mark.parametrize("case", HOSTILE.values(), ids=HOSTILE.keys())
def test_it_is_refused_with_place_and_remedy_and_nothing_is_stored(client: FlaskClient, case: Any) -> None:
    patch, place, remedy = case
    answer = client.patch(PROBE, data=json.dumps({"revision": 1, "label": "x", "patch": patch}), content_type=JSON)
    assert answer.status_code == 422, answer.json
    error = answer.json["error"]
    assert error["place"].startswith(place) if place else True
    assert remedy in error["remedy"] and error["remedy"]
    assert len(answer.data) < 4000
    assert client.get(PROBE).json["revision"] == 1
    assert client.get(PROBE).json["document"] == piece()


JSON = "application/json"
BODIES = {
    "half a character": (rb'{"revision": 1, "label": "\ud800", "patch": []}', "/label"),
    "a name twice": (rb'{"revision": 1, "label": "x", "patch": [{"op": "test", "op": "add"}]}', "/patch/0/op"),
    "no number": (b'{"revision": NaN}', ""),
    "no JSON": (b'{"revision": 1,', ""),
    "no UTF-8": (b'{"label": "\xff"}', ""),
    "nested": (b'{"label": ' + b"[" * 10_000 + b"]" * 10_000 + b"}", "/label/0/0"),
    "a long number": (b'{"revision": 1' + b"0" * 5000 + b', "label": "", "patch": []}', "/revision"),
}


@pytest.mark.parametrize("case", BODIES.values(), ids=BODIES.keys())
def test_bodies_that_are_none_say_where(client: FlaskClient, case: tuple[bytes, str]) -> None:
    body, place = case
    answer = client.patch(PROBE, data=body, content_type=JSON)
    assert answer.status_code in (400, 422)
    assert answer.json["error"]["place"].startswith(place)
    assert answer.json["error"]["remedy"]
    assert client.get(PROBE).json["revision"] == 1


def test_undo_of_what_can_no_longer_be_played_is_possible(client: FlaskClient, tmp_path: Path) -> None:
    """A piece stored in earlier days, when less was refused: its cell says why, and its last edit can be undone."""
    patch = replaced(f"{TIMING}/easing", "ease")
    assert client.patch(PROBE, json={"revision": 1, "label": "x", "patch": patch}).status_code == 200
    with sqlite3.connect(tmp_path / "web.sqlite") as conn:
        conn.execute("UPDATE piece SET document = replace(document, '\"ease\"', '\"steps(9999999)\"'), revision = 7")
    assert [entry["id"] for entry in client.get("/api/pieces").json["pieces"]] == ["probe"]
    refused = client.get(PROBE)
    assert (refused.status_code, refused.json["error"]["place"]) == (422, f"{TIMING}/easing")
    undone = client.post(f"{PROBE}/undo", json={"revision": 7})
    assert undone.status_code == 200
    assert client.get(PROBE).json["document"]["transitions"] == piece()["transitions"]


def test_a_damaged_row_has_a_history_a_download_and_an_end(client: FlaskClient, tmp_path: Path) -> None:
    client.post("/api/pieces", json={"document": piece(id="sound")})
    client.patch(PROBE, json={"revision": 1, "label": "Rename", "patch": replaced("/name", "Gull")})
    with sqlite3.connect(tmp_path / "web.sqlite") as conn:
        conn.execute("UPDATE piece SET document = 'half' WHERE id = 'probe'")
    sound, damaged = client.get("/api/pieces").json["pieces"]
    assert (damaged["fault"], sound["fault"]) == ("What is stored here is no piece.", None)
    assert client.get(PROBE).status_code == 422
    here = f"/api/damaged/{damaged['row']}"
    assert client.get(f"{here}/stored.json").data == b"half"
    assert client.get(f"{here}/history").json == {"history": [{"revision": 2, "label": "Rename"}]}
    assert client.delete(here).status_code == 200
    assert [entry["id"] for entry in client.get("/api/pieces").json["pieces"]] == ["sound"]
    assert client.get("/api/damaged/99/history").status_code == 404


def test_whole_documents_are_taken_in(client: FlaskClient) -> None:
    again = client.post("/api/pieces", json={"document": piece()})
    assert (again.status_code, again.json) == (201, {"id": "probe-2"})
    stored = client.get("/api/pieces/probe-2").json["document"]
    assert stored == {**piece(), "id": "probe-2"}
    refused = client.post("/api/pieces", json={"document": piece(width=0)})
    assert (refused.status_code, refused.json["error"]["place"]) == (422, "/width")


def test_a_database_of_earlier_days_opens_as_before(tmp_path: Path) -> None:
    """Made by the first three migrations: nothing of it is lost, and the shelf tells how long its pieces are."""
    path = tmp_path / "old.sqlite"
    conn = connect(path)
    migrate(conn, {number: text for number, text in shipped().items() if number <= 3})
    conn.execute(
        "INSERT INTO piece (id, position, document, revision) VALUES ('probe', 1, ?, 4)", (json.dumps(piece()),)
    )
    conn.close()
    client = create_app(path).test_client()
    [head] = client.get("/api/pieces").json["pieces"]
    assert (head["id"], head["revision"], head["total_ms"], head["loop_ms"]) == ("probe", 4, 500, 500)
    assert client.get(PROBE).json["document"] == piece()
