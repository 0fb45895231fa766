"""States between two others, and the path that a layer follows."""

from __future__ import annotations

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.measures.motion_path import motion_path
from keen_ripple.core.operations.inbetween import inbetweens
from keen_ripple.core.timeline import timeline_of
from support import DEMO, piece, timeline_in

GRADIENT = {"kind": "linear", "angle": 90, "stops": ({"at": 0, "colour": "#000"}, {"at": 1, "colour": "#fff"})}
CONIC = {**GRADIENT, "kind": "conic", "centre_x": 0.5, "centre_y": 0.5}
LAYERS = [
    {"kind": "rectangle", "id": "box", "name": "Box", "x": 10, "y": 20, "width": 40, "height": 30, "fill": "#000000"},
    {"kind": "path", "id": "sign", "name": "Sign", "x": 0, "y": 0, "width": 10, "height": 10, "view_width": 10,
     "view_height": 10, "path": "M0 0L10 0"},
    {"kind": "text", "id": "word", "name": "Word", "x": 0, "y": 0, "width": 50, "height": 20, "text": "Out"},
    {"kind": "group", "id": "row", "name": "Row", "x": 0, "y": 0, "width": 50, "height": 20},
]  # fmt: skip

# layer, property, value in A (None: the base), value in B, halfway
HALVES = [
    ("box", "x", None, 110, 60.0),
    ("box", "width", 0, 5, 2.5),
    ("box", "opacity", None, 0, 0.5),
    ("box", "visible", None, False, False),
    ("box", "fill", "#ff0000", "#ff000000", "#ff000080"),
    ("box", "fill", GRADIENT, CONIC, CONIC),
    ("box", "stroke_join", None, "round", "round"),
    ("box", "stroke_dash", [4, 2], [8, 6], [6.0, 4.0]),
    ("sign", "path", None, "M0 4L10 8", "M0 2 L10 4"),
    ("word", "text", None, "In", "In"),
    ("row", "layout", None, "row", "row"),
    ("row", "gap", None, 5, 2.5),
]  # fmt: skip


@pytest.mark.parametrize(("layer", "name", "a", "b", "half"), HALVES)
def test_halfway(layer: str, name: str, a: object, b: object, half: object) -> None:
    states = [
        {"id": "a", "name": "A", "changes": {} if a is None else {layer: {name: a}}},
        {"id": "b", "name": "B", "changes": {layer: {name: b}}},
    ]
    document = piece(LAYERS, states=states)
    [found] = inbetweens(read_piece(document), "a", "b", [0.5])
    assert found == {layer: {name: half}}
    document["states"].append({"id": "c", "name": "C", "changes": found})
    read_piece(document)


@pytest.mark.parametrize("name", list(DEMO))
def test_ends_are_the_states_and_all_between_can_be_played(name: str) -> None:
    document = DEMO[name]
    a, b = document["states"][0]["id"], document["states"][-1]["id"]
    shares = [0.0, 0.25, 1.0, -0.2, 1.3]
    poses = timeline_in(document).poses
    for looks in (found := inbetweens(read_piece(document), a, b, shares)):
        fresh = {"id": "fresh", "name": "Fresh", "changes": looks}
        timeline_in({**document, "states": [*document["states"], fresh]})
    for looks, state in ((found[0], a), (found[2], b)):
        added = {**document, "states": [*document["states"], {"id": "fresh", "name": "Fresh", "changes": looks}]}
        fresh = timeline_in(added).poses["fresh"]
        for layer, values in looks.items():
            for key, value in values.items():
                if isinstance(value, float):
                    assert fresh[layer][key] == pytest.approx(poses[state][layer][key], abs=1e-3)


def test_a_path_passes_where_the_layer_is() -> None:
    timeline = timeline_of(read_piece(piece()))
    points = motion_path(timeline, "box", 100.0)
    # 400 ms of travel and 100 ms of rest, from the middle of the box at both ends.
    assert points.shape == (6, 2)
    assert points[0].tolist() == [30.0, 35.0]
    assert points[4].tolist() == points[5].tolist() == [130.0, 35.0]
    assert all(points[i + 1][0] > points[i][0] for i in range(4))


@pytest.mark.parametrize(("layer", "every", "says"), [("boat", 100.0, "no layer 'boat'"), ("box", 0.01, "0.1 or more")])
def test_what_has_no_path(layer: str, every: float, says: str) -> None:
    with pytest.raises(Fault) as caught:
        motion_path(timeline_of(read_piece(piece())), layer, every)
    assert says in f"{caught.value.message} {caught.value.remedy}"


def test_an_unknown_state_is_said() -> None:
    with pytest.raises(Fault, match="no state 'z'"):
        inbetweens(read_piece(piece()), "a", "z", [0.5])
