"""A shelf as a folder of static pages that any web server can show: each piece playing, with its hand-offs."""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from html import escape
from pathlib import Path
from typing import Any

from keen_ripple.core.document import Piece, read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import AS_IT_IS, FORMATS

# What is written in a moment: pictures of a whole shelf would take minutes.
HANDED = {"live": "live page", "html": "web page", "element": "element", "react": "React", "tokens": "tokens"}
SHEET = {"sheet": "timing sheet"}
# px: the ground on which each is shown, and how much of it is left around.
GROUND, AROUND = (372, 260), 20


@dataclass(frozen=True)
class Shown:
    """A piece with the names of its files, by what they are called on its card; or why there is none of it."""

    piece: Piece
    files: Mapping[str, Sequence[str]]
    fault: str = ""


def write_gallery(documents: Sequence[Mapping[str, Any]], folder: Path) -> list[str]:
    """Writes `index.html` and a folder for each piece: what could not be handed off, with its reason.

    The folder appears whole or not at all. Raises Fault for one that holds something else, and OSError.
    """
    if folder.exists() and (not folder.is_dir() or (any(folder.iterdir()) and not (folder / MARK).is_file())):
        raise Fault(f"{folder} holds something else.", remedy="Name a new folder, or an empty one.")
    library = {piece.id: piece for piece in map(read_piece, documents)}
    folder.absolute().parent.mkdir(parents=True, exist_ok=True)
    made = Path(tempfile.mkdtemp(prefix=".gallery-", dir=folder.absolute().parent))
    try:
        shown = [_written(piece, library, made) for piece in sorted(library.values(), key=lambda p: p.name.casefold())]
        (made / "index.html").write_text("\n".join(_page(shown)) + "\n", "utf-8")
        (made / MARK).write_text("A gallery, written by keen-ripple; the next one takes its place.\n", "utf-8")
        made.chmod(0o755)
        if folder.exists():
            shutil.rmtree(folder)
        made.replace(folder)
    except BaseException:
        shutil.rmtree(made, ignore_errors=True)
        raise
    return [f"{each.piece.name}: {each.fault}" for each in shown if each.fault]


MARK = ".keen-ripple-gallery"


def _written(piece: Piece, library: Mapping[str, Piece], folder: Path) -> Shown:
    found: dict[str, list[str]] = {}
    try:
        timeline = timeline_of(piece, library=library)
        (folder / piece.id).mkdir()
        for name, title in {**HANDED, **SHEET}.items():
            for ending, content in FORMATS[name].files(timeline, AS_IT_IS).items():
                file = f"{piece.id}/{piece.id}.{ending}"
                (folder / file).write_bytes(content)
                found.setdefault(title, []).append(file)
    except Fault as fault:
        return Shown(piece, {}, str(fault))
    return Shown(piece, found)


STYLE = """
html { background: #f5f2ea; color: #15293b; font: 14px/1.5 'Hanken Grotesk', system-ui, sans-serif; }
body { margin: 0 auto; max-width: 1240px; padding: 32px 24px; }
h1 { margin: 0 0 20px; font-size: 24px; }
main { display: grid; grid-template-columns: repeat(auto-fill, 374px); gap: 20px; }
article { border: 1px solid #d9d4c6; background: #fbfaf5; }
.ground { display: grid; place-items: center; height: 260px; background: #eaf0ec; }
iframe { display: block; border: 0; transform-origin: 0 0; }
h2 { margin: 12px 14px 2px; font-size: 15px; }
p { margin: 0 14px 14px; }
a { display: inline-block; margin-right: 12px; color: #1f7a70; }
""".strip()


def _page(shown: Sequence[Shown]) -> Iterator[str]:
    yield from ("<!doctype html>", '<html lang="en">', "<head>", '  <meta charset="utf-8">')
    yield '  <meta name="viewport" content="width=device-width, initial-scale=1">'
    yield f"  <title>Gallery of {len(shown)} pieces</title>"
    yield from ("  <style>", *(f"    {line}" for line in STYLE.splitlines()), "  </style>", "</head>", "<body>")
    yield from ("  <h1>Gallery</h1>", "  <main>")
    for each in shown:
        yield from (f"    {line}" for line in _card(each))
    yield from ("  </main>", "</body>", "</html>")


def _card(shown: Shown) -> Iterator[str]:
    """A large piece is shown smaller, in a frame that can reach nothing of the gallery."""
    piece, name = shown.piece, escape(shown.piece.name)
    across, down = (side - 2 * AROUND for side in GROUND)
    scale = min(across / piece.width, down / piece.height, 1.0)
    size = f"width: {piece.width * scale:g}px; height: {piece.height * scale:g}px"
    yield "<article>"
    if shown.fault:
        yield f"  <h2>{name}</h2>"
        yield f"  <p>{escape(shown.fault)}</p>"
    else:
        inner = f"width: {piece.width:g}px; height: {piece.height:g}px; transform: scale({scale:.4g})"
        source = escape(shown.files["live page"][0])
        frame = f'title="{name}" src="{source}" sandbox="allow-scripts" loading="lazy" scrolling="no"'
        yield f'  <div class="ground"><div style="{size}"><iframe {frame} style="{inner}"></iframe></div></div>'
        yield f"  <h2>{name}</h2>"
        leads = "".join(f'<a href="{escape(files[0])}">{title}</a>' for title, files in shown.files.items())
        yield f"  <p>{leads}</p>"
    yield "</article>"
