"""What each format offers."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from typing import Protocol

from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.report import Report


def in_file(lines: Iterable[str]) -> bytes:
    """Lines of text as a file has them."""
    return ("\n".join(lines) + "\n").encode()


Files = Mapping[str, bytes]
"""The files of a hand-off, by the endings of their names; mostly one."""


class Format(Protocol):
    @property
    def name(self) -> str:
        """What it is called on the command line and in addresses."""
        ...

    @property
    def endings(self) -> Mapping[str, str]:
        """Of the names of its files, each with its media type; the first is the one that is opened."""
        ...

    @property
    def takes(self) -> Collection[str]:
        """The options that it has."""
        ...

    def report(self, timeline: Timeline, options: Options) -> Report:
        """What the file would hold, and what would be left out of it or refused."""
        ...

    def files(self, timeline: Timeline, options: Options) -> Files:
        """All files, whole. The same timeline and options give the same bytes. Raises Fault for what is refused."""
        ...
