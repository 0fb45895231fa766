"""Reading documents: what is refused, where, and with what remedy."""

from __future__ import annotations

import copy
import json
from collections.abc import Callable
from typing import Any

import jsonschema
import pytest

from keen_ripple.core.document import json_schema, read_piece
from keen_ripple.core.errors import DocumentFault
from keen_ripple.core.outlines import canonical
from support import DEMO, piece, way

Spoil = Callable[[dict[str, Any]], Any]
BOX = "/layers/0"

FAULTS: dict[str, tuple[Spoil, str, str]] = {
    "negative width": (lambda d: d["layers"][0].update(width=-5), f"{BOX}/width", "Give 0 or more."),
    "no finite number": (lambda d: d["layers"][0].update(x=float("nan")), f"{BOX}/x", "finite"),
    "text for a number": (lambda d: d["layers"][0].update(x="abc"), f"{BOX}/x", "Give a number."),
    "not a colour": (lambda d: d["layers"][0].update(fill="bluish"), f"{BOX}/fill", "Write a CSS colour"),
    "opacity of two": (lambda d: d["layers"][0].update(opacity=2), f"{BOX}/opacity", "Give 1 or less."),
    "unknown field": (lambda d: d["layers"][0].update(colour="red"), f"{BOX}/colour", "Remove it"),
    "unknown kind": (lambda d: d["layers"][0].update(kind="star"), BOX, "Choose"),
    "no name": (lambda d: d.pop("name"), "/name", "Add it."),
    "bad id": (lambda d: d.update(id="No Good"), "/id", "lower-case"),
    "no states": (lambda d: d.update(states=[]), "/states", ""),
    "newer format": (lambda d: d.update(format=2), "/format", "newer Keen Ripple"),
    "same id twice": (lambda d: d["layers"].append(d["layers"][0]), "/layers/1/id", "Give each its own."),
    "unknown layer": (
        lambda d: d["states"][0]["changes"].update(ship={"x": 1}),
        "/states/0/changes/ship",
        "Known: box",
    ),
    "foreign property": (
        lambda d: d["states"][1]["changes"]["box"].update(font_size=9),
        "/states/1/changes/box/font_size",
        "Remove it.",
    ),
    "null difference": (
        lambda d: d["states"][1]["changes"]["box"].update(x=None),
        "/states/1/changes/box/x",
        "Give a number.",
    ),
    "unknown start": (lambda d: d.update(start="c"), "/start", "Known: a, b"),
    "unknown end": (lambda d: d["transitions"][0].update(to="c"), "/transitions/0/to", "Known: a, b"),
    "no easing": (
        lambda d: d["transitions"][0]["timing"].update(easing="wobble"),
        "/transitions/0/timing/easing",
        "Write a keyword",
    ),
    "half a millisecond": (
        lambda d: d["transitions"][0]["timing"].update(duration_ms=1.5),
        "/transitions/0/timing/duration_ms",
        "whole number",
    ),
    "negative hold": (lambda d: d["transitions"][1].update(hold_ms=-1), "/transitions/1/hold_ms", "Give 0 or more."),
    "endless spring": (
        lambda d: d["transitions"][0].update(timing={"kind": "spring", "stiffness": 10, "damping": 1e-4}),
        "/transitions/0/timing",
        "Raise the damping",
    ),
    "lane of nobody": (
        lambda d: d["transitions"][0].update(lanes=[{"layer": "ship"}]),
        "/transitions/0/lanes/0/layer",
        "Known: box",
    ),
    "lane of a fixed property": (
        lambda d: d["transitions"][0].update(lanes=[{"layer": "box", "property": "name"}]),
        "/transitions/0/lanes/0/property",
        "Known: ",
    ),
    "lane twice": (
        lambda d: d["transitions"][0].update(lanes=[{"layer": "box"}, {"layer": "box"}]),
        "/transitions/0/lanes/1",
        "Remove one",
    ),
    "bad path": (
        lambda d: d["layers"].append(
            {"kind": "path", "id": "p", "name": "P", "x": 0, "y": 0, "width": 9, "height": 9}
            | {"view_width": 9, "view_height": 9, "path": "M0 0 Q"}
        ),
        "/layers/1/path",
        "Write commands",
    ),
}


@pytest.mark.parametrize("case", FAULTS.values(), ids=FAULTS.keys())
def test_faults_say_where_and_what_to_do(case: tuple[Spoil, str, str]) -> None:
    spoil, place, remedy = case
    document = piece()
    spoil(document)
    with pytest.raises(DocumentFault) as caught:
        read_piece(document)
    assert caught.value.place == place
    assert remedy in caught.value.remedy
    assert str(caught.value).startswith(f"{place}: ")


@pytest.mark.parametrize("value", [None, 5, [], "piece", {"format": 1}])
def test_what_is_no_piece_is_refused(value: object) -> None:
    with pytest.raises(DocumentFault):
        read_piece(value)


def test_all_faults_are_found() -> None:
    document = piece(start="nowhere")
    document["transitions"][0]["from"] = "nowhere"
    with pytest.raises(DocumentFault) as caught:
        read_piece(document)
    assert [fault.place for fault in caught.value.all] == ["/start", "/transitions/0/from"]


def test_whole_floats_are_whole() -> None:
    document = piece()
    document["transitions"][0]["timing"]["duration_ms"] = 400.0
    assert read_piece(document).transitions[0].timing.length_ms() == 400


@pytest.mark.parametrize("name", DEMO)
def test_demo_follows_the_published_schema(name: str) -> None:
    jsonschema.Draft202012Validator(json_schema()).validate(DEMO[name])


def canonical_paths(value: Any) -> Any:
    """The same document with its outlines in the one way of writing that the core keeps."""
    if isinstance(value, list):
        return [canonical_paths(item) for item in value]
    if not isinstance(value, dict):
        return value
    return {
        key: canonical(item) if key == "path" and isinstance(item, str) else canonical_paths(item)
        for key, item in value.items()
    }


@pytest.mark.parametrize("name", DEMO)
def test_reading_and_writing_is_a_round_trip(name: str) -> None:
    read = read_piece(DEMO[name])
    written = json.loads(read.model_dump_json(by_alias=True, exclude_unset=True))
    assert read_piece(written) == read
    assert written == canonical_paths(DEMO[name])


def test_reading_leaves_the_document_alone() -> None:
    document = piece(transitions=[way("a", "b", {"kind": "curve", "duration_ms": 1})])
    before = copy.deepcopy(document)
    read_piece(document)
    assert document == before
