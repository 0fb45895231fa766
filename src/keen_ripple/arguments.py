"""What is typed on the command line, as values: each with its range."""

from __future__ import annotations

import argparse
from pathlib import Path


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


def at_once(text: str) -> int:
    if not text.isdecimal() or not 1 <= int(text) <= 64:
        raise argparse.ArgumentTypeError(f"{text!r} is not a number from 1 to 64")
    return int(text)


def name(options: argparse.Namespace) -> dict[str, str]:
    """Of which piece a line tells, where several are read."""
    return {"piece": str(options.pieces[0])} if options.several else {}


def of_serving(command: argparse.ArgumentParser) -> None:
    """Where the application is, and for whom."""
    command.add_argument("--db", type=Path, default=Path("quay-nine.sqlite"), metavar="FILE")
    command.add_argument("--port", type=port, default=8090, metavar="N", help="0 takes any free port")
    command.add_argument("--origin", metavar="https://NAME", help="for others too, behind a proxy; they sign in")
    command.add_argument("--secret-file", type=Path, metavar="FILE", help="with the secret that signs them in")
    command.add_argument("--user-header", metavar="NAME", help="in which the proxy says who they are, instead")


OF_PICTURES = ("fps", "scale", "ground", "dither", "at")


def of_pictures(command: argparse.ArgumentParser) -> None:
    """What may be chosen of pictures; other formats refuse it in words."""
    command.add_argument("--fps", type=rate, metavar="N", help="pictures per second")
    command.add_argument("--scale", type=scale, default=1.0, metavar="N", help="px for each px of the piece")
    command.add_argument("--ground", metavar="CSS-COLOUR", help="in place of the piece's own; none for none")
    command.add_argument("--at", type=moment, metavar="MS", help="the moment of a still picture")
    command.add_argument("--dither", action="store_true", help="mix the few colours of a GIF, so that more seem there")


def acted(command: argparse.ArgumentParser) -> None:
    """For commands on what plays: of a rehearsal in place of the unattended run."""
    who = command.add_mutually_exclusive_group()
    who.add_argument("--events", type=Path, metavar="EVENTS.json", help="of the rehearsal with these events")
    who.add_argument("--every-way", action="store_true", help="of a rehearsal that goes every way once")
    command.add_argument("--until", type=moment, metavar="MS", help="how long the rehearsal is")


def port(text: str) -> int:
    if not (text.isdecimal() and int(text) < 65536):
        raise argparse.ArgumentTypeError(f"{text!r} is not a port from 0 to 65535")
    return int(text)
