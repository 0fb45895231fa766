"""The command line, a thin user of the library."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from keen_ripple import arguments, handing, library, printed, serving
from keen_ripple.core.errors import DocumentFault, Fault

if TYPE_CHECKING:
    from keen_ripple.core.document import Piece
    from keen_ripple.core.timeline import Timeline

# Written out, so that no command waits for those that write the files.
AS_PICTURES = ("apng", "gif", "sprite", "still", "webm", "webp")
AS_TEXTS = ("animate", "css", "element", "html", "live", "lottie", "react", "sheet", "svg", "tape", "tokens")
FORMATS = (*AS_PICTURES, *AS_TEXTS)
Command = Callable[[argparse.Namespace], None]


def main(arguments: Sequence[str] | None = None) -> int:
    """Runs one command; 0 when it worked, 1 for a fault in the input, 2 for wrong usage."""
    options = _parser().parse_args(arguments)
    if len(getattr(options, "pieces", ())) < 2:
        return _status("", options)
    try:
        runs = list(_one_by_one(options))
    except (Fault, OSError) as fault:
        print(f"keen-ripple: {fault}", file=sys.stderr)
        return 1
    return max(_status(name, run) for name, run in runs)


def _status(name: str, options: argparse.Namespace) -> int:
    try:
        options.command(options)
    except DocumentFault as fault:
        for each in fault.all or (fault,):
            print(f"keen-ripple: {name}{each}", file=sys.stderr)
        return 1
    except (Fault, OSError) as fault:
        print(f"keen-ripple: {name}{fault}", file=sys.stderr)
        return 1
    return 0


def _one_by_one(options: argparse.Namespace) -> Iterator[tuple[str, argparse.Namespace]]:
    """Several pieces: each by itself, named in what is said; what is written goes into a folder, by their names."""
    if "out" in vars(options):
        _into_folder(options)
    for path in options.pieces:
        own = {**vars(options), "pieces": [path], "several": True}
        if "out" in own:
            own["out"] = options.out / (path.stem if "format" in own else f"{path.stem}.{options.suffix}")
        yield f"{path}: ", argparse.Namespace(**own)


def _into_folder(options: argparse.Namespace) -> None:
    stems = [path.stem for path in options.pieces]
    twice = next((stem for stem in stems if stems.count(stem) > 1), None)
    if twice:
        raise Fault(f"Two pieces are called {twice}.", remedy="Write them one by one.")
    if options.out.is_file():
        raise Fault(f"{options.out} is a file.", remedy="Name a folder with --out, for several pieces.")
    options.out.mkdir(parents=True, exist_ok=True)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="keen-ripple", description="Micro-animations, computed exactly.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for name, text in (("serve", "serve the application"), ("demo", "serve it with the Quay Nine pieces")):
        command = commands.add_parser(name, help=text)
        arguments.of_serving(command)
        command.set_defaults(command=serving.serve, with_demo=name == "demo")
    command = commands.add_parser("work", help="make hand-offs for servers that ask on the same queue")
    command.add_argument("--at-once", type=arguments.at_once, default=1, metavar="N", help="so many, 1 if not given")
    _with_database(command, serving.work)
    command = commands.add_parser("import", help="put pieces from files on a shelf, all of them or none")
    command.add_argument("files", nargs="+", type=Path, metavar="FILE", help="pieces, bundles, zips of them")
    _with_database(command, _import)
    command = commands.add_parser("export", help="write all pieces of a shelf into a folder, as ID.json")
    command.add_argument("folder", type=Path, metavar="DIR")
    _with_database(command, _export)
    command = commands.add_parser("gallery", help="write a shelf as a folder of pages that any web server can show")
    command.add_argument("folder", type=Path, metavar="DIR")
    _with_database(command, _gallery)
    command = commands.add_parser("intake", help="make a piece from an SVG file; what is not taken goes to stderr")
    command.add_argument("svg", type=Path, metavar="FILE.svg")
    command.add_argument("--out", type=Path, required=True, metavar="PIECE.json")
    command.set_defaults(command=_intake)
    arguments.acted(_on_a_piece(commands, "run", _run, "print the lead-in, the loop, their segments and the seam"))
    command = _on_a_piece(commands, "sample", _sample, "print what each layer looks like, a JSON line per moment")
    when = command.add_mutually_exclusive_group(required=True)
    when.add_argument("--at", type=arguments.moments, metavar="MS[,MS…]", help="at these moments")
    when.add_argument(
        "--fps", type=arguments.rate, metavar="N", help="at this frame rate, from 0 to the end of the first round"
    )
    command = _on_a_piece(commands, "draw", _draw, "draw a state, or a moment of the run, as a PNG file", writes="png")
    arguments.acted(command)
    which = command.add_mutually_exclusive_group()
    which.add_argument("--state", metavar="ID", help="the start if neither a state nor a moment is given")
    which.add_argument("--at", type=arguments.moment, metavar="MS")
    command.add_argument("--scale", type=arguments.scale, default=1.0, metavar="N", help="px for each px of the piece")
    command.add_argument("--ground", metavar="CSS-COLOUR", help="in place of the piece's own; none for none")
    command = _on_a_piece(commands, "retime", _retime, "write the piece with other times", writes="json")
    how = command.add_mutually_exclusive_group(required=True)
    how.add_argument("--factor", type=arguments.number, metavar="F", help="everything takes so many times as long")
    how.add_argument(
        "--fit", type=arguments.number, metavar="MS", help="the loop, or a run that ends, takes exactly that long"
    )
    how.add_argument("--fps", type=arguments.number, metavar="N", help="everything happens on frames of this rate")
    command = commands.add_parser("rehearse", help="print what is seen when somebody acts, as sample does")
    command.add_argument("pieces", nargs=1, type=Path, metavar="PIECE.json")
    _with_library(command)
    command.set_defaults(command=_rehearse)
    command.add_argument("events", type=Path, metavar="EVENTS.json", help='a list of {"t_ms", "cue", "layer"}')
    when = command.add_mutually_exclusive_group(required=True)
    when.add_argument("--at", type=arguments.moments, metavar="MS[,MS…]", help="at these moments")
    when.add_argument("--fps", type=arguments.rate, metavar="N", help="at this frame rate, from 0 to --until")
    when.add_argument(
        "--expect", type=Path, metavar="FILE", help="print nothing; fail where it differs from what FILE has"
    )
    command.add_argument("--until", type=arguments.moment, metavar="MS", help="how long is played")
    command = _on_a_piece(commands, "handoff", _handoff, "write the piece as a file for others", writes="html")
    arguments.acted(command)
    command.add_argument("--format", choices=FORMATS, required=True)
    arguments.of_pictures(command)
    command.add_argument("--measure", action="store_true", help="print how far it is from what is computed")
    arguments.acted(
        _on_a_piece(commands, "tape", _tape, "write the computed values of all transitions, as few bytes", writes="krt")
    )
    _on_a_piece(commands, "bundle", _bundle, "write the piece with all that stands in it, as one file", writes="json")
    command = commands.add_parser("schema", help="print the JSON Schema of a piece")
    command.set_defaults(command=_schema)
    return parser


def _on_a_piece(commands: Any, name: str, run: Command, text: str, writes: str = "") -> argparse.ArgumentParser:
    """A command that reads pieces, and may write a file for each, with a suffix where it names them itself."""
    command: argparse.ArgumentParser = commands.add_parser(name, help=text)
    command.add_argument("pieces", nargs="+", type=Path, metavar="PIECE.json")
    if writes:
        out = "the file, or of several pieces the folder"
        command.add_argument("--out", type=Path, required=True, metavar="FILE", help=out)
    _with_library(command)
    command.set_defaults(command=run, suffix=writes, several=False)
    return command


def _with_database(command: argparse.ArgumentParser, run: Command) -> None:
    command.add_argument("--db", type=Path, default=Path("quay-nine.sqlite"), metavar="FILE")
    command.set_defaults(command=run)


def _import(options: argparse.Namespace) -> None:
    from keen_ripple.shelf import take_in

    _print(take_in(options.db, options.files)._asdict())


def _export(options: argparse.Namespace) -> None:
    from keen_ripple.shelf import give_out

    written, left_out = give_out(options.db, options.folder)
    for line in left_out:
        print(f"keen-ripple: not written: {line}", file=sys.stderr)
    _print({"written": [str(path) for path in written]})


def _gallery(options: argparse.Namespace) -> None:
    from keen_ripple.gallery import write_gallery
    from keen_ripple.shelf import documents_of

    documents, left_out = documents_of(options.db)
    for line in [*left_out, *write_gallery(documents, options.folder)]:
        print(f"keen-ripple: not shown: {line}", file=sys.stderr)
    _print({"written": str(options.folder / "index.html"), "pieces": len(documents)})


def _with_library(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--library", type=Path, metavar="DIR", help="where the pieces are that stand in it, as DIR/ID.json"
    )


def _piece(options: argparse.Namespace) -> Piece:
    """With all that stands in it."""
    return library.assemble(options.pieces[0], options.library)


def _bundle(options: argparse.Namespace) -> None:
    found = library.bundle(options.pieces[0], options.library or options.pieces[0].parent)
    options.out.write_text(json.dumps(found, ensure_ascii=False, indent=2) + "\n", "utf-8")


def _timeline(options: argparse.Namespace) -> Timeline:
    events = getattr(options, "events", None)
    if events is None and not getattr(options, "every_way", False):
        if getattr(options, "until", None) is not None:
            raise Fault(
                "The run lasts as long as it lasts.", place="--until", remedy="Give --events or --every-way too."
            )
        return library.timeline(options.pieces[0], options.library)
    return library.rehearsal(_piece(options), library.json_in(events) if events else None, options.until)


def _run(options: argparse.Namespace) -> None:
    timeline = _timeline(options)
    seam = library.seam(timeline)
    _print({**arguments.name(options), **timeline.run.to_json(), "seam": seam.to_json() if seam else None})


def _sample(options: argparse.Namespace) -> None:
    from keen_ripple.core.timeline import frame_times

    timeline = _timeline(options)
    moments = options.at if options.at is not None else frame_times(timeline.run, options.fps)
    for t_ms, pose in zip(moments, library.sample(timeline, moments), strict=True):
        _print(
            {
                **arguments.name(options),
                "t_ms": t_ms,
                "layers": printed.seen(timeline.piece, pose),
                **_fade(timeline, t_ms),
            }
        )


def _retime(options: argparse.Namespace) -> None:
    from keen_ripple.core.document.bundle import bundled, unbundled

    document, own = unbundled(library.json_in(options.pieces[0]))
    piece = library.read(document)
    if options.fit is not None and not options.fit.is_integer():
        raise Fault(f"{options.fit:g} ms is not whole.", place="--fit", remedy="Give whole milliseconds.")
    fit = None if options.fit is None else int(options.fit)
    new = library.document_of(library.retime(piece, factor=options.factor, fit_ms=fit, fps=options.fps))
    # What has no times is left as it was written.
    times = {name: new[name] for name in ("transitions", "undercurrents") if name in document}
    library.read({**document, **times})
    new_document = bundled({**document, **times}, own)
    options.out.write_text(json.dumps(new_document, ensure_ascii=False, indent=2) + "\n", "utf-8")


def _rehearse(options: argparse.Namespace) -> None:
    piece, events = _piece(options), library.json_in(options.events)
    if options.expect:
        return _hold_against(options.expect, piece, events)
    for line in _rehearsed(piece, events, _rehearsed_moments(options)):
        _print(line)


def _rehearsed_moments(options: argparse.Namespace) -> list[float]:
    from keen_ripple.core.timeline import every

    if options.at is None and options.until is None:
        raise Fault("It is not said how long is played.", place="--until", remedy="Give it with --fps, in ms.")
    return list(options.at) if options.at is not None else every(options.until, options.fps)


def _rehearsed(piece: Piece, events: Any, moments: Sequence[float]) -> Iterator[dict[str, Any]]:
    for t_ms, pose in zip(moments, library.rehearse(piece, events, moments), strict=True):
        yield {"t_ms": t_ms, "layers": printed.seen(piece, pose)}


def _hold_against(path: Path, piece: Piece, events: Any) -> None:
    """Raises Fault where what is seen now is not what was printed into the file."""
    from keen_ripple.core.live.expected import differences, expected_lines

    expected = expected_lines(path.read_bytes())
    # As they would be printed.
    found = json.loads(json.dumps(list(_rehearsed(piece, events, [line["t_ms"] for line in expected]))))
    differing = list(differences(found, expected))
    if differing:
        raise Fault(
            f"Not as {path} has it: {differing[0]}. Values that differ: {len(differing)}.",
            remedy="Mend the piece, or print the file anew.",
        )


def _fade(timeline: Timeline, t_ms: float) -> dict[str, Any]:
    """The old look, and the share of the new one, in a cross-fade."""
    from keen_ripple.core.timeline import cross_fade_at

    found = cross_fade_at(timeline, t_ms)
    if found is None:
        return {}
    pose, share = found
    layers = {name: printed.plain_look(look) for name, look in pose.items()}
    return {"fade": {"share": printed.rounded(share), "layers": printed.rounded(layers)}}


def _intake(options: argparse.Namespace) -> None:
    document, notes = library.take_svg(options.svg.read_bytes(), options.svg.stem)
    for note in notes:
        print(f"keen-ripple: {note}", file=sys.stderr)
    options.out.write_text(json.dumps(document, ensure_ascii=False, indent=2) + "\n", "utf-8")


def _draw(options: argparse.Namespace) -> None:
    timeline = _timeline(options)
    look = {"state": options.state, "at_ms": options.at, "scale": options.scale, "ground": options.ground}
    options.out.write_bytes(library.draw(timeline, **look))


def _handoff(options: argparse.Namespace) -> None:
    measured = handing.hand_off(options, _timeline(options))
    if measured is not None:
        _print(measured)


def _schema(_: argparse.Namespace) -> None:
    from keen_ripple.core.document import json_schema

    _print(json_schema(), indent=2)


def _tape(options: argparse.Namespace) -> None:
    from keen_ripple.handoff.compact import pack

    options.out.write_bytes(pack({name: leg.tape for name, leg in _timeline(options).legs.items()}))


def _print(value: Any, indent: int | None = None) -> None:
    print(json.dumps(value, ensure_ascii=False, indent=indent))


if __name__ == "__main__":
    sys.exit(main())
