"""One SVG file that also moves inside `<img>`: the elements of the web page inside of a foreignObject."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field, replace
from html import escape

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.carried import flipbooks_of
from keen_ripple.handoff.cross_fades import left_in_run
from keen_ripple.handoff.format import Files, in_file
from keen_ripple.handoff.html import HTML
from keen_ripple.handoff.markup import elements_of, indented
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.report import Report
from keen_ripple.handoff.stylesheet import Scope, style_of

SVG, XHTML = "http://www.w3.org/2000/svg", "http://www.w3.org/1999/xhtml"
IN_BROWSERS = "All of it is HTML inside of the SVG: browsers show it, also as a picture; drawing programs do not."


@dataclass(frozen=True)
class Svg:
    name: str = "svg"
    takes: Collection[str] = ()
    endings: Mapping[str, str] = field(default_factory=lambda: {"svg": "image/svg+xml"})

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        told = HTML.report(timeline, options)
        return replace(told, said=(IN_BROWSERS, *told.said))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        return {"svg": in_file(_drawing(timeline))}


AS_SVG = Svg()


def _drawing(timeline: Timeline) -> Iterator[str]:
    piece = timeline.piece
    drawn, left = flipbooks_of(timeline), left_in_run(timeline)
    width, height = css_number(piece.width), css_number(piece.height)
    size = f'width="{width}" height="{height}"'
    yield f'<svg xmlns="{SVG}" {size} viewBox="0 0 {width} {height}" role="img">'
    yield f"  <title>{escape(piece.name)}</title>"
    # No document has a sign that XML cannot hold.
    style = style_of(timeline, drawn, Scope(f".{piece.id}"), left)
    yield "  <style>"
    yield from indented((line.replace("&", "&amp;").replace("<", "&lt;") for line in style), 4)
    yield "  </style>"
    yield f"  <foreignObject {size}>"
    yield f'    <div xmlns="{XHTML}" class="{piece.id}">'
    # Inside of XHTML, outlines say that they are SVG.
    elements = elements_of(timeline, drawn, left)
    yield from indented((re.sub(r"<svg(?=[ >])", f'<svg xmlns="{SVG}"', line) for line in elements), 6)
    yield "    </div>"
    yield "  </foreignObject>"
    yield "</svg>"
