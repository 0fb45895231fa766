"""Values that are written in another form on their way than they begin, or end, with: outlines of other points, more
shadows. CSS blends what is written alike: so each move has both its ends in the form that it has in between."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

import numpy as np

from keen_ripple.core.curves import Easing
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.track import Track
from keen_ripple.core.outlines import parse
from keen_ripple.handoff.animation import INSTANT, Keyframe
from keen_ripple.handoff.declaration import Declaration, Look

HOLDING = "step-end"

FORMS: dict[str, Callable[[Any], Any]] = {
    "path": lambda outline: tuple(command for command, _ in parse(outline).value),
    "shadows": lambda shadows: tuple(shadow.inset for shadow in shadows),
    "stroke_dash": bool,
}
"""By property what CSS has to find alike in two of its values."""


def changes_form(track: Track) -> bool:
    """Whether on one of its ways CSS would not blend its values as the core does."""
    form = FORMS.get(track.property.name)
    if form is None:
        return False
    begins = [track.first, *(move.end for move in track.moves)]
    return any(
        move.easing is not None and not form(begin) == form(_on_its_way(track, move, 0.5)) == form(move.end)
        for begin, move in zip(begins, track.moves, strict=False)
    )


def frames_of_forms(
    track: Track,
    declaration: Declaration,
    rest: Look,
    space: str,
    stretch: tuple[float, float],
    endless: bool,
    css: Callable[[Easing], str],
) -> Iterator[Keyframe]:
    """The keyframes of a track that is all that moves in a declaration. What looks the same where one move ends and
    another begins may be written otherwise there, so that it changes at once; `endless` begins again at its end."""
    from_ms, to_ms = stretch
    own = [move for move in track.moves if from_ms <= move.start_ms and move.end_ms <= to_ms]
    own = [move for move in own if not (endless and move.easing is None and move.start_ms == to_ms)]
    instant = (to_ms - from_ms) * INSTANT

    def keyframe(t_ms: float, value: Any, easing: str | None) -> Keyframe:
        text = declaration.text({**rest, track.property.name: value}, space)
        return Keyframe(t_ms - from_ms, {declaration.css: text}, easing)

    if not own or own[0].start_ms > from_ms:
        past = [move.end for move in track.moves if move.end_ms <= from_ms]
        yield keyframe(from_ms, past[-1] if past else track.first, HOLDING)
    for move, following in zip(own, [*own[1:], None], strict=True):
        if move.easing is None:
            yield keyframe(move.start_ms, move.end, HOLDING)
            continue
        yield keyframe(move.start_ms, _on_its_way(track, move, 0.0), css(move.easing))
        is_followed = following is not None and following.start_ms == move.end_ms
        yield keyframe(move.end_ms - instant * is_followed, _on_its_way(track, move, 1.0), HOLDING)
    if own and own[-1].end_ms < to_ms:
        yield keyframe(to_ms, own[-1].end, None)


def _on_its_way(track: Track, move: Move, progress: float) -> Any:
    between = track.blend.between(move.start, move.end)
    return between.value(between.rows(np.array([progress]))[0])
