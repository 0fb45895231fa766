"""What leaves for others: one file per format behind one small protocol."""

from keen_ripple.handoff.format import Format
from keen_ripple.handoff.html import HTML
from keen_ripple.handoff.live import LIVE

FORMATS: dict[str, Format] = {form.name: form for form in (HTML, LIVE)}

__all__ = ["FORMATS", "Format"]
