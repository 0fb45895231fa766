"""The JSON API: answers, faults, and who is kept out."""

from __future__ import annotations

import base64
import io
import json
import zipfile
from typing import Any

import numpy as np
import pytest
from flask.testing import FlaskClient
from PIL import Image

from keen_ripple.core.document import json_schema, read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS
from support import DEMO
from tide import LIFT, TIDE, edit, replace


def unpack(tape: dict[str, Any]) -> dict[tuple[str, str], tuple[np.ndarray, np.ndarray]]:
    numbers = np.frombuffer(base64.b64decode(tape["data"]), "<f4")
    found, at = {}, 0
    for layer, name, knots, columns, _ in tape["tracks"]:
        times, rows = numbers[at : at + knots], numbers[at + knots : at + knots * (1 + columns)]
        found[layer, name] = times, rows.reshape(knots, columns)
        at += knots * (1 + columns)
    assert at == len(numbers)
    return found


def test_shelf_and_piece(client: FlaskClient) -> None:
    shelf = client.get("/api/pieces").get_json()["pieces"]
    assert [entry["id"] for entry in shelf] == list(DEMO)
    assert shelf[0] == {"row": len(DEMO), "id": "tide-loader", "revision": 1, "name": "Tide loader"} | {
        "width": 272,
        "height": 208,
        "total_ms": 2060,
        "loop_ms": 2060,
        "fault": None,
    }
    whole = client.get(TIDE).get_json()
    assert whole["document"] == DEMO["tide-loader"]
    assert whole["poses"]["handover"]["buoy-2"]["y"] == 62
    assert whole["seam"]["px"] == 0


def test_the_packed_tape_is_the_tape(client: FlaskClient) -> None:
    timeline = timeline_of(read_piece(DEMO["beacon-pulse"]))
    answers = client.get("/api/pieces/beacon-pulse").get_json()["transitions"]
    assert list(answers) == list(timeline.legs)
    for name, leg in timeline.legs.items():
        theirs = unpack(answers[name]["tape"])
        assert set(theirs) == {(track.layer, track.property) for track in leg.tape}
        for track in leg.tape:
            times, rows = theirs[track.layer, track.property]
            assert np.max(np.abs(times - track.times_ms)) < 0.001
            assert np.max(np.abs(rows - track.rows)) < 0.001


def test_an_edit_answers_with_what_it_changed_and_only_that(client: FlaskClient) -> None:
    answer = edit(client).get_json()
    assert (answer["revision"], answer["undo"], answer["redo"]) == (2, "y of Buoy 1", None)
    assert answer["patch"] == LIFT
    assert {state: list(looks) for state, looks in answer["poses"].items()} == {"first-lift": ["buoy-1"]}
    assert list(answer["transitions"]) == ["slack-to-first-lift", "first-lift-to-handover"]
    assert [list(unpack(entry["tape"])) for entry in answer["transitions"].values()] == [[("buoy-1", "y")]] * 2
    assert edit(client, 2, replace("/name", "Tide")).get_json()["transitions"] == {}


def tracks_of(answer: dict[str, Any], transition: str) -> dict[tuple[str, str], list[Any]]:
    found = answer["transitions"].get(transition)
    tracks = unpack(found["tape"]) if found else {}
    return {key: [times.tolist(), rows.tolist()] for key, (times, rows) in tracks.items()}


def without_tape(reading: dict[str, Any]) -> dict[str, Any]:
    return {key: value for key, value in reading.items() if key != "tape"}


def test_differences_add_up_to_the_whole(client: FlaskClient) -> None:
    whole = client.get(TIDE).get_json()
    for patch in (
        LIFT,
        [{"op": "remove", "path": f"/states/{n}/changes/swell"} for n in (1, 2, 3)],
        replace("/transitions/1/lanes", []),
        replace("/blend", "srgb"),
        [{"op": "remove", "path": "/transitions/4"}],
    ):
        change = edit(client, whole["revision"], patch).get_json()
        fresh = client.get(TIDE).get_json()
        ids = [transition["id"] for transition in fresh["document"]["transitions"]]
        for key in ids:
            found = {**whole["transitions"][key], **change["transitions"].get(key, {})}
            tracks = {**tracks_of(whole, key), **tracks_of(change, key)}
            moving = [(layer, name) for layer, name, *_ in found["moves"]]
            assert {track: tracks[track] for track in moving} == tracks_of(fresh, key)
            assert without_tape(found) == without_tape(fresh["transitions"][key])
        poses = {state: {**pose, **change["poses"].get(state, {})} for state, pose in whole["poses"].items()}
        assert poses == fresh["poses"]
        assert ({**whole, **change}["run"], change["seam"]) == (fresh["run"], fresh["seam"])
        # What is as it was is not sent again.
        assert ("run" in change) == (whole["run"] != fresh["run"])
        whole = fresh


def test_an_edit_of_time_changes_run_and_readings(client: FlaskClient) -> None:
    answer = edit(client, patch=replace("/transitions/0/timing/duration_ms", 500)).get_json()
    assert answer["run"]["loop_ms"] == 2260
    assert answer["transitions"]["slack-to-first-lift"]["length_ms"] == 500
    assert list(answer["transitions"]) == ["slack-to-first-lift"]


def test_undo_and_redo_lead_back_to_the_document(client: FlaskClient) -> None:
    edit(client)
    undone = client.post(f"{TIDE}/undo", json={"revision": 2}).get_json()
    assert undone["redo"] == "y of Buoy 1"
    assert client.get(TIDE).get_json()["document"] == DEMO["tide-loader"]
    assert client.post(f"{TIDE}/redo", json={"revision": 3}).status_code == 200
    assert client.get(TIDE).get_json()["poses"]["first-lift"]["buoy-1"]["y"] == 70
    assert client.post(f"{TIDE}/redo", json={"revision": 4}).status_code == 409


def test_a_stale_edit_is_409_with_what_changed(client: FlaskClient) -> None:
    edit(client)
    answer = edit(client, revision=1, patch=replace("/name", "Other"))
    assert answer.status_code == 409
    error = answer.get_json()["error"]
    assert (error["kind"], error["revision"]) == ("Stale", 2)
    assert error["changes"] == [{"label": "y of Buoy 1", "patch": LIFT}]
    assert client.get(TIDE).get_json()["document"]["name"] == "Tide loader"


FAULTS = {
    "negative width": (replace("/layers/0/width", -5), 422, "/layers/0/width", -5),
    "no easing": (replace("/transitions/0/timing/easing", "wobble"), 422, "/transitions/0/timing/easing", "wobble"),
    "no such place": ([{"op": "remove", "path": "/layers/99"}], 422, "/layers/99", None),
    "no operation": ([{"op": "shout", "path": "/name"}], 422, "/name", None),
    "not a list": ("x", 400, "/patch", "x"),
    "another id": (replace("/id", "other"), 422, "/id", "tide-loader"),
    "a loop of no time": (
        [{"op": "replace", "path": f"/transitions/{n}/style", "value": "cut"} for n in range(5)]
        + [{"op": "replace", "path": f"/transitions/{n}/hold_ms", "value": 0} for n in range(5)],
        422,
        "/transitions",
        None,
    ),
}


@pytest.mark.parametrize("case", FAULTS.values(), ids=FAULTS.keys())
def test_faults_name_place_value_and_remedy_and_change_nothing(client: FlaskClient, case: Any) -> None:
    patch, status, place, value = case
    answer = edit(client, patch=patch)
    assert answer.status_code == status
    error = answer.get_json()["error"]
    assert error["place"] == place
    assert error["remedy"]
    assert value is None or error["value"] == value
    whole = client.get(TIDE).get_json()
    assert (whole["revision"], whole["document"]) == (1, DEMO["tide-loader"])


@pytest.mark.parametrize("body", [None, [], {}, {"revision": "1"}, {"revision": True, "label": "", "patch": []}])
def test_requests_that_make_no_sense_are_400(client: FlaskClient, body: Any) -> None:
    answer = client.patch(TIDE, json=body)
    assert answer.status_code == 400
    assert answer.get_json()["error"]["message"]


def test_new_copied_removed_and_restored(client: FlaskClient) -> None:
    made = client.post("/api/pieces", json={"name": "Berth bell"})
    assert (made.status_code, made.get_json()["id"]) == (201, "berth-bell")
    assert client.post("/api/pieces", json={"name": "Berth bell"}).get_json()["id"] == "berth-bell-2"
    copied = client.post("/api/pieces", json={"copy_of": "tide-loader"}).get_json()["id"]
    assert client.get(f"/api/pieces/{copied}").get_json()["document"]["layers"] == DEMO["tide-loader"]["layers"]
    assert client.delete(f"/api/pieces/{copied}").status_code == 200
    assert client.get(f"/api/pieces/{copied}").status_code == 404
    assert client.post(f"/api/pieces/{copied}/restore").status_code == 200
    assert client.get(f"/api/pieces/{copied}").status_code == 200
    assert client.post("/api/pieces", json={"name": ""}).status_code == 422


def test_handoff_and_schema(client: FlaskClient) -> None:
    page = client.get(f"{TIDE}/handoff/html")
    assert page.headers["Content-Disposition"] == 'attachment; filename="tide-loader.html"'
    assert b'data-layer="buoy-1"' in page.data
    assert client.get(f"{TIDE}/handoff/stone").status_code == 400
    told = client.get(f"{TIDE}/handoff").get_json()["formats"]
    assert {form["name"] for form in told} == FORMATS.keys()
    assert not any(form["refused"] for form in told)
    # As large as asked for, and told so before.
    smaller = {"scale": "0.5", "fps": "10"}
    assert "136 × 104 px" in client.get(f"{TIDE}/handoff/gif/report", query_string=smaller).get_json()["holds"]
    picture = Image.open(io.BytesIO(client.get(f"{TIDE}/handoff/gif", query_string=smaller).data))
    assert (picture.size, picture.n_frames) == ((136, 104), 18)
    archive = zipfile.ZipFile(io.BytesIO(client.get(f"{TIDE}/handoff/sheet").data))
    names = zipfile.ZipFile(io.BytesIO(client.get(f"{TIDE}/handoff/all.zip").data)).namelist()
    assert {"tide-loader.html", "tide-loader.webm", "tide-loader.tsx", "tide-loader.krt"} <= set(names)
    assert len(names) == len(set(names))
    assert archive.namelist() == ["tide-loader.sheet.html", "tide-loader.sheet.csv", "tide-loader.sheet.md"]


@pytest.mark.parametrize(
    ("asked", "says"),
    [
        ("gif?fps=fast", "'fast' is no number"),
        ("gif/report?fps=1e9", "Choose 1 to 120"),
        ("html?scale=2", "html has no scale to choose"),
        ("gif/png", "gif has no file 'png'"),
        ("webm/report?ground=mud", "mud"),
    ],
)
def test_what_a_hand_off_cannot_be_is_said(client: FlaskClient, asked: str, says: str) -> None:
    answer = client.get(f"{TIDE}/handoff/{asked}")
    assert answer.status_code in (400, 422)
    assert says in json.dumps(answer.get_json(), ensure_ascii=False)


def test_what_is_handed_over_is_looked_at_as_nobodys(client: FlaskClient) -> None:
    """In a frame of the application, and able to reach nothing of it."""
    policy = client.get(f"{TIDE}/handoff/live/live.html").headers["Content-Security-Policy"]
    assert policy.startswith("sandbox allow-scripts; default-src 'none'")
    assert "frame-ancestors 'self'" in policy and "connect-src" not in policy and "same-origin" not in policy
    assert client.get("/api/schema").get_json()["properties"].keys() == json_schema()["properties"].keys()


def test_headers_allow_no_inline_script(client: FlaskClient) -> None:
    first, second = client.get("/"), client.get("/api/pieces")
    policy = first.headers["Content-Security-Policy"]
    assert "default-src 'none'" in policy
    assert "script-src 'self';" in policy
    assert "unsafe" not in policy
    assert first.headers["X-Content-Type-Options"] == "nosniff"
    nonce = policy.split("'nonce-")[1].split("'")[0]
    assert f'content="{nonce}"' in first.get_data(as_text=True)
    assert nonce not in second.headers["Content-Security-Policy"]


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"Host": "127.0.0.1:8090"}, 200),
        ({"Host": "localhost"}, 200),
        ({"Host": "harbour.example"}, 403),
        ({"Host": "127.0.0.1.harbour.example"}, 403),
        ({"Host": "127.0.0.1:8090", "Origin": "http://127.0.0.1:8090"}, 200),
        ({"Host": "127.0.0.1:8090", "Origin": "http://127.0.0.1:9999"}, 403),
        ({"Host": "127.0.0.1:8090", "Origin": "https://harbour.example"}, 403),
        ({"Host": "127.0.0.1:8090", "Origin": "null"}, 403),
    ],
)
def test_foreign_hosts_and_origins_are_refused(client: FlaskClient, headers: dict[str, str], status: int) -> None:
    assert client.get("/api/pieces", headers=headers).status_code == status


@pytest.mark.parametrize(
    ("site", "status"), [("same-origin", 200), ("none", 200), ("same-site", 403), ("cross-site", 403)]
)
def test_only_our_own_page_changes_anything(client: FlaskClient, site: str, status: int) -> None:
    # In which no other piece stands: it may be deleted.
    headers, lone = {"Sec-Fetch-Site": site}, "/api/pieces/beacon-button"
    assert client.delete(lone, headers=headers).status_code == status
    assert client.post(f"{lone}/restore", headers=headers).status_code == status
    assert client.get("/api/pieces", headers=headers).status_code == 200


def test_what_is_known_is_not_sent_again(client: FlaskClient) -> None:
    for address in (TIDE, "/api/pieces"):
        first = client.get(address)
        known = {"If-None-Match": first.headers["ETag"]}
        assert client.get(address, headers=known).status_code == 304
        edit(client, client.get(TIDE).get_json()["revision"], replace("/name", address))
        assert client.get(address, headers=known).status_code == 200


def test_every_view_of_a_piece_is_the_page(client) -> None:
    for address in ("/", "/pieces/probe", "/pieces/probe/takes", "/pieces/probe/no-such-view"):
        answer = client.get(address)
        assert answer.status_code == 200 and b'<div id="root">' in answer.data
    assert client.get("/nothing").status_code == 404
