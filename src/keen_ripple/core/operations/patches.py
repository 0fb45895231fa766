"""Edits as RFC 6902 JSON Patch, each with the patch that takes it back."""

from __future__ import annotations

import copy
from collections.abc import Mapping, Sequence
from typing import Any

import jsonpatch
import jsonpointer

from keen_ripple.core.errors import Fault

Patch = Sequence[Mapping[str, Any]]

MOST_OPERATIONS = 20_000
# Copies of copies grow without end: so many values may be copied by one patch.
MOST_COPIED = 200_000
LONGEST_REASON = 120
NEEDED = {"add": ("value",), "replace": ("value",), "test": ("value",), "move": ("from",), "copy": ("from",)}


class PatchFault(Fault):
    """A patch that is none, or that does not fit the document."""


def apply(document: Any, patch: Any) -> tuple[Any, list[dict[str, Any]]]:
    """The patched document, and the patch that leads back to the old one.

    The document given is left as it is; the new one shares with it whatever the patch does not touch.
    """
    if not isinstance(patch, list) or not all(map(_is_operation, patch)):
        raise PatchFault("The patch is not a list of operations.", value=patch, remedy="Send RFC 6902 JSON Patch.")
    if len(patch) > MOST_OPERATIONS:
        raise PatchFault(f"The patch has {len(patch)} operations.", remedy=f"Send at most {MOST_OPERATIONS}.")
    result = document
    inverse: list[dict[str, Any]] = []
    copied = 0
    for index, operation in enumerate(patch):
        try:
            if operation["op"] == "copy":
                copied += _weight(jsonpointer.resolve_pointer(result, operation["from"]), MOST_COPIED)
                if copied > MOST_COPIED:
                    raise ValueError("it copies too much")
            for plain in _plain(result, operation):
                back = _inverse(result, plain)
                result = _own_along(result, plain["path"])
                result = jsonpatch.apply_patch(result, [copy.deepcopy(plain)], in_place=True)
                inverse[:0] = back
        except (
            jsonpatch.JsonPatchException,
            jsonpointer.JsonPointerException,
            LookupError,
            TypeError,
            ValueError,
        ) as error:
            if isinstance(error, Fault):
                raise
            raise PatchFault(
                f"Operation {index} does not fit the piece: {str(error)[:LONGEST_REASON]}.",
                place=operation["path"],
                value=dict(operation),
                remedy="Load the piece again and make the change anew.",
            ) from None
    return result, inverse


def _is_operation(operation: Any) -> bool:
    """Whether it has the members that its kind needs."""
    if not isinstance(operation, Mapping) or not isinstance(operation.get("path"), str):
        return False
    needed = NEEDED.get(operation.get("op", ""), ()) if isinstance(operation.get("op"), str) else None
    if needed is None or any(name not in operation for name in needed):
        return False
    return isinstance(operation.get("from", ""), str)


def _weight(value: Any, most: int) -> int:
    """How many values there are in it, counted no farther than a little over `most`."""
    waiting, count = [value], 0
    while waiting and count <= most:
        found = waiting.pop()
        count += 1 + (len(found) // 100 if isinstance(found, str) else 0)
        if isinstance(found, dict | list):
            waiting += found.values() if isinstance(found, dict) else found
    return count


def _own_along(document: Any, path: str) -> Any:
    """The document with containers of its own from the root to the parent of `path`, so that they may be changed."""
    root = copy.copy(document)
    parent = root
    for token in path.split("/")[1:-1]:
        key = int(token) if isinstance(parent, list) else token.replace("~1", "/").replace("~0", "~")
        parent[key] = copy.copy(parent[key])
        parent = parent[key]
    return root


def _plain(document: Any, operation: Mapping[str, Any]) -> list[dict[str, Any]]:
    """The operation in terms of add, remove, replace and test alone."""
    name, path = operation["op"], operation["path"]
    if name not in ("move", "copy"):
        return [dict(operation)]
    source = operation["from"]
    value = _at(document, source)
    if name == "move" and path.startswith(f"{source}/"):
        raise jsonpatch.JsonPatchConflict("nothing can be moved into itself")
    removal = [{"op": "remove", "path": source}] if name == "move" else []
    return [*removal, {"op": "add", "path": path, "value": value}]


def _inverse(document: Any, operation: Mapping[str, Any]) -> list[dict[str, Any]]:
    """What takes one operation back, told from the document before it."""
    name, path = operation["op"], operation["path"]
    if name == "test":
        return []
    if name == "add":
        return _take_back_add(document, path)
    if name in ("remove", "replace"):
        old = _at(document, path)
        return [{"op": "add" if name == "remove" else "replace", "path": path, "value": old}]
    raise PatchFault(f"{name!r} is no operation of JSON Patch.", place=path, value=name, remedy="Use add or replace.")


def _take_back_add(document: Any, path: str) -> list[dict[str, Any]]:
    parent_path, _, last = path.rpartition("/")
    parent = jsonpointer.resolve_pointer(document, parent_path)
    if isinstance(parent, list):
        return [{"op": "remove", "path": f"{parent_path}/{len(parent) if last == '-' else last}"}]
    key = last.replace("~1", "/").replace("~0", "~")
    if path and key in parent:
        return [{"op": "replace", "path": path, "value": copy.deepcopy(parent[key])}]
    return [{"op": "remove", "path": path}]


def _at(document: Any, path: str) -> Any:
    """A copy of what stands at the path."""
    found = jsonpointer.resolve_pointer(document, path)
    if isinstance(found, jsonpointer.EndOfList):
        raise jsonpointer.JsonPointerException(f"nothing stands at {path}")
    return copy.deepcopy(found)
