"""Files of others as pieces."""

from keen_ripple.intake.svg import IntakeFault, Taken, take_svg

__all__ = ["IntakeFault", "Taken", "take_svg"]
