"""What `import keen_ripple` gives, as its page shows it."""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

import keen_ripple
from keen_ripple.cli import FORMATS as NAMED
from keen_ripple.core.errors import Fault
from keen_ripple.handoff import FORMATS
from support import piece

ROOT = Path(__file__).parents[1]
PAGE = ROOT / "docs" / "use-from-python.md"


def test_the_examples_hold(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(ROOT / "src" / "keen_ripple" / "demo")
    examples = re.findall(r"```python\n(.*?)```", PAGE.read_text("utf-8"), re.S)
    known: dict[str, Any] = {}
    for example in examples:
        exec(compile(example, str(PAGE), "exec"), known)
    assert len(examples) == 9


def test_the_page_shows_every_function() -> None:
    text = PAGE.read_text("utf-8")
    assert [name for name in keen_ripple.__all__ if f"keen_ripple.{name}(" not in text] == []
    assert set(NAMED) == set(FORMATS)


def test_what_cannot_be_is_a_fault_with_a_remedy() -> None:
    timeline = keen_ripple.timeline(keen_ripple.read(piece()))
    for act in (
        lambda: keen_ripple.draw(timeline, state="c"),
        lambda: keen_ripple.hand_off(timeline, "tar"),
        lambda: keen_ripple.retime(timeline.piece, factor=0.0),
        lambda: keen_ripple.rehearse(timeline.piece, [{"t_ms": -1, "cue": "tap"}], [0]),
        lambda: keen_ripple.read(b"{"),
    ):
        with pytest.raises(Fault) as caught:
            act()
        assert caught.value.remedy
    with pytest.raises(TypeError):
        keen_ripple.retime(timeline.piece, factor=2, fps=30)


def test_nothing_is_loaded_before_it_is_needed() -> None:
    script = "import keen_ripple.cli, sys; print(*sys.modules)"
    loaded = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True).stdout.split()
    assert {"numpy", "pydantic", "flask", "skia", "fontTools"} & set(loaded) == set()
