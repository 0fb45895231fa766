"""A new property is one row: it is added to a copy of the package, and found everywhere."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path
from typing import Any

import keen_ripple

PACKAGE = Path(keen_ripple.__file__).parent
SCRIPTS = PACKAGE.parent.parent / "scripts"
ROW = """    Property("tint", "tint turn", "°", "linear", 0.0, tolerance=0.05, kinds=("rectangle",), css="--tint",
             plain=True, group="Look", step=5.0),
)  # fmt: skip"""

USED = """
import json, sys
sys.path.insert(0, sys.argv[1])
import generate_types
from keen_ripple import hand_off, read, sample, timeline
from keen_ripple.core.document import json_schema
from keen_ripple.web.contract.answers import WholeAnswer

def piece(value, layer=0):
    box = {"kind": ["rectangle", "ellipse"][layer], "id": "box", "name": "Box", "x": 0, "y": 0, "width": 9, "height": 9}
    states = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"box": {"tint": value}}}]
    timing = {"kind": "curve", "duration_ms": 100, "easing": "linear"}
    ways = [{"id": f"{a}{b}", "from": a, "to": b, "timing": timing} for a, b in ("ab", "ba")]
    head = {"format": 1, "id": "p", "name": "P", "width": 9, "height": 9, "layers": [box], "start": "a"}
    return {**head, "states": states, "transitions": ways}

line = timeline(read(piece(90)))
try:
    read(piece(90, layer=1))
    refused = ""
except ValueError as fault:
    refused = str(fault)
print(json.dumps({
    "sampled": [pose["box"]["tint"] for pose in sample(line, [0, 50, 100])],
    "tape": [track.property for leg in line.legs.values() for track in leg.tape],
    "schema": "tint" in json.dumps(json_schema()),
    "contract": "tint" in json.dumps(generate_types.contract_schema()),
    "catalogue": generate_types.catalogue(),
    "page": hand_off(line, "html")["html"].decode(),
    "refused": refused,
}))
"""


def with_another_row(folder: Path) -> dict[str, Any]:
    copy = folder / "keen_ripple"
    shutil.copytree(PACKAGE, copy, ignore=shutil.ignore_patterns("dist", "__pycache__"))
    table = copy / "core" / "properties.py"
    text = table.read_text("utf-8")
    assert text.count(")  # fmt: skip") == 1
    table.write_text(text.replace(")  # fmt: skip", ROW), "utf-8")
    environment = {**os.environ, "PYTHONPATH": str(folder)}
    command = [sys.executable, "-c", USED, str(SCRIPTS)]
    done = subprocess.run(command, env=environment, cwd=folder, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    found: dict[str, Any] = json.loads(done.stdout)
    return found


def test_a_new_property_is_one_row(tmp_path: Path) -> None:
    found = with_another_row(tmp_path)
    assert found["sampled"] == [0, 45, 90]
    assert found["tape"] == ["tint", "tint"]
    assert found["schema"] and found["contract"]
    assert '"label": "tint turn"' in found["catalogue"] and '"css": "--tint"' in found["catalogue"]
    assert "--tint: 90deg" in found["page"]
    # And what has no such property does not take it.
    assert "/states/1/changes/box/tint" in found["refused"]
