"""Draws frames of a Lottie file, in a process of its own: a file that makes it fall takes nothing else with it.

Reads the file (its length in four bytes, then itself), then as often as wanted a frame, a width and a height (four
bytes each); writes BGRA, premultiplied, row by row. It imports nothing of ours, so that it starts at once.
"""

from __future__ import annotations

import contextlib
import resource
import struct
import sys

from rlottie_python.rlottie_wrapper import LottieAnimation

MOST_BYTES = 1_000_000_000


def main() -> None:
    # Not every system knows this limit.
    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_AS, (MOST_BYTES, MOST_BYTES))
    read, write = sys.stdin.buffer, sys.stdout.buffer
    [size] = struct.unpack("<I", read.read(4))
    drawing = LottieAnimation.from_data(read.read(size).decode())
    while len(wanted := read.read(12)) == 12:
        frame, width, height = struct.unpack("<III", wanted)
        write.write(drawing.lottie_animation_render(frame_num=frame, width=width, height=height))
        write.flush()


if __name__ == "__main__":
    main()
