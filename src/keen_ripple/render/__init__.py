"""A pose drawn as pixels, as the page shows it. What draws is loaded when it is first asked for."""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING, Any

from keen_ripple.render.seam import measured_seam

if TYPE_CHECKING:
    from keen_ripple.render.draw import colour_at, draw_at, draw_each, draw_pose, png
    from keen_ripple.render.filmstrip import filmstrip
    from keen_ripple.render.text import outline_of_text

HOMES = {
    **dict.fromkeys(("colour_at", "draw_at", "draw_each", "draw_pose", "png"), "draw"),
    "filmstrip": "filmstrip",
    "outline_of_text": "text",
}


def __getattr__(name: str) -> Any:
    if name not in HOMES:
        raise AttributeError(name)
    found = getattr(import_module(f"keen_ripple.render.{HOMES[name]}"), name)
    # Kept: a module of the same name would stand in its place from now on.
    globals()[name] = found
    return found


__all__ = ["colour_at", "draw_at", "draw_each", "draw_pose", "filmstrip", "measured_seam", "outline_of_text", "png"]
