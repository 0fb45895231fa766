"""The application as a package: installed in an empty environment, from files alone."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[1]
WHEELS = ROOT / ".setup" / "wheels"
PIP = ("-m", "pip", "--quiet", "--disable-pip-version-check")


@pytest.fixture(scope="module")
def installed(tmp_path_factory) -> Iterator[Path]:
    """The folder of the commands of an environment in which nothing else is."""
    folder = tmp_path_factory.mktemp("elsewhere")
    sources = folder / "sources"
    sources.mkdir()
    # Building leaves files beside the sources.
    for name in ("src", "pyproject.toml"):
        (sources / name).symlink_to(ROOT / name)
    build = [*PIP, "wheel", "--no-deps", "--no-build-isolation", "--wheel-dir", str(folder / "wheel"), str(sources)]
    run(sys.executable, *build)
    run(sys.executable, "-m", "venv", str(folder / "env"))
    commands = folder / "env" / "bin"
    places = ("--find-links", str(WHEELS), "--find-links", str(folder / "wheel"))
    run(str(commands / "python"), *PIP, "install", "--no-index", *places, "keen-ripple")
    yield commands


def run(*command: str) -> str:
    # Nothing of this project's own environment.
    told = {name: value for name, value in os.environ.items() if not name.startswith(("PYTHON", "VIRTUAL_ENV"))}
    done = subprocess.run(command, capture_output=True, text=True, env=told, cwd="/", timeout=300)
    assert done.returncode == 0, done.stderr
    return done.stdout


def test_the_demo_is_served_with_its_page(installed: Path, tmp_path: Path) -> None:
    demo = subprocess.Popen(
        [installed / "keen-ripple", "demo", "--db", str(tmp_path / "quay.sqlite"), "--port", "0"],
        stdout=subprocess.PIPE,
        text=True,
        cwd=tmp_path,
    )
    try:
        assert demo.stdout is not None
        address = demo.stdout.readline().strip()
        page = urllib.request.urlopen(address, timeout=30).read().decode()
        assert '<div id="root">' in page
        pieces = json.load(urllib.request.urlopen(f"{address}api/pieces", timeout=30))["pieces"]
        assert "tide-loader" in [each["id"] for each in pieces]
        for name in ("picture.png?state=ebb", "handoff/live/live.html", "handoff/gif/gif"):
            assert urllib.request.urlopen(f"{address}api/pieces/tide-loader/{name}", timeout=120).status == 200
    finally:
        demo.terminate()
        demo.wait(timeout=30)


def test_hand_offs_from_the_command_line(installed: Path, tmp_path: Path) -> None:
    document = tmp_path / "loader.json"
    document.write_text((ROOT / "src/keen_ripple/demo/tide-loader.json").read_text("utf-8"), "utf-8")
    for name, out in (("html", "loader.html"), ("element", "loader.js"), ("webm", "loader.webm")):
        run(str(installed / "keen-ripple"), "handoff", str(document), "--format", name, "--out", str(tmp_path / out))
        assert (tmp_path / out).stat().st_size > 1000
