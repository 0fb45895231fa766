"""Fixtures of the tests serve here too: the browser, and the application with a large piece."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from big import big_piece, modest, shelf_of, with_film
from selenium import webdriver

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from keen_ripple.store import atomic, connect, migrate, pieces
from support import new_browser


@pytest.fixture(scope="session")
def browser(tmp_path_factory: pytest.TempPathFactory) -> Iterator[webdriver.Chrome]:
    driver = new_browser(tmp_path_factory.mktemp("chromium"))
    driver.set_script_timeout(120)
    yield driver
    driver.quit()


@pytest.fixture(params=[False, True], ids=["50 layers, 8 states", "with a film of 20 s"])
def address(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[str]:
    """The real server, in a process of its own, with one large piece; in one of them a film of 1920 × 1080 too."""
    document = big_piece(50, 8)
    yield from serve(tmp_path, with_film(document) if request.param else document)


@pytest.fixture
def address_100(tmp_path: Path) -> Iterator[str]:
    yield from serve(tmp_path, big_piece(100, 6))


@pytest.fixture(params=[(40, 15), (4, 3)], ids=["40 layers, 15 states", "4 layers, 3 states"])
def address_score(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[str]:
    yield from serve(tmp_path, big_piece(*request.param, dense=True))


@pytest.fixture
def address_modest(tmp_path: Path) -> Iterator[str]:
    yield from serve(tmp_path, modest())


@pytest.fixture
def address_shelf(tmp_path: Path) -> Iterator[str]:
    yield from serve(tmp_path, *shelf_of())


def serve(folder: Path, *documents: dict[str, Any]) -> Iterator[str]:
    database = folder / "big.sqlite"
    conn = connect(database)
    migrate(conn)
    with atomic(conn):
        for document in documents:
            pieces.add(conn, document)
    conn.close()
    command = [sys.executable, "-m", "keen_ripple.cli", "serve", "--db", str(database), "--port", "0"]
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as process:
        try:
            assert process.stdout is not None
            yield process.stdout.readline().strip()
        finally:
            process.terminate()
            process.wait(timeout=10)
