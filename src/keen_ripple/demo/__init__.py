"""Quay Nine: the pieces of an invented harbour-ferry app."""

from __future__ import annotations

import json
from importlib.resources import files
from typing import Any

# In the order of the shelf.
PIECES = (
    "tide-loader",
    "beacon-pulse",
    "crossing-progress",
    "boarding-stamp",
    "fog-notice",
    "sonar-sweep",
    "deck-lamp-switch",
    "ramp-loading",
    "sonar-watch",
    "crossing-screen",
    "harbour-post",
    "harbour-feed",
    "chart-icon",
    "two-screens",
    "pier-story",
    "pier-card",
    "pier-carousel",
    "berth-bookmark",
    "ferry-card",
    "timetable-tabs",
    "beacon-button",
)


def documents() -> list[dict[str, Any]]:
    """The demo's pieces, as documents."""
    return [json.loads((files(__name__) / f"{name}.json").read_text("utf-8")) for name in PIECES]
