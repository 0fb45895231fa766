"""Hand-offs played by others, and how far they are from what the core computes."""

from keen_ripple.measured.measure import measure, noted
from keen_ripple.measured.result import Measured, NotMeasured

__all__ = ["Measured", "NotMeasured", "measure", "noted"]
