"""Lottie: one JSON file of shapes for apps on phones (Lottie specification 1.0, Lottie Animation Community).

What goes round is in it for exactly one round; players are told there whether to begin again. Texts are outlines. What
shapes and their transforms cannot say is in it as pictures, and named.
"""

from __future__ import annotations

import json
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

from keen_ripple.core.colour import parse_colour
from keen_ripple.core.document import walk
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.beyond_css import WHOLE
from keen_ripple.handoff.cross_fades import cross_fades
from keen_ripple.handoff.format import Files, in_file
from keen_ripple.handoff.frames import Part, part_of, played
from keen_ripple.handoff.lottie.beyond import beyond_shapes
from keen_ripple.handoff.lottie.carried import STANDS, Place
from keen_ripple.handoff.lottie.keys import values_in, written
from keen_ripple.handoff.lottie.layers import SOLID, Writer
from keen_ripple.handoff.lottie.looks import finer, looks_of
from keen_ripple.handoff.options import Options
from keen_ripple.handoff.report import Report, left_out_by_cue
from keen_ripple.handoff.stylesheet import said

FPS = 60.0
"""As near to this as whole frames fit into the length."""
OWN_WAY = "players weigh red, green and blue each in its own way"
MOST_NAMED = 4
VERSION = "5.7.0"
MEDIA_TYPE = "application/json"


@dataclass(frozen=True)
class Lottie:
    name: str = "lottie"
    takes: Collection[str] = ()
    endings: Mapping[str, str] = field(default_factory=lambda: {"lottie.json": MEDIA_TYPE})

    def report(self, timeline: Timeline, options: Options) -> Report:
        options.check(self.name, self.takes)
        shown = played(timeline)
        part = part_of(shown.run)
        drawn = beyond_shapes(shown)
        bright = [layer.name for layer, _ in walk(timeline.piece.layers) if layer.mask == "brightness"]
        names = {layer.id: layer.name for layer, _ in walk(timeline.piece.layers)}
        what = "Every way once" if shown is not timeline else "The loop" if part.again else "The run"
        how = "for a player that begins again" if part.again else "for a player that does not begin again"
        ways = [f"{names.get(layer, 'All of it')} is drawn into pictures: {why}." for layer, why in drawn.items()]
        ways += [f"{name} cuts by brightness: {OWN_WAY}." for name in bright]
        ways += _letters(shown, drawn)
        left_out = (*part.left_out, *left_out_by_cue(shown, "a Lottie file answers to nobody"))
        return Report(f"{what}, {part.length_ms} ms, as shapes, {how}.", left_out, (), tuple(ways))

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        text = json.dumps(_document(played(timeline)), ensure_ascii=False, separators=(",", ":"))
        return {"lottie.json": in_file([text])}


LOTTIE = Lottie()


def _letters(timeline: Timeline, drawn: Collection[str]) -> list[str]:
    """Texts that are not drawn are outlines of their letters: programs correct the edges of letters for the eye."""
    layers = () if WHOLE in drawn else said(timeline.piece.layers, drawn)
    texts = list(dict.fromkeys(layer.name for layer in layers if layer.kind == "text"))
    named = ", ".join(texts[:MOST_NAMED]) + f" and {len(texts) - MOST_NAMED} more" * (len(texts) > MOST_NAMED)
    return [f"{named}: letters are outlines, with edges a little lighter or darker."] if texts else []


def _document(timeline: Timeline) -> dict[str, Any]:
    part = part_of(timeline.run)
    frames, fps = _frames(part)
    looks = looks_of(timeline, part)
    per_ms = fps / 1000.0
    writer = Writer(looks, per_ms, frames)
    piece = timeline.piece
    whole = Place(piece.width, piece.height)
    layers = writer.whole() if cross_fades(timeline) else writer.layers(piece.layers, whole)
    if piece.ground:
        layers.append({**_ground(writer), "ind": len(layers) + 1})
    tree = {"assets": writer.assets, "layers": layers}
    looks = finer(looks, values_in(tree))
    head = {"v": VERSION, "nm": piece.name, "fr": fps, "ip": 0, "op": frames}
    size = {"w": round(piece.width), "h": round(piece.height), "ddd": 0}
    return {**head, **size, **written(tree, looks, per_ms), "markers": list(_markers(timeline, part, per_ms))}


def _frames(part: Part) -> tuple[int, float]:
    """How many, and per second: together exactly as long as the part; what ends shows its last look for one more."""
    count = max(round(part.length_ms * FPS / 1000.0), 1)
    fps = count * 1000.0 / part.length_ms if part.length_ms else FPS
    return count + (0 if part.again else 1), round(fps, 6)


def _ground(writer: Writer) -> dict[str, Any]:
    piece = writer.piece
    r, g, b, alpha = parse_colour(piece.ground or "none")
    colour = f"#{round(r):02x}{round(g):02x}{round(b):02x}"
    size = {"sw": round(piece.width), "sh": round(piece.height), "sc": colour}
    return writer.layer_of("Ground", SOLID, {**STANDS, "o": {"a": 0, "k": round(alpha * 100.0, 3)}}, **size)


def _markers(timeline: Timeline, part: Part, per_ms: float) -> Iterator[dict[str, Any]]:
    """Where each state is reached, and how long it rests."""
    names = {state.id: state.name for state in timeline.piece.states}
    for segment in timeline.run.segments:
        if segment.kind == "hold" and part.begin_ms <= segment.start_ms < part.end_ms:
            start, length = segment.start_ms - part.begin_ms, min(segment.end_ms, part.end_ms) - segment.start_ms
            yield {"tm": round(start * per_ms, 4), "cm": names[segment.to], "dr": round(length * per_ms, 4)}
