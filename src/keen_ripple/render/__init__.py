"""A pose drawn as pixels, as the page shows it."""

from keen_ripple.render.draw import colour_at, draw_at, draw_pose, png
from keen_ripple.render.filmstrip import filmstrip
from keen_ripple.render.seam import measured_seam

__all__ = ["colour_at", "draw_at", "draw_pose", "filmstrip", "measured_seam", "png"]
