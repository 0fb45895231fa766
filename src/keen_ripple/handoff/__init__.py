"""What leaves for others: files of each format behind one small protocol."""

from keen_ripple.handoff.element import ELEMENT, REACT
from keen_ripple.handoff.format import Files, Format
from keen_ripple.handoff.html import HTML
from keen_ripple.handoff.live import LIVE
from keen_ripple.handoff.options import AS_IT_IS, Options
from keen_ripple.handoff.pictures import APNG, GIF, SPRITE, WEBM, WEBP
from keen_ripple.handoff.sheet import SHEET
from keen_ripple.handoff.tape_files import TAPE
from keen_ripple.handoff.tokens import TOKENS

FORMATS: dict[str, Format] = {
    form.name: form for form in (HTML, LIVE, ELEMENT, REACT, GIF, APNG, WEBP, WEBM, SPRITE, TOKENS, SHEET, TAPE)
}

__all__ = ["AS_IT_IS", "FORMATS", "Files", "Format", "Options"]
