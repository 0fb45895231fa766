"""Looks: differences of one layer from its base."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from pydantic import create_model

from keen_ripple.core.document.fields import Model, property_type
from keen_ripple.core.properties import VARYING

_fields: dict[str, Any] = {row.name: (property_type(row), None) for row in VARYING}
if TYPE_CHECKING:
    Look = Model
else:
    Look = create_model("Look", __base__=Model, __module__=__name__, __doc__="Differences of one layer.", **_fields)
