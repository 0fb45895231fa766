"""Every view without a serious finding of axe-core."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

pytestmark = pytest.mark.xdist_group("ui")

AXE = Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js"
# What a designer draws is not the page's own: texts that fade in have no contrast for a while.
RUN = """
const done = arguments[arguments.length - 1];
const told = axe.run({exclude: ['.holder']}, {resultTypes: ['violations']});
told.then(({violations}) => done(JSON.stringify(violations.map(
  ({id, impact, nodes}) => [impact, id, nodes.slice(0, 3).map((n) => n.html.slice(0, 200) + n.failureSummary)]))));
"""


def findings(bench) -> list[list[str]]:
    bench.browser.execute_script(AXE.read_text("utf-8"))
    found = json.loads(bench.browser.execute_async_script(RUN))
    return [finding for finding in found if finding[0] in ("serious", "critical")]


def test_no_view_has_serious_findings(bench) -> None:
    bench.open()
    bench.wait(lambda: bench.all(".shelf-cell"))
    assert findings(bench) == []
    bench.open("/pieces/tide-loader")
    bench.one("[data-row='buoy-2']").click()
    assert findings(bench) == []
    bench.one("[data-transition]").click()
    bench.one(".plot")
    assert findings(bench) == []
    bench.open("/pieces/sonar-sweep")
    bench.unfold("Undercurrents")
    bench.one(".inspector [title^='Open ']").click()
    bench.one(".key-axis")
    assert findings(bench) == []
    bench.open("/pieces/tide-loader/run-sheet")
    bench.one("[data-bar] .body").click()
    bench.one(".bar-panel")
    assert findings(bench) == []
    bench.open("/pieces/tide-loader/takes")
    bench.fill(bench.field("Name of the take"), "Calm")
    bench.one("[data-take=Calm]")
    assert findings(bench) == []
    bench.one("[aria-label='Keys and gestures']").click()
    bench.one("kbd")
    assert findings(bench) == []
