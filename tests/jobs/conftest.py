"""Jobs on a file and on a Redis."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest

from keen_ripple.jobs import Jobs
from queues import Elsewhere, Redis


@pytest.fixture
def redis(tmp_path: Path) -> Iterator[Redis]:
    found = Redis(tmp_path)
    yield found
    found.stop()


@pytest.fixture(params=["file", "redis"])
def jobs(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[Jobs]:
    if request.param == "file":
        found = Jobs(str(tmp_path / "jobs.sqlite"), at_once=1)
        yield found
        found.stop_all()
        return
    address = request.getfixturevalue("redis").address
    workers, found = Elsewhere(address), Jobs(address)
    yield found
    found.stop_all()
    workers.stop()
