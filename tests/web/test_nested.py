"""Pieces in pieces on the server: an edit of the original is seen in all copies; files that hold all they need."""

from __future__ import annotations

import json
from typing import Any

import pytest
from flask.testing import FlaskClient

from fonts_of_others import LIGATURES, source
from keen_ripple.cli import main
from support import DEMO, DEMO_FOLDER, piece

CARD, CAROUSEL = "/api/pieces/pier-card", "/api/pieces/pier-carousel"


def set_to(client: FlaskClient, address: str, path: str, value: Any, *more: tuple[str, Any]) -> dict[str, Any]:
    revision = client.get(f"{address}/revision").get_json()["revision"]
    wish = {"revision": revision, "label": "Set", "burst": ""}
    wish["patch"] = [{"op": "add", "path": where, "value": what} for where, what in ((path, value), *more)]
    answer = client.patch(address, json=wish)
    assert answer.status_code == 200, answer.get_json()
    return dict(answer.get_json())


def test_the_page_is_told_what_is_drawn_and_what_stands_in_it(client: FlaskClient) -> None:
    whole = client.get(CAROUSEL).get_json()
    [row] = whole["layers"]
    assert [layer["id"] for layer in row["layers"][1]["layers"]] == ["east/view", "east/title"]
    original = whole["originals"]["pier-card"]
    assert ([state["name"] for state in original["states"]], original["start"]) == (["Shut", "Open"], "shut")
    assert {parameter["id"]: parameter["value"] for parameter in original["parameters"]}["title"] == "Pier"
    assert "layers" not in client.get(CARD).get_json()
    # An edit that leaves what is drawn alone does not send it again; one that takes all copies away says so.
    assert "layers" not in set_to(client, CAROUSEL, "/transitions/0/hold_ms", 900)
    bare = [{**state, "changes": {}} for state in DEMO["pier-carousel"]["states"]]
    empty = set_to(client, CAROUSEL, "/layers", [], ("/states", bare))
    assert empty["layers"] is None and empty["originals"] == {}


def test_fonts_of_what_stands_in_a_piece_are_shown_and_covered_ones_told(client: FlaskClient) -> None:
    inner = [{"family": LIGATURES, "files": [source("ligatures")]}]
    set_to(client, CARD, "/fonts", inner, ("/layers/1/font_family", LIGATURES))
    whole = client.get(CAROUSEL).get_json()
    assert [file["source"] for file in whole["fonts"][LIGATURES]["files"]] == inner[0]["files"]
    assert whole["covered"] == []
    handed = client.get(f"{CAROUSEL}/handoff/html").get_data(as_text=True)
    assert f'font-family: "{LIGATURES}"' in handed
    outer = [{"family": LIGATURES, "files": [source("ligatures, bold")]}]
    told = set_to(client, CAROUSEL, "/fonts", outer)
    assert [file["source"] for file in told["fonts"][LIGATURES]["files"]] == outer[0]["files"]
    assert told["covered"] == [{"family": LIGATURES, "original": "Pier card"}]


def test_an_edit_of_the_original_is_seen_in_all_copies(client: FlaskClient) -> None:
    before = client.get(CAROUSEL)
    assert client.get(f"{CAROUSEL}/revision").get_json() == {"revision": 1, "holds": "pier-card.1"}
    shelf = {entry["id"]: entry for entry in client.get("/api/pieces").get_json()["pieces"]}
    set_to(client, CARD, "/transitions/0/timing", {"kind": "curve", "duration_ms": 900})
    after = client.get(CAROUSEL, headers={"If-None-Match": before.headers["ETag"]})
    assert after.status_code == 200
    lengths = {key: reading["length_ms"] for key, reading in after.get_json()["transitions"].items()}
    assert set(lengths.values()) == {900}
    assert client.get(f"{CAROUSEL}/revision").get_json() == {"revision": 1, "holds": "pier-card.2"}
    now = {entry["id"]: entry for entry in client.get("/api/pieces").get_json()["pieces"]}
    assert now["pier-carousel"]["loop_ms"] == shelf["pier-carousel"]["loop_ms"] + 5 * (900 - 506)
    client.post(f"{CARD}/undo", json={"revision": 2})
    assert client.get(CAROUSEL).get_json()["run"] == before.get_json()["run"]


def test_what_others_hold_is_not_deleted(client: FlaskClient) -> None:
    uses = client.get("/api/pieces").get_json()["uses"]
    assert [use for use in uses if use["of"] == "pier-card"] == [
        {"of": "pier-card", "id": "pier-carousel", "name": "Pier carousel", "count": 5}
    ]
    refused = client.delete(CARD)
    assert (refused.status_code, refused.get_json()["error"]["kind"]) == (409, "Used")
    assert "Pier carousel × 5" in refused.get_json()["error"]["message"]
    client.delete(CAROUSEL)
    assert client.delete(CARD).status_code == 200
    # Put back, it still has what stands in it.
    client.post(f"{CAROUSEL}/restore")
    assert client.get(CAROUSEL).status_code == 200


def test_a_circle_is_refused_with_its_names(client: FlaskClient) -> None:
    own = {"kind": "placement", "id": "back", "name": "Back", "x": 0, "y": 0, "width": 9, "height": 9}
    wish = {"revision": 1, "label": "Add", "burst": ""}
    patch = [{"op": "add", "path": "/layers/-", "value": {**own, "piece": "pier-carousel", "state": "north"}}]
    refused = client.patch(CARD, json={**wish, "patch": patch})
    assert refused.status_code == 422
    assert "pier-card → pier-carousel → pier-card" in refused.get_json()["error"]["message"]
    assert client.get(f"{CARD}/revision").get_json() == {"revision": 1, "holds": ""}


def test_a_file_holds_what_it_needs_and_is_read_back(client: FlaskClient) -> None:
    content = client.get(f"{CAROUSEL}/piece.json").get_json()
    assert content["library"] == {"pier-card": DEMO["pier-card"]}
    # What the shelf has already is used; what it has otherwise is put beside it.
    made = client.post("/api/pieces", json={"document": content}).get_json()["id"]
    assert client.get(f"/api/pieces/{made}").get_json()["document"] == {**DEMO["pier-carousel"], "id": made}
    set_to(client, CARD, "/name", "Another card")
    again = client.post("/api/pieces", json={"document": content}).get_json()["id"]
    read = client.get(f"/api/pieces/{again}").get_json()
    assert list(read["originals"]) == ["pier-card-2"]
    assert read["run"] == client.get(CAROUSEL).get_json()["run"]


@pytest.mark.parametrize(
    ("library", "place"),
    [
        ([], "/library"),
        ({"pier-card": {}}, "/library/pier-card"),
        ({"pier-card": piece(id="other")}, "/library/pier-card/id"),
    ],
)
def test_a_file_that_is_none_says_where(client: FlaskClient, library: Any, place: str) -> None:
    document = {**DEMO["pier-carousel"], "library": library}
    refused = client.post("/api/pieces", json={"document": document})
    assert refused.status_code == 422
    assert refused.get_json()["error"]["place"].startswith(place)


def test_the_command_line_finds_what_stands_in_a_piece(tmp_path: Any, capsys) -> None:
    carousel, out = str(DEMO_FOLDER / "pier-carousel.json"), tmp_path / "one.json"
    assert main(["run", carousel]) == 1
    assert "There is no piece 'pier-card'" in capsys.readouterr().err
    assert main(["run", carousel, "--library", str(DEMO_FOLDER)]) == 0
    told = capsys.readouterr().out
    assert main(["bundle", carousel, "--library", str(DEMO_FOLDER), "--out", str(out)]) == 0
    assert main(["run", str(out)]) == 0
    assert capsys.readouterr().out == told
    assert json.loads(out.read_text("utf-8"))["library"] == {"pier-card": DEMO["pier-card"]}
    # Its copies have the times of their original.
    assert main(["retime", str(out), "--factor", "2", "--out", str(tmp_path / "slow.json")]) == 1
    assert "Retime the original" in capsys.readouterr().err
    for form in ("html", "live"):
        assert main(["handoff", str(out), "--format", form, "--out", str(tmp_path / f"one.{form}")]) == 0
        assert "north/title" in (tmp_path / f"one.{form}").read_text("utf-8")


def test_a_piece_is_told_with_other_options_and_stays_as_it_is(client: FlaskClient) -> None:
    def fill_of(query: str) -> Any:
        answer = client.get(f"/api/pieces/fog-notice{query}").get_json()
        return answer["poses"]["in-sight"]["card"]["fill"], answer["document"]["traits"][0]["shows"]

    assert fill_of("") == ("#fbfaf5", "calm")
    assert fill_of("?shows=tone:error") == ("#d9503a", "error")
    assert fill_of("?shows=mood:good") == ("#fbfaf5", "calm")
    assert fill_of("") == ("#fbfaf5", "calm")
    wrong = client.get("/api/pieces/fog-notice?shows=tone:loud")
    assert wrong.status_code == 422
    assert "no option 'loud'" in wrong.get_json()["error"]["message"]


def test_a_piece_made_of_a_group_stands_in_its_stead(client: FlaskClient) -> None:
    refused = client.post("/api/pieces/fog-notice/piece-of-group", json={"layer": "notice"})
    assert "Options of tone speak of what is in Notice." in refused.get_json()["error"]["message"]
    before = client.get("/api/pieces/ramp-loading").get_json()
    made = client.post("/api/pieces/ramp-loading/piece-of-group", json={"layer": "group-2"}).get_json()
    wish = {"revision": before["revision"], "label": made["label"], "patch": made["patch"]}
    assert client.patch("/api/pieces/ramp-loading", json=wish).status_code == 200
    after = client.get("/api/pieces/ramp-loading").get_json()
    assert after["run"]["segments"] == before["run"]["segments"]
    looks = {name.removeprefix("group-2/"): look for name, look in after["poses"]["state-7"].items()}
    assert {name: looks[name] for name in looks if name != "group-2"} == {
        name: look for name, look in before["poses"]["state-7"].items() if name != "group-2"
    }
    # It is on the shelf, with where it is used; and one press takes the edit back.
    uses = client.get("/api/pieces").get_json()["uses"]
    assert [(use["of"], use["id"]) for use in uses if use["id"] == "ramp-loading"] == [(made["id"], "ramp-loading")]
    assert client.post("/api/pieces/ramp-loading/undo", json={"revision": after["revision"]}).status_code == 200
    assert client.get("/api/pieces/ramp-loading").get_json()["document"] == before["document"]
