"""What is typed on the command line, as values: each with its range."""

from __future__ import annotations

import argparse


def moment(text: str) -> float:
    found = moments(text)
    if len(found) > 1:
        raise argparse.ArgumentTypeError(f"{text!r} is more than one moment")
    return found[0]


def number(text: str) -> float:
    try:
        return float(text)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not a number") from None


def scale(text: str) -> float:
    found = number(text)
    if not 0.01 <= found <= 64.0:
        raise argparse.ArgumentTypeError(f"{text!r} is not a scale from 0.01 to 64")
    return found


def moments(text: str) -> list[float]:
    try:
        found = [float(part) for part in text.split(",")]
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not a list of milliseconds such as 0,250,1000") from None
    if not all(0.0 <= t_ms < 1e9 for t_ms in found):
        raise argparse.ArgumentTypeError(f"{text!r} has a moment outside 0 to 1000000000 ms")
    return found


def rate(text: str) -> float:
    found = number(text)
    if not 0.0 < found <= 1000.0:
        raise argparse.ArgumentTypeError(f"{text!r} is not a frame rate above 0, up to 1000")
    return found


def port(text: str) -> int:
    if not (text.isdecimal() and int(text) < 65536):
        raise argparse.ArgumentTypeError(f"{text!r} is not a port from 0 to 65535")
    return int(text)
