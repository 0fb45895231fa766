"""One self-contained web page that answers: the runtime, the tables of all motion, and what is drawn."""

from __future__ import annotations

import json
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cache
from html import escape
from importlib.resources import files
from typing import Any

from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.placing import flat_layers
from keen_ripple.core.live.tables import tables_of
from keen_ripple.core.timeline import Timeline
from keen_ripple.core.values.lottie import LOTTIE
from keen_ripple.core.values.plain import plain
from keen_ripple.handoff.fonts import font_faces, font_notes
from keen_ripple.handoff.format import Files
from keen_ripple.handoff.options import AS_IT_IS, Options
from keen_ripple.handoff.report import BY_ITSELF, Report
from keen_ripple.handoff.settings import (
    handed_settings,
    has_settings,
    settable_letters,
    settable_of,
    setting_notes,
    settings_of,
    settings_told,
)

# What the element carries, told at the head of the file.
USE = """
  The element with data-piece answers to pointers, touch and keys, and carries:
    element.go("state")   goes to a state, by the transition that leads there, or at once
    element.play()        element.pause()        element.seek(ms)        element.state
    element.addEventListener("statechange", (event) => event.detail)   // {from, to}
  Copy it with the two scripts after it into a page of your own, once or several times, and what stands in the head.
"""


def _rehearsed() -> Fault:
    remedy = "Choose html, which plays what happened."
    return Fault("A live page answers to whoever acts, and plays no rehearsal.", remedy=remedy)


@dataclass(frozen=True)
class LivePage:
    name: str = "live"
    endings: Mapping[str, str] = field(default_factory=lambda: {"live.html": "text/html"})
    takes: Collection[str] = ()

    def report(self, timeline: Timeline, options: Options = AS_IT_IS) -> Report:
        options.check(self.name, self.takes)
        cues = [t for t in timeline.piece.transitions if t.cue not in BY_ITSELF]
        count = len(timeline.piece.states)
        holds = f"All {count} states and their transitions, playing by themselves"
        refused = (_rehearsed(),) if timeline.rehearsal is not None else ()
        notes = (*font_notes(timeline), *setting_notes(timeline))
        by_cues = f" and by {len(cues)} cues" if cues else ""
        return Report(f"{holds}{by_cues}.{settings_told(timeline)}", notes, refused)

    def files(self, timeline: Timeline, options: Options) -> Files:
        options.check(self.name, self.takes)
        return {"live.html": self.write(timeline)}

    def write(self, timeline: Timeline) -> bytes:
        if timeline.rehearsal is not None:
            raise _rehearsed()
        return ("\n".join(_page(timeline)) + "\n").encode("utf-8")


LIVE = LivePage()


def _page(timeline: Timeline) -> Iterator[str]:
    piece = timeline.piece
    name, size = escape(piece.name), f"width: {piece.width:g}px; height: {piece.height:g}px"
    yield from ("<!doctype html>", '<html lang="en">', "<head>", '  <meta charset="utf-8">')
    yield '  <meta name="viewport" content="width=device-width, initial-scale=1">'
    yield f"  <title>{name}</title>"
    yield f"  <!--{USE}"
    yield from _settings(timeline)
    yield "  -->"
    yield "  <style>"
    yield from (f"    {line}" for line in font_faces(timeline, settable_letters(timeline)))
    yield from ("    body {", "      margin: 0;", "    }", "  </style>")
    handed = in_script(handed_of(timeline))
    yield from (f"  <script>{built_script(player)}</script>" for player in players_of(handed))
    yield from ("</head>", "<body>")
    place = f"position: relative; {size}; touch-action: manipulation; user-select: none"
    yield f'  <div class="piece" data-piece="{piece.id}" role="group" aria-label="{name}" style="{place}"></div>'
    yield f'  <script type="application/json">{handed}</script>'
    yield f"  <script>{built_script('live')}</script>"
    yield from ("</body>", "</html>")


def _settings(timeline: Timeline) -> Iterator[str]:
    """How parameters and traits are set, told at the head of the file."""
    settings = settings_of(timeline)
    if settings:
        example = _in_comment(json.dumps({settings[0].of.id: settings[0].example}, ensure_ascii=False))
        yield f"  element.set({example}) sets what follows; null gives back what the piece has by itself:"
        yield from (f"    {setting.of.id} – {_in_comment(setting.about)}" for setting in settings)
        yield f"  The attribute data-set='{example}' sets it from the beginning."


def _in_comment(text: str) -> str:
    """On one line; nothing in it ends the comment of a page."""
    return " ".join(text.replace("--", "- -").replace(">", "›").split())


def players_of(handed: str) -> Iterator[str]:
    """The scripts that play what is in it, wherever it is shown, also in what stands in the piece."""
    if f'"{LOTTIE}' in handed:
        yield "lottie"
    if '"data:video/' in handed:
        yield "film"
    if '"settings":{' in handed:
        yield "settings"


def handed_of(timeline: Timeline) -> dict[str, Any]:
    """What the runtime needs of a piece: what is drawn, how it begins, and the tables of all motion."""
    piece = timeline.piece
    drawn: dict[str, Any] = {name: getattr(piece, name) for name in ("width", "height", "ground", "clips")}
    drawn["sections"] = [{"id": section.id, "height": section.height} for section in piece.sections]
    head = {"piece": {**drawn, "layers": flat_layers(piece)}}
    if has_settings(timeline):
        return {**head, **settable_of(timeline).played, "settings": handed_settings(timeline)}
    pose = {layer: {name: plain(value) for name, value in look.items()} for layer, look in timeline.rest.items()}
    return {**head, "pose": pose, "tables": tables_of(piece)}


def in_script(value: Any) -> str:
    """JSON in which nothing can end the script that it stands in."""
    text = json.dumps(value, ensure_ascii=False, separators=(",", ":"))
    return text.replace("<", "\\u003c").replace("\u2028", "\\u2028").replace("\u2029", "\\u2029")


@cache
def built_script(name: str) -> str:
    """A script as the front end's build left it. Raises Fault where that has not been run."""
    built = files("keen_ripple") / "handoff" / "built" / f"{name}.js"
    if not built.is_file():
        raise Fault("The script of live pages is not built.", remedy="Run `make setup`.")
    return built.read_text("utf-8").strip()
