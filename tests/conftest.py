"""Fixtures for tests of several kinds."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from selenium import webdriver

from keen_ripple.web.serve import fill
from support import Served, new_browser


@pytest.fixture(scope="session")
def browser(tmp_path_factory: pytest.TempPathFactory) -> Iterator[webdriver.Chrome]:
    driver = new_browser(tmp_path_factory.mktemp("chromium"))
    yield driver
    driver.quit()


@pytest.fixture
def served(tmp_path: Path) -> Iterator[Served]:
    database = tmp_path / "pieces.sqlite"
    application = Served(database)
    fill(database)
    yield application
    application.stop()
