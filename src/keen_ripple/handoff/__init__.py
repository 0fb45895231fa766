"""What leaves for others: files of each format behind one small protocol."""

from keen_ripple.handoff.animate import ANIMATE
from keen_ripple.handoff.css import CSS
from keen_ripple.handoff.element import ELEMENT, REACT
from keen_ripple.handoff.format import Files, Format
from keen_ripple.handoff.html import HTML
from keen_ripple.handoff.live import LIVE
from keen_ripple.handoff.lottie import LOTTIE
from keen_ripple.handoff.options import AS_IT_IS, Options
from keen_ripple.handoff.pictures import APNG, GIF, SPRITE, WEBM, WEBP
from keen_ripple.handoff.sheet import SHEET
from keen_ripple.handoff.still import STILL
from keen_ripple.handoff.svg import AS_SVG
from keen_ripple.handoff.tape_files import TAPE
from keen_ripple.handoff.tokens import TOKENS

_ALL: tuple[Format, ...] = (
    *(HTML, CSS, LIVE, ELEMENT, REACT, ANIMATE, AS_SVG, LOTTIE),
    *(GIF, APNG, WEBP, WEBM, SPRITE, STILL),
    *(TOKENS, SHEET, TAPE),
)
FORMATS = {form.name: form for form in _ALL}

__all__ = ["AS_IT_IS", "FORMATS", "Files", "Format", "Options"]
