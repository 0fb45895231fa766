"""Classes of what is handed over are called after the layers."""

from __future__ import annotations

import itertools
import re
from typing import Any

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS
from keen_ripple.handoff.names import class_names, css_name
from support import DEMO, piece, timeline_in

BOX = {"kind": "rectangle", "x": 0, "y": 0, "width": 9, "height": 9}


def named(*names: str) -> dict[str, Any]:
    layers = [{**BOX, "id": f"l{n}", "name": name} for n, name in enumerate(names)]
    return piece(layers, states=[{"id": "a", "name": "A"}], transitions=[])


def test_classes_follow_the_names_and_are_each_used_once() -> None:
    names = ("Fog, high", "Fog high", "fog-high-2", "Déjà  vu!", "霧", "9 lives", "Piece", "x" * 90)
    classes = class_names(read_piece(named(*names)).layers)
    assert list(classes.values()) == [
        "fog-high", "fog-high-2", "fog-high-2-2", "deja-vu", "l4", "layer-9-lives", "piece-2", "x" * 48
    ]  # fmt: skip


def test_rules_and_elements_of_a_page_use_them() -> None:
    page = FORMATS["html"].write(timeline_of(read_piece(named("Card", "Card")))).decode()
    assert '<div class="card" data-layer="l0">' in page and '<div class="card-2" data-layer="l1">' in page
    assert re.search(r"^ +\.card \{$", page, re.MULTILINE) and ".card-2 {" in page


def test_every_layer_of_every_demo_piece_has_its_own_class() -> None:
    for document in DEMO.values():
        layers = timeline_in(document).piece.layers
        classes = class_names(layers)
        assert len(set(classes.values())) == len(classes)
        assert all(re.fullmatch(r"[a-z][a-z0-9-]*", name) for name in classes.values())
    # What lies in a copy is called after the copy.
    crossing = class_names(timeline_in(DEMO["crossing-screen"]).piece.layers)
    assert all(
        name.startswith(f"{crossing[layer.rpartition('/')[0]]}-") for layer, name in crossing.items() if "/" in layer
    )


def test_names_that_a_page_shares_do_not_meet() -> None:
    """Whatever ids the pieces of a page and their layers have."""
    ids = ("a", "a-b", "b", "a/b", "b-lead-in", "lead-in")
    names = [css_name(*two) for two in itertools.product(ids, repeat=2) if "/" not in two[0]]
    names += [f"{name}_{added}" for name in names for added in ("lead-in", "b")]
    names += [css_name(name, "b") for name in names]
    assert len(set(names)) == len(names)
