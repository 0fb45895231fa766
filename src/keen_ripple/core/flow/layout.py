"""Layout: where a group puts the layers in it.

A row or a column places them one after another; in any other group each follows its resize rules, which say what
becomes of its place and size, written for the group's base size, when the group has another. Layout is worked out at
states; between them places and sizes are interpolated like everything else.
"""

from __future__ import annotations

from collections.abc import Container, Mapping, MutableMapping, Sequence
from typing import Any

from keen_ripple.core.document.layers import LayerBase

Looks = Mapping[str, MutableMapping[str, Any]]
# Along x and along y: the names of place, size, and what belongs to the axis.
AXES = {"x": ("x", "width", "padding_x", "resize_x"), "y": ("y", "height", "padding_y", "resize_y")}


def lay_out(
    layer: LayerBase, looks: Looks, bases: Mapping[str, Mapping[str, Any]], closed: Container[str] = ()
) -> None:
    """Writes places and sizes into the looks of everything inside `layer`, from the outside inwards.

    What lies in layers that are `closed` is left out.
    """
    if not layer.layers or layer.id in closed:
        return
    group = looks[layer.id]
    children = [looks[child.id] for child in layer.layers]
    if group.get("layout", "none") == "none":
        for child in children:
            _resize(child, group, bases[layer.id])
    else:
        # What is hidden takes no room.
        _line_up([child for child in children if child["visible"]], group)
    for child_layer in layer.layers:
        lay_out(child_layer, looks, bases, closed)


def _resize(child: MutableMapping[str, Any], group: Mapping[str, Any], base: Mapping[str, Any]) -> None:
    for place, size, _, rule in AXES.values():
        more = group[size] - base[size]
        if more == 0.0 and child[rule] != "fixed":
            continue
        match child[rule]:
            case "end":
                child[place] += more
            case "both":
                child[size] = max(child[size] + more, 0.0)
            case "centre":
                child[place] += more / 2.0
            case "scale" if base[size] > 0.0:
                factor = group[size] / base[size]
                child[place], child[size] = child[place] * factor, child[size] * factor
            case "fixed":
                # Where it is in what surrounds the group, however the group moves.
                child[place] -= group[place] - base[place]


def _line_up(children: Sequence[MutableMapping[str, Any]], group: Mapping[str, Any]) -> None:
    """A row or a column: sizes along it as written, plus a share of the room that is left."""
    if not children:
        return
    along, across = (AXES["x"], AXES["y"]) if group["layout"] == "row" else (AXES["y"], AXES["x"])
    place, size, padding, _ = along
    room = _inner(group, size, padding) - group["gap"] * (len(children) - 1)
    left = room - sum(child[size] for child in children)
    grow = sum(child["grow"] for child in children)
    if grow > 0.0 and left > 0.0:
        for child in children:
            # Sums below 1 take that share of the room (CSS Flexbox Level 1, section 9.7).
            child[size] += left * child["grow"] / max(grow, 1.0)
        left *= 1.0 - min(grow, 1.0)
    between = left / (len(children) - 1) if group["justify"] == "between" and len(children) > 1 and left > 0.0 else 0.0
    at = group[padding] + {"centre": left / 2.0, "end": left}.get(group["justify"], 0.0)
    for child in children:
        child[place] = at
        at += child[size] + group["gap"] + between
        _put_across(child, group, across)


def _inner(group: Mapping[str, Any], size: str, padding: str) -> float:
    """What a padding leaves; nothing where it is wider than the group (CSS Box Sizing Level 3, section 6)."""
    return float(max(group[size] - 2.0 * group[padding], 0.0))


def _put_across(child: MutableMapping[str, Any], group: Mapping[str, Any], axis: tuple[str, ...]) -> None:
    place, size, padding, _ = axis
    inner = _inner(group, size, padding)
    if group["align"] == "stretch":
        child[size] = inner
    share = {"centre": 0.5, "end": 1.0}.get(group["align"], 0.0)
    child[place] = group[padding] + (inner - child[size]) * share
