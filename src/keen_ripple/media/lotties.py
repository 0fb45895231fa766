"""Lottie files, drawn by rlottie."""

from __future__ import annotations

import contextlib
import json
import select
import struct
import subprocess
import sys
import time
import weakref
from itertools import pairwise
from pathlib import Path
from typing import Any

import numpy as np

from keen_ripple.core.values.lottie import LottieFault, read_lottie
from keen_ripple.media.reel import MediumFault, Pixels, Reel, check_size

PLAYER = Path(__file__).with_name("lottie_player.py")
FINE_PX = 640
"""Longer sides are not drawn finer than this, shorter ones at least so fine: what is drawn has no px of its own."""
PATIENCE_S = 20.0


class Drawn(Reel):
    """Vectors, drawn frame by frame at whole frames."""

    mime = "application/json"

    def __init__(self, data: bytes) -> None:
        super().__init__()
        try:
            self.lottie = read_lottie(data)
        except LottieFault as fault:
            raise MediumFault(fault.message, place=fault.place, value=fault.value, remedy=fault.remedy) from None
        self.width, self.height, self.length_ms = self.lottie.width, self.lottie.height, self.lottie.length_ms
        check_size(self.width, self.height, 1, self.length_ms)
        if self.lottie.apart:
            words = " and ".join(self.lottie.apart)
            self.notes = (f"it has {words}, which may look otherwise where it is drawn than where it plays",)
        factor = max(FINE_PX / max(self.width, self.height), 1.0)
        self._size = (round(self.width * factor), round(self.height * factor))
        self._data = json.dumps(as_rlottie_reads(json.loads(data)), separators=(",", ":")).encode()
        self._process: subprocess.Popen[bytes] | None = None
        self._frame = -1

    def _at(self, t_ms: float) -> Pixels:
        frame = self.lottie.frame_at(t_ms)
        if frame != self._frame:
            self._shown = self._drawn(frame)
            self._frame = frame
        return self._shown

    def _drawn(self, frame: int) -> Pixels:
        width, height = self._size
        process = self._started()
        try:
            assert process.stdin is not None
            process.stdin.write(struct.pack("<III", frame, width, height))
            process.stdin.flush()
            data = _read(process, width * height * 4)
        except OSError:
            data = b""
        if len(data) < width * height * 4:
            _end(process)
            self._process = None
            raise MediumFault(f"Frame {frame} of the file cannot be drawn.", remedy="Export it as Lottie again.")
        return _straight(np.frombuffer(data, np.uint8).reshape(height, width, 4))

    def _started(self) -> subprocess.Popen[bytes]:
        if self._process is None:
            command = [sys.executable, "-I", str(PLAYER)]
            self._process = subprocess.Popen(
                command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL
            )
            weakref.finalize(self, _end, self._process)
            assert self._process.stdin is not None
            with contextlib.suppress(OSError):
                self._process.stdin.write(struct.pack("<I", len(self._data)) + self._data)
        return self._process


def as_rlottie_reads(root: Any) -> Any:
    """The file in an older way to write the same, for a player that has not followed the format."""
    left = [root]
    while left:
        part = left.pop()
        if isinstance(part, dict):
            _write_ends(part)
            _write_masks(part.get("masksProperties"))
        left += [each for each in (part.values() if isinstance(part, dict) else part) if isinstance(each, dict | list)]
    return root


def _write_ends(moving: dict[str, Any]) -> None:
    """Since version 5.5 of the format a keyframe ends where the next one starts, and need not say so; the last one used
    to say its time alone."""
    keys = moving.get("k")
    if not isinstance(keys, list) or not keys or not all(isinstance(key, dict) and "t" in key for key in keys):
        return
    if len(keys) > 1 and keys[-2].get("h") and "s" in keys[-1]:
        # After one that holds, the player shows the last only until another comes.
        keys.append({"t": keys[-1]["t"] + 1})
    for key, following in pairwise(keys):
        if "e" not in key and "s" in key:
            key["e"] = following.get("s", key["s"])
    if len(keys) > 1:
        keys[-1] = {"t": keys[-1]["t"]}
    elif "s" in keys[0]:
        start = keys[0]["s"]
        is_outline = isinstance(start, list) and len(start) == 1
        moving |= {"a": 0, "k": start[0] if is_outline else start}


def _write_masks(masks: Any) -> None:
    """Around an outline is the same as all but what is inside it."""
    first = masks[0] if isinstance(masks, list) and masks else None
    if isinstance(first, dict) and first.get("mode") == "a" and first.get("inv"):
        first |= {"mode": "s", "inv": False}


def _read(process: subprocess.Popen[bytes], size: int) -> bytes:
    """So many bytes; fewer where the player falls or takes too long."""
    assert process.stdout is not None
    found, until = bytearray(), time.monotonic() + PATIENCE_S
    while len(found) < size:
        ready, _, _ = select.select([process.stdout], [], [], max(until - time.monotonic(), 0.0))
        part = process.stdout.read1(size - len(found)) if ready else b""  # type: ignore[attr-defined]
        if not part:
            break
        found += part
    return bytes(found)


def _end(process: subprocess.Popen[bytes]) -> None:
    for pipe in (process.stdin, process.stdout):
        with contextlib.suppress(OSError):
            if pipe is not None:
                pipe.close()
    process.kill()
    process.wait()


def _straight(bgra: Pixels) -> Pixels:
    """RGBA, no longer premultiplied."""
    alpha = bgra[..., 3:].astype(np.uint16)
    colours = bgra[..., 2::-1].astype(np.uint16)
    whole = np.where(alpha > 0, np.minimum((colours * 255 + alpha // 2) // np.maximum(alpha, 1), 255), 0)
    return np.concatenate((whole, alpha), axis=-1).astype(np.uint8)
