"""What each format offers."""

from __future__ import annotations

from typing import Protocol

from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.report import Report


class Format(Protocol):
    @property
    def name(self) -> str:
        """What it is called on the command line and in addresses."""
        ...

    @property
    def ending(self) -> str:
        """Of the names of its files."""
        ...

    @property
    def media_type(self) -> str: ...

    def report(self, timeline: Timeline) -> Report:
        """What the file would hold, and what would be left out of it or refused."""
        ...

    def write(self, timeline: Timeline) -> bytes:
        """The whole file. The same timeline gives the same bytes."""
        ...
