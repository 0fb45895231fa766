"""Jobs as the page asks for them."""

from __future__ import annotations

from flask.testing import FlaskClient

from queues import until

TIDE = "/api/pieces/tide-loader/handoff"


def ended(client: FlaskClient, job: str) -> str:
    until(lambda: client.get(f"/api/jobs/{job}").json["state"] in ("done", "failed", "stopped"), "its end")
    return client.get(f"/api/jobs/{job}").json["state"]


def test_begun_looked_at_and_there(client: FlaskClient) -> None:
    begun = client.post(f"{TIDE}/sheet/job")
    assert begun.status_code == 202
    job = begun.json["id"]
    assert ended(client, job) == "done"
    told = client.get(f"/api/jobs/{job}").json
    for ending, size in told["sizes"].items():
        assert len(client.get(f"{TIDE}/sheet/{ending}").data) == size
    # What is done stays so.
    assert client.delete(f"/api/jobs/{job}").json == told
    assert client.post(f"{TIDE}/sheet/job?again=1").json == told
    measured = client.post(f"{TIDE}/css/measured").json["id"]
    assert ended(client, measured) == "done"
    assert client.get(f"{TIDE}/css/measured").json.keys() == {"said", "left_out", "why_not"}


def test_stopped_refused_and_unknown(client: FlaskClient) -> None:
    job = client.post(f"{TIDE}/webp/job?scale=8").json["id"]
    assert client.delete(f"/api/jobs/{job}").json["state"] == "stopped"
    assert client.post(f"{TIDE}/webp/job?scale=8").json["state"] == "stopped"
    refused = client.post(f"{TIDE}/gif/job?fps=60").json["id"]
    assert ended(client, refused) == "failed"
    assert client.get(f"/api/jobs/{refused}").json["fault"]["place"] == "/fps"
    assert client.post(f"{TIDE}/gif/job?scale=900").status_code == 422
    assert client.post(f"{TIDE}/stone/job").status_code == 400
    assert client.post("/api/pieces/nowhere/handoff/all.zip").status_code == 404
    for unknown in ("stone", "0" * 32, "index", f"{job}.order"):
        answer = client.get(f"/api/jobs/{unknown}")
        assert (answer.status_code, answer.json["error"]["message"]) == (404, "There is no such job.")
