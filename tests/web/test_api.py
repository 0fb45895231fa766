"""The JSON API: answers, faults, and who is kept out."""

from __future__ import annotations

import base64
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import skia
from flask.testing import FlaskClient

from keen_ripple.core.curves import Spring
from keen_ripple.core.document import json_schema, read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.web import create_app
from keen_ripple.web.serve import fill
from support import DEMO

TIDE = "/api/pieces/tide-loader"


@pytest.fixture
def client(tmp_path: Path) -> FlaskClient:
    app = create_app(tmp_path / "web.sqlite")
    fill(tmp_path / "web.sqlite")
    return app.test_client()


def replace(path: str, value: Any) -> list[dict[str, Any]]:
    return [{"op": "replace", "path": path, "value": value}]


LIFT = replace("/states/1/changes/buoy-1/y", 70)


def edit(client: FlaskClient, revision: int = 1, patch: Any = LIFT):
    return client.patch(TIDE, json={"revision": revision, "label": "y of Buoy 1", "patch": patch})


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
    assert shelf[0] == {"row": 1, "id": "tide-loader", "revision": 1, "name": "Tide loader"} | {
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
    made = client.post("/api/pieces", json={"name": "Berth bookmark"})
    assert (made.status_code, made.get_json()["id"]) == (201, "berth-bookmark")
    assert client.post("/api/pieces", json={"name": "Berth bookmark"}).get_json()["id"] == "berth-bookmark-2"
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
    headers = {"Sec-Fetch-Site": site}
    assert client.delete(TIDE, headers=headers).status_code == status
    assert client.post(f"{TIDE}/restore", headers=headers).status_code == status
    assert client.get("/api/pieces", headers=headers).status_code == 200


def test_what_is_known_is_not_sent_again(client: FlaskClient) -> None:
    for address in (TIDE, "/api/pieces"):
        first = client.get(address)
        known = {"If-None-Match": first.headers["ETag"]}
        assert client.get(address, headers=known).status_code == 304
        edit(client, client.get(TIDE).get_json()["revision"], replace("/name", address))
        assert client.get(address, headers=known).status_code == 200


def test_drawings_are_read_but_not_stored(client: FlaskClient) -> None:
    drawn = '<rect id="a" width="5" height="4"/><text>Pier</text>'
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 8">{drawn}</svg>'
    before = client.get("/api/pieces").json
    answer = client.post("/api/intake", json={"name": "Quay", "svg": svg})
    assert (answer.status_code, answer.json["name"], answer.json["width"]) == (200, "Quay", 9)
    assert [layer["id"] for layer in answer.json["layers"]] == ["a"]
    assert answer.json["notes"] == ["text was left out"]
    refused = client.post("/api/intake", json={"name": "Quay", "svg": "<html/>"})
    assert (refused.status_code, refused.json["error"]["kind"]) == (422, "IntakeFault")
    assert refused.json["error"]["remedy"]
    assert client.get("/api/pieces").json == before


@pytest.mark.parametrize(("by", "value", "loop"), [("factor", 0.8, 1648), ("length", 1500, 1500), ("frames", 50, 2060)])
def test_retiming_is_shown_and_then_made(client: FlaskClient, by: str, value: float, loop: int) -> None:
    shown = client.post(f"{TIDE}/retime", json={"by": by, "value": value}).json
    tried = client.post(f"{TIDE}/trial", json={"patch": shown["patch"]}).json
    assert tried["run"]["loop_ms"] == loop
    assert client.get(TIDE).json["run"]["loop_ms"] == 2060
    made = client.patch(TIDE, json={"revision": 1, "label": shown["label"], "patch": shown["patch"]})
    assert (made.status_code, {**tried, **made.json}["run"]["loop_ms"]) == (200, loop)
    # Undone, it is the same document.
    client.post(f"{TIDE}/undo", json={"revision": 2})
    assert client.get(TIDE).json["document"] == DEMO["tide-loader"]


@pytest.mark.parametrize(
    ("wish", "status"),
    [
        ({"by": "whim", "value": 1}, 400),
        ({"by": "factor"}, 400),
        ({"by": "factor", "value": 0}, 422),
        ({"by": "length", "value": 0}, 422),
    ],
)
def test_retimings_that_cannot_be_had(client: FlaskClient, wish: dict[str, Any], status: int) -> None:
    answer = client.post(f"{TIDE}/retime", json=wish)
    assert answer.status_code == status
    assert answer.json["error"]["remedy"]


@pytest.mark.parametrize(("overshoot", "settling_ms"), [(0.08, 400), (0.3, 1200), (0, 500)])
def test_springs_by_what_is_seen_of_them(client: FlaskClient, overshoot: float, settling_ms: float) -> None:
    found = client.post("/api/springs", json={"overshoot": overshoot, "settling_ms": settling_ms}).json
    spring = Spring(found["timing"]["stiffness"], found["timing"]["damping"])
    assert found["reading"]["own_ms"] == found["reading"]["spring"]["settling_ms"] == settling_ms
    assert spring.settling_time_s() * 1000 == pytest.approx(settling_ms, abs=1)
    assert max(spring.peak()[1] - 1, 0) == pytest.approx(overshoot, abs=0.001)
    assert found["held"] is None
    assert client.post("/api/springs", json={"overshoot": "x"}).status_code == 400


@pytest.mark.parametrize(
    ("overshoot", "settling_ms", "says"),
    [
        (1, 400, "0 to 99%"),
        (-0.1, 400, "0 to 99%"),
        (0, 0, "at least 1"),
        (0, 1, "at least 1"),
        (0.1, 10, "at least"),
        (0.95, 400, "at least 4"),
        (0.95, 42, "at least"),
        (0.99, 60_001, "within 60 s"),
        (0.3, 1e12, "within 60 s"),
    ],
)
def test_a_spring_stops_at_what_is_possible_and_says_why(
    client, overshoot: float, settling_ms: float, says: str
) -> None:
    found = client.post("/api/springs", json={"overshoot": overshoot, "settling_ms": settling_ms})
    assert found.status_code == 200, found.json
    assert says in found.json["held"]
    edited = edit(client, patch=replace("/transitions/0/timing", found.json["timing"]))
    assert edited.status_code == 200
    assert 0 < found.json["reading"]["own_ms"] <= 60_000


@pytest.mark.parametrize(("mass", "velocity"), [(2.5, 0), (1, 4), (3, -2), (0.5, 12)])
def test_mass_and_start_speed_are_kept(client: FlaskClient, mass: float, velocity: float) -> None:
    wish = {"overshoot": 0.2, "settling_ms": 700, "mass": mass, "velocity": velocity}
    timing = client.post("/api/springs", json=wish).json["timing"]
    assert (timing.get("mass", 1), timing.get("velocity", 0)) == (mass, velocity)
    spring = Spring(timing["stiffness"], timing["damping"], mass, velocity)
    assert spring.settling_time_s() * 1000 == pytest.approx(700, abs=1)
    assert spring.peak()[1] - 1 == pytest.approx(0.2, abs=0.001)


def test_a_piece_is_asked_and_stays_as_it_is(client: FlaskClient) -> None:
    wish = {"from": "slack", "to": "first-lift", "count": 3, "easing": "linear"}
    steps = client.post(f"{TIDE}/between", json=wish).get_json()["steps"]
    poses = client.get(TIDE).get_json()["poses"]
    low, high = (poses[state]["buoy-1"]["y"] for state in ("slack", "first-lift"))
    assert [step["buoy-1"]["y"] for step in steps] == [low + (high - low) * share for share in (0.25, 0.5, 0.75)]
    points = client.post(f"{TIDE}/path", json={"layer": "buoy-1", "every_ms": 100}).get_json()["points"]
    assert len({y for _, y in points}) > 5
    shown = client.post(f"{TIDE}/colour", json={"state": "slack", "x": 5, "y": 100}).get_json()["colour"]
    assert shown == "#ffffff"
    assert client.post(f"{TIDE}/colour", json={"state": "slack", "x": -5, "y": 1e9}).get_json()["colour"] == "none"
    assert client.get(TIDE).get_json()["revision"] == 1


@pytest.mark.parametrize(
    ("path", "wish", "says"),
    [
        ("between", {"from": "slack", "to": "ebb", "count": 0, "easing": "linear"}, "count is 0. Give 1 or more"),
        ("between", {"from": "slack", "to": "ebb", "count": 1, "easing": "wobble"}, "is not an easing function"),
        ("between", {"from": "slack", "to": "moon", "count": 1, "easing": "linear"}, "no state 'moon'"),
        ("path", {"layer": "moon", "every_ms": 100}, "no layer 'moon'"),
        ("colour", {"state": "moon", "x": 0, "y": 0}, "no state 'moon'"),
    ],
)
def test_what_cannot_be_asked_is_said(client: FlaskClient, path: str, wish: dict[str, Any], says: str) -> None:
    answer = client.post(f"{TIDE}/{path}", json=wish)
    assert answer.status_code in (400, 422)
    assert says in "{message} {remedy}".format(**answer.get_json()["error"])


def test_takes_are_kept_compared_and_dropped(client: FlaskClient) -> None:
    takes = f"{TIDE}/takes"
    assert client.get(takes).get_json() == {"takes": [], "table": []}
    assert client.post(takes, json={"name": "Calm"}).get_json() == {"number": 1}
    edit(client, patch=replace("/transitions/0/hold_ms", 500))
    answer = client.get(takes).get_json()
    [take] = answer["takes"]
    assert (take["name"], take["fault"], take["computed"]["run"]["loop_ms"]) == ("Calm", None, 2060)
    [row] = answer["table"]
    assert row["transition"] == "Slack → First lift"
    assert [cell.split(" · ")[0] for cell in row["cells"]] == ["hold 500", "hold 120"]

    # Another made of it.
    brisk = {"name": "Brisk", "of": 1, "factor": 0.5, "timing": {"kind": "curve", "duration_ms": 1, "easing": "linear"}}
    for wrong in ({"of": 9}, {"factor": 0}, {"factor": "x"}, {"timing": {"kind": "whim"}}):
        assert client.post(takes, json={**brisk, **wrong}).status_code in (400, 404, 422)
    assert client.post(takes, json=brisk).get_json() == {"number": 2}
    [_, varied] = client.get(takes).get_json()["takes"]
    assert varied["computed"]["run"]["loop_ms"] == 1030
    assert {way["timing"]["easing"] for way in varied["transitions"] if way["style"] == "tween"} == {"linear"}
    assert client.delete(f"{takes}/2").status_code == 200

    # A state that is gone: the take says so, and is kept.
    ebb = [{"op": "remove", "path": "/transitions/4"}, {"op": "remove", "path": "/transitions/3"}]
    answered = edit(client, revision=2, patch=[*ebb, {"op": "remove", "path": "/states/4"}])
    assert answered.status_code == 200
    [take] = client.get(takes).get_json()["takes"]
    assert take["computed"] is None
    assert "no state 'ebb'" in take["fault"]
    assert client.delete(f"{takes}/1").status_code == 200
    assert client.delete(f"{takes}/1").status_code == 404
    assert client.get(takes).get_json()["takes"] == []


def test_presets_are_shared_by_all_pieces(client: FlaskClient) -> None:
    assert client.get("/api/presets").get_json() == {"presets": []}
    spring = {"kind": "spring", "stiffness": 300, "damping": 20}
    for timing in ({"kind": "curve", "duration_ms": 200, "easing": "ease"}, spring):
        assert client.post("/api/presets", json={"name": " Harbour ", "timing": timing}).status_code == 201
    assert client.get("/api/presets").get_json() == {"presets": [{"name": "Harbour", "timing": spring}]}
    for wish, says in (
        ({"name": "", "timing": spring}, "1 to 40"),
        ({"name": "x", "timing": {"kind": "curve", "duration_ms": -1}}, "Give 0 or more"),
        ({"name": "x", "timing": {"kind": "spring", "stiffness": 1e6, "damping": 1e-6}}, "Raise the damping"),
    ):
        answer = client.post("/api/presets", json=wish)
        assert answer.status_code == 400
        assert says in "{message} {remedy}".format(**answer.get_json()["error"])
    assert client.delete("/api/presets/Harbour").status_code == 200
    assert client.delete("/api/presets/Harbour").status_code == 404


@pytest.mark.parametrize(("asked", "size"), [("state=handover&scale=0.5", (104, 136)), ("at=700", (208, 272))])
def test_looks_are_drawn(client: FlaskClient, asked: str, size: tuple[int, int]) -> None:
    answer = client.get(f"{TIDE}/picture.png?{asked}")
    assert answer.mimetype == "image/png"
    drawn = skia.Image.MakeFromEncoded(skia.Data.MakeWithCopy(answer.data)).toarray()
    assert drawn.shape[:2] == size
    assert len(np.unique(drawn.reshape(-1, 4), axis=0)) > 50


def test_a_state_that_is_not_there_is_not_drawn(client: FlaskClient) -> None:
    answer = client.get(f"{TIDE}/picture.png?state=moon")
    assert answer.status_code == 422
    assert "Known: slack" in answer.get_json()["error"]["remedy"]
