"""The fonts of a piece as files: which of them show a text, and what of them a file for others needs."""

from keen_ripple.fonts.cut import cut_down
from keen_ripple.fonts.faces import Face, chosen, faces_of, lacking
from keen_ripple.fonts.take import take_font

__all__ = ["Face", "chosen", "cut_down", "faces_of", "lacking", "take_font"]
