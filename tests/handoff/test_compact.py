"""Tapes as few bytes, and back."""

from __future__ import annotations

import json
import zlib

import numpy as np
import pytest

from keen_ripple.core.flow.tape import TapeTrack
from keen_ripple.core.properties import BY_NAME
from keen_ripple.handoff.compact import MAGIC, CompactFault, Tapes, pack, unpack
from support import DEMO, piece, timeline_in, way


def tapes_of(document: dict) -> Tapes:
    return {name: leg.tape for name, leg in timeline_in(document).legs.items()}


@pytest.mark.parametrize("name", DEMO)
def test_what_was_packed_comes_back_within_half_of_the_tolerance(name: str) -> None:
    tapes = tapes_of(DEMO[name])
    found = unpack(pack(tapes))
    assert list(found) == list(tapes)
    for leg, tracks in tapes.items():
        assert [(t.layer, t.property) for t in found[leg]] == [(t.layer, t.property) for t in tracks]
        for one, other in zip(found[leg], tracks, strict=True):
            assert json.dumps(one.form) == json.dumps(other.form)
            assert np.max(np.abs(one.times_ms - other.times_ms)) <= 0.0005
            tolerance = BY_NAME[other.property].tolerance if other.form is None else 0.002
            assert np.max(np.abs(one.rows - other.rows)) <= tolerance / 2


def test_the_same_tapes_give_the_same_bytes_and_far_fewer() -> None:
    tapes = tapes_of(DEMO["tide-loader"])
    assert pack(tapes) == pack(tapes_of(DEMO["tide-loader"]))
    floats = sum(track.times_ms.size + track.rows.size for tracks in tapes.values() for track in tracks) * 4
    assert len(pack(tapes)) < floats * 0.7


def test_what_has_no_scale_or_a_huge_one_is_kept() -> None:
    still = TapeTrack("box", "x", np.array([0.0, 0.0]), np.array([[7.5], [7.5]]))
    # Steps of a 20000th would be 500 px.
    far = TapeTrack("box", "y", np.array([0.0, 1.5, 900.0]), np.array([[0.0], [12.25], [1e7]]))
    there_and_back = TapeTrack("box", "width", np.array([0.0, 10.0, 20.0]), np.array([[5.0], [90.0], [5.0]]))
    found = unpack(pack({"leg": [still, far, there_and_back], "empty": []}))
    assert found["empty"] == ()
    for one, other in zip(found["leg"], (still, far, there_and_back), strict=True):
        assert one.times_ms.tolist() == other.times_ms.tolist()
        assert one.rows == pytest.approx(other.rows, abs=0.01)


def test_jumps_keep_both_their_sides() -> None:
    ways = [
        way("a", "b", {"kind": "curve", "duration_ms": 100, "easing": "steps(3)"}),
        way("b", "a", {"kind": "curve", "duration_ms": 0}, hold_ms=9),
    ]
    tapes = tapes_of(piece(transitions=ways))
    found = unpack(pack(tapes))["a-to-b"][0]
    assert found.times_ms == pytest.approx(tapes["a-to-b"][0].times_ms, abs=0.0005)
    assert found.rows == pytest.approx(tapes["a-to-b"][0].rows, abs=0.025)
    assert np.array_equal(np.diff(found.times_ms) == 0.0, np.diff(tapes["a-to-b"][0].times_ms) == 0.0)


PACKED = pack(tapes_of(DEMO["tide-loader"]))


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"KRT",
        b"KRT2" + PACKED[4:],
        PACKED[:40],
        MAGIC + zlib.compress(b"\x05\0\0\0{}"),
        MAGIC + zlib.compress(zlib.decompress(PACKED[4:])[:-9]),
    ],
    ids=["nothing", "too short", "another version", "cut off", "no head", "no end"],
)
def test_other_bytes_are_refused(data: bytes) -> None:
    with pytest.raises(CompactFault, match="no compact tape") as caught:
        unpack(data)
    assert caught.value.remedy
