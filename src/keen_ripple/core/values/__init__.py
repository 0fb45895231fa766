"""Values that are more than one number: paints, shadows, dashes, places on axes, and looks that fade."""

from keen_ripple.core.values.axis import AxisPlace
from keen_ripple.core.values.fade import Fade
from keen_ripple.core.values.model import Model
from keen_ripple.core.values.paint import ConicGradient, Gradient, LinearGradient, Paint, RadialGradient, Stop
from keen_ripple.core.values.shadow import Shadow

__all__ = [
    "AxisPlace",
    "ConicGradient",
    "Fade",
    "Gradient",
    "LinearGradient",
    "Model",
    "Paint",
    "RadialGradient",
    "Shadow",
    "Stop",
]
