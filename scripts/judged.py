"""Files of all demo pieces, held against validators and parsers of others.

    python scripts/judged.py

HTML and CSS by validators, Lottie by its official schema, tokens by two parsers that have to find as many as there are
and the same. Prints a line for each of them; ends with 1 where one finds a fault.
"""

from __future__ import annotations

import json
import shutil
import subprocess
import sys
import tempfile
from collections import defaultdict
from pathlib import Path
from typing import Any

from keen_ripple import demo
from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import AS_IT_IS, FORMATS

JUDGES = Path(__file__).parent / "judges"
NAMES = ("html", "live", "css", "lottie", "tokens", "sheet")


def write(folder: Path) -> None:
    library = {document["id"]: read_piece(document) for document in demo.documents()}
    for piece_id, piece in library.items():
        timeline = timeline_of(piece, library=library)
        for name in NAMES:
            for ending, content in FORMATS[name].files(timeline, AS_IT_IS).items():
                (folder / f"{piece_id}.{ending}").write_bytes(content)


def judged(folder: Path) -> list[dict[str, Any]]:
    command = [shutil.which("node") or "node", str(JUDGES / "judge.mjs"), str(folder)]
    done = subprocess.run(command, cwd=JUDGES, check=True, capture_output=True, text=True)
    return [json.loads(line) for line in done.stdout.splitlines() if line.startswith("{")]


def tokens_in(value: Any) -> int:
    """How many tokens a file says that it has."""
    if not isinstance(value, dict):
        return 0
    return int("$value" in value) + sum(tokens_in(inner) for name, inner in value.items() if name[0] != "$")


def main() -> int:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        write(folder)
        by_judge: dict[str, list[dict[str, Any]]] = defaultdict(list)
        for verdict in judged(folder):
            if "count" in verdict and not verdict["faults"]:
                there = tokens_in(json.loads((folder / verdict["file"]).read_text("utf-8")))
                wrong = verdict["count"] != there
                verdict["faults"] = [f"{verdict['count']} tokens found of {there}"] if wrong else []
            by_judge[verdict["judge"]].append(verdict)
    for judge, verdicts in by_judge.items():
        faults = [(verdict["file"], fault) for verdict in verdicts for fault in verdict["faults"]]
        print(f"{judge}: {len(verdicts)} files, {len(faults)} faults")
        for file, fault in faults[:10]:
            print(f"  {file} {fault}")
    return int(any(verdict["faults"] for verdicts in by_judge.values() for verdict in verdicts))


if __name__ == "__main__":
    sys.exit(main())
