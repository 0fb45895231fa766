"""What stands between two values that have nothing in between."""

from __future__ import annotations

from typing import Any, NamedTuple


class Fade(NamedTuple):
    """Both values at once: `to` shown by `share` (0–1), `from_` by the rest, added up."""

    from_: Any
    to: Any
    share: float
