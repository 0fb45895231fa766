"""Reading after an edit gives what reading the whole gives: the same piece, or the same fault."""

from __future__ import annotations

import json
import random
from collections.abc import Iterator
from functools import partial
from typing import Any

import pytest

from keen_ripple.core.document import read_edited, read_piece, written
from keen_ripple.core.errors import DocumentFault, Fault
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.operations import patches
from keen_ripple.core.timeline import timeline_of
from support import DEMO, LIBRARY, timeline_in

VALUES: list[Any] = [
    7,
    0.5,
    -3,
    "#123456",
    "none",
    None,
    True,
    "x",
    [],
    {},
    1e300,
    [1, 2],
    {"kind": "radial"},
    "\ud800",
]
NAMES = ["x", "rotation", "opacity", "fill", "shadows", "path", "stroke_dash", "wobble", "layout", "text"]


def random_patch(rng: random.Random, document: dict[str, Any]) -> list[dict[str, Any]]:
    """A value of a state, a part of a transition, or anything else."""
    state = rng.randrange(len(document["states"]))
    layers = [*document["states"][state].get("changes", {}), *(layer["id"] for layer in document["layers"]), "nobody"]
    look = f"/states/{state}/changes/{rng.choice(layers)}"
    transition = f"/transitions/{rng.randrange(max(len(document['transitions']), 1))}"
    value = rng.choice(VALUES)
    layer = rng.choice(list(pointers(document["layers"], "/layers")))
    return [
        rng.choice(
            [
                *(
                    {
                        "op": "add",
                        "path": f"{layer}/{rng.choice([*NAMES, 'kind', 'mask', 'id', 'layers'])}",
                        "value": each,
                    }
                    for each in (value, rng.choice(VALUES), 12, "ellipse")
                ),
                {"op": "remove", "path": layer},
                {"op": "add", "path": f"{look}/{rng.choice(NAMES)}", "value": value},
                {"op": "add", "path": look, "value": {rng.choice(NAMES): value}},
                {"op": "remove", "path": look},
                {"op": "add", "path": f"/states/{state}/name", "value": value},
                {"op": "add", "path": f"/states/{state}/id", "value": rng.choice(["new", document["states"][0]["id"]])},
                {"op": "remove", "path": f"/states/{state}"},
                {"op": "add", "path": f"/states/{state}/changes", "value": rng.choice([{}, value])},
                {"op": "add", "path": f"{transition}/hold_ms", "value": rng.choice([100, *VALUES])},
                {"op": "add", "path": f"{transition}/early_ms", "value": rng.choice([0, 20, 5000])},
                {"op": "add", "path": f"{transition}/to", "value": rng.choice(["nowhere", document["start"]])},
                {"op": "add", "path": f"{transition}/lanes", "value": [{"layer": rng.choice(layers), "delay_ms": 9}]},
                {"op": "remove", "path": transition},
                {"op": "add", "path": "/name", "value": value},
                {"op": "remove", "path": "/layers/0"},
                {"op": "add", "path": "/layers/0/x", "value": value},
            ]
        )
    ]


def pointers(layers: Any, place: str) -> Iterator[str]:
    """Where each layer stands, at any depth."""
    for index, layer in enumerate(layers):
        yield f"{place}/{index}"
        yield from pointers(layer.get("layers", ()), f"{place}/{index}/layers")


def read_or_fault(read: Any) -> Any:
    try:
        piece = read()
        return piece, json.dumps(written(piece))
    except (DocumentFault, ValueError) as fault:
        return type(fault), str(fault), [str(each) for each in getattr(fault, "all", ())]


@pytest.mark.parametrize("name", DEMO)
def test_an_edited_document_is_read_as_the_whole_is(name: str) -> None:
    rng = random.Random(name)
    kept = refused = 0
    for turn in range(120):
        if turn % 8 == 0:
            document = json.loads(json.dumps(DEMO[name]))
            piece = read_piece(document)
        try:
            after, _ = patches.apply(document, random_patch(rng, document))
        except patches.PatchFault:
            continue
        read = read_or_fault(partial(read_edited, partial(json.dumps, after), after, document, piece))
        assert read == read_or_fault(partial(read_piece, after))
        if isinstance(read[0], type):
            refused += 1
        else:
            kept, document, piece = kept + 1, after, read[0]
    assert kept > 15 and refused > 15


def test_what_was_not_touched_is_the_same_object() -> None:
    document = DEMO["tide-loader"]
    piece = read_piece(document)
    patch = [{"op": "add", "path": "/states/1/changes/buoy-1/y", "value": 50}]
    after, _ = patches.apply(document, patch)
    edited = read_edited(partial(json.dumps, after), after, document, piece)
    assert edited.layers is piece.layers and edited.states[0] is piece.states[0]
    assert all(a is b for a, b in zip(edited.transitions, piece.transitions, strict=True))
    line = timeline_of(piece)
    later = timeline_of(edited, line)
    same = [name for name, leg in later.legs.items() if leg is line.legs[name]]
    assert len(same) == len(piece.transitions) - 2


def test_what_is_taken_over_moves_as_what_is_worked_out_anew() -> None:
    rng = random.Random(7)
    played = 0
    for name, original in DEMO.items():
        document = json.loads(json.dumps(original))
        line = timeline_in(document)
        for _ in range(30):
            try:
                after, _ = patches.apply(document, [value_set(rng, document)])
                piece = read_edited(partial(json.dumps, after), after, document, line.written)
                later = timeline_of(piece, line, LIBRARY)
            except Fault:
                continue
            anew = timeline_in(after)
            for key, leg in anew.legs.items():
                # In the order of painting, of which a leg that is taken over as it stands knows nothing.
                assert sorted(later.legs[key].moves, key=by_name) == sorted(leg.moves, key=by_name), name
            assert later.poses == anew.poses and later.run == anew.run
            document, line, played = after, later, played + 1
    assert played > 100


def by_name(move: Move) -> tuple[str, str]:
    return move.layer, move.property


def value_set(rng: random.Random, document: dict[str, Any]) -> dict[str, Any]:
    """A number of a state or of the base, an order, a row, or a delay."""
    state, layer = rng.choice([*enumerate(document["states"])])[0], rng.choice(document["layers"])["id"]
    index = rng.randrange(len(document["layers"]))
    number = rng.choice([0, 1, 12.5, 40])
    return rng.choice(
        [
            {"op": "add", "path": f"/states/{state}/changes/{layer}", "value": {"x": number, "opacity": 0.5}},
            {"op": "add", "path": f"/states/{state}/changes/{layer}", "value": {"width": number}},
            {"op": "remove", "path": f"/states/{state}/changes/{layer}"},
            {"op": "add", "path": f"/layers/{index}/y", "value": number},
            {"op": "move", "from": f"/layers/{index}", "path": "/layers/0"},
            {"op": "add", "path": f"/layers/{index}/layout", "value": rng.choice(["row", "none"])},
            {"op": "add", "path": "/transitions/0/lanes", "value": [{"layer": layer, "delay_ms": 30}]},
            {"op": "add", "path": "/transitions/0/style", "value": rng.choice(["cut", "tween", "cross-fade"])},
            {"op": "add", "path": "/blend", "value": rng.choice(["oklab", "srgb"])},
        ]
    )
