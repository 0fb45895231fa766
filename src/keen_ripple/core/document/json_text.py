"""JSON text from outside as values: strictly, with the place of what is refused."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Iterator
from typing import Any, NoReturn

from keen_ripple.core.errors import DocumentFault, quoted
from keen_ripple.core.limits import DEEPEST_JSON

TOKEN = re.compile(r'("(?:[^"\\]|\\.)*")\s*(:)?|[\[\]{},]')
SURROGATE = re.compile("[\ud800-\udfff]")
ESCAPED_SURROGATE = re.compile(r"\\u[dD][89a-fA-F]")


class _Doubled(dict[str, Any]):
    """An object in which a name stands twice."""

    name = ""


def parsed(text: str | bytes) -> Any:
    """The value that JSON text holds, as RFC 8259 has it: no name twice in an object, no NaN, only whole characters.

    Raises DocumentFault with the place: a JSON pointer, or the line and column where the text itself is at fault.
    """
    if isinstance(text, bytes):
        text = _decoded(text)
    doubled: list[_Doubled] = []

    def as_object(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        found = dict(pairs)
        if len(found) == len(pairs):
            return found
        names = [name for name, _ in pairs]
        twice = _Doubled(found)
        twice.name = next(name for name in names if names.count(name) > 1)
        doubled.append(twice)
        return twice

    try:
        value = json.loads(text, object_pairs_hook=as_object, parse_constant=_no_number, parse_int=_whole)
    except json.JSONDecodeError as error:
        raise DocumentFault(
            f"This is not JSON: {error.msg} in line {error.lineno}, column {error.colno}.",
            remedy="Mend it there, or export the piece again.",
        ) from None
    except RecursionError:
        raise _too_deep(_deep_place(text)) from None
    if doubled:
        name, place = doubled[0].name, next(place for found, place in _places(value) if found is doubled[0])
        raise DocumentFault(
            f"The name {quoted(name)} stands twice.", place=pointer([*place, name]), remedy="Remove one of the two."
        )
    if not text.isascii() or ESCAPED_SURROGATE.search(text) or text.count("[") + text.count("{") > DEEPEST_JSON:
        check_value(value)
    return value


def check_value(value: Any) -> None:
    """Raises DocumentFault for text that no file can hold, and for values too deep in each other."""
    for found, place in _places(value):
        if len(place) >= DEEPEST_JSON and isinstance(found, dict | list):
            raise _too_deep(place)
        texts = found if isinstance(found, dict) else [found] if isinstance(found, str) else ()
        for text in texts:
            if SURROGATE.search(text):
                raise DocumentFault(
                    "This text holds half a character.",
                    place=pointer(place),
                    value=text.encode("utf-8", "replace").decode(),
                    remedy="Write it anew: a \\ud800 to \\udfff needs its other half.",
                )


def pointer(parts: Iterable[Any]) -> str:
    """A JSON pointer, RFC 6901."""
    return "".join("/" + str(part).replace("~", "~0").replace("/", "~1") for part in parts)


def _decoded(data: bytes) -> str:
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise DocumentFault(
            f"This is not UTF-8 text: byte {error.start} does not fit.", remedy="Save it as UTF-8."
        ) from None


def _no_number(name: str) -> NoReturn:
    raise DocumentFault(f"{name} is no number of JSON.", value=name, remedy="Give a finite number.")


def _whole(digits: str) -> int | float:
    # Longer ones are refused by every range anyway, and take long to read.
    return int(digits) if len(digits) < 400 else float("inf")


def _places(value: Any) -> Iterator[tuple[Any, tuple[Any, ...]]]:
    """Every value with its place; not by recursion, since how deep it goes is what is asked."""
    waiting: list[tuple[Any, tuple[Any, ...]]] = [(value, ())]
    while waiting:
        found, place = waiting.pop()
        yield found, place
        if isinstance(found, dict):
            waiting += [(item, (*place, key)) for key, item in found.items()]
        elif isinstance(found, list):
            waiting += [(item, (*place, index)) for index, item in enumerate(found)]


def _too_deep(place: Iterable[Any]) -> DocumentFault:
    return DocumentFault(
        f"Values lie more than {DEEPEST_JSON} deep in each other.",
        place=pointer(place),
        remedy="Take groups out of each other, or objects and lists.",
    )


def _deep_place(text: str) -> list[Any]:
    """Where text first goes deeper than it may."""
    place: list[Any] = []
    for token in TOKEN.finditer(text):
        sign = token[0]
        if token[1]:
            if token[2] and place:
                place[-1] = json.loads(token[1])
        elif sign in "[{":
            place.append(0 if sign == "[" else "")
            if len(place) > DEEPEST_JSON:
                return place[:-1]
        elif sign in "]}":
            place = place[:-1]
        elif place and isinstance(place[-1], int):
            place[-1] += 1
    return place
