"""The timing sheet: a page to print, CSV and Markdown; state by state and lane by lane, with plots and a filmstrip."""

from __future__ import annotations

import base64
import csv
import io
import re
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from html import escape
from itertools import groupby

import numpy as np

from keen_ripple.core.curves import Easing
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.frames import played
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.report import Report, held
from keen_ripple.handoff.timings import Row, Timing, curve, timings_of
from keen_ripple.render import filmstrip, png

COLUMNS = ("transition", "cue", "layer", "property", "from", "to", "start_ms", "duration_ms", "curve")
STRIP = 12
PLOT = 48
# Points of a plot.
POINTS = 49


@dataclass(frozen=True)
class Sheet:
    name: str = "sheet"
    takes: Collection[str] = ()
    endings: Mapping[str, str] = field(
        default_factory=lambda: {"sheet.html": "text/html", "sheet.csv": "text/csv", "sheet.md": "text/markdown"}
    )

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        timings = timings_of(timeline)
        rows = sum(len(timing.rows) for timing in timings)
        return Report(f"{len(timings)} transitions in {rows} rows, each with its times and its curve.", (), ())

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        timings = timings_of(timeline)
        return {
            "sheet.html": ("\n".join(_page(timeline, timings)) + "\n").encode(),
            "sheet.csv": _csv(timings),
            "sheet.md": ("\n".join(_markdown(timeline, timings)) + "\n").encode(),
        }


SHEET = Sheet()


def _csv(timings: Sequence[Timing]) -> bytes:
    """RFC 4180, in UTF-8 with the mark by which spreadsheets know it."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(COLUMNS)
    for timing in timings:
        fades = [("all layers", "fade", "", "", 0, timing.length_ms, curve(timing.fade))] if timing.fade else []
        rows = [
            (r.layer_name, r.label, r.start, r.end, r.start_ms, r.duration_ms, curve(r.easing)) for r in timing.rows
        ]
        for row in [*fades, *rows]:
            writer.writerow(_no_formula(cell) for cell in (timing.title, timing.cue, *row))
    return b"\xef\xbb\xbf" + text.getvalue().encode()


def _no_formula(cell: object) -> object:
    """Spreadsheets run what begins like a formula; a number with its unit is none."""
    text = str(cell)
    is_number = re.fullmatch(r"[-+]?[0-9.]+( ?[a-z%°×]{1,4})?", text)
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") and not is_number else cell


def _markdown(timeline: Timeline, timings: Sequence[Timing]) -> Iterator[str]:
    piece = timeline.piece
    yield f"# {_in_markdown(piece.name)}"
    yield ""
    yield f"{css_number(piece.width)} × {css_number(piece.height)} px. {held(timeline)}"
    for timing in timings:
        yield from ("", f"## {_in_markdown(timing.title)}", "", _told(timing), "")
        if timing.rows:
            yield "| layer | property | from | to | start, ms | duration, ms | curve |"
            yield "| --- | --- | --- | --- | ---: | ---: | --- |"
        for row in timing.rows:
            cells = (row.layer_name, row.label, row.start, row.end)
            times = f"{row.start_ms} | {row.duration_ms}"
            yield f"| {' | '.join(map(_in_markdown, cells))} | {times} | {_in_markdown(curve(row.easing))} |"


def _in_markdown(text: str) -> str:
    """As it stands: no sign in it is read as one of Markdown or HTML."""
    return re.sub(r"([\\`*_\[\]<>|~&])", r"\\\1", " ".join(text.split()))


def _told(timing: Timing) -> str:
    how = f"; all layers fade, {curve(timing.fade)}" if timing.fade else "" if timing.rows else "; nothing moves"
    return f"Starts {timing.cue}, takes {timing.length_ms} ms{how}."


STYLE = """
html { background: #fff; }
body { margin: 32px auto; max-width: 960px; padding: 0 24px; font: 13px/1.5 'Hanken Grotesk', system-ui, sans-serif; color: #15293b; }
h1 { margin: 0; font-size: 22px; }
h2 { margin: 28px 0 4px; font-size: 15px; }
p { margin: 0 0 8px; }
img { max-width: 100%; margin: 12px 0; }
table { width: 100%; border-collapse: collapse; }
th, td { padding: 4px 12px 4px 0; border-bottom: 1px solid #d8d2c2; text-align: left; vertical-align: top; overflow-wrap: anywhere; }
th { font-weight: 600; }
.ms { text-align: right; white-space: nowrap; font-variant-numeric: tabular-nums; }
svg { display: block; width: 28px; height: 28px; margin: 2px 0; overflow: visible; }
path { fill: none; stroke: #1f7a70; stroke-width: 3; }
line { stroke: #d8d2c2; }
@media print { body { margin: 0; max-width: none; padding: 0; } section { break-inside: avoid; } }
""".strip()  # noqa: E501 (one rule a line)


def _page(timeline: Timeline, timings: Sequence[Timing]) -> Iterator[str]:
    piece = timeline.piece
    name = escape(piece.name)
    yield from ("<!doctype html>", '<html lang="en">', "<head>", '  <meta charset="utf-8">')
    yield '  <meta name="viewport" content="width=device-width, initial-scale=1">'
    yield f"  <title>{name}: timing sheet</title>"
    yield from ("  <style>", *(f"    {line}" for line in STYLE.splitlines()), "  </style>", "</head>", "<body>")
    yield f"  <h1>{name}</h1>"
    yield f"  <p>{css_number(piece.width)} × {css_number(piece.height)} px. {escape(held(timeline))}</p>"
    acted = played(timeline)
    if acted.run.total_ms:
        strip = base64.b64encode(png(filmstrip(acted, STRIP))).decode()
        yield f'  <img alt="{STRIP} moments of the run" src="data:image/png;base64,{strip}">'
    for timing in timings:
        yield "  <section>"
        yield f"    <h2>{escape(timing.title)}</h2>"
        yield f"    <p>{escape(_told(timing))}</p>"
        yield from (f"    {line}" for line in _table(timing))
        yield "  </section>"
    yield from ("</body>", "</html>")


def _table(timing: Timing) -> Iterator[str]:
    if not timing.rows:
        return
    yield "<table>"
    heads = ("layer", "property", "from", "to")
    times = "".join(f'<th class="ms">{head}</th>' for head in ("start, ms", "duration, ms"))
    yield f'  <tr>{"".join(f"<th>{head}</th>" for head in heads)}{times}<th colspan="2">curve</th></tr>'
    for _, rows in groupby(timing.rows, lambda row: row.layer):
        for index, row in enumerate(rows):
            yield f"  <tr>{_cells(row.layer_name if index == 0 else '', row, timing)}</tr>"
    yield "</table>"


def _cells(name: str, row: Row, timing: Timing) -> str:
    """The plot stands where a curve is met first."""
    texts = "".join(f"<td>{escape(text)}</td>" for text in (name, row.label, row.start, row.end))
    times = "".join(f'<td class="ms">{ms}</td>' for ms in (row.start_ms, row.duration_ms))
    first = next(r for r in timing.rows if r.easing == row.easing)
    plot = _plot(row.easing) if row.easing is not None and first is row else ""
    return f"{texts}{times}<td>{escape(curve(row.easing))}</td><td>{plot}</td>"


def _plot(easing: Easing) -> str:
    u = np.linspace(0.0, 1.0, POINTS)
    places = zip(u * PLOT, (1.0 - np.asarray(easing(u))) * PLOT, strict=True)
    line = " ".join(f"{css_number(x, 1)},{css_number(y, 1)}" for x, y in places)
    grid = f'<line x1="0" y1="{PLOT}" x2="{PLOT}" y2="{PLOT}"/><line x1="0" y1="0" x2="{PLOT}" y2="0"/>'
    return f'<svg viewBox="0 0 {PLOT} {PLOT}" aria-hidden="true">{grid}<path d="M{line}"/></svg>'
