"""How far what is shown lies apart, in the tolerances that nobody sees."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from typing import Any

from keen_ripple.core.colour import parse_colour

COLOUR = re.compile(r"#|rgb|none$|black$|white$")
PX, SHARE, CHANNEL = 0.1, 0.002, 1.5 / 255.0
# Of a dashed line.
INKED = 0.02


def differences(ours: Any, theirs: Any, tolerance: float = PX) -> Iterator[float]:
    """How far values lie apart, in tolerances: 0.1 px, 0.002 of a share, 1/255 and what rounding a colour adds."""
    if "fade" in (_kind(ours), _kind(theirs)) or _kind(ours) != _kind(theirs):
        yield from _layered(ours, theirs)
    elif isinstance(ours, str) and COLOUR.match(ours):
        a, b = parse_colour(ours), parse_colour(theirs)
        yield abs(a[3] - b[3]) / CHANNEL
        # What is hardly there has hardly a colour.
        yield from (abs(x - y) / 255.0 * max(a[3], b[3]) / CHANNEL for x, y in zip(a[:3], b[:3], strict=True))
    elif isinstance(ours, str):
        yield from _texts(ours, theirs)
    elif isinstance(ours, bool | int | float):
        yield abs(float(ours) - float(theirs)) / tolerance
    elif isinstance(ours, dict):
        assert ours.keys() == theirs.keys()
        # Where all stops have one colour, nobody sees where they lie.
        told = ["stops"] if len({stop["colour"] for stop in ours.get("stops", ())}) == 1 else list(ours)
        for name in told:
            value = ours[name]
            own = SHARE if name in ("at", "share", "centre_x", "centre_y", "radius", "value") else PX
            yield from differences(value, theirs[name], own)
    elif any(isinstance(item, dict) and "blur" in item for item in (*ours, *theirs)):
        yield from _shadows(ours, theirs)
    elif ours and isinstance(ours[0], dict):
        # Axes, or stops; one that is added to a gradient changes nothing that is seen.
        for x, y in zip(ours, theirs, strict=True) if len(ours) == len(theirs) else ():
            yield from differences(x, y)
    elif ours and theirs:
        # Dashes are repeated to one length.
        count = max(len(ours), len(theirs))
        yield from _dashes(ours * (count // len(ours)), theirs * (count // len(theirs)))


def _kind(value: Any) -> str:
    return value.get("kind", "") if isinstance(value, dict) else ""


def _layered(ours: Any, theirs: Any) -> Iterator[float]:
    """Paints over each other, of any kind and in any order, or texts; what is hardly seen is hardly off."""
    one, other = _added(_seen(ours)), _added(_seen(theirs))
    _spread(one, other)
    _spread(other, one)
    for kind in one.keys() | other.keys():
        (share, paint), (other_share, other_paint) = one.get(kind, (0.0, None)), other.get(kind, (0.0, None))
        yield abs(share - other_share) / SHARE
        if paint and other_paint:
            yield from (off * share for off in differences(paint, other_paint))


def _spread(one: dict[str, tuple[float, Any]], other: dict[str, tuple[float, Any]]) -> None:
    """A colour is a gradient of any kind that has it everywhere: of one that is only in the other."""
    lacked = sorted(other.keys() - one.keys())
    if "" in one and "" not in other and lacked:
        share, colour = one.pop("")
        paint = other[lacked[0]][1]
        one[lacked[0]] = share, {**paint, "stops": [{**stop, "colour": colour} for stop in paint["stops"]]}


def _added(seen: Iterator[tuple[str, tuple[float, Any]]]) -> dict[str, tuple[float, Any]]:
    found: dict[str, tuple[float, Any]] = {}
    for kind, (share, paint) in seen:
        found[kind] = (found.get(kind, (0.0, paint))[0] + share, paint)
    return found


def _seen(paint: Any, share: float = 1.0) -> Iterator[tuple[str, tuple[float, Any]]]:
    """By kind, how much of what is seen is of it."""
    if _kind(paint) == "fade":
        yield from _seen(paint["from"], share * (1.0 - paint["share"]))
        yield from _seen(paint["to"], share * paint["share"])
    else:
        is_text = isinstance(paint, str) and not COLOUR.match(paint)
        yield (paint if is_text else _kind(paint)), (share, paint)


def _dashes(ours: Sequence[float], theirs: Sequence[float]) -> Iterator[float]:
    """Dash and gap in turn. Where dashes grow out of a whole line their lengths are divided by how much of them there
    is, and so is what they are off by: then it counts how much of the line is drawn."""
    for (dash, gap), (other_dash, other_gap) in zip(_pairs(ours), _pairs(theirs), strict=True):
        yield abs(gap - other_gap) / PX
        inked, other_inked = (long / max(long + apart, PX) for long, apart in ((dash, gap), (other_dash, other_gap)))
        yield min(abs(dash - other_dash) / PX, abs(inked - other_inked) / INKED)


def _pairs(dashes: Sequence[float]) -> list[tuple[float, float]]:
    even = [*dashes, *dashes] if len(dashes) % 2 else dashes
    return list(zip(even[::2], even[1::2], strict=True))


def _texts(ours: str, theirs: str) -> Iterator[float]:
    """Outlines: at rest ours are as they were written, with whatever commands."""
    one, other = ([float(n) for n in re.findall(r"-?[\d.]+", text)] for text in (ours, theirs))
    if len(one) == len(other):
        yield from (abs(x - y) / PX for x, y in zip(one, other, strict=True))


def _shadows(ours: list[dict[str, Any]], theirs: list[dict[str, Any]]) -> Iterator[float]:
    """Those that are seen, by whether they lie inside: the others may be left out."""
    for inset in (False, True):
        one, other = (
            [s for s in shadows if s.get("inset", False) == inset and parse_colour(s["colour"])[3] > 0.02]
            for shadows in (ours, theirs)
        )
        if len(one) == len(other):
            for x, y in zip(one, other, strict=True):
                yield from differences(x, {**y, "inset": x["inset"]})
