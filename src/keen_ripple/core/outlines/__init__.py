"""Outlines: SVG path data, its subpaths as cubics, and several of them made ready to be blended."""

from keen_ripple.core.outlines.alike import alike, are_alike
from keen_ripple.core.outlines.crossings import crossings
from keen_ripple.core.outlines.morph import matched
from keen_ripple.core.outlines.path_data import Affine, bounds, canonical, contour_bounds, parse
from keen_ripple.core.outlines.subpath import Subpath, subpaths

__all__ = [
    "Affine",
    "Subpath",
    "alike",
    "are_alike",
    "bounds",
    "canonical",
    "contour_bounds",
    "crossings",
    "matched",
    "parse",
    "subpaths",
]
