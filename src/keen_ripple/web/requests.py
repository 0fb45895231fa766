"""Reading what was sent."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from flask import request
from pydantic import TypeAdapter, ValidationError

from keen_ripple.core.document import parsed
from keen_ripple.core.document.transitions import Curve, Spring, Timing
from keen_ripple.web.errors import RequestFault

KINDS: dict[type, str] = {int: "a whole number", str: "a text", list: "a list", dict: "an object"}
LARGEST_NUMBER = 1e12

TIMING: TypeAdapter[Curve | Spring] = TypeAdapter(Timing)


def body() -> dict[str, Any]:
    """The JSON object that was sent. Raises RequestFault, and DocumentFault for what is no JSON."""
    value = parsed(request.get_data()) if request.is_json else None
    if not isinstance(value, dict):
        raise RequestFault("The request holds no JSON object.", remedy="Send one, as application/json.")
    return value


def number(value: dict[str, Any], name: str) -> float:
    """One number of the object. Raises RequestFault."""
    found = value.get(name)
    if not isinstance(found, int | float) or isinstance(found, bool):
        raise RequestFault(f"The {name} is no number.", place=f"/{name}", value=found, remedy="Send a number.")
    if not abs(found) <= LARGEST_NUMBER:
        raise RequestFault(f"The {name} is out of range.", place=f"/{name}", value=found, remedy="Send a smaller one.")
    return float(found)


def timing(value: dict[str, Any]) -> Curve | Spring:
    """The object's timing, as a transition has it. Raises RequestFault."""
    found = field(value, "timing", dict)
    try:
        return TIMING.validate_python(found)
    except ValidationError as error:
        remedy = "Send a curve or a spring as a transition has it."
        raise RequestFault("This is no timing.", place="/timing", value=found, remedy=remedy) from error


def field(value: Mapping[str, Any], name: str, kind: type) -> Any:
    """One field of the object, of the type given. Raises RequestFault."""
    found = value.get(name)
    if not isinstance(found, kind) or (kind is int and isinstance(found, bool)):
        what = KINDS[kind]
        raise RequestFault(
            f"{name} is missing." if found is None else f"{name} is not {what}.",
            place=f"/{name}",
            value=found,
            remedy=f"Send {what}.",
        )
    return found
