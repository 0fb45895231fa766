"""Values as JSON."""

from __future__ import annotations

from typing import Any

from keen_ripple.core.values.fade import Fade
from keen_ripple.core.values.model import Model


def plain(value: Any) -> Any:
    """The JSON value of a property's value: models and fades as objects, tuples as lists, the rest as it is."""
    if isinstance(value, Model):
        return value.model_dump()
    if isinstance(value, Fade):
        return {"kind": "fade", "from": plain(value.from_), "to": plain(value.to), "share": value.share}
    if isinstance(value, tuple):
        return [plain(item) for item in value]
    return value
