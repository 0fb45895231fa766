"""What the page asks of a piece besides editing it: drawings, retimings, springs, takes, presets, pictures."""

from __future__ import annotations

from contextlib import closing
from typing import Any

import numpy as np
import pytest
import skia
from flask.testing import FlaskClient

from fonts_of_others import FILES, LIGATURES
from keen_ripple.core.curves import Spring
from keen_ripple.store import atomic, connect
from support import DEMO
from tide import TIDE, edit, replace


def stored(client: FlaskClient) -> dict[str, Any]:
    return dict(client.get(TIDE).get_json()["document"])


def test_drawings_are_read_but_not_stored(client: FlaskClient) -> None:
    drawn = '<rect id="a" width="5" height="4"/><video>Pier</video>'
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 8">{drawn}</svg>'
    before = client.get("/api/pieces").json
    answer = client.post("/api/intake", json={"name": "Quay", "svg": svg})
    assert (answer.status_code, answer.json["name"], answer.json["width"]) == (200, "Quay", 9)
    assert [layer["id"] for layer in answer.json["layers"]] == ["a"]
    assert answer.json["notes"] == ["video was left out"]
    refused = client.post("/api/intake", json={"name": "Quay", "svg": "<html/>"})
    assert (refused.status_code, refused.json["error"]["kind"]) == (422, "IntakeFault")
    assert refused.json["error"]["remedy"]
    assert client.get("/api/pieces").json == before


def test_fonts_are_read_and_shared_among_pieces(client: FlaskClient) -> None:
    taken = client.post("/api/intake/font", data=FILES["ligatures"].read_bytes()).json
    assert (taken["family"], taken["weights"]) == (LIGATURES, [400, 400])
    refused = client.post("/api/intake/font", data=b"no font")
    assert (refused.status_code, refused.json["error"]["kind"]) == (422, "FontFault")
    assert client.get("/api/fonts").json == {"fonts": []}
    family = {"family": LIGATURES, "files": [taken["source"]]}
    brought = {"op": "add", "path": "/fonts", "value": [family]}
    changed = client.patch(TIDE, json={"revision": 1, "label": "Bring in", "patch": [brought]}).json
    told = changed["fonts"][LIGATURES]
    assert (told["files"][0]["source"], told["axes"], told["may_be_sent"]) == (taken["source"], [], True)
    assert client.get("/api/fonts").json["fonts"] == [
        {"family": LIGATURES, "piece": "tide-loader", "name": "Tide loader"}
    ]
    asked = {"family": LIGATURES}
    assert client.get("/api/fonts/tide-loader", query_string=asked).json == family
    assert client.get("/api/fonts/tide-loader", query_string={"family": "Nowhere"}).status_code == 400
    assert client.get("/api/fonts/nowhere", query_string=asked).status_code == 404
    # What does not concern them says nothing of them.
    later = {"op": "replace", "path": "/name", "value": "Tide"}
    assert "fonts" not in client.patch(TIDE, json={"revision": 2, "label": "Rename", "patch": [later]}).json


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
    assert row["name"] == "Slack → First lift"
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

    # A state that is gone: the take is kept for the rest.
    ebb = [{"op": "remove", "path": "/transitions/4"}, {"op": "remove", "path": "/transitions/3"}]
    answered = edit(client, revision=2, patch=[*ebb, {"op": "remove", "path": "/states/4"}])
    assert answered.status_code == 200
    [take] = client.get(takes).get_json()["takes"]
    assert (take["fault"], take["lost"], len(take["transitions"])) == (None, 2, 3)
    # Anything else that has gone it says, and is kept.
    lane = [{"layer": "caption", "delay_ms": 20}]
    edit(client, revision=3, patch=[{"op": "add", "path": "/transitions/0/lanes", "value": lane}])
    assert client.post(takes, json={"name": " Calm "}).get_json() == {"number": 3}
    caption = next(i for i, layer in enumerate(stored(client)["layers"]) if layer["id"] == "caption")
    mend = [replace("/transitions/0/lanes", [])[0], {"op": "remove", "path": f"/layers/{caption}"}]
    states = stored(client)["states"]
    mend += [
        {"op": "remove", "path": f"/states/{s}/changes/caption"}
        for s, state in enumerate(states)
        if "caption" in state["changes"]
    ]
    assert edit(client, revision=4, patch=mend).status_code == 200
    *_, second = client.get(takes).get_json()["takes"]
    assert (second["name"], second["computed"]) == ("Calm 2", None) and "caption" in second["fault"]
    # Renamed, away, and back again.
    assert client.patch(f"{takes}/3", json={"name": "Late"}).status_code == 200
    assert client.patch(f"{takes}/3", json={"name": "  "}).status_code == 400
    assert client.patch(f"{takes}/9", json={"name": "x"}).status_code == 404
    assert client.delete(f"{takes}/3").status_code == 200
    assert client.delete(f"{takes}/3").status_code == 404
    assert [each["name"] for each in client.get(takes).get_json()["takes"]] == ["Calm"]
    assert client.post(takes, json={"name": "Late"}).status_code == 201
    assert client.post(f"{takes}/3/restore").status_code == 200
    assert [each["name"] for each in client.get(takes).get_json()["takes"]] == ["Calm", "Late 2", "Late"]
    assert client.delete(f"{takes}/4").status_code == 200
    assert [each["name"] for each in client.get(takes).get_json()["takes"]] == ["Calm", "Late 2"]


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
    for name in ("Harbour", "a/b", "..", "50% & more?"):
        client.post("/api/presets", json={"name": name, "timing": spring})
        assert client.delete("/api/presets", json={"name": name}).status_code == 200
    assert client.delete("/api/presets", json={"name": "Harbour"}).status_code == 404


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


def test_takes_hold_what_goes_round(client: FlaskClient) -> None:
    keys = [{"at_ms": 0, "value": 1}, {"at_ms": 300, "value": 0.4}]
    courses = [{"layer": layer, "property": "opacity", "keys": keys} for layer in ("buoy-1", "caption")]
    glow = {"id": "glow", "name": "Glow", "period_ms": 600, "states": ["ebb"], "courses": courses}
    edit(client, patch=[{"op": "add", "path": "/undercurrents", "value": [glow]}])
    takes = f"{TIDE}/takes"
    assert client.post(takes, json={"name": "Calm"}).get_json() == {"number": 1}
    edit(client, revision=2, patch=replace("/undercurrents/0/period_ms", 900))
    answer = client.get(takes).get_json()
    [row] = answer["table"]
    assert (row["kind"], row["id"], row["name"]) == ("undercurrent", "glow", "Glow")
    assert [cell.split(" · ")[0] for cell in row["cells"]] == ["900 ms", "600 ms"]
    [take] = answer["takes"]
    assert [own["period_ms"] for own in take["computed"]["run"]["undercurrents"]] == [600]
    # Faster, with all its times.
    assert client.post(takes, json={"name": "Brisk", "of": 1, "factor": 0.5}).status_code == 201
    [_, brisk] = client.get(takes).get_json()["takes"]
    assert brisk["undercurrents"][0]["period_ms"] == 300
    # Without the piece's own, the take still has it; an older take says nothing, and has what the piece has.
    edit(client, revision=3, patch=[{"op": "remove", "path": "/undercurrents"}])
    assert [len(take["undercurrents"]) for take in client.get(takes).get_json()["takes"]] == [1, 1]
    with closing(connect(client.application.config["DATABASE"])) as conn, atomic(conn):
        conn.execute("UPDATE take SET undercurrents = NULL WHERE number = 1")
    assert [len(take["undercurrents"]) for take in client.get(takes).get_json()["takes"]] == [0, 1]
    # Of a state that has gone, what ran there alone goes too.
    ebb = [{"op": "remove", "path": "/transitions/4"}, {"op": "remove", "path": "/transitions/3"}]
    assert edit(client, revision=4, patch=[*ebb, {"op": "remove", "path": "/states/4"}]).status_code == 200
    assert [take["fault"] for take in client.get(takes).get_json()["takes"]] == [None, None]
    assert [take["undercurrents"] for take in client.get(takes).get_json()["takes"]] == [[], []]
