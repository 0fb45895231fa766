"""Parameters and traits in live files: what they are called there, and what the runtime has to know of them."""

from __future__ import annotations

import json
from collections.abc import Iterator
from functools import cache, lru_cache
from importlib.resources import files
from itertools import chain
from typing import Any, NamedTuple

from keen_ripple.core.errors import brief
from keen_ripple.core.live.settable import Choice, Given, Settable, settable
from keen_ripple.core.live.slots import Slot
from keen_ripple.core.timeline import Timeline

# What an element of a piece, and its component, have by themselves.
# Latin with its accents, and what stands between words.
LETTERS = "".join(chr(code) for code in (*range(0x20, 0x7F), *range(0xA0, 0x250), *range(0x2010, 0x2027), 0x20AC))
SET_IN = ("font_family", "text")
OWN = ("state", "paused", "events", "go", "play", "pause", "seek", "children", "className", "key", "ref", "style")


class Setting(NamedTuple):
    """A parameter or trait, with the names of its attribute and of its property."""

    of: Choice | Given
    attribute: str
    member: str

    @property
    def type(self) -> str:
        """Its type in TypeScript."""
        if isinstance(self.of, Choice):
            return " | ".join(json.dumps(name) for name, _ in self.of.options)
        return "number" if self.of.kind in ("number", "time") else "string"

    @property
    def about(self) -> str:
        """What may be written there, and what the piece has by itself."""
        own = self.of
        called = f"{own.name}: " if own.name.lower().replace(" ", "-") != own.id else ""
        if isinstance(own, Choice):
            return f"{called}{', '.join(name for name, _ in own.options)} (default {own.shows})."
        ends = [f"{word} {end:g}" for word, end in (("from", own.low), ("to", own.high)) if end is not None]
        kind = {"time": "ms", "picture": "the address of a picture"}.get(own.kind, f"a {own.kind}")
        value = f"{own.value:g}" if isinstance(own.value, float) else brief(own.value)
        default = f" (default {value})" if value is not None and own.kind != "picture" else ""
        return f"{called}{' '.join((kind, *ends))}{default}."

    @property
    def example(self) -> Any:
        """A value that it may have, other than by itself where that is known."""
        own = self.of
        if isinstance(own, Choice):
            return next((name for name, _ in own.options if name != own.shows), own.shows)
        samples = {"text": "…", "colour": "#1f7a70", "picture": "view.png"}
        return samples.get(own.kind) or own.value or own.low or 1


@lru_cache(maxsize=4)
def settable_of(timeline: Timeline) -> Settable:
    """What can be set of the piece of a timeline; worked out once for all that is asked of it."""
    return settable(timeline.written, timeline.library)


def has_settings(timeline: Timeline) -> bool:
    """Whether there is anything that might be set."""
    return bool(timeline.written.parameters or timeline.written.traits)


def settings_of(timeline: Timeline) -> list[Setting]:
    """Those of a piece, called by their ids; and by their kind too where elements have something of that name."""
    if not has_settings(timeline):
        return []
    found, used = list[Setting](), set(OWN) | _members()
    told = settable_of(timeline)
    everything: list[Choice | Given] = [*told.choices, *told.given]
    for own in everything:
        kind = own.kind if isinstance(own, Given) else "trait"
        names = (own.id, f"{own.id}-{kind}", *(f"{kind}-{own.id}-{n}" for n in range(1, 1000)))
        name = next(name for name in names if name[0].isalpha() and name not in used and _camel(name) not in used)
        used |= {name, _camel(name)}
        found.append(Setting(own, name, _camel(name)))
    return found


def settings_told(timeline: Timeline) -> str:
    """What can be set in the file, as a sentence after another; empty where nothing can."""
    settings = settings_of(timeline)
    return f" Can be set: {', '.join(setting.of.name for setting in settings)}." if settings else ""


def setting_notes(timeline: Timeline) -> Iterator[str]:
    """What of the parameters and traits cannot be set in the file."""
    if has_settings(timeline):
        for name, reason in settable_of(timeline).left:
            yield f"{name} cannot be set in the file: {reason}. It stays as the piece has it."


def settable_letters(timeline: Timeline) -> dict[str, set[str]]:
    """By font family the characters that are seen with any options; where texts can be set, those of Latin texts."""
    if not has_settings(timeline):
        return {}
    told, found = settable_of(timeline), dict[str, set[str]]()
    letters = set(LETTERS) if any(own.kind == "text" for own in told.given) else set()
    for way in told.ways:
        played = told.set(way.options, {})
        for layer, look in played["pose"].items():
            if "font_family" in look:
                moves = [m for m in played["tables"]["motions"] if m["layer"] == layer]
                seen = {name: [m["rest"].values() for m in moves if m["property"] == name] for name in SET_IN}
                families, texts = ({look[name], *chain(*seen[name])} for name in SET_IN)
                for family in families:
                    found.setdefault(family, set()).update(*texts, letters)
    return found


def handed_settings(timeline: Timeline) -> dict[str, Any]:
    """What `frontend/src/runtime/settings.ts` reads."""
    settings = settings_of(timeline)
    return {
        "choices": [_told(own) for own in settings if isinstance(own.of, Choice)],
        "given": [_told(own) for own in settings if isinstance(own.of, Given)],
        "ways": [
            {
                "options": way.options,
                "changes": way.changes,
                "filling": [[name, *_slot(slot)] for name, slot in way.filling],
            }
            for way in settable_of(timeline).ways
        ],
    }


def _told(setting: Setting) -> dict[str, Any]:
    own = setting.of
    named = {"id": own.id, "name": own.name, "attribute": setting.attribute, "property": setting.member}
    if isinstance(own, Choice):
        return {**named, "options": [name for name, _ in own.options], "shows": own.shows}
    return {**named, "kind": own.kind, "low": own.low, "high": own.high}


def _slot(slot: Slot) -> list[Any]:
    return list(slot) if slot.how in ("line", "longest") else list(slot[:2])


def _camel(name: str) -> str:
    first, *others = name.split("-")
    return first + "".join(word.capitalize() for word in others)


@cache
def _members() -> frozenset[str]:
    """The names that elements have in browsers."""
    return frozenset((files("keen_ripple") / "handoff" / "members.txt").read_text("utf-8").split())
