"""How two values of a property become one in between."""

from keen_ripple.core.blends.blend import Blend
from keen_ripple.core.blends.colours import COLOUR_BLENDS
from keen_ripple.core.blends.discrete import DISCRETE
from keen_ripple.core.blends.linear import LINEAR

BLENDS: dict[str, Blend] = {"linear": LINEAR, "discrete": DISCRETE, **COLOUR_BLENDS}

__all__ = ["BLENDS", "Blend"]
