"""One way to measure whatever leaves."""

from __future__ import annotations

import numpy as np

from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff import FORMATS, Files, Options
from keen_ripple.handoff.names import in_comment
from keen_ripple.handoff.progress import stage
from keen_ripple.measured.elements import PAGES, measured_elements
from keen_ripple.measured.pictures import LOTTIE, MEDIA, measured_lottie, measured_pictures
from keen_ripple.measured.result import Measured, NotMeasured

MOMENTS = 24
# The share of the time in which the file is made, about.
MADE = 0.7


def measure(timeline: Timeline, name: str, options: Options, files: Files | None = None) -> Measured:
    """The file of a format, or these `files` of it, at 24 moments of its run and of what follows.

    Raises NotMeasured where nothing here plays it, Fault where it is refused.
    """
    if name not in (*PAGES, *MEDIA, LOTTIE.name):
        raise NotMeasured(f"Not measured: nothing here plays what {name} writes.", remedy="Measure another format.")
    if files is not None:
        return _measured(timeline, name, options, files)
    with stage(0.0, MADE):
        made = FORMATS[name].files(timeline, options)
    with stage(MADE, 1.0):
        return _measured(timeline, name, options, made)


def _measured(timeline: Timeline, name: str, options: Options, files: Files) -> Measured:
    if name in MEDIA:
        return measured_pictures(timeline, name, files, options, MOMENTS)
    if name == LOTTIE.name:
        return measured_lottie(timeline, files, MOMENTS)
    return measured_elements(timeline, name, files, moments_of(timeline))


def moments_of(timeline: Timeline) -> list[float]:
    """Over lead-in and loop, the second round included, off the very moments of cuts, ms."""
    reach = timeline.run.total_ms + (timeline.run.loop_ms or 0)
    return [
        round(max(float(t), 0.0) + ASIDE_MS, 2) for t in np.round(np.linspace(1.3, max(reach - 1.7, 1.3), MOMENTS), 1)
    ]


# Cuts are at whole ms; which side of one is seen in that very moment depends on the last digit of a percentage.
ASIDE_MS = 0.03


IN_MARKUP, IN_CODE = "<!-- {} -->\n", "/* {} */\n"
COMMENTS = {"html": IN_MARKUP, "svg": IN_MARKUP, "css": IN_CODE, "js": IN_CODE}


def noted(files: Files, measured: Measured) -> Files:
    """The files, with what was measured at the end of the first, where its kind has comments."""
    first = next(iter(files))
    comment = COMMENTS.get(first.rpartition(".")[2])
    if comment is None:
        return files
    # Two dashes end a comment of HTML.
    text = in_comment(f"Measured: {measured.said()}").replace("--", "–")
    return {**files, first: files[first] + comment.format(text).encode()}
