"""Families: the values that a property has in all states, where a way between two of them minds the others.

Three outlines of one layer share a structure, so that the way from each to each is a straight line of points, in the
unattended run as in a rehearsal that is interrupted on its way.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from keen_ripple.core.blends.coordinates import Coordinates, coordinates_of
from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.document.looks import Look
from keen_ripple.core.flow.copies import Flat
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import BY_NAME

Families = Mapping[str, Mapping[str, Coordinates]]
"""By layer and property: the coordinates in which those values lie. Only where there are others to mind."""

OUTLINES = frozenset(row.name for row in BY_NAME.values() if row.blend == "path")
PAINTS = frozenset(row.name for row in BY_NAME.values() if row.blend == "paint")
NAMES = OUTLINES | PAINTS


def families_of(piece: Piece, poses: Mapping[str, Pose], flat: Flat) -> Families:
    """Those of a piece with these poses; nothing is brought to each other yet.

    Copies that stand alike in all states share them, the same objects.
    """
    changes = [state.changes for state in piece.states]
    found: dict[str, Mapping[str, Coordinates]] = {}
    known: dict[object, list[Mapping[str, Coordinates]]] = {}

    def family(layer: str) -> Mapping[str, Coordinates]:
        return _family(flat.by_id[layer], changes, poses, piece.blend)

    alike = [flat.alike(pose) for pose in poses.values()]
    for name, copy in flat.copies.items():
        key = tuple([numbers[name] for numbers in alike])
        if key not in known:
            known[key] = [family(layer) for layer in copy.layers]
        found.update((layer, own) for layer, own in zip(copy.layers, known[key], strict=True) if own)
    found.update((layer, own) for layer in flat.own if (own := family(layer)))
    return found


def _family(
    layer: LayerBase, changes: Sequence[Mapping[str, Look]], poses: Mapping[str, Pose], space: str
) -> Mapping[str, Coordinates]:
    looks = [change[layer.id] for change in changes if layer.id in change]
    found = {}
    for name in NAMES & frozenset[str]().union(*(look.model_fields_set for look in looks)):
        told = [getattr(layer, name, ""), *(getattr(look, name) for look in looks if name in look.model_fields_set)]
        if name in OUTLINES or not all(isinstance(value, str) for value in told):
            values = tuple(dict.fromkeys(pose[layer.id][name] for pose in poses.values()))
            if len(values) > 2:
                found[name] = coordinates_of(BY_NAME[name].blend, space, values)
    return found
