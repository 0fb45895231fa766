"""Five hundred documents gone wrong in one or more places: refused with place and remedy, or accepted and playable."""

from __future__ import annotations

import copy
import json
import random
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient

from keen_ripple.cli import main
from keen_ripple.core.document.bundle import placed_ids
from keen_ripple.web import create_app
from support import DEMO, DEMO_FOLDER

COUNT = 500
BATCHES = 10

Key = str | int


def deep(depth: int) -> Any:
    value: Any = 1
    for _ in range(depth):
        value = [value]
    return value


WRONG_TYPES = [None, True, False, 0, -1, 3, 0.5, "", "x", [], {}, [1], {"x": 1}, ["x"]]
EXTREMES = [1e999, -1e999, 1e308, -1e308, 5e-324, 2**31, 2**53 + 1, 10**40, -(10**12), 86_400_001, 1e6, -0.0]
TEXTS = [
    "\ud800", "\x00", "‮", "a" * 100_000, "é" * 3000, "</style><script>", "url(http://127.0.0.1:9/x)", "var(--a)",
    "steps(99999999999)", "steps(1000)", "cubic-bezier(0.1, 1e999, 0.2, 1)", "linear(0, 1e300, 1)", "calc(1/0)",
    "M0 0L1e300 5", "M0 0" + "L1 1" * 30_000, "M0 0Z", "#ffff", "red", "rgb(1e99 0 0)", "data:image/png;base64,AAAA",
    "none", "../x", "__proto__", "buoy-1", "slack", "a", "tap", "spring", "group", "cut", "cross-fade",
]  # fmt: skip
HUGE = [deep(60), deep(150), list(range(5000)), {str(n): n for n in range(3000)}, [{}] * 1000]
VALUES = [*WRONG_TYPES, *EXTREMES, *TEXTS, *HUGE]


def places(value: Any, at: tuple[Key, ...] = ()) -> Iterator[tuple[Key, ...]]:
    """Every place inside of a document."""
    children = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, child in children:
        yield (*at, key)
        yield from places(child, (*at, key))


def around(document: Any, at: tuple[Key, ...]) -> Any:
    for key in at[:-1]:
        document = document[key]
    return document


def worse(document: Any, rng: random.Random) -> None:
    """One thing goes wrong: a value, a thing that is gone, one that is there again, one from elsewhere, a wrong key."""
    found = list(places(document))
    at, other = rng.choice(found), rng.choice(found)
    parent, key = around(document, at), at[-1]
    match rng.choice(["value", "value", "value", "gone", "twice", "elsewhere", "key"]):
        case "value":
            parent[key] = copy.deepcopy(rng.choice(VALUES))
        case "gone":
            del parent[key]
        case "twice" if isinstance(parent, list):
            parent.extend(copy.deepcopy(parent[key]) for _ in range(rng.choice([1, 70, 700])))
        case "elsewhere":
            parent[key] = copy.deepcopy(around(document, other)[other[-1]])
        case "key" if isinstance(parent, dict):
            parent[str(rng.choice(TEXTS))[:50]] = parent[key]
        case _:
            parent[key] = rng.choice(EXTREMES)


def hostile(seed: int) -> Any:
    rng = random.Random(seed)
    document = copy.deepcopy(rng.choice(list(DEMO.values())))
    for _ in range(rng.choice([1, 1, 1, 2, 5])):
        worse(document, rng)
    return document


def edits_to(document: Any) -> list[dict[str, Any]]:
    return [{"op": "add", "path": f"/{name}", "value": value} for name, value in document.items() if name != "id"]


def pointed(fault: Any) -> None:
    """What is wrong, where, and what to do; never the whole of what was sent."""
    assert fault["message"]
    assert fault["remedy"]
    assert isinstance(fault["place"], str)
    assert max(len(str(fault[part])) for part in ("message", "value", "remedy")) < 1000


@pytest.mark.parametrize("batch", range(BATCHES))
def test_a_hostile_document_is_refused_with_its_place_or_plays(batch: int, tmp_path: Path, capsys) -> None:
    client = create_app(tmp_path / "web.sqlite").test_client()
    # What stands in others.
    for name in sorted({held for document in DEMO.values() for held in placed_ids(document)}):
        client.post("/api/pieces", json={"document": DEMO[name]})
    sound = client.post("/api/pieces", json={"document": DEMO["tide-loader"]}).get_json()["id"]
    outcomes = [
        checked(client, hostile(seed), sound, tmp_path / "hostile.json", capsys)
        for seed in range(batch, COUNT, BATCHES)
    ]
    # Neither all of one kind: there is something to refuse and something that plays.
    assert {"accepted", "refused"} <= set(outcomes)


def checked(client: FlaskClient, document: Any, sound: str, path: Path, capsys) -> str:
    text = json.dumps(document, ensure_ascii=True)
    made = client.post("/api/pieces", data=json.dumps({"document": document}), content_type="application/json")
    path.write_text(text, "ascii")
    status = main(["run", str(path), "--library", str(DEMO_FOLDER)])
    printed = capsys.readouterr()
    assert "Traceback" not in printed.err
    if made.status_code == 201:
        assert status == 0, printed.err
        own = made.get_json()["id"]
        assert client.get(f"/api/pieces/{own}").status_code == 200
        assert client.delete(f"/api/pieces/{own}").status_code < 300
    else:
        assert made.status_code in (400, 413, 422), made.status_code
        pointed(made.get_json()["error"])
        assert status == 1
        assert printed.err.strip()
    edited(client, document, sound)
    return "accepted" if made.status_code == 201 else "refused"


def edited(client: FlaskClient, document: Any, sound: str) -> None:
    """The same as an edit of a piece that is sound: it is made and undone, or nothing of it is."""
    before = client.get(f"/api/pieces/{sound}").get_json()
    patch = edits_to(document) if isinstance(document, dict) else []
    wish = {"revision": before["revision"], "label": "hostile", "patch": patch}
    answer = client.patch(f"/api/pieces/{sound}", data=json.dumps(wish), content_type="application/json")
    after = client.get(f"/api/pieces/{sound}")
    assert after.status_code == 200
    if answer.status_code == 200:
        if after.get_json()["revision"] > before["revision"]:
            undone = client.post(f"/api/pieces/{sound}/undo", json={"revision": after.get_json()["revision"]})
            assert undone.status_code == 200
    else:
        assert answer.status_code in (400, 413, 422), answer.status_code
        pointed(answer.get_json()["error"])
        assert after.get_json()["revision"] == before["revision"]
    assert client.get("/api/pieces").status_code == 200
