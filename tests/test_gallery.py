"""A shelf as static pages: opened in Chromium from the folder alone."""

from __future__ import annotations

import contextlib
import json
from pathlib import Path

import pytest

from keen_ripple.cli import main
from keen_ripple.store import connect, migrate, pieces
from support import DEMO, piece

SHOWN = ("tide-loader", "ferry-card", "deck-lamp-switch")


@pytest.fixture
def database(tmp_path: Path) -> Path:
    path = tmp_path / "quay.sqlite"
    with contextlib.closing(connect(path)) as conn:
        migrate(conn)
        for name in SHOWN:
            pieces.add(conn, DEMO[name])
        pieces.add(conn, piece(name="<b>Probe</b> & more"))
    return path


def test_a_shelf_is_shown_without_the_application(browser, database: Path, tmp_path: Path, capsys) -> None:
    folder = tmp_path / "gallery"
    for _ in range(2):
        assert main(["gallery", str(folder), "--db", str(database)]) == 0
        assert json.loads(capsys.readouterr().out)["pieces"] == 4
    # The folder alone, and nothing half beside it.
    assert sorted(path.name for path in tmp_path.iterdir()) == ["gallery", "quay.sqlite"]
    browser.get((folder / "index.html").as_uri())
    names = browser.execute_script("return [...document.querySelectorAll('h2')].map(each => each.textContent)")
    assert names == ["<b>Probe</b> & more", "Deck-lamp switch", "Ferry card", "Tide loader"]
    asked = "each => each.getAttribute('href') ?? each.getAttribute('src')"
    links = browser.execute_script(f"return [...document.querySelectorAll('a, iframe')].map({asked})")
    assert len(links) == 4 * 7
    assert all((folder / link).is_file() for link in links)
    frame = browser.find_element("css selector", "iframe[src*=tide-loader]")
    browser.execute_script("arguments[0].scrollIntoView()", frame)
    browser.switch_to.frame(frame)
    assert browser.find_elements("css selector", "[data-layer=buoy-1]")
    browser.switch_to.default_content()


def test_what_is_in_the_way_stays(database: Path, tmp_path: Path, capsys) -> None:
    folder = tmp_path / "notes"
    folder.mkdir()
    (folder / "mine.txt").write_text("kept")
    assert main(["gallery", str(folder), "--db", str(database)]) == 1
    assert "holds something else" in capsys.readouterr().err
    assert [path.name for path in folder.iterdir()] == ["mine.txt"]
    assert main(["gallery", str(tmp_path / "none"), "--db", str(tmp_path / "none.sqlite")]) == 1
    assert "There is no database" in capsys.readouterr().err
