"""Rehearsals over the wire: kept, compared with themselves after edits, and refused where they say nothing."""

from __future__ import annotations

import re
from typing import Any

import pytest

ADDRESS = "/api/pieces/deck-lamp-switch/rehearsals"
TAPS = [{"t_ms": 100.5, "cue": "tap", "layer": "rectangle"}, {"t_ms": 900.0, "cue": "tap", "layer": "ellipse"}]


def kept(client) -> list[dict[str, Any]]:
    rehearsals: list[dict[str, Any]] = client.get(ADDRESS).json["kept"]
    return rehearsals


def edited(client, *patch: dict[str, Any]) -> None:
    revision = client.get("/api/pieces/deck-lamp-switch").json["revision"]
    body = {"revision": revision, "label": "Edit", "patch": list(patch), "burst": ""}
    assert client.patch("/api/pieces/deck-lamp-switch", json=body).status_code == 200


def test_kept_acted_and_compared(client) -> None:
    answer = client.get(ADDRESS).json
    assert answer["tables"]["start"] == "first"
    assert [event["cue"] for event in answer["made"]["events"]] == ["tap", "tap"]
    made = client.post(ADDRESS, json={"name": " On and off ", "events": TAPS, "until_ms": 2000.0})
    assert made.status_code == 201
    [one] = kept(client)
    assert (one["name"], one["events"], one["changes"]) == ("On and off", TAPS, [])
    edited(client, {"op": "replace", "path": "/transitions/0/timing/damping", "value": 12})
    [change] = kept(client)[0]["changes"]
    assert (change["kind"], change["what"]) == ("later", "On")
    # One of its states goes: it is kept, and says so.
    edited(
        client,
        {"op": "remove", "path": "/transitions/1"},
        {"op": "remove", "path": "/transitions/0"},
        {"op": "remove", "path": "/states/1"},
    )
    [one] = kept(client)
    assert one["events"] == TAPS
    assert [change["kind"] for change in one["changes"]] == ["state-gone"]
    assert client.delete(f"{ADDRESS}/{one['number']}").status_code == 200
    assert kept(client) == []


@pytest.mark.parametrize(
    ("body", "place"),
    [
        ({"name": "x", "events": [{"t_ms": 1, "cue": "tap", "layer": "nobody"}], "until_ms": 9.0}, "/0/layer"),
        ({"name": "x", "events": [{"t_ms": -1, "cue": "tap"}], "until_ms": 9.0}, "/0/t_ms"),
        ({"name": "x", "events": [{"t_ms": 1, "cue": "shout"}], "until_ms": 9.0}, "/0/cue"),
        ({"name": "x", "events": [], "until_ms": 1e12}, "/until_ms"),
    ],
)
def test_what_says_nothing_is_refused_with_its_place(client, body: dict[str, Any], place: str) -> None:
    answer = client.post(ADDRESS, json=body)
    assert answer.status_code in (400, 422)
    assert place in answer.json["error"]["place"]
    assert answer.json["error"]["remedy"]
    assert kept(client) == []


def test_there_is_nothing_to_delete(client) -> None:
    assert client.delete(f"{ADDRESS}/7").status_code == 404


def test_a_page_a_picture_and_a_sheet_of_one(client) -> None:
    """Of the one that the core makes, and of a kept one; what is neither is refused."""
    number = client.post(ADDRESS, json={"name": "On", "events": TAPS[:1], "until_ms": 900.0}).json["number"]
    pages = ADDRESS.replace("rehearsals", "handoff")
    for which in ("every-way-once", str(number)):
        page = client.get(f"{pages}/html?of={which}")
        assert page.status_code == 200
        assert "@keyframes" in page.text
        name = which if which == "every-way-once" else f"rehearsal-{number}"
        assert page.headers["Content-Disposition"].endswith(f'.{name}.html"')
        sheet = client.get(f"{ADDRESS}/{which}/filmstrip.png?frames=6")
        assert sheet.data.startswith(b"\x89PNG")
        report = client.get(f"{pages}/html/report?of={which}").json
        assert report["refused"] == []
        assert "of a rehearsal, played once" in report["holds"]
    assert "900 ms" in client.get(f"{pages}/gif/report?of={number}").json["holds"]
    ferry = client.get("/api/pieces/ferry-card/handoff/html?of=every-way-once").text
    assert re.search(r"@keyframes ferry-card--hint_text-2 {.*?opacity: 0;.*?opacity: 1;", ferry, re.DOTALL)
    assert client.get("/api/pieces/ferry-card/handoff/html/report?of=every-way-once").json["said"] == []
    assert client.get(f"{pages}/html?of=77").status_code == 404
    assert "every-way-once" in client.get(f"{pages}/html?of=of-mine").json["error"]["remedy"]
    assert client.get(f"{ADDRESS}/{number}/filmstrip.png?frames=1").status_code == 422
