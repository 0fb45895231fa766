"""A collection of pieces as files: into a database and out of it, one by one or as a zip archive.

The files lie as a library has them, `ID.json` each, so that every command takes what was written as its `--library`.
"""

from __future__ import annotations

import io
import json
import zipfile
import zlib
from collections.abc import Callable, Iterable, Mapping
from pathlib import Path
from typing import Any, NamedTuple

from keen_ripple.core.document import parsed, read_piece
from keen_ripple.core.document.bundle import holding, placed_ids, read_library, unbundled
from keen_ripple.core.errors import DocumentFault, Fault
from keen_ripple.core.limits import LARGEST_COLLECTION, LONGEST_DOCUMENT, MOST_FILES
from keen_ripple.core.timeline import timeline_of
from keen_ripple.store import Connection, pieces

Document = dict[str, Any]
Add = Callable[[Connection, Document], None]
LEFT_OUT = "left-out.txt"
# Of each file; with a fixed moment the same pieces give the same bytes.
MOMENT = (1980, 1, 1, 0, 0, 0)


class Shelved(NamedTuple):
    """The ids of pieces that were put on the shelf, and how many were there already."""

    added: list[str]
    known: int


def text_of(document: Mapping[str, Any]) -> str:
    """As a file: easy to read, to compare and to keep beside code."""
    return json.dumps(document, ensure_ascii=False, indent=1) + "\n"


def zipped(documents: Iterable[Mapping[str, Any]], left_out: Iterable[str]) -> bytes:
    """An archive of pieces; what could not be written is named in a file of its own."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for document in documents:
            archive.writestr(zipfile.ZipInfo(f"{document['id']}.json", MOMENT), text_of(document), zipfile.ZIP_DEFLATED)
        if missing := "".join(f"{line}\n" for line in left_out):
            archive.writestr(zipfile.ZipInfo(LEFT_OUT, MOMENT), missing)
    return out.getvalue()


def unzipped(data: bytes) -> dict[str, Any]:
    """The JSON values in an archive by the names of their files, whatever folder they lie in.

    Raises Fault for what is no archive, for one that is too large, and for one without pieces; DocumentFault, with the
    name of the file.
    """
    try:
        archive = zipfile.ZipFile(io.BytesIO(data))
        files = [each for each in archive.infolist() if each.filename.lower().endswith(".json")]
        if not files:
            raise Fault("There is no piece in this archive.", remedy="Choose one with pieces in it, as ID.json.")
        if len(files) > MOST_FILES or sum(each.file_size for each in files) > LARGEST_COLLECTION:
            raise Fault(
                f"This archive holds more than {MOST_FILES} pieces or {LARGEST_COLLECTION // 1_000_000} MB.",
                remedy="Take the pieces out of it in parts.",
            )
        return {each.filename: _json_in(archive, each) for each in files}
    # What it is packed by that we have not, a password, and a stream that is broken, among them.
    except (zipfile.BadZipFile, zlib.error, NotImplementedError, RuntimeError, EOFError) as error:
        raise Fault(f"This is no zip archive that can be read: {error}.", remedy="Choose another file.") from None


def _json_in(archive: zipfile.ZipFile, file: zipfile.ZipInfo) -> Any:
    with archive.open(file) as stream:
        # What is longer than any document is refused as such.
        data = stream.read(LONGEST_DOCUMENT + 1)
    return in_file(file.filename, data)


def in_file(name: str, data: bytes) -> Any:
    """The JSON value in a file. Raises DocumentFault, which names the file."""
    try:
        return parsed(data)
    except DocumentFault as fault:
        raise DocumentFault(f"{name}: {fault.message}", place=fault.place, remedy=fault.remedy) from None


def library_in(files: Mapping[str, Any]) -> dict[str, Any]:
    """The documents in files, those in bundles too, by their ids. Raises DocumentFault, which names the file."""
    found: dict[str, Any] = {}
    for name, value in files.items():
        try:
            document, inner = unbundled(value)
            own = {**inner, read_piece(document).id: document}
            read_library(inner)
        except DocumentFault as fault:
            raise DocumentFault.of([_in_file(name, each) for each in fault.all or (fault,)]) from None
        for piece_id, each in own.items():
            if found.setdefault(piece_id, each) != each:
                raise Fault(
                    f"{name}: another file has a piece {piece_id!r} too, and not the same one.",
                    remedy="Give one of them another id.",
                )
    return found


def _in_file(name: str, fault: Fault) -> DocumentFault:
    return DocumentFault(f"{name}: {fault.message}", place=fault.place, value=fault.value, remedy=fault.remedy)


def put(conn: Connection, library: Mapping[str, Any], add: Add | None = None) -> tuple[Shelved, dict[str, str]]:
    """Puts pieces on the shelf, those that others hold first; one that is there already is used as it is.

    `add` stores one, played in whatever way its caller plays it. An id that another piece has is not taken from it: the
    second value says which were given another one. Raises PlacingFault.
    """
    names: dict[str, str] = {}
    added: list[str] = []
    known = 0
    waiting = dict(library)
    while waiting:
        ready = [name for name, each in waiting.items() if not placed_ids(each) & waiting.keys()]
        # In a circle none is ready: as it stands the first is refused with the chain named.
        for name in ready or list(waiting)[:1]:
            own = holding(waiting.pop(name), names)
            if pieces.has(conn, own):
                known += 1
                continue
            names[name] = own["id"] = pieces.free_id(conn, name)
            (add or _add)(conn, own)
            added.append(own["id"])
    return Shelved(added, known), names


def _add(conn: Connection, document: Document) -> None:
    placed = pieces.placed_in(conn, document)
    timeline = timeline_of(
        read_piece(document), library={name: read_piece(other.document) for name, other in placed.items()}
    )
    pieces.add(conn, document)
    pieces.set_lengths(conn, document["id"], timeline.run.total_ms, timeline.run.loop_ms)


def write_into(folder: Path, documents: Iterable[Mapping[str, Any]]) -> list[Path]:
    """Writes each piece as `ID.json`; files that are as they should be stay untouched. Raises OSError."""
    folder.mkdir(parents=True, exist_ok=True)
    written = []
    for document in documents:
        path, text = folder / f"{document['id']}.json", text_of(document)
        if not path.exists() or path.read_text("utf-8") != text:
            path.write_text(text, "utf-8")
            written.append(path)
    return written
