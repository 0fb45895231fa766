"""A tape as few bytes. What moves along one curve shares its shape; a track adds where it starts and how far it goes.

    "KRT1", then deflated (RFC 1950), little-endian:
        uint32   length of the head
        JSON     head: `keys` [layer, property], `legs` [name, number of tracks], `forms`, and the lengths of
                 `times`, `shapes` and `loose`
        int32    for each track: its key, its times, its number of columns, its form (−1 for none)
        float32  for each column: its origin;  float32: its scale;  int32: its shape, or −1 for loose values
        int32    all times, in µs, each as the difference from the one before in its list
        int16    all shapes, as differences in the same way: first all low bytes, then all high ones
        float32  loose values

A value is origin + scale · shape / 20000. Loose are columns whose steps would be too coarse for their tolerance.
"""

from __future__ import annotations

import json
import struct
import zlib
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.tape import TapeTrack
from keen_ripple.core.properties import BY_NAME

MAGIC = b"KRT1"
# Shapes have 20000 steps from start to end, and room for overshoot. They are kept where half a step is at most this
# share of the tolerance.
STEPS = 20_000
COARSEST = 0.5

Tapes = Mapping[str, Sequence[TapeTrack]]
Array = np.ndarray[Any, Any]


class CompactFault(Fault):
    """Bytes that are no compact tape."""


def pack(tapes: Tapes) -> bytes:
    """The tapes of legs, by name. The same tapes give the same bytes."""
    parts = _Parts()
    legs = []
    for name, tracks in tapes.items():
        legs.append([name, len(tracks)])
        for track in tracks:
            parts.add(track)
    head = json.dumps({"legs": legs, **parts.head()}, separators=(",", ":")).encode()
    return MAGIC + zlib.compress(struct.pack("<I", len(head)) + head + parts.body(), 9)


class _Parts:
    """What is shared is kept once, by its bytes; the rest is listed."""

    def __init__(self) -> None:
        self.keys: dict[tuple[str, str], int] = {}
        self.forms: dict[str, int] = {}
        self.times: dict[bytes, int] = {}
        self.shapes: dict[bytes, int] = {}
        self.loose: list[Floats] = []
        self.tracks: list[tuple[int, int, int, int]] = []
        self.columns: list[tuple[float, float, int]] = []

    def add(self, track: TapeTrack) -> None:
        stamps = np.diff(np.round(track.times_ms * 1000.0).astype("<i4"), prepend=np.int32(0)).tobytes()
        form = -1 if track.form is None else self.forms.setdefault(json.dumps(track.form), len(self.forms))
        key = self.keys.setdefault((track.layer, track.property), len(self.keys))
        width = track.rows.shape[1]
        self.tracks.append((key, self.times.setdefault(stamps, len(self.times)), width, form))
        for column, tolerance in zip(track.rows.T, _tolerances(track), strict=True):
            self._column(column, tolerance)

    def _column(self, column: Floats, tolerance: float) -> None:
        start, scale = float(column[0]), float(column[-1] - column[0])
        spread = float(column.max() - column.min())
        if abs(scale) < 0.7 * spread:
            scale = spread
        if scale == 0.0:
            shape = np.zeros(len(column), "<i2")
        elif abs(scale) / STEPS / 2.0 > tolerance * COARSEST:
            self.loose.append(column)
            self.columns.append((0.0, 0.0, -1))
            return
        else:
            shape = np.diff(np.round((column - start) * (STEPS / scale)), prepend=0.0).astype("<i2")
        self.columns.append((start, scale, self.shapes.setdefault(shape.tobytes(), len(self.shapes))))

    def head(self) -> dict[str, Any]:
        return {
            "keys": list(self.keys),
            "forms": [json.loads(form) for form in self.forms],
            "times": [len(stamps) // 4 for stamps in self.times],
            "shapes": [len(shape) // 2 for shape in self.shapes],
            "loose": sum(map(len, self.loose)),
        }

    def body(self) -> bytes:
        columns = np.array(self.columns, dtype=np.float64).reshape(-1, 3).T
        shapes = np.frombuffer(b"".join(self.shapes), np.uint8).reshape(-1, 2).T
        loose = np.concatenate(self.loose) if self.loose else np.empty(0)
        parts = (
            np.array(self.tracks, dtype="<i4").reshape(-1, 4).T,
            columns[:2].astype("<f4"),
            columns[2].astype("<i4"),
            np.frombuffer(b"".join(self.times), "<i4"),
            shapes,
            loose.astype("<f4"),
        )
        return b"".join(np.ascontiguousarray(part).tobytes() for part in parts)


def _tolerances(track: TapeTrack) -> list[float]:
    """How far each column may be off; of shares and structures as little as the finest of their parts needs."""
    width = track.rows.shape[1]
    if track.form is None:
        return [BY_NAME[track.property].tolerance] if width == 1 else [1.0, 1.0, 1.0, 1.0 / 255.0]
    return [0.0 if track.form["kind"] in ("path", "inverse") else 0.002] * width


def unpack(data: bytes) -> dict[str, tuple[TapeTrack, ...]]:
    """The tapes again, values within half a step. Raises CompactFault."""
    try:
        if not data.startswith(MAGIC):
            raise ValueError("it does not begin with KRT1")
        return _unpacked(zlib.decompress(data[len(MAGIC) :]))
    except (ValueError, KeyError, TypeError, IndexError, struct.error, zlib.error) as error:
        raise CompactFault(f"This is no compact tape: {error}.", remedy="Make it anew from the piece.") from None


class _Reader:
    def __init__(self, body: bytes) -> None:
        (length,) = struct.unpack_from("<I", body)
        self.head = json.loads(body[4 : 4 + length])
        self._body, self._at = body, 4 + length

    def take(self, kind: str, count: int) -> Array:
        values = np.frombuffer(self._body, kind, count, self._at)
        self._at += values.nbytes
        return values


def _unpacked(body: bytes) -> dict[str, tuple[TapeTrack, ...]]:
    reader = _Reader(body)
    head = reader.head
    tracks = reader.take("<i4", 4 * sum(count for _, count in head["legs"])).reshape(4, -1).T.tolist()
    width = sum(track[2] for track in tracks)
    origins, scales = reader.take("<f4", 2 * width).reshape(2, -1).astype(np.float64)
    indices = reader.take("<i4", width)
    times = _lists(reader.take("<i4", sum(head["times"])), head["times"], 1000.0)
    planes = reader.take("u1", 2 * sum(head["shapes"])).reshape(2, -1).T
    shapes = _lists(np.ascontiguousarray(planes).view("<i2").ravel(), head["shapes"], float(STEPS))
    loose, used = reader.take("<f4", head["loose"]).astype(np.float64), 0
    columns = iter(zip(origins, scales, indices, strict=True))
    found: list[TapeTrack] = []
    for key, stamps, count, form in tracks:
        rows = []
        for origin, scale, index in (next(columns) for _ in range(count)):
            knots = len(times[stamps])
            if index < 0:
                rows.append(loose[used : used + knots])
                used += knots
            else:
                rows.append(origin + scale * shapes[index])
        layer, name = head["keys"][key]
        found.append(
            TapeTrack(layer, name, times[stamps], np.column_stack(rows), head["forms"][form] if form >= 0 else None)
        )
    ends = np.cumsum([count for _, count in head["legs"]]).tolist()
    return {name: tuple(found[end - count : end]) for (name, count), end in zip(head["legs"], ends, strict=True)}


def _lists(differences: Array, lengths: Sequence[int], unit: float) -> list[Floats]:
    parts = np.split(differences, np.cumsum(lengths)[:-1]) if lengths else []
    return [np.cumsum(part, dtype=np.float64) / unit for part in parts]
