"""Two timings kept, played side by side in step, and one of them adopted."""

from __future__ import annotations

from typing import Any

import pytest
from selenium.webdriver import Keys

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import sample, timeline_of

pytestmark = pytest.mark.xdist_group("ui")


def caption(bench, take: str) -> float:
    """How much of the caption is seen."""
    script = "return document.querySelector(`[data-take='${arguments[0]}'] [data-layer=caption]`).style.opacity"
    return float(bench.browser.execute_script(script, take))


def captions(document: dict[str, Any], times_ms: list[float]) -> list[float]:
    timeline = timeline_of(read_piece(document))
    return [pose["caption"]["opacity"] for pose in sample(timeline, times_ms)]


def are_in_step(bench, now: dict[str, Any], calm: dict[str, Any], by_phase: bool) -> bool:
    """Whether there is one moment at which both takes look as they do on the page."""
    times = [float(t) for t in range(2660)]
    others = [t * 2060 / 2660 for t in times] if by_phase else times
    shown = caption(bench, "Current"), caption(bench, "Calm")
    pairs = zip(captions(now, times), captions(calm, others), strict=True)
    return any(abs(a - shown[0]) < 0.005 and abs(b - shown[1]) < 0.01 for a, b in pairs)


def make_another(bench, of: str, factor: str, like: str) -> None:
    bench.one(f"[aria-label='Vary… {of}']").click()
    if factor != "1":
        bench.fill(bench.field("Take times as long"), factor)
    bench.wait(lambda: [chip for chip in bench.all(".vary .chip") if chip.text == like])[0].click()
    bench.button("Make the take").click()
    bench.wait(lambda: not bench.all(".vary"))


def test_takes_are_compared_and_one_is_adopted(bench) -> None:
    bench.open("/pieces/tide-loader/takes")
    bench.fill(bench.field("Name of the take"), "Calm")
    bench.one("[data-take='Calm']")
    assert "No difference" in bench.one(".takes").text

    # Another timing, made in the workbench, beside the one that was kept.
    bench.one(".views a[href$='tide-loader']").click()
    bench.one("[data-transition='slack-to-first-lift']").click()
    bench.set("duration", "900")
    bench.one(".views a[href$='takes']").click()
    bench.wait(lambda: bench.all(".takes-table"))
    rows = [[cell.text for cell in row.find_elements("css selector", "th, td")] for row in bench.all(".takes-table tr")]
    assert rows[0] == ["Differs in", "Current", "Calm"]
    assert len(rows) == 2
    assert rows[1][0] == "Slack → First lift"
    assert ["900 ms" in rows[1][1], "300 ms" in rows[1][2]] == [True, True]

    # Stopped where the slower one is on its way: the other is further by the moment, and less far by the phase.
    calm = bench.document()
    now = {**calm, "transitions": [dict(way) for way in calm["transitions"]]}
    calm["transitions"][0] = {
        **calm["transitions"][0],
        "timing": {**calm["transitions"][0]["timing"], "duration_ms": 300},
    }
    bench.button("Pause").click()
    bench.browser.execute_script("document.activeElement.blur()")
    for _ in range(200):
        if 0.8 < caption(bench, "Current") < 0.93:
            break
        bench.keys(".")
    # Both stand; the last step may still be on its way to the second.
    bench.wait(lambda: are_in_step(bench, now, calm, by_phase=False), "in step")
    before = caption(bench, "Calm")
    bench.one("[aria-label='In step by'] [title='Same phase']").click()
    bench.wait(lambda: caption(bench, "Calm") != before)
    bench.wait(lambda: are_in_step(bench, now, calm, by_phase=True), "in step by phase")
    scrub_every_ring(bench)
    bench.button("Play").click()
    seen = set()
    bench.wait(lambda: seen.add(caption(bench, "Calm")) or len(seen) > 4, "the take does not play")

    bench.changed(bench.button("Adopt").click)
    bench.wait(lambda: "No difference" in bench.one(".takes").text)
    assert bench.document()["transitions"][0]["timing"]["duration_ms"] == 300
    bench.press("Undo")
    bench.wait(lambda: bench.all(".takes-table"))
    make_others_in_place(bench)


def scrub_every_ring(bench) -> None:
    """Whichever is scrubbed, both takes go there."""
    rings = bench.all("[data-take] [role=slider]")
    for ring in rings:
        before = [int(each.get_attribute("aria-valuenow")) for each in rings]
        ring.send_keys(Keys.SHIFT, Keys.ARROW_RIGHT)
        after = [int(each.get_attribute("aria-valuenow")) for each in rings]
        own, share = rings.index(ring), 2660 / 2060
        assert after[own] == pytest.approx(before[own] + 100, abs=1)
        assert after[1 - own] == pytest.approx(before[1 - own] + 100 * (share if own else 1 / share), abs=2)


def make_others_in_place(bench) -> None:
    """Three are beside what stands, and one that is shown takes the oldest's place."""
    revision = bench.revision()
    make_another(bench, "Calm", "0.5", "linear")
    make_another(bench, "linear × 0.5", "2", "Swell")
    make_another(bench, "Current", "1", "bounce")
    names = lambda: [take.get_attribute("data-take") for take in bench.all("[data-take]")]  # noqa: E731
    bench.wait(lambda: names() == ["Current", "linear × 0.5", "Swell × 2", "bounce"])
    lasting = {take.get_attribute("data-take"): take.text for take in bench.all("[data-take]")}
    assert "1.03 s loop" in lasting["linear × 0.5"]
    assert bench.revision() == revision
    bench.one("[aria-label='All takes'] li button").click()
    bench.wait(lambda: names() == ["Current", "Calm", "Swell × 2", "bounce"])
    bench.one("[aria-label='Delete take Calm']").click()
    bench.wait(lambda: not bench.all("[data-take='Calm']"))
    assert bench.document()["transitions"][0]["timing"]["duration_ms"] == 900


def test_a_take_is_renamed_half_adopted_deleted_and_put_back(bench) -> None:
    bench.open("/pieces/tide-loader/takes")
    bench.button("Keep the current timing").click()
    bench.one("[data-take='Take 1']")
    before = bench.document()["transitions"]
    bench.open("/pieces/tide-loader")
    for way, length in (("slack-to-first-lift", "900"), ("first-lift-to-handover", "700")):
        bench.choose_transition(way)
        bench.set("duration", length)
    bench.open("/pieces/tide-loader/takes")
    bench.one("[aria-label='Rename take Take 1']").click()
    bench.fill(bench.field("New name of the take"), "Quick")
    bench.one("[data-take='Quick']")
    # One of the two transitions; the table tells only what differs.
    bench.wait(lambda: len(bench.all(".takes-table tr")) == 3)
    assert "hold" not in bench.one(".takes-table").text
    bench.changed(bench.one("[aria-label='Adopt Slack → First lift of Quick']").click)
    bench.wait(lambda: len(bench.all(".takes-table tr")) == 2)
    now = bench.document()["transitions"]
    assert now[0] == before[0] and now[1]["timing"]["duration_ms"] == 700
    # A second one of that name gets a number.
    bench.fill(bench.field("Name of the take"), "Quick")
    bench.one("[data-take='Quick 2']")
    bench.one("[aria-label='Delete take Quick']").click()
    bench.wait(lambda: not bench.all("[data-take='Quick']"))
    bench.button("Put it back").click()
    bench.one("[data-take='Quick']")

    # A state that goes takes only its own transitions out of a take.
    bench.open("/pieces/tide-loader")
    bench.one("[data-state='handover']").click()
    bench.press("delete state")
    bench.open("/pieces/tide-loader/takes")
    bench.wait(lambda: "without 2 transitions of a deleted state" in bench.one("[aria-label='All takes']").text)
    assert bench.one("[data-take='Quick']")
