"""The size of a drawing, and the matrix from its own units to px."""

from __future__ import annotations

import math
import re
from xml.etree.ElementTree import Element

from svgelements import Matrix

from keen_ripple.intake.opened import IntakeFault
from keen_ripple.intake.outlines import ShapeFault, length

LARGEST_SIDE = 8192.0
NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
# What browsers take where nothing is said.
UNSAID = (300.0, 150.0)


def stage(root: Element) -> tuple[float, float, Matrix]:
    """Width, height, and the matrix from the file's units to the px of the piece. Raises IntakeFault."""
    view = _numbers(root.get("viewBox", ""))
    sides = [(root.get(side) or "").strip() for side in ("width", "height")]
    defaults = view_of(root)
    width, height = (_side(text, default) for text, default in zip(sides, defaults, strict=True))
    if len(view) != 4:
        view = [0.0, 0.0, width, height]
    if min(width, height, view[2], view[3]) <= 0.0 or not all(map(math.isfinite, (width, height, *view))):
        raise IntakeFault("The drawing has no size.", remedy="Give it a width, a height and a viewBox above 0.")
    scale = min(max(1.0, 1.0 / min(width, height)), LARGEST_SIDE / max(width, height))
    width, height = max(width * scale, 1.0), max(height * scale, 1.0)
    across, down = width / view[2], height / view[3]
    if not root.get("preserveAspectRatio", "").startswith("none"):
        across = down = min(across, down)
    left, top = (width - view[2] * across) / 2.0, (height - view[3] * down) / 2.0
    return round(width, 3), round(height, 3), Matrix(across, 0, 0, down, left - view[0] * across, top - view[1] * down)


def _side(text: str, default: float) -> float:
    """A side of the drawing. What is no length counts as not said, as in browsers."""
    if text.endswith("%") or not NUMBER.match(text):
        return default
    try:
        return length(text, default)
    except ShapeFault:
        return default


def view_of(root: Element) -> tuple[float, float]:
    """Width and height of the view box, of which percentages are taken."""
    view = _numbers(root.get("viewBox", ""))
    return (view[2], view[3]) if len(view) == 4 else UNSAID


def sized(element: Element, host: Element, view: tuple[float, float]) -> Element:
    """The element with the size that what uses it gives it."""
    copy = Element(element.tag, dict(element.attrib))
    for key, whole in zip(("width", "height"), view, strict=True):
        text = host.get(key) or element.get(key) or "100%"
        copy.set(key, str(length(text, whole)))
    return copy


def _numbers(text: str) -> list[float]:
    return [float(number) for number in NUMBER.findall(text)]
