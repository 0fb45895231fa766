"""A client of the demo's pieces; every answer that a test gets is held against the contract."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from flask import Response
from flask.testing import FlaskClient

from contract import check
from keen_ripple.web import create_app
from keen_ripple.web.contract.answers import Answer
from keen_ripple.web.serve import fill
from support import JOBS

told = Answer.told


@pytest.fixture(autouse=True)
def contract(monkeypatch: pytest.MonkeyPatch) -> None:
    def told_and_checked(answer: Answer, status: int = 200) -> Response:
        response = told(answer, status)
        check(type(answer), json.loads(response.data))
        return response

    monkeypatch.setattr(Answer, "told", told_and_checked)


@pytest.fixture
def client(tmp_path: Path) -> FlaskClient:
    app = create_app(tmp_path / "web.sqlite", jobs=JOBS)
    fill(tmp_path / "web.sqlite")
    return app.test_client()
