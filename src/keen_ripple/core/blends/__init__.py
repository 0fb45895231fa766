"""How two values of a property become one in between."""

from keen_ripple.core.blends.blend import Between, Blend
from keen_ripple.core.blends.colours import SPACES, ColourBlend
from keen_ripple.core.blends.discrete import DISCRETE, FADE, Switch
from keen_ripple.core.blends.linear import LINEAR, VISIBLE
from keen_ripple.core.blends.lists import AXES, DASH, ShadowsBlend
from keen_ripple.core.blends.outlines import OUTLINE
from keen_ripple.core.blends.paints import PaintBlend
from keen_ripple.core.blends.perspective import PERSPECTIVE

PLAIN: dict[str, Blend] = {
    "linear": LINEAR,
    "visible": VISIBLE,
    "discrete": DISCRETE,
    "fade": FADE,
    "dash": DASH,
    "axes": AXES,
    "perspective": PERSPECTIVE,
    "path": OUTLINE,
}
COLOURED: dict[str, dict[str, Blend]] = {
    space: {"colour": ColourBlend(rules), "paint": PaintBlend(rules), "shadows": ShadowsBlend(rules)}
    for space, rules in SPACES.items()
}


def blend_named(name: str, space: str) -> Blend:
    """The blend of that name; colours are mixed in `space`, `oklab` or `srgb`."""
    return PLAIN.get(name) or COLOURED[space][name]


__all__ = ["Between", "Blend", "Switch", "blend_named"]
