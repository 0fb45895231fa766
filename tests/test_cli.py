"""The command line: what it prints, and how it fails."""

from __future__ import annotations

import json
import os
import select
import signal
import socket
import subprocess
import sys
import urllib.request
from pathlib import Path
from typing import Any

import pytest

from keen_ripple.cli import FORMATS as CLI_FORMATS
from keen_ripple.cli import main
from keen_ripple.core.document import json_schema
from keen_ripple.handoff import FORMATS
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
        "seam": {
            "open": True,
            "px": 100.0,
            "colour": 0.0,
            "speed": 427.0,
            "picture": 0.12,
            "layer": "box",
            "colour_layer": None,
            "speed_layer": "box",
        },
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


def test_handoff_of_several_files_and_with_options(probe: str, tmp_path: Path, capsys) -> None:
    folder = tmp_path / "sheet"
    assert main(["handoff", probe, "--format", "sprite", "--fps", "10", "--scale", "0.5", "--out", str(folder)]) == 0
    assert sorted(path.name for path in folder.iterdir()) == ["probe.sprite.json", "probe.sprite.png"]
    assert json.loads((folder / "probe.sprite.json").read_text())["width"] == 100
    gif = tmp_path / "probe.gif"
    assert main(["handoff", probe, "--format", "gif", "--dither", "--ground", "#ffffff", "--out", str(gif)]) == 0
    assert gif.read_bytes()[:6] == b"GIF89a"
    # Nothing is written of what is refused.
    page = tmp_path / "page.html"
    assert main(["handoff", probe, "--format", "html", "--fps", "10", "--out", str(page)]) == 1
    assert "html has no fps to choose" in capsys.readouterr().err
    assert not page.exists()


def test_all_formats_are_known_to_the_command_line() -> None:
    assert set(CLI_FORMATS) == set(FORMATS)


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
                process.wait(timeout=30)


def test_a_server_that_is_ended_waits_for_no_process(tmp_path: Path) -> None:
    command = [sys.executable, "-m", "keen_ripple.cli", "demo", "--db", str(tmp_path / "new.sqlite"), "--port", "0"]
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as process:
        assert process.stdout is not None
        process.stdout.readline()
        begun = [int(child) for child in Path(f"/proc/{process.pid}/task/{process.pid}/children").read_text().split()]
        at_work = [child for child in begun if b"spawn_main" in Path(f"/proc/{child}/cmdline").read_bytes()]
        assert len(at_work) >= 2
        for child in at_work:
            os.kill(child, signal.SIGSTOP)
        process.terminate()
        try:
            assert process.wait(timeout=30) == 0
        finally:
            process.kill()
        # All of them held the other end of its output.
        assert select.select([process.stdout], [], [], 20)[0]
        assert process.stdout.read() == ""


def test_a_server_that_is_killed_leaves_no_process_behind(tmp_path: Path) -> None:
    command = [sys.executable, "-m", "keen_ripple.cli", "demo", "--db", str(tmp_path / "new.sqlite"), "--port", "0"]
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as process:
        assert process.stdout is not None
        address = process.stdout.readline().strip()
        with urllib.request.urlopen(f"{address}api/pieces/beacon-pulse/picture.png?at=0") as answer:
            assert answer.read(4) == b"\x89PNG"
        process.kill()
        # What draws holds the other end of its output for as long as it lives.
        assert select.select([process.stdout], [], [], 20)[0]
        assert process.stdout.read() == ""


def test_a_taken_port_is_a_fault_with_a_remedy(tmp_path: Path, capsys) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        assert main(["serve", "--db", str(tmp_path / "x.sqlite"), "--port", str(port)]) == 1
    assert "Choose another with --port" in capsys.readouterr().err


def test_run_tells_the_seam(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    for document, seam in ((piece(), (True, 100, "box")), (DEMO["crossing-progress"], None)):
        path = tmp_path / "piece.json"
        path.write_text(json.dumps(document))
        assert main(["run", str(path)]) == 0
        found = json.loads(capsys.readouterr().out)["seam"]
        assert (found and (found["open"], found["px"], found["layer"])) == seam
        assert found is None or {"colour", "speed", "picture"} <= found.keys()


RETIMED = [(["--factor", "1.5"], 750), (["--fit", "333"], 333), (["--fps", "10"], 500), (["--factor", "1"], 500)]


@pytest.mark.parametrize(("how", "loop"), RETIMED)
def test_retime_writes_a_piece(tmp_path: Path, capsys: pytest.CaptureFixture[str], how: list[str], loop: int) -> None:
    source, target = tmp_path / "piece.json", tmp_path / "retimed.json"
    source.write_text(json.dumps(piece()))
    assert main(["retime", str(source), *how, "--out", str(target)]) == 0
    written = json.loads(target.read_text())
    assert main(["run", str(target)]) == 0
    assert json.loads(capsys.readouterr().out)["loop_ms"] == loop
    assert {**written, "transitions": None} == {**piece(), "transitions": None}


def test_a_rehearsal_is_used_like_the_run(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Its segments, a page that plays it, and a moment of it drawn; a live page of it says what to do instead."""
    source, events = tmp_path / "switch.json", tmp_path / "events.json"
    source.write_text(json.dumps(DEMO["deck-lamp-switch"]))
    events.write_text('[{"t_ms": 100, "cue": "tap"}]')
    assert main(["run", str(source), "--every-way"]) == 0
    assert [s["from"] for s in json.loads(capsys.readouterr().out)["segments"]] == [
        "first",
        "first",
        "state-2",
        "state-2",
    ]
    assert main(["run", str(source), "--events", str(events), "--until", "400"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert (told["lead_in_ms"], told["segments"][-1]["end_ms"]) == (400, 400)
    page, picture, still = tmp_path / "page.html", tmp_path / "on.png", tmp_path / "off.png"
    assert main(["handoff", str(source), "--events", str(events), "--format", "html", "--out", str(page)]) == 0
    assert "animation:" in page.read_text()
    assert main(["draw", str(source), "--every-way", "--at", "1200", "--out", str(picture)]) == 0
    assert main(["draw", str(source), "--at", "1200", "--out", str(still)]) == 0
    assert picture.read_bytes() != still.read_bytes()
    assert main(["handoff", str(source), "--every-way", "--format", "live", "--out", str(page)]) == 1
    assert main(["run", str(source), "--until", "400"]) == 1
    assert "Give --events" in capsys.readouterr().err


def test_rehearse_prints_what_is_seen(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """The tap back comes while the motion still waits for its delay: nothing moves, then or later."""
    timing = {"kind": "curve", "duration_ms": 200, "easing": "linear"}
    late = {"cue": "tap", "lanes": [{"layer": "box", "delay_ms": 100}]}
    document = piece(transitions=[way("a", "b", timing, **late), way("b", "a", timing, **late)])
    document["states"][1]["changes"] = {"box": {"x": 110}}
    source, events = tmp_path / "piece.json", tmp_path / "events.json"
    source.write_text(json.dumps(document))

    def xs(taps: list[int], *when: str) -> list[float]:
        events.write_text(json.dumps([{"t_ms": t, "cue": "tap", "layer": None} for t in taps]))
        assert main(["rehearse", str(source), str(events), *when]) == 0
        return [json.loads(line)["layers"]["box"]["x"] for line in capsys.readouterr().out.splitlines()]

    assert xs([0, 50], "--at", "40,1000,200") == [10, 10, 10]
    assert xs([0], "--at", "1000,200,50") == [110, 60, 10]
    assert xs([0], "--fps", "10", "--until", "300") == [10, 10, 60, 110]


def test_a_rehearsal_is_held_against_what_it_was(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    timing = {"kind": "curve", "duration_ms": 200, "easing": "linear"}
    document = piece(transitions=[way("a", "b", timing, cue="tap")])
    document["states"][1]["changes"] = {"box": {"x": 110, "opacity": 0.5}}
    source, events, kept = (tmp_path / name for name in ("piece.json", "events.json", "expected.jsonl"))
    events.write_text(json.dumps([{"t_ms": 50, "cue": "tap"}]))

    def rehearse(*how: str) -> tuple[int, str]:
        source.write_text(json.dumps(document))
        status = main(["rehearse", str(source), str(events), *how])
        said = capsys.readouterr()
        return status, said.out or said.err

    status, lines = rehearse("--at", "300,0,150")
    assert status == 0
    kept.write_text(lines)
    assert rehearse("--expect", str(kept)) == (0, "")
    document["transitions"][0]["timing"]["duration_ms"] = 400
    status, said = rehearse("--expect", str(kept))
    assert status == 1
    assert "at 300 ms box x is 72.5, and was 110. Values that differ: 6." in said
    kept.write_text(lines.replace('"t_ms": 0.0', '"t_ms": "soon"'))
    assert "Line 2 has no t_ms from 0 to" in rehearse("--expect", str(kept))[1]
    kept.write_text(lines.replace("}\n", "\n", 1))
    assert "Line 1: This is not JSON" in rehearse("--expect", str(kept))[1]
    kept.write_text("\n")
    assert "there is no line" in rehearse("--expect", str(kept))[1]
    kept.write_bytes(b'{"t_ms": 0, "layers": {"\xff": {}}}')
    assert "Line 1: This is not UTF-8 text" in rehearse("--expect", str(kept))[1]
    kept.write_text('{"t_ms": 0, "layers": {"mast": {"x": 3}}}')
    assert "at 0 ms mast x is not there, and was 3. Values that differ:" in rehearse("--expect", str(kept))[1]


@pytest.mark.parametrize(
    ("events", "says"),
    [
        ([{"t_ms": -1, "cue": "tap"}], "/0/t_ms: t_ms is -1. Give 0 or more."),
        ([{"t_ms": 1, "cue": "shout"}], "/0/cue"),
        ([{"t_ms": 1, "cue": "tap", "layer": "ship"}], "/0/layer: There is no layer 'ship'."),
        ({"t_ms": 1}, "Give a list."),
    ],
)
def test_events_that_are_none_say_where(tmp_path: Path, capsys, events: object, says: str) -> None:
    source, path = tmp_path / "piece.json", tmp_path / "events.json"
    source.write_text(json.dumps(piece()))
    path.write_text(json.dumps(events))
    assert main(["rehearse", str(source), str(path), "--at", "0"]) == 1
    assert says in capsys.readouterr().err


def test_several_pieces_at_once(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    paths = []
    for name in ("one", "two"):
        path = tmp_path / f"{name}.json"
        path.write_text(json.dumps({**piece(), "name": name}))
        paths.append(str(path))
    assert main(["run", *paths]) == 0
    lines = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [line["piece"] for line in lines] == paths
    assert lines[0]["loop_ms"] == lines[1]["loop_ms"] > 0

    # One that cannot be read keeps none of the others back, and is named.
    folder = tmp_path / "out"
    assert main(["handoff", paths[0], "gone.json", paths[1], "--format", "html", "--out", str(folder)]) == 1
    assert sorted(path.name for path in folder.iterdir()) == ["one.html", "two.html"]
    assert "gone.json: " in capsys.readouterr().err

    # And what could not be told apart, or is no folder, is refused before anything is written.
    for pieces, out, says in ((paths[:1] * 2, "twice", "Two pieces"), (paths, "one.json", "is a file")):
        assert main(["tape", *pieces, "--out", str(tmp_path / out)]) == 1
        assert says in capsys.readouterr().err
    assert json.loads((tmp_path / "one.json").read_text())["name"] == "one"
