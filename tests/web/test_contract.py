"""The contract: what is checked of answers, and that every model of it is used."""

from __future__ import annotations

import inspect
import json
import re
from pathlib import Path

import pytest

import keen_ripple.web
from contract import check
from keen_ripple.web.contract import answers, bodies


@pytest.mark.parametrize("wrong", [{"steps": [{"box": {"x": None}}]}, {"steps": [], "more": 1}, {}])
def test_the_check_finds_what_is_not_in_the_contract(wrong: object) -> None:
    check(answers.Steps, {"steps": [{"box": {"x": 1, "fill": "none"}}]})
    with pytest.raises((AssertionError, ValueError)):
        check(answers.Steps, wrong)


def test_no_view_answers_past_the_contract() -> None:
    folder = Path(inspect.getfile(keen_ripple.web)).parent
    views = {path.stem: path.read_text("utf-8") for path in folder.glob("*.py")}
    assert [name for name, text in views.items() if "jsonify" in text or "get_json" in text] == ["schema"]
    used = set(re.findall(r"\w+", " ".join(views.values())))
    for module, base in ((bodies, bodies.Body), (answers, answers.Answer)):
        kinds = {k.__name__ for k in vars(module).values() if isinstance(k, type) and issubclass(k, base)}
        inherited = {k.__name__ for k in vars(module).values() if isinstance(k, type) and k.__subclasses__()}
        assert kinds - used - inherited == set()


def test_what_is_not_set_is_not_told() -> None:
    edited = answers.ChangeAnswer(
        id="a", revision=2, holds="", undo=None, redo=None, patch=[], poses={}, seam=None, transitions={}
    )
    told = json.loads(edited.told().data)
    assert "run" not in told
    assert told["undo"] is None
