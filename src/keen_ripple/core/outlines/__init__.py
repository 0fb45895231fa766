"""Outlines: SVG path data, its subpaths as cubics, and two of them made ready to be blended."""

from keen_ripple.core.outlines.morph import matched
from keen_ripple.core.outlines.path_data import Affine, bounds, parse
from keen_ripple.core.outlines.subpath import Subpath, subpaths

__all__ = ["Affine", "Subpath", "bounds", "matched", "parse", "subpaths"]
