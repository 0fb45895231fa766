"""Who may import whom, read off the syntax trees; and a planted tree in which every rule is broken."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
PACKAGE = ROOT / "src" / "keen_ripple"

# Folder → our folders that it may import. What is not listed here (web, cli) may import everything.
ALLOWED = {
    "core": {"core"},
    "media": {"core", "media"},
    "fonts": {"core", "fonts"},
    "render": {"core", "fonts", "media", "render"},
    "handoff": {"core", "fonts", "media", "render", "handoff"},
    "measured": {"core", "handoff", "media", "render", "measured"},
    "intake": {"core", "fonts", "intake"},
    "store": {"core", "store"},
    "jobs": {"core", "handoff", "measured", "store", "jobs"},
    "demo": {"demo"},
}
# Package → the one folder that may use it.
KEPT_TO = {
    "sqlite3": "store",
    "flask": "web",
    "waitress": "web",
    "werkzeug": "web",
    "skia": "render",
    "PIL": "media",
    "av": "media",
    "huey": "jobs",
    "redis": "jobs",
}
# The parts of the core in the order in which data takes them: each imports only those before it.
CORE = (
    *("arrays", "errors", "limits", "fonts", "colour", "values", "curves", "outlines", "blends", "properties"),
    *("document", "flow", "live", "timeline", "measures", "operations"),
)
FLOW = (
    *(
        "parameters",
        "traits",
        "scrolling",
        "copies",
        "layout",
        "poses",
        "families",
        "moves",
        "cost",
        "finer",
        "tape",
        "media",
        "legs",
        "run",
        "free",
        "called",
        "ways",
        "placing",
        "track",
    ),
    *("sampling", "undercurrents"),
)
# All of the standard library that the core may use: no clock, no chance, no files but bytes, no other programs.
CORE_STANDARD = {
    *("__future__", "base64", "binascii", "bisect", "collections", "copy", "dataclasses", "fractions", "functools"),
    *("io", "itertools", "json", "math", "operator", "re", "struct", "types", "typing", "zlib"),
}
CORE_PACKAGES = {
    "brotli",
    "coloraide",
    "fontTools",
    "jsonpatch",
    "jsonpointer",
    "keen_ripple",
    "numpy",
    "pydantic",
    "tinycss2",
    "typing_extensions",
}
FRONTEND = {
    "shared": {"shared", "api"},
    "api": {"api"},
    "runtime": {"runtime"},
    "features": {"shared", "api", "features", "app", "runtime"},
    "handed": {"api", "features", "runtime", "handed"},
}


def imports(path: Path) -> Iterator[str]:
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module
            yield from (f"{node.module}.{alias.name}" for alias in node.names)


def python_faults(package: Path) -> set[tuple[str, str]]:
    faults = set()
    for path in package.rglob("*.py"):
        folder = path.relative_to(package).parts[0]
        for name in imports(path):
            ours = name.split(".")[1:2] if name.startswith("keen_ripple.") else []
            if ours and folder in ALLOWED and ours[0] not in ALLOWED[folder]:
                faults.add((folder, ours[0]))
            top = name.split(".")[0]
            if KEPT_TO.get(top, folder) != folder:
                faults.add((folder, top))
    return faults


def core_faults(core: Path) -> set[tuple[str, str]]:
    """What the core may not use at all, and imports against the order of its parts and of the steps of its flow."""
    faults = set()
    for path in core.rglob("*.py"):
        place = path.relative_to(core).with_suffix("").parts
        for name in imports(path):
            parts = name.split(".")
            if parts[0] not in CORE_STANDARD | CORE_PACKAGES:
                faults.add((place[0], parts[0]))
            if parts[:2] == ["keen_ripple", "core"] and len(parts) > 2:
                faults |= against(CORE, place[0], parts[2])
                if place[0] == parts[2] == "flow" and len(parts) > 3:
                    faults |= against(FLOW, place[1], parts[3])
    return faults


def against(order: tuple[str, ...], part: str, imported: str) -> set[tuple[str, str]]:
    """The two, if they do not stand in this order; what is no part at all is never in order."""
    if part == "__init__":
        return set()
    known = part in order and imported in order
    return set() if known and order.index(imported) <= order.index(part) else {(part, imported)}


def frontend_faults(source: Path) -> set[tuple[str, str]]:
    faults = set()
    for path in [*source.rglob("*.ts"), *source.rglob("*.tsx")]:
        parts = path.relative_to(source).parts
        for target in re.findall(r"""from '(\.[^']+)'""", path.read_text("utf-8")):
            reached = (path.parent / target).resolve().relative_to(source.resolve()).parts
            if reached[0] not in FRONTEND.get(parts[0], {reached[0]}):
                faults.add((parts[0], reached[0]))
            elif parts[0] == reached[0] == "features" and parts[1] != reached[1] and len(reached) > 2:
                faults.add((parts[1], "/".join(reached[1:])))
            elif parts[0] == "features" and reached[0] == "app" and not target.endswith(".svg"):
                faults.add(("features", "app"))
    return faults


def test_python_imports_follow_the_rule() -> None:
    assert python_faults(PACKAGE) == set()


def test_the_core_is_pure_and_in_order() -> None:
    assert core_faults(PACKAGE / "core") == set()


def test_front_end_imports_follow_the_rule() -> None:
    assert frontend_faults(ROOT / "frontend" / "src") == set()


def plant(folder: Path, files: dict[str, str]) -> Path:
    for name, text in files.items():
        path = folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text)
    return folder


def test_a_planted_tree_is_caught(tmp_path: Path) -> None:
    package = plant(
        tmp_path,
        {
            "core/a.py": "import sqlite3",
            "core/b.py": "from flask import Flask",
            "core/c.py": "def f():\n    from keen_ripple.store import atomic",
            "store/d.py": "from keen_ripple import core, handoff",
            "handoff/e.py": "import skia",
            "web/f.py": "from keen_ripple.store import atomic\nimport flask",
        },
    )
    assert python_faults(package) == {
        ("core", "sqlite3"),
        ("core", "flask"),
        ("core", "store"),
        ("store", "handoff"),
        ("handoff", "skia"),
    }


def test_a_planted_core_is_caught(tmp_path: Path) -> None:
    core = plant(
        tmp_path,
        {
            "flow/moves.py": "from keen_ripple.core.flow.legs import Leg\nimport time",
            "flow/legs.py": "from keen_ripple.core.flow.moves import Move\nimport keen_ripple.core.timeline",
            "document/a.py": "import os\nfrom keen_ripple.core.flow import poses",
            "measures/b.py": "def f():\n    import random",
            "operations/c.py": "from subprocess import run\nfrom keen_ripple.core.document import Piece",
            "astray.py": "from keen_ripple.core.errors import Fault",
        },
    )
    assert core_faults(core) == {
        *{("moves", "legs"), ("flow", "time"), ("flow", "timeline"), ("document", "os"), ("document", "flow")},
        *{("measures", "random"), ("operations", "subprocess"), ("astray", "errors")},
    }


def test_a_planted_front_end_is_caught(tmp_path: Path) -> None:
    source = plant(
        tmp_path,
        {
            "shared/a.ts": "import { x } from '../features/shelf';",
            "api/b.ts": "import { x } from '../shared/x';",
            "features/one/c.ts": "import { x } from '../two/inner';\nimport { y } from '../two';",
            "features/one/d.ts": "import { x } from '../../app/theme';",
            "app/e.ts": "import { x } from '../features/one';",
        },
    )
    assert frontend_faults(source) == {
        ("shared", "features"),
        ("api", "shared"),
        ("one", "two/inner"),
        ("features", "app"),
    }


@pytest.mark.parametrize("path", [*PACKAGE.rglob("*.py"), *(ROOT / "frontend" / "src").rglob("*.ts*")], ids=str)
def test_no_file_is_longer_than_two_ideas(path: Path) -> None:
    if "generated" not in path.parts:
        assert len(path.read_text("utf-8").splitlines()) <= 350
