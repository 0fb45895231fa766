"""What `import keen_ripple` gives: from a document to what is seen, and on to other times, pictures and files.

Each function imports what it needs when it is called, so that a program that only reads does not wait for what draws.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from keen_ripple.core.document import Piece
    from keen_ripple.core.flow.poses import Pose
    from keen_ripple.core.measures.seam import Seam
    from keen_ripple.core.timeline import Timeline

Document = dict[str, Any]


def read(source: Path | bytes | str | Mapping[str, Any]) -> Piece:
    """The piece in a file, in JSON text, or in a JSON value that has been read already.

    Raises DocumentFault, which holds every fault found with its place and its remedy; OSError for a file.
    """
    from keen_ripple.core.document import parsed, read_piece

    if isinstance(source, Path):
        return read_piece(json_in(source))
    if isinstance(source, Mapping):
        return read_piece(source)
    return read_piece(parsed(source if isinstance(source, bytes) else source.encode()))


def json_in(path: Path) -> Any:
    """The JSON value in a file. Raises DocumentFault, which names the file; OSError."""
    from keen_ripple.core.document import parsed
    from keen_ripple.core.errors import DocumentFault

    try:
        return parsed(path.read_bytes())
    except DocumentFault as fault:
        raise DocumentFault(f"{path}: {fault.message}", place=fault.place, remedy=fault.remedy) from None


def assemble(source: Path | Mapping[str, Any], folder: Path | None = None) -> Piece:
    """The piece in a file or a JSON value with all that stands in it, so that it can be played, drawn and handed over.

    The others come with it in a bundle, or lie in `folder` as `ID.json`. Its placements hold the layers of their
    originals then: to edit a piece and write it again, use `read`. Raises DocumentFault, OSError, PlacingFault.
    """
    from keen_ripple.core.flow.placing import placed

    return placed(*_with_library(source, folder))


def bundle(source: Path | Mapping[str, Any], folder: Path) -> Document:
    """The document of a piece with those of all that stands in it: one file that holds what it needs.

    Raises what `assemble` raises.
    """
    from keen_ripple.core.document.bundle import bundled, unbundled

    document, own = unbundled(json_in(source) if isinstance(source, Path) else source)
    found = bundled(document, _found(document, folder, own))
    assemble(found)
    return found


def _with_library(source: Path | Mapping[str, Any], folder: Path | None) -> tuple[Piece, Mapping[str, Piece]]:
    """A piece as it is written, and what stands in it."""
    from keen_ripple.core.document.bundle import read_library, unbundled

    document, own = unbundled(json_in(source) if isinstance(source, Path) else source)
    return read(document), read_library(_found(document, folder, own))


def _found(document: Any, folder: Path | None, own: Mapping[str, Any]) -> dict[str, Any]:
    """The documents that a piece needs, and those that they need: those that came with it, or that lie in a folder."""
    from keen_ripple.core.document.bundle import standing_in

    def load(name: str) -> Any:
        path = folder / f"{name}.json" if folder is not None else None
        return own.get(name) or (json_in(path) if path is not None and path.is_file() else None)

    return {**own, **standing_in(document, load)}


def document_of(piece: Piece) -> Document:
    """The way back: a JSON value that says what was written, and not what was left to the defaults."""
    from keen_ripple.core.document import written

    return written(piece)


def timeline(source: Piece | Path | Mapping[str, Any], folder: Path | None = None) -> Timeline:
    """All motion of a piece worked out: its `poses` by state, its `run` in ms, its `legs` with their tapes.

    From a file or a JSON value, what stands in it is found as by `assemble`; and what its copies may set can be set in
    what is handed off. Raises RunFault for a loop that takes no time, TooMuchFault for more motion than can be played.
    """
    from keen_ripple.core.timeline import timeline_of

    if isinstance(source, Path | Mapping):
        piece, library = _with_library(source, folder)
        return timeline_of(piece, library=library)
    return timeline_of(source)


def sample(timeline: Timeline, times_ms: Iterable[float]) -> Sequence[Pose]:
    """What each layer looks like at each moment ≥ 0 ms, in the order asked: looks by layer, values by property."""
    from keen_ripple.core.timeline import sample as sampled

    return sampled(timeline, times_ms)


def seam(timeline: Timeline) -> Seam | None:
    """What jumps where the loop closes, in px, colour and pixels; None where the run ends."""
    from keen_ripple.render import measured_seam

    return measured_seam(timeline)


def rehearse(piece: Piece, events: Sequence[Mapping[str, Any]], times_ms: Sequence[float]) -> list[Pose]:
    """What is seen at each moment, in the order asked, when somebody acts: events are {"t_ms", "cue", "layer"}.

    Raises DocumentFault for events that are none, RunFault where states follow each other in no time.
    """
    from keen_ripple.core.live.events import read_events
    from keen_ripple.core.live.rehearse import rehearse as rehearsed

    rehearsal = rehearsed(piece, read_events(events, piece), max(times_ms, default=0.0))
    return list(rehearsal.sample(times_ms))


def rehearsal(
    piece: Piece, events: Sequence[Mapping[str, Any]] | None = None, until_ms: float | None = None
) -> Timeline:
    """A rehearsal as a run that ends, to be drawn, sampled and handed over like one.

    Without `events` everything that can be set off is, once. It lasts until the last state has been seen for half a
    second, or for `until_ms` (0–86,400,000). Raises what `rehearse` raises.
    """
    from keen_ripple.core.live.events import read_events
    from keen_ripple.core.live.made import made_events, seen_until_ms
    from keen_ripple.core.live.rehearse import rehearse as rehearsed
    from keen_ripple.core.timeline import timeline_of_rehearsal

    acted = made_events(piece)[0] if events is None else read_events(events, piece)
    until = seen_until_ms(piece, acted) if until_ms is None else until_ms
    return timeline_of_rehearsal(rehearsed(piece, acted, until))


def retime(piece: Piece, *, factor: float | None = None, fit_ms: int | None = None, fps: float | None = None) -> Piece:
    """The piece with other times: all of them `factor` (0.01–100) times as long, its loop exactly `fit_ms` long, or
    everything on frames of a rate of `fps` (1–1000). Raises Fault where that cannot be."""
    from keen_ripple.core.operations.retime import fitted, quantised, scaled

    if [factor, fit_ms, fps].count(None) != 2:
        raise TypeError("Give one of factor, fit_ms and fps.")
    if factor is not None:
        return scaled(piece, factor)
    if fit_ms is not None:
        return fitted(piece, fit_ms)
    assert fps is not None
    return quantised(piece, fps)


def draw(
    timeline: Timeline,
    *,
    state: str | None = None,
    at_ms: float | None = None,
    scale: float = 1.0,
    ground: str | None = None,
) -> bytes:
    """A state, or a moment of the run, as a PNG file; the start if neither is given.

    `scale` (0.01–64) is in px for each px of the piece; `ground` is a CSS colour in place of the piece's own, or none.
    Raises Fault for a state that is not there and for a picture that is too large.
    """
    from keen_ripple.render import draw_at, draw_pose, png

    if at_ms is not None:
        return png(draw_at(timeline, at_ms, scale, ground))
    return png(draw_pose(timeline.piece, timeline.pose(state or timeline.piece.start), scale, ground))


def hand_off(timeline: Timeline, form: str = "html", **chosen: Any) -> Mapping[str, bytes]:
    """The piece as files for others, by the endings of their names; mostly one.

    `chosen` are options that the form has: `fps`, `scale`, `ground`, `dither`, `at`. Raises Fault for a form that is
    none, for options out of range, and for what the form cannot say.
    """
    from keen_ripple.core.errors import Fault
    from keen_ripple.handoff import FORMATS, Options

    if form not in FORMATS:
        raise Fault(f"There is no hand-off {form!r}.", value=form, remedy=f"Known: {', '.join(sorted(FORMATS))}.")
    return FORMATS[form].files(timeline, Options(**chosen))


def write_files(files: Mapping[str, bytes], out: Path | None, folder: Path, stem: str) -> None:
    """Writes what `hand_off` gave: its only file to `out`, or all into a folder, as `stem` with their endings."""
    if out is None:
        folder.mkdir(parents=True, exist_ok=True)
    for ending, content in files.items():
        (out or folder / f"{stem}.{ending}").write_bytes(content)


def take_svg(data: bytes, name: str) -> tuple[Document, list[str]]:
    """The document of a piece made from an SVG file, and what was not taken. Raises IntakeFault."""
    from keen_ripple.intake import take_svg as taken_from

    taken = taken_from(data, name)
    taken.piece()
    return taken.document, list(taken.notes)
