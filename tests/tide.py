"""The tide loader over the API."""

from __future__ import annotations

from typing import Any

from flask.testing import FlaskClient

TIDE = "/api/pieces/tide-loader"


def replace(path: str, value: Any) -> list[dict[str, Any]]:
    return [{"op": "replace", "path": path, "value": value}]


LIFT = replace("/states/1/changes/buoy-1/y", 70)


def edit(client: FlaskClient, revision: int = 1, patch: Any = LIFT):
    return client.patch(TIDE, json={"revision": revision, "label": "y of Buoy 1", "patch": patch})
