"""Every answer that a test gets is held against the contract."""

from __future__ import annotations

import json

import pytest
from flask import Response

from contract import check
from keen_ripple.web.contract.answers import Answer

told = Answer.told


@pytest.fixture(autouse=True)
def contract(monkeypatch: pytest.MonkeyPatch) -> None:
    def told_and_checked(answer: Answer, status: int = 200) -> Response:
        response = told(answer, status)
        check(type(answer), json.loads(response.data))
        return response

    monkeypatch.setattr(Answer, "told", told_and_checked)
