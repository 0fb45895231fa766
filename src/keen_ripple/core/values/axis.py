"""Places on the axes of a variable font, as CSS writes them in font-variation-settings (CSS Fonts Level 4, 8.2)."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from keen_ripple.core.values.model import Model

# Of the numbers of an axis: OpenType's Fixed has 16 bits before the point.
FARTHEST_ON_AXIS = 32_767.0


class AxisPlace(Model):
    """Where on one axis of its font a text is set; `axis` is its tag of four characters."""

    axis: Annotated[str, Field(pattern=r"^[ !#-\[\]-~]{4}$", description="The tag of an axis: four characters.")]
    value: Annotated[float, Field(ge=-FARTHEST_ON_AXIS, le=FARTHEST_ON_AXIS)]
