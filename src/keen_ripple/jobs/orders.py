"""What is to be made: all that a worker needs to know, wherever it is."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from functools import cache
from importlib import resources
from importlib.resources.abc import Traversable
from typing import Any

from keen_ripple.core.live.hearing import Event
from keen_ripple.handoff import FORMATS, Options

FILES, MEASURED, ALL = "files", "measured", "all"
Acted = tuple[Sequence[Event], float] | None
"""Of a rehearsal its events and its length, ms."""


@dataclass(frozen=True)
class Order:
    """The files of a format, how far they are from what is computed, or one zip of all formats.

    `bundle` is the document of the piece with all that stands in it; `format` is empty for all of them.
    """

    bundle: Mapping[str, Any]
    what: str
    format: str
    options: Options
    acted: Acted = None

    def to_json(self) -> bytes:
        events, until_ms = self.acted or ([], 0.0)
        said = {
            # As text: whoever makes several things of it reads it once.
            "bundle": json.dumps(self.bundle, ensure_ascii=False),
            "what": self.what,
            "source": self.source,
            "format": self.format,
            "options": asdict(self.options),
            "acted": None if self.acted is None else {"events": [asdict(each) for each in events], "until": until_ms},
        }
        return json.dumps(said, ensure_ascii=False).encode()

    @property
    def id(self) -> str:
        """The same order has the same, as long as the same program makes it."""
        return hashlib.sha256(program() + self.to_json()).hexdigest()[:32]

    @property
    def source(self) -> str | None:
        """The id of the order for the files that are to be measured: if they are there, they are not made again."""
        return replace(self, what=FILES).id if self.what == MEASURED else None

    @property
    def is_quick(self) -> bool:
        """Whether it is made in no time, as what is drawn throughout is not."""
        return self.what == FILES and "fps" not in FORMATS[self.format].takes


@cache
def program() -> bytes:
    """A digest of the program: what another version made is made anew."""
    found = hashlib.sha256()
    for path in _sources(resources.files("keen_ripple")):
        found.update(path.read_bytes())
    return found.digest()


def _sources(folder: Traversable) -> list[Traversable]:
    found = []
    for path in sorted(folder.iterdir(), key=lambda each: each.name):
        if path.is_dir():
            found += _sources(path) if path.name not in ("dist", "__pycache__") else []
        elif path.name.endswith((".py", ".js", ".woff2")):
            found.append(path)
    return found
