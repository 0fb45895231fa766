"""Filters of SVG and CSS that a layer has as numbers (Filter Effects Module Level 1, sections 8 and 9.15)."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any
from xml.etree.ElementTree import Element

from svgelements import Matrix

from keen_ripple.core.colour import colour_text, parse_colour
from keen_ripple.intake.opened import kind_of
from keen_ripple.intake.outlines import is_even, length, numbers_of, scale_of
from keen_ripple.intake.paints import share
from keen_ripple.intake.styles import Sheet

FUNCTION = re.compile(r"([a-z-]+)\(\s*([^()]*?)\s*\)")
# In the order in which layers apply them; another order would look different.
AMOUNTS = {"brightness": "brightness", "contrast": "contrast", "saturate": "saturation", "hue-rotate": "hue"}
ORDER = ("blur", *AMOUNTS.values())
DEGREES = {"deg": 1.0, "rad": 57.29577951308232, "turn": 360.0, "grad": 0.9, "": 1.0}
# A filter that reaches so far beyond the box cuts off nothing of a blur that anybody sees.
WIDE = 0.5


def effects_of(
    text: str, by_id: Mapping[str, Element], sheet: Sheet, matrix: Matrix, layers: Sequence[Mapping[str, Any]]
) -> dict[str, Any] | None:
    """The values by which layers, as one, look like under a filter; None where no values do."""
    values = _numbers(text, by_id, matrix)
    if values is not None or len(layers) != 1:
        return values
    shadow = _shadow_of(text, by_id, sheet, matrix, layers[0])
    return {"shadows": [shadow]} if shadow else None


def _numbers(text: str, by_id: Mapping[str, Element], matrix: Matrix) -> dict[str, float] | None:
    values: dict[str, float] = {}
    if FUNCTION.sub("", text).strip():
        return None
    for name, inside in FUNCTION.findall(text):
        found = _effect(name, inside, by_id, matrix)
        if found is None or (values and ORDER.index(found[0]) <= max(map(ORDER.index, values))):
            return None
        values[found[0]] = round(found[1], 4)
    return values or None


def cuts_off(text: str, by_id: Mapping[str, Element]) -> bool:
    """Whether the filter may end before what it blurs does."""
    element = by_id.get(_target(text))
    if element is None or element.get("filterUnits") == "userSpaceOnUse":
        return False
    sides = [element.get(name, default) for name, default in (("x", "-10%"), ("y", "-10%"))]
    return any(length(side, 1.0) > -WIDE for side in sides)


def _effect(name: str, inside: str, by_id: Mapping[str, Element], matrix: Matrix) -> tuple[str, float] | None:
    a, b, c, d, _, _ = numbers_of(matrix)
    scale = scale_of(matrix)
    uneven = abs((a * a + b * b) - (c * c + d * d)) > 1e-3 * scale * scale
    if name in ("url", "blur"):
        px = _blur_of(by_id.get(_target(f"url({inside})"))) if name == "url" else length(inside or "0", 1.0)
        return None if px is None or (uneven and px) else ("blur", px * scale)
    if name not in AMOUNTS:
        return None
    found = re.fullmatch(r"(-?[\d.]+(?:e-?\d+)?)(%|[a-z]*)", inside or "1")
    if found is None:
        return None
    number, unit = float(found[1]), found[2]
    if name == "hue-rotate":
        return ("hue", number * DEGREES[unit]) if unit in DEGREES else None
    return (AMOUNTS[name], number / 100.0 if unit == "%" else number) if unit in ("", "%") else None


def _shadow_of(
    text: str, by_id: Mapping[str, Element], sheet: Sheet, matrix: Matrix, layer: Mapping[str, Any]
) -> dict[str, Any] | None:
    """The shadow of a layer that looks like a filter of nothing else; None where none does.

    Boxes cast theirs beside them and not under them, which is the same only where they are opaque.
    """
    element = by_id.get(_target(text))
    steps = [] if element is None else [child for child in element if isinstance(child.tag, str)]
    whole = text.strip().endswith(")") and text.count("(") == 1
    if element is None or not whole or element.get("primitiveUnits") == "objectBoundingBox" or len(steps) != 1:
        return None
    [step] = steps
    is_shadow = kind_of(step) == "feDropShadow" and step.get("in", "SourceGraphic") == "SourceGraphic"
    if (
        not is_shadow
        or "shadows" in layer
        or not is_even(matrix)
        or not (layer["kind"] in OUTLINED or _is_opaque(layer))
    ):
        return None
    deviation = length(step.get("stdDeviation", "2"), 1.0)
    x, y = (length(step.get(name, "2"), 1.0) for name in ("dx", "dy"))
    a, b, c, d, _, _ = numbers_of(matrix)
    scale = scale_of(matrix)
    # Of a layer that is turned by itself, its shadow is turned with it.
    across, down = (x * scale, y * scale) if "rotation" in layer else (a * x + c * y, b * x + d * y)
    style = sheet.of(step, {})
    r, g, b, alpha = parse_colour(style["flood-color"])
    shade = colour_text((r, g, b, alpha * share(style["flood-opacity"], 1.0)))
    return {"x": round(across, 4), "y": round(down, 4), "blur": round(2.0 * deviation * scale, 4), "colour": shade}


OUTLINED, BOXES = ("path", "text"), ("rectangle", "ellipse")
OPAQUE = re.compile(r"#[0-9a-f]{6}")


def _is_opaque(layer: Mapping[str, Any]) -> bool:
    return layer["kind"] in BOXES and OPAQUE.fullmatch(str(layer.get("fill"))) is not None


def _target(text: str) -> str:
    found = re.match(r"""url\(\s*['"]?#([^'")]+)['"]?\s*\)""", text.strip())
    return found[1] if found else ""


def _blur_of(element: Element | None) -> float | None:
    """The standard deviation of a filter that only blurs, in its own units."""
    steps = [] if element is None else [child for child in element if isinstance(child.tag, str)]
    if element is None or element.get("primitiveUnits") == "objectBoundingBox" or len(steps) != 1:
        return None
    [step] = steps
    if kind_of(step) != "feGaussianBlur" or step.get("in", "SourceGraphic") != "SourceGraphic":
        return None
    deviations = {float(part) for part in re.split(r"[\s,]+", step.get("stdDeviation", "0").strip())}
    return deviations.pop() if len(deviations) == 1 else None
