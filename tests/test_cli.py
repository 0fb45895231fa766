"""The command line: what it prints, and how it fails."""

from __future__ import annotations

import json
import socket
import subprocess
import sys
import urllib.request
from pathlib import Path
from typing import Any

import pytest

from keen_ripple.cli import main
from keen_ripple.core.document import json_schema
from support import DEMO, piece, way


@pytest.fixture
def probe(tmp_path: Path) -> str:
    path = tmp_path / "probe.json"
    path.write_text(json.dumps(piece()), "utf-8")
    return str(path)


def test_run(probe: str, capsys) -> None:
    assert main(["run", probe]) == 0
    assert json.loads(capsys.readouterr().out) == {
        "lead_in_ms": 0,
        "loop_ms": 500,
        "segments": [
            {"kind": "travel", "from": "a", "to": "b", "start_ms": 0, "end_ms": 400},
            {"kind": "hold", "from": "b", "to": "b", "start_ms": 400, "end_ms": 500},
            {"kind": "travel", "from": "b", "to": "a", "start_ms": 500, "end_ms": 500},
        ],
    }


def lines(capsys) -> list[dict[str, Any]]:
    return [json.loads(line) for line in capsys.readouterr().out.splitlines()]


def test_sample_at_moments(probe: str, capsys) -> None:
    assert main(["sample", probe, "--at", "0,400,500.5"]) == 0
    first, second, third = lines(capsys)
    assert [line["t_ms"] for line in (first, second, third)] == [0, 400, 500.5]
    assert first["layers"]["box"]["box"] == [10, 20, 40, 30]
    assert second["layers"]["box"] | {"x": 110, "box": [110, 20, 40, 30]} == second["layers"]["box"]
    assert 10 < third["layers"]["box"]["x"] < 11


def test_sample_at_a_frame_rate(probe: str, capsys) -> None:
    assert main(["sample", probe, "--fps", "20"]) == 0
    assert [line["t_ms"] for line in lines(capsys)] == [50 * n for n in range(10)]


def test_handoff_and_schema(probe: str, tmp_path: Path, capsys) -> None:
    out = tmp_path / "probe.html"
    assert main(["handoff", probe, "--format", "html", "--out", str(out)]) == 0
    assert out.read_text("utf-8").startswith("<!doctype html>")
    assert main(["schema"]) == 0
    assert json.loads(capsys.readouterr().out) == json.loads(json.dumps(json_schema()))


NO_TIME = {"kind": "curve", "duration_ms": 0}
FAULTY = {
    "no JSON": ("{", "line 1, column 2"),
    "a fault": (json.dumps(piece(start="c")), "/start: There is no state 'c'. Known: a, b."),
    "not UTF-8": (b"\xff\xfe{}", "not UTF-8"),
    "no time": (json.dumps(piece(transitions=[way("a", "b", NO_TIME), way("b", "a", NO_TIME)])), "A → B → A takes no"),
}  # fmt: skip


@pytest.mark.parametrize("case", FAULTY.values(), ids=FAULTY.keys())
def test_faults_of_the_input_end_in_1(case: tuple[str | bytes, str], tmp_path: Path, capsys) -> None:
    content, says = case
    path = tmp_path / "faulty.json"
    path.write_bytes(content if isinstance(content, bytes) else content.encode())
    assert main(["run", str(path)]) == 1
    printed = capsys.readouterr()
    assert says in printed.err
    assert printed.out == ""


def test_a_missing_file_ends_in_1(capsys) -> None:
    assert main(["run", "nowhere.json"]) == 1
    assert "nowhere.json" in capsys.readouterr().err


@pytest.mark.parametrize(
    "arguments",
    [
        [],
        ["fly"],
        ["run"],
        ["sample", "p.json"],
        ["sample", "p.json", "--at", "soon"],
        ["sample", "p.json", "--at", "-5"],
        ["sample", "p.json", "--fps", "0"],
        ["handoff", "p.json", "--format", "stone", "--out", "x"],
        ["serve", "--port", "70000"],
    ],
)
def test_wrong_usage_ends_in_2(arguments: list[str], capsys) -> None:
    with pytest.raises(SystemExit) as caught:
        main(arguments)
    assert caught.value.code == 2
    assert "usage:" in capsys.readouterr().err


def test_demo_serves_and_keeps_what_was_changed(tmp_path: Path) -> None:
    database = tmp_path / "new.sqlite"
    for expected in (len(DEMO), len(DEMO) - 1):
        command = [sys.executable, "-m", "keen_ripple.cli", "demo", "--db", str(database), "--port", "0"]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as process:
            try:
                assert process.stdout is not None
                address = process.stdout.readline().strip()
                assert address.startswith("http://127.0.0.1:")
                with urllib.request.urlopen(f"{address}api/pieces") as answer:
                    assert len(json.load(answer)["pieces"]) == expected
                request = urllib.request.Request(f"{address}api/pieces/beacon-pulse", method="DELETE")
                urllib.request.urlopen(request).close()
            finally:
                process.terminate()
                process.wait(timeout=10)


def test_a_taken_port_is_a_fault_with_a_remedy(tmp_path: Path, capsys) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        assert main(["serve", "--db", str(tmp_path / "x.sqlite"), "--port", str(port)]) == 1
    assert "Choose another with --port" in capsys.readouterr().err
