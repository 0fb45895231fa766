"""What this hand-off cannot say: it is refused with the place, rather than left out in silence."""

from __future__ import annotations

from collections.abc import Iterator

from keen_ripple.core.document import walk
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.track import Track
from keen_ripple.core.outlines import parse
from keen_ripple.core.properties import BY_NAME
from keen_ripple.core.timeline import Timeline


class HandoffFault(Fault):
    """A piece that a format cannot say."""


def refuse_unsupported(timeline: Timeline) -> None:
    """Raises HandoffFault for the first thing that HTML with CSS keyframes would not show as it is."""
    for found in unsupported(timeline):
        raise found


def unsupported(timeline: Timeline) -> Iterator[HandoffFault]:
    """All that this hand-off cannot say, of the piece and of what lives in it."""
    yield from _unsupported(timeline)
    places = {layer.id: place for layer, place in walk(timeline.piece.layers)}
    for voice in timeline.voices:
        for found in unsupported(voice.timeline):
            # It is mended in the original.
            yield HandoffFault(found.message, place=places[voice.layer], value=found.value, remedy=found.remedy)
        moved = _moved(voice.timeline)
        for layer, css in sorted(_moved(timeline) & moved):
            yield _fault(
                f"{css} of {layer} moved twice at once", places[layer], "Let all states give it the same values."
            )


def _moved(timeline: Timeline) -> set[tuple[str, str]]:
    """By layer the CSS properties that a timeline moves."""
    courses = [course for own in timeline.piece.undercurrents for course in own.courses]
    return {(track.layer, track.property.css) for track in timeline.tracks} | {
        (course.layer, BY_NAME[course.property].css) for course in courses
    }


def _unsupported(timeline: Timeline) -> Iterator[HandoffFault]:
    for segment in timeline.run.segments:
        if segment.kind == "travel" and timeline.legs[segment.leg].fade is not None:
            yield _fault(f"the cross-fade {segment.transition}", "/transitions", "Make it a tween or a cut.")
    for layer, place in walk(timeline.piece.layers):
        if timeline.voice_of(layer.id):
            continue
        if layer.kind == "medium":
            yield _fault(f"the medium {layer.name}", place, "Show a picture of it instead.")
        elif layer.mask:
            yield from _mask(timeline, layer, place)
        elif any(not isinstance(look.get("stroke", ""), str) for look in timeline.looks_of(layer.id)):
            yield _fault(f"the gradient along the stroke of {layer.name}", place, "Give the stroke one colour.")
        elif layer.kind in ("rectangle", "ellipse"):
            yield from _strokes(timeline, layer, place)
        elif layer.kind in ("path", "text") and not all(
            isinstance(look["fill"], str) for look in timeline.looks_of(layer.id)
        ):
            yield _fault(f"the gradient of {layer.name}", place, "Fill a rectangle or an ellipse with it.")
    places = {layer.id: place for layer, place in walk(timeline.piece.layers)}
    for track in timeline.tracks:
        yield from _motion(track, places[track.layer])
    for index, undercurrent in enumerate(timeline.piece.undercurrents):
        place = f"/undercurrents/{index}"
        if undercurrent.states is not None:
            yield _fault(f"the undercurrent {undercurrent.name} in some states only", place, "Let it run in all.")
        moved = {(track.layer, track.property.css) for track in timeline.tracks}
        for course in undercurrent.courses:
            row = BY_NAME[course.property]
            if any(isinstance(key.value, dict) for key in course.keys):
                yield _fault(f"a gradient of {course.layer} in motion", place, "Turn a layer that has it instead.")
            if (course.layer, row.css) in moved:
                yield _fault(
                    f"{row.css} of {course.layer} moved twice at once", place, "Move a group around it instead."
                )


def _mask(timeline: Timeline, layer: LayerBase, place: str) -> Iterator[HandoffFault]:
    turned = ("rotation", "skew_x", "skew_y", "rotation_x", "rotation_y")
    looks = timeline.looks_of(layer.id)
    bent = any(look[name] for look in looks for name in turned) or any(
        look["scale_x"] != 1.0 or look["scale_y"] != 1.0 for look in looks
    )
    if layer.kind == "path" or bent:
        yield _fault(f"the mask {layer.name}", place, "Mask with an upright rectangle or ellipse.")


def _strokes(timeline: Timeline, layer: LayerBase, place: str) -> Iterator[HandoffFault]:
    for look in timeline.looks_of(layer.id):
        trimmed = look["trim_start"] > 0.0 or look["trim_end"] < 1.0
        if look["stroke"] != "none" and (look["stroke_align"] != "inside" or look["stroke_dash"] or trimmed):
            yield _fault(
                f"the stroke of {layer.name}", place, "Keep it inside and whole, or draw the outline as a path."
            )
            return


def _motion(track: Track, place: str) -> Iterator[HandoffFault]:
    values = [track.first, *(move.end for move in track.moves)]
    name, what = track.property.name, f"{track.property.label} of {track.layer} changing"
    if name in ("fill", "stroke") and not all(isinstance(value, str) for value in values):
        yield _fault(f"a gradient of {track.layer} in motion", place, "Move a layer with a still gradient instead.")
    if name in ("text", "source"):
        yield _fault(what, place, "Use two layers, and their opacity.")
    if name == "path" and len({tuple(command for command, _ in parse(value).value) for value in values}) > 1:
        yield _fault(what, place, "Write all its outlines with the same commands.")
    if name == "shadows" and len({tuple(shadow.inset for shadow in value) for value in values}) > 1:
        yield _fault(what, place, "Give all states the same number of shadows; those not wanted may be transparent.")
    if name == "stroke_dash" and len({bool(value) for value in values}) > 1:
        yield _fault(what, place, "Write a whole line as dashes without gaps.")


def _fault(what: str, place: str, remedy: str) -> HandoffFault:
    return HandoffFault(f"HTML with CSS keyframes cannot say this yet: {what}.", place=place, remedy=remedy)
