"""The first moment of a drawing that moves by itself: what SMIL and style sheets say of it at 0 s.

SVG Animations Level 2, section 2; CSS Animations Level 1, sections 3 and 4.
"""

from __future__ import annotations

import re
from itertools import pairwise
from xml.etree.ElementTree import Element

from keen_ripple.intake.opened import href_of, kind_of

MOTION = ("animate", "animateTransform", "animateMotion", "set", "animateColor")
CLOCK = re.compile(r"([+-]?[\d.]+)(ms|s|min|h)?|(\d+):(\d+(?:\.\d+)?)")
UNITS = {"ms": 0.001, "s": 1.0, "min": 60.0, "h": 3600.0, None: 1.0}
NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
# Written as attributes alone; all else is a property of style, which outranks what style sheets say.
GEOMETRY = {
    *("d", "points", "x", "y", "x1", "y1", "x2", "y2", "cx", "cy", "fx", "fy", "r", "rx", "ry", "width", "height"),
    *("offset", "gradientTransform", "href", "viewBox", "stdDeviation", "class"),
}


def stand_at_first(root: Element) -> bool:
    """Gives each element the values that it has at 0 s. Whether anything in the file moves."""
    by_id = {element.get("id", ""): element for element in root.iter()}
    parents = {child: parent for parent in root.iter() for child in parent}
    motions = [element for element in root.iter() if kind_of(element) in MOTION]
    for motion in motions:
        target = by_id.get(href_of(motion).removeprefix("#")) if href_of(motion) else parents.get(motion)
        name = "transform" if kind_of(motion) == "animateTransform" else motion.get("attributeName", "")
        value = _value_at_first(motion)
        if target is None or value is None or not name or name.startswith("{"):
            continue
        _set(target, name, motion, value)
    return bool(motions)


def _set(target: Element, name: str, motion: Element, value: str) -> None:
    if name == "transform":
        own = f"{motion.get('type', 'translate')}({value})"
        target.set(name, f"{target.get(name, '')} {own}" if motion.get("additive") == "sum" else own)
        return
    target.set(name, value)
    if name not in GEOMETRY:
        target.set("style", f"{target.get('style', '')};{name}:{value}")


def _value_at_first(motion: Element) -> str | None:
    """None where the motion says nothing at 0 s: it begins later, or on its way adds to what stands there."""
    begins = [_seconds(text) for text in motion.get("begin", "0s").split(";")]
    begun = max((at for at in begins if at is not None and at <= 0.0), default=None)
    if begun is None or kind_of(motion) == "animateMotion":
        return None
    if kind_of(motion) == "set":
        return motion.get("to")
    values = [part.strip() for part in motion.get("values", "").split(";") if part.strip()]
    if not values:
        values = [text for text in (motion.get("from"), motion.get("to")) if text is not None]
        if motion.get("from") is None:
            return None
    duration = _seconds(motion.get("dur", ""))
    if not values or begun == 0.0 or not duration:
        return values[0] if values else None
    return _along(values, motion, (-begun % duration) / duration)


def _along(values: list[str], motion: Element, share: float) -> str:
    """What stands at a share of the way through a list of values."""
    times = [float(text) for text in NUMBER.findall(motion.get("keyTimes", ""))]
    if motion.get("calcMode") == "discrete":
        places = times if len(times) == len(values) else [i / len(values) for i in range(len(values))]
        return [values[0], *(value for at, value in zip(places, values, strict=True) if at <= share)][-1]
    places = times if len(times) == len(values) else [i / max(len(values) - 1, 1) for i in range(len(values))]
    for (start, before), (end, after) in pairwise(zip(places, values, strict=True)):
        if start <= share < end:
            return _between(before, after, (share - start) / (end - start))
    return values[-1]


def _between(before: str, after: str, share: float) -> str:
    """Number by number, where both are written alike."""
    ends = iter(NUMBER.findall(after))
    if NUMBER.sub("#", before) != NUMBER.sub("#", after):
        return before
    return NUMBER.sub(lambda found: f"{float(found[0]) * (1.0 - share) + float(next(ends)) * share:.6g}", before)


def _seconds(text: str) -> float | None:
    found = CLOCK.fullmatch(text.strip())
    if found is None:
        return None
    try:
        return float(found[1]) * UNITS[found[2]] if found[1] else float(found[3]) * 60.0 + float(found[4])
    except ValueError:
        return None


def is_seen(layer: dict[str, object]) -> bool:
    """Whether anything of a layer that was read can be seen."""
    if layer.get("opacity") == 0.0 or layer.get("mask"):
        return False
    inside = layer.get("layers")
    if isinstance(inside, list):
        return any(map(is_seen, inside))
    dash, offset = layer.get("stroke_dash"), layer.get("stroke_dash_offset")
    # A line drawn by itself begins as one dash that lies wholly beside it.
    hidden = isinstance(dash, list) and isinstance(offset, float) and abs(offset) >= dash[0] - 1e-3 > 0.0
    return layer.get("kind") in ("text", "picture") or layer.get("fill", "none") != "none" or not hidden
