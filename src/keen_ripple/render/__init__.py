"""A pose drawn as pixels, as the page shows it."""

from keen_ripple.render.draw import draw_at, draw_pose, png
from keen_ripple.render.filmstrip import filmstrip

__all__ = ["draw_at", "draw_pose", "filmstrip", "png"]
