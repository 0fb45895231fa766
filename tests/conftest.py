"""Fixtures for tests of several kinds."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings
from hypothesis.internal.conjecture import providers
from selenium import webdriver

from bench import Bench
from keen_ripple.web.serve import fill
from support import Served, new_browser

# The same examples every time, so that a run fails for a change and not by chance; HYPOTHESIS_PROFILE=explore looks for
# new ones.
settings.register_profile("same", derandomize=True, deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.register_profile("explore", settings.get_profile("same"), derandomize=False, max_examples=1000)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "same"))
if os.environ.get("HYPOTHESIS_PROFILE", "same") == "same":
    # It also draws numbers that it reads in whatever modules are loaded, which in each worker are others.
    providers._get_local_constants = providers.Constants


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Journeys first: begun last, one of them would keep one worker busy long after the others have nothing to do."""
    items.sort(key=lambda item: "ui" not in item.path.parts)


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


@pytest.fixture
def bench(browser: webdriver.Chrome, served: Served) -> Iterator[Bench]:
    page = Bench(browser, served)
    browser.get_log("browser")
    yield page
    assert page.errors() == []
