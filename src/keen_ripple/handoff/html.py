"""One self-contained web page: elements, CSS keyframes, no script."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from html import escape

from keen_ripple.core.document import walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import WHOLE, beyond_css
from keen_ripple.handoff.carried import flipbooks_of
from keen_ripple.handoff.cross_fades import cross_fades, left_in_run
from keen_ripple.handoff.fonts import font_notes
from keen_ripple.handoff.format import Files, in_file
from keen_ripple.handoff.frames import part_of
from keen_ripple.handoff.markup import elements_of, indented
from keen_ripple.handoff.options import AS_IT_IS, Options
from keen_ripple.handoff.parts import cuts_in_motion, moved, parts_of
from keen_ripple.handoff.report import Report, report_of
from keen_ripple.handoff.stylesheet import Scope, said, style_of, written

ALONE = Scope(".piece", alone=True)


@dataclass(frozen=True)
class Html:
    name: str = "html"
    endings: Mapping[str, str] = field(default_factory=lambda: {"html": "text/html"})
    takes: Collection[str] = ()

    def report(self, timeline: Timeline, options: Options = AS_IT_IS) -> Report:
        options.check(self.name, self.takes)
        return replace(report_of(timeline, (), self.notes(timeline)), said=ways_said(timeline, beyond_css(timeline)))

    def notes(self, timeline: Timeline) -> tuple[str, ...]:
        """What is left out besides what waits for somebody."""
        jumps = [note for note in part_of(timeline.run).left_out if beyond_css(timeline) and "jumps" in note]
        return (*jumps, *font_notes(timeline))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        return {"html": self.write(timeline)}

    def write(self, timeline: Timeline) -> bytes:
        return in_file(_page(timeline))


HTML = Html()


def ways_said(timeline: Timeline, drawn: Mapping[str, str]) -> tuple[str, ...]:
    """What is drawn, with its reason, and what browsers do otherwise."""
    names = {layer.id: layer.name for layer, _ in walk(timeline.piece.layers)} | {WHOLE: "All of it"}
    pictures = [f"{names[layer]} is drawn into pictures: {what}." for layer, what in drawn.items()]
    return (*pictures, *_in_some_browsers(timeline, drawn), *_filters(timeline, timeline.piece.layers, drawn))


def _filters(timeline: Timeline, layers: Sequence[LayerBase], drawn: Collection[str]) -> Iterator[str]:
    """Which masks cut by a filter that WebKit does not show."""
    for layer in () if WHOLE in drawn else layers:
        if layer.id not in drawn:
            if cuts_in_motion(timeline, layers, layer):
                yield f"{layer.name}: WebKit does not show what it cuts, since that moves."
            yield from _filters(timeline, layer.layers, drawn)


def _in_some_browsers(timeline: Timeline, drawn: Collection[str]) -> Iterator[str]:
    """Which outlines do not move everywhere, and which pictures or looks are not added up."""
    if WHOLE not in drawn and cross_fades(timeline):
        yield "WebKit shows some of the background through it while it cross-fades."
    for layer in () if WHOLE in drawn else said(timeline.piece.layers, drawn):
        if layer.kind == "picture" and "source" in moved(timeline, layer.id):
            yield f"{layer.name}: WebKit shows its pictures too bright while they change."
        declared = [d for part in parts_of(timeline, layer) for d in part.declarations if d.css == "d"]
        if any(moved(timeline, layer.id) & set(d.shows) for d in declared):
            yield f"{layer.name}: browsers without the CSS property d keep its first outline."


def _page(timeline: Timeline) -> Iterator[str]:
    piece = timeline.piece
    yield from (
        "<!doctype html>",
        '<html lang="en">',
        "<head>",
        '  <meta charset="utf-8">',
        '  <meta name="viewport" content="width=device-width, initial-scale=1">',
        f"  <title>{escape(piece.name)}</title>",
        "  <style>",
    )
    drawn, left = flipbooks_of(timeline), left_in_run(timeline)
    yield from indented([*written("body", {"margin": "0"}), *style_of(timeline, drawn, ALONE, left)], 4)
    yield from ("  </style>", "</head>", "<body>")
    yield f'  <div class="piece" data-piece="{piece.id}" role="img" aria-label="{escape(piece.name)}">'
    yield from indented(elements_of(timeline, drawn, left), 4)
    yield from ("  </div>", "</body>", "</html>")
