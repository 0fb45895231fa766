"""What is generated, or repeated in a document, is current."""

from __future__ import annotations

import json
import re
import subprocess
import sys
from pathlib import Path

import pytest

from keen_ripple.core.document import read_piece
from keen_ripple.core.properties import PROPERTIES
from keen_ripple.core.timeline import timeline_of

ROOT = Path(__file__).parents[2]
GENERATED = ROOT / "frontend" / "src" / "api" / "generated"
FORMAT = (ROOT / "docs" / "piece-format.md").read_text("utf-8")


def test_front_end_types_are_those_of_the_schema(tmp_path: Path) -> None:
    subprocess.run([sys.executable, str(ROOT / "scripts" / "generate_types.py"), str(tmp_path)], check=True)
    for path in GENERATED.iterdir():
        assert (tmp_path / path.name).read_text("utf-8") == path.read_text("utf-8"), "Run: make types"


@pytest.mark.parametrize("text", re.findall(r"```json\n(.*?)```", FORMAT, re.S))
def test_examples_of_the_format_can_be_played(text: str) -> None:
    document = json.loads(text)
    if "format" in document:
        assert timeline_of(read_piece(document)).run.total_ms > 0


def test_the_format_names_every_property() -> None:
    assert [row.name for row in PROPERTIES if f"`{row.name}`" not in FORMAT] == []
