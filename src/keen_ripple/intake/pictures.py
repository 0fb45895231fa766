"""Pictures inside of a drawing as layers."""

from __future__ import annotations

import re
from typing import Any
from xml.etree.ElementTree import Element

from svgelements import Matrix

from keen_ripple.core.document.fields import PICTURE
from keen_ripple.intake.layers import Names, layer_of_box
from keen_ripple.intake.opened import href_of
from keen_ripple.intake.outlines import ShapeFault, box_of
from keen_ripple.intake.paints import share
from keen_ripple.intake.styles import Style

LARGEST = 4_000_000


def layer_of_image(
    element: Element, style: Style, matrix: Matrix, names: Names, view: tuple[float, float]
) -> dict[str, Any]:
    """A picture as it is placed. Raises ShapeFault."""
    source = re.sub(r"\s+", "", href_of(element)).replace("image/jpg", "image/jpeg")
    if not re.match(PICTURE, source) or len(source) > LARGEST:
        raise ShapeFault("only PNG, JPEG and WebP inside the file are read, up to 3 MB")
    box = box_of(element, "rect", view)
    frame = layer_of_box("rect", box, matrix) if box else None
    if frame is None:
        raise ShapeFault("it has no size, or is stretched while it is turned")
    name = names.of(element.get("id", ""), "picture")
    fit = "fill" if element.get("preserveAspectRatio", "") == "none" else "contain"
    look = {"id": name, "name": name, "source": source, "fit": fit, "opacity": share(style["opacity"], 1.0)}
    return {**frame, "kind": "picture", **look}
