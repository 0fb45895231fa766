"""What leaves for others: one file per format behind one small protocol."""

from keen_ripple.handoff.format import Format
from keen_ripple.handoff.html import HTML

FORMATS: dict[str, Format] = {HTML.name: HTML}

__all__ = ["FORMATS", "Format"]
