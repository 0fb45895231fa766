"""Laws of copies: what is shared among them, and kept from one revision to the next, changes nothing."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from strategies import looks, pieces, timings, whole_ms
from test_placing_laws import around, shares

from keen_ripple.core.document import Piece, read_piece, written
from keen_ripple.core.flow.legs import tapes_of
from keen_ripple.core.operations.plain_layers import with_plain_layers
from keen_ripple.core.timeline import Timeline, sample, timeline_of

TINT = [{"id": "tint", "name": "Tint", "kind": "colour", "bind": [{"layer": "mark", "property": "fill"}]}]
Edit = tuple[str | None, str, dict[str, Any]]
small = st.fixed_dictionaries({}, optional={"x": st.floats(0, 90), "opacity": st.floats(0, 1), "fill": st.just("red")})
edits = st.tuples(
    st.sampled_from((None, "s0", "s1")), st.one_of(st.tuples(st.just("box"), looks), st.tuples(st.just("mark"), small))
).map(lambda edit: (edit[0], *edit[1]))


def edited(document: dict[str, Any], edit: Edit, prefix: str = "") -> dict[str, Any]:
    """With other values of one layer, in its base or in a state."""
    state, layer, look = edit

    def rebased(layers: list[dict[str, Any]]) -> list[dict[str, Any]]:
        own = [{**each, "layers": rebased(each["layers"])} if "layers" in each else each for each in layers]
        return [{**each, **look} if each["id"] == prefix + layer else each for each in own]

    if state is None:
        return {**document, "layers": rebased(document["layers"])}
    changed = [
        {**each, "changes": {**each["changes"], prefix + layer: {**each["changes"].get(prefix + layer, {}), **look}}}
        if each["id"] == state
        else each
        for each in document["states"]
    ]
    return {**document, "states": changed}


def tapes(timeline: Timeline, placement: str, after: str = "/") -> Iterator[tuple[tuple[Any, ...], Any, Any]]:
    """Of what lies in a copy: which leg, layer and property, with its form, times and rows."""
    for name, tape in tapes_of(timeline.legs).items():
        for track in tape:
            if track.layer.startswith(placement + after):
                inner = track.layer.removeprefix(placement + after)
                yield (name, inner, track.property, repr(track.form)), track.times_ms, track.rows


def same(some: Any, others: Any) -> None:
    """Times may be off by what shifting them rounds."""
    one, other = ({key: rest for key, *rest in tracks} for tracks in (some, others))
    assert one.keys() == other.keys()
    for key, (times, rows) in one.items():
        np.testing.assert_allclose(times, other[key][0], atol=1e-9, err_msg=str(key))
        np.testing.assert_allclose(rows, other[key][1], atol=1e-9, err_msg=str(key))


@given(pieces(), edits, whole_ms)
def test_an_edit_of_the_original_is_the_same_edit_in_every_flat_copy(
    document: dict[str, Any], edit: Edit, delay_ms: int
) -> None:
    assume(len(document["states"]) > 1)
    around_both, names = around(document, 2), ("copy-0", "copy-1")
    for own in around_both["transitions"]:
        if own.get("style") != "cross-fade":
            own["lanes"] = [{"layer": "copy-0", "property": "state", "delay_ms": delay_ms}]
            own["staggers"] = [{"layers": ["copy-1", "copy-0"], "each_ms": 30}]
    outer = read_piece(around_both)
    library = {document["id"]: read_piece(document)}
    plain: Any = outer
    for name in names:
        plain = read_piece(written(with_plain_layers(plain, name, library)))
    flat = written(plain)
    for name in names:
        flat = edited(flat, edit, f"{name}-")
    held = timeline_of(outer, timeline_of(outer, library=library), {document["id"]: read_piece(edited(document, edit))})
    alone = timeline_of(read_piece(flat))
    assert held.run == alone.run
    for name in names:
        same(tapes(held, name), tapes(alone, name, "-"))


def varied(document: dict[str, Any], delay_ms: int, timing: dict[str, Any], nested: bool) -> tuple[Piece, Any]:
    """Copies that stand alike, and some that do not: with a value, a size, a delay or a timing of their own; and the
    pieces that they may show, in another piece or by themselves."""
    outer = around(document, 6)
    outer["layers"][1]["values"] = {"tint": "#123456"}
    outer["layers"][2]["width"] = document["width"] + 30
    outer["states"][-1]["changes"]["copy-3"] |= {"values": {"tint": "#654321"}, "width": document["width"] / 2}
    for own in outer["transitions"]:
        if own.get("style") != "cross-fade":
            lane = {"layer": "copy-4", "property": "state", "delay_ms": delay_ms}
            own["lanes"] = [lane, {**lane, "layer": "copy-5", "timing": timing}]
    document = {**document, "parameters": TINT}
    if not nested:
        return read_piece(outer), lambda original: {document["id"]: read_piece({**original, "parameters": TINT})}
    # The copies are of a piece that holds two copies of the document.
    middle = {**around(document, 2), "id": "middle", "width": document["width"], "height": document["height"]}
    for layer in outer["layers"]:
        layer |= {"piece": "middle"}
    outer["layers"][1].pop("values")
    outer["states"][-1]["changes"]["copy-3"].pop("values")
    return read_piece(outer), lambda original: {
        document["id"]: read_piece({**original, "parameters": TINT}),
        "middle": read_piece(middle),
    }


@settings(max_examples=50)
@given(pieces(), st.lists(st.tuples(edits, whole_ms), min_size=1, max_size=3), timings, st.booleans(), shares)
def test_after_an_edit_all_is_as_if_it_were_worked_out_anew(
    document: dict[str, Any], changes: list[tuple[Edit, int]], timing: dict[str, Any], nested: bool, moments: Any
) -> None:
    """Of the original, and of when the piece around it leads its copies."""
    outer, library = varied(document, 0, timing, nested)
    timeline = timeline_of(outer, library=library(document))
    for edit, delay_ms in changes:
        tapes_of(timeline.legs)
        document = edited(document, edit)
        outer, library = varied(document, delay_ms, timing, nested)
        timeline = timeline_of(outer, timeline, library(document))
        anew = timeline_of(outer, library=library(document))
        assert (timeline.run, timeline.poses, timeline.finer) == (anew.run, anew.poses, anew.finer)
        times = [share * anew.run.total_ms for share in moments]
        assert sample(timeline, times) == sample(anew, times)
        same(tapes(timeline, "copy-", ""), tapes(anew, "copy-", ""))


@settings(max_examples=50)
@given(pieces(), whole_ms, timings, st.booleans())
def test_a_copy_moves_among_others_as_it_does_alone(
    document: dict[str, Any], delay_ms: int, timing: dict[str, Any], nested: bool
) -> None:
    outer, library = varied(document, delay_ms, timing, nested)
    together = timeline_of(outer, library=library(document))
    for name in (layer.id for layer in outer.layers):
        single: Any = written(outer)
        single["layers"] = [layer for layer in single["layers"] if layer["id"] == name]
        for state in single["states"]:
            state["changes"] = {key: look for key, look in state["changes"].items() if key == name}
        for own in single["transitions"]:
            own["lanes"] = [lane for lane in own.get("lanes", ()) if lane["layer"] == name]
        alone = timeline_of(read_piece(single), library=library(document))
        same(tapes(together, name), tapes(alone, name))
