"""Curves of progress: CSS easing functions and springs, as callables on a float or an array."""

from keen_ripple.core.curves.bezier import CubicBezier
from keen_ripple.core.curves.easing import Easing
from keen_ripple.core.curves.linear import Linear
from keen_ripple.core.curves.named import Named
from keen_ripple.core.curves.parse import parse_easing
from keen_ripple.core.curves.settle import Settle
from keen_ripple.core.curves.spring import Spring
from keen_ripple.core.curves.steady import STEADY, Steady
from keen_ripple.core.curves.steps import Steps

__all__ = ["STEADY", "CubicBezier", "Easing", "Linear", "Named", "Settle", "Spring", "Steady", "Steps", "parse_easing"]
