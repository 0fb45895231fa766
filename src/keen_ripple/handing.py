"""The command that hands off: files written, and measured where that is asked for."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from keen_ripple import arguments, library

if TYPE_CHECKING:
    from keen_ripple.core.timeline import Timeline


def hand_off(options: argparse.Namespace, timeline: Timeline) -> dict[str, Any] | None:
    """Writes the files; what was measured of them as JSON, if it was."""
    chosen = {name: getattr(options, name) for name in arguments.OF_PICTURES}
    files, told = library.hand_off(timeline, options.format, **chosen), None
    if options.measure:
        files, told = _measured(timeline, options.format, files, chosen)
    # Of several pieces `out` is a name in their folder, of several files a folder.
    folder, stem = (options.out.parent, options.out.name) if options.several else (options.out, options.pieces[0].stem)
    library.write_files(files, options.out if len(files) == 1 and not options.several else None, folder, stem)
    return told and {**arguments.name(options), "format": options.format, **told}


Files = Mapping[str, bytes]


def _measured(
    timeline: Timeline, form: str, files: Files, chosen: dict[str, Any]
) -> tuple[Files, dict[str, Any] | None]:
    """They are written whether they could be measured or not."""
    from keen_ripple.handoff import Options
    from keen_ripple.measured import NotMeasured, measure, noted

    try:
        found = measure(timeline, form, Options(**chosen), files)
    except NotMeasured as fault:
        print(f"keen-ripple: {fault.message} {fault.remedy}", file=sys.stderr)
        return files, None
    return noted(files, found), found.to_json()
