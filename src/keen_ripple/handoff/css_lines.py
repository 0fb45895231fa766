"""Strokes that are drawn along an outline, as CSS and SVG have them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.measures.geometry import RADII, corner_radii
from keen_ripple.handoff.css_paints import colour
from keen_ripple.handoff.css_text import css_string, px
from keen_ripple.handoff.declaration import Declaration, Look

# A dash that begins again exactly at the end of the outline would put its cap there.
ROUND = 1.0001
TRIM = ("trim_start", "trim_end", "trim_offset")
# What once is trimmed is written so always, marked by this.
TRIMMED = "trimmed"
# How far a stroke lies outside of its outline, in its widths.
OUTWARDS = {"inside": -0.5, "centre": 0.0, "outside": 0.5}
Numbers = Sequence[float]


def trimmed(look: Look) -> bool:
    """Whether the outline's length counts as 1."""
    return TRIMMED in look or look["trim_start"] > 0.0 or look["trim_end"] < 1.0 or look["trim_offset"] != 0.0


def nothing_drawn(look: Look) -> bool:
    """Whether a trim leaves nothing of the outline: then it shows no caps either."""
    return trimmed(look) and bool(look["trim_end"] <= look["trim_start"])


def visibility(nothing: bool) -> str:
    """On the way from hidden to visible CSS shows it."""
    return "hidden" if nothing else "visible"


def _dash(look: Look, _: str) -> str:
    if trimmed(look):
        drawn = max(look["trim_end"] - look["trim_start"], 0.0)
        return f"{css_number(drawn)} {css_number(ROUND - drawn)}"
    return " ".join(css_number(length, 3) for length in look["stroke_dash"]) or "none"


def _dash_offset(look: Look, _: str) -> str:
    return css_number(_begin(look) if trimmed(look) else look["stroke_dash_offset"])


def _begin(look: Look) -> float:
    return float(-look["trim_start"] - look["trim_offset"])


LINE = (
    Declaration("stroke", ("stroke",), lambda look, space: colour(look["stroke"], space), calm=True),
    Declaration("stroke-width", ("stroke_width",), lambda look, _: px(look["stroke_width"])),
    Declaration("stroke-linecap", ("stroke_cap",), lambda look, _: str(look["stroke_cap"])),
    Declaration("stroke-linejoin", ("stroke_join",), lambda look, _: str(look["stroke_join"])),
    Declaration("stroke-dasharray", ("stroke_dash", "trim_start", "trim_end"), _dash),
    Declaration("stroke-dashoffset", ("stroke_dash_offset", "trim_start", "trim_offset"), _dash_offset),
)


def shape_of(kind: str, looks: Sequence[Look]) -> str:
    """The SVG element that the stroke of a box lies along: what follows the box by itself, or else a path, whose
    outline not every browser moves."""
    if any(min(look["width"], look["height"]) / 2.0 + _by(look) <= 0.0 for look in looks):
        return "path"
    if kind == "ellipse":
        # Its outline begins at the right in SVG. A part of it can be told so, but not where dashes begin.
        return "path" if any(look["stroke_dash"] for look in looks) else "ellipse"
    return "rect" if all(len({look[name] for name in RADII}) == 1 for look in looks) else "path"


def line_around(kind: str, looks: Sequence[Look]) -> tuple[Declaration, ...]:
    """The stroke along the outline of a box with these looks."""
    hidden = Declaration("visibility", TRIM[:2], lambda look, _: visibility(nothing_drawn(look)))
    shape = shape_of(kind, looks)
    if shape == "ellipse":
        begins = Declaration("stroke-dashoffset", TRIM, lambda look, _: css_number(_begin(look) + TO_THE_TOP))
        return (*_radii_of_ellipse(), *LINE[:-1], begins, hidden)
    return (*(_sides_of_rect(looks) if shape == "rect" else _path(kind, looks)), *LINE, hidden)


# From where the outline of an ellipse begins in SVG, on the right, back to the top.
TO_THE_TOP = 0.25
OF_STROKE = ("stroke_width", "stroke_align")


def _path(kind: str, looks: Sequence[Look]) -> tuple[Declaration, ...]:
    has_arcs = is_round(kind, looks)

    def outline(look: Look, _: str) -> str:
        return f"path({css_string(outline_of(kind, look, has_arcs))})"

    return (Declaration("d", ("width", "height", *OF_STROKE, *(RADII if has_arcs else ())), outline),)


def _radii_of_ellipse() -> tuple[Declaration, ...]:
    return tuple(Declaration(css, OF_STROKE, lambda look, _: _share_of_box("50%", _by(look))) for css in ("rx", "ry"))


def _sides_of_rect(looks: Sequence[Look]) -> tuple[Declaration, ...]:
    is_limited = any(corner_radii(look)[0][0] < look[RADII[0]] for look in looks)
    shows = (*RADII, *OF_STROKE, *(("width", "height") if is_limited else ()))
    return (
        *(Declaration(css, OF_STROKE, lambda look, _: px(-_by(look))) for css in ("x", "y")),
        *(
            Declaration(css, OF_STROKE, lambda look, _: _share_of_box("100%", 2.0 * _by(look)))
            for css in ("width", "height")
        ),
        *(Declaration(css, shows, lambda look, _: px(_corners(look)[0])) for css in ("rx", "ry")),
    )


def _share_of_box(share: str, more: float) -> str:
    return f"calc({share} {'-' if more < 0.0 else '+'} {px(abs(more))})" if more else share


def _by(look: Look) -> float:
    """How far outside of its outline the middle of a stroke is, px."""
    return float(OUTWARDS[look["stroke_align"]] * look["stroke_width"])


def _corners(look: Look) -> list[float]:
    """Round corners keep their middle; sharp ones stay sharp."""
    return [max(x + _by(look), 0.0) if x > 0.0 else 0.0 for x, _ in corner_radii(look)]


def is_round(kind: str, looks: Sequence[Look]) -> bool:
    """Whether a rectangle has round corners in any of these looks."""
    return kind == "rectangle" and any(look[name] > 0.0 for look in looks for name in RADII)


def outline_of(kind: str, look: Look, has_arcs: bool) -> str:
    """Path data of the middle of the stroke, from the top, clockwise: with `has_arcs` always with arcs, since only
    paths of the same commands are blended."""
    edges = _edges(look["width"], _by(look)), _edges(look["height"], _by(look))
    if kind == "ellipse":
        return _ellipse(*edges)
    return _rounded(_corners(look), *edges) if has_arcs else _sharp(*edges)


def _edges(side: float, by: float) -> tuple[float, float]:
    """Moved outwards; inwards up to the middle."""
    return min(-by, side / 2.0), max(side + by, side / 2.0)


def _ellipse(across: tuple[float, float], down: tuple[float, float]) -> str:
    middle, radii = sum(across) / 2.0, [(end - start) / 2.0 for start, end in (across, down)]
    return f"M{_n(middle, down[0])} {_arc(radii, (middle, down[1]))} {_arc(radii, (middle, down[0]))} Z"


def _sharp(across: tuple[float, float], down: tuple[float, float]) -> str:
    (left, right), (top, bottom) = across, down
    return f"M{_n(left, top)} L{_n(right, top)} L{_n(right, bottom)} L{_n(left, bottom)} Z"


def _rounded(corners: Numbers, across: tuple[float, float], down: tuple[float, float]) -> str:
    (left, right), (top, bottom) = across, down
    a, b, c, d = corners
    return " ".join(
        (
            f"M{_n(left + a, top)} L{_n(right - b, top)} {_arc((b, b), (right, top + b))}",
            f"L{_n(right, bottom - c)} {_arc((c, c), (right - c, bottom))}",
            f"L{_n(left + d, bottom)} {_arc((d, d), (left, bottom - d))}",
            f"L{_n(left, top + a)} {_arc((a, a), (left + a, top))} Z",
        )
    )


def _arc(radii: Numbers, end: Numbers) -> str:
    """Clockwise, of half a turn at most."""
    return f"A{_n(*radii)} 0 0 1 {_n(*end)}"


def _n(*numbers: float) -> str:
    return " ".join(css_number(number, 3) for number in numbers)


def is_drawn_along(look: Mapping[str, Any]) -> bool:
    """Whether the stroke of a box has to be drawn along its outline, and is no border inside of it."""
    cut = look["trim_start"] > 0.0 or look["trim_end"] < 1.0
    along = look["stroke_align"] != "inside" or bool(look["stroke_dash"]) or not isinstance(look["stroke"], str)
    return look["stroke"] != "none" and (along or cut)


def blends_evenly(kind: str, start: Look, end: Look) -> bool:
    """Whether the outline of a box goes as straight from one look to the other as its numbers do: corners that are
    limited by their sides, and lines as wide as what they lie in, may not."""
    names = ("width", "height", "stroke_width", *(RADII if kind == "rectangle" else ()))
    if start["stroke_align"] != end["stroke_align"]:
        return True
    for share in (0.25, 0.5, 0.75):
        mixed = {**start, **{name: start[name] * (1.0 - share) + end[name] * share for name in names}}
        parts = [_numbers(outline_of(kind, look, True)) for look in (start, mixed, end)]
        straight = [a * (1.0 - share) + b * share for a, b in zip(parts[0], parts[2], strict=True)]
        if any(abs(a - b) > UNEVEN for a, b in zip(parts[1], straight, strict=True)):
            return False
    return True


# px
UNEVEN = 0.1


def _numbers(path: str) -> list[float]:
    return [float(word.lstrip("MLAZ")) for word in path.split() if word.lstrip("MLAZ")]
