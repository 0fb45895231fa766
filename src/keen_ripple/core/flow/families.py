"""Families: the values that a property has in all states, where a way between two of them minds the others.

Three outlines of one layer share a structure, so that the way from each to each is a straight line of points, in the
unattended run as in a rehearsal that is interrupted on its way.
"""

from __future__ import annotations

from collections.abc import Mapping

from keen_ripple.core.blends.coordinates import Coordinates, coordinates_of
from keen_ripple.core.document import Piece, walk
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import BY_NAME

Families = Mapping[str, Mapping[str, Coordinates]]
"""By layer and property: the coordinates in which those values lie. Only where there are others to mind."""

OUTLINES = frozenset(row.name for row in BY_NAME.values() if row.blend == "path")
PAINTS = frozenset(row.name for row in BY_NAME.values() if row.blend == "paint")
NAMES = OUTLINES | PAINTS


def families_of(piece: Piece, poses: Mapping[str, Pose]) -> Families:
    """Those of a piece with these poses; nothing is brought to each other yet."""
    found: dict[str, dict[str, Coordinates]] = {}
    for layer, name in _changed(piece):
        values = tuple(dict.fromkeys(pose[layer][name] for pose in poses.values()))
        if len(values) > 2:
            found.setdefault(layer, {})[name] = coordinates_of(BY_NAME[name].blend, piece.blend, values)
    return found


def _changed(piece: Piece) -> Mapping[tuple[str, str], None]:
    """Outlines in which states differ, and paints that are a gradient in one of them or in the base."""
    gradients = {
        (layer.id, name)
        for layer, _ in walk(piece.layers)
        for name in PAINTS
        if not isinstance(getattr(layer, name, ""), str)
    }
    found: dict[tuple[str, str], None] = {}
    for state in piece.states:
        for layer, change in state.changes.items():
            for name in NAMES & change.model_fields_set:
                if name in OUTLINES or (layer, name) in gradients or not isinstance(getattr(change, name), str):
                    found[layer, name] = None
    return found
