"""Answers held against the contract, whole: also what the server itself does not check."""

from __future__ import annotations

import json
import typing
from functools import cache
from typing import Any

from pydantic import TypeAdapter

from keen_ripple.web.contract.parts import Sent, Unchecked

adapter = cache(TypeAdapter)


def check(kind: type[Sent], value: dict[str, Any]) -> None:
    assert set(value) <= {field.alias or name for name, field in kind.model_fields.items()}
    for name, field in kind.model_fields.items():
        key = field.alias or name
        if key not in value:
            assert not field.is_required(), key
            continue
        marks = [mark for mark in field.metadata if isinstance(mark, Unchecked)]
        adapter(marks[0].kind if marks else field.annotation).validate_json(json.dumps(value[key]))
        for inner in (field.annotation, *typing.get_args(field.annotation)):
            if isinstance(inner, type) and issubclass(inner, Sent) and value[key] is not None:
                for item in value[key] if isinstance(value[key], list) else [value[key]]:
                    check(inner, item)
