"""Edits as RFC 6902 JSON Patch, each with the patch that takes it back."""

from __future__ import annotations

import copy
from collections.abc import Mapping, Sequence
from typing import Any

import jsonpatch
import jsonpointer

from keen_ripple.core.errors import Fault

Patch = Sequence[Mapping[str, Any]]


class PatchFault(Fault):
    """A patch that is none, or that does not fit the document."""


def apply(document: Any, patch: Any) -> tuple[Any, list[dict[str, Any]]]:
    """The patched document, and the patch that leads back to the old one.

    The document given is left as it is; the new one shares with it whatever the patch does not touch.
    """
    if not isinstance(patch, list) or not all(isinstance(operation, Mapping) for operation in patch):
        raise PatchFault("The patch is not a list of operations.", value=patch, remedy="Send RFC 6902 JSON Patch.")
    result = document
    inverse: list[dict[str, Any]] = []
    for index, operation in enumerate(patch):
        try:
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
                f"Operation {index} does not fit the piece: {error}.",
                place=str(operation.get("path", "")),
                value=dict(operation),
                remedy="Load the piece again and make the change anew.",
            ) from None
    return result, inverse


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
