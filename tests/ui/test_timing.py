"""Timing set as a whole: a piece made to breathe at exactly a second, then a fifth faster."""

from __future__ import annotations

import pytest

pytestmark = pytest.mark.xdist_group("ui")


def test_a_beacon_breathes_at_a_second_and_then_faster(bench) -> None:
    bench.open("/pieces/beacon-pulse")
    bench.one("[aria-label='Retime by'] [title='length']").click()
    bench.fill(bench.field("Retime length"), "1000")
    bench.wait(lambda: "2542 → 1000 ms" in bench.one(".retime").text)
    # Shown, and not yet made.
    assert bench.one(".ring .of").text == "of 2.54 s"
    bench.button("Take it").click()
    bench.wait_for_revision(2)
    bench.wait(lambda: bench.one(".ring .of").text == "of 1.00 s")

    bench.one("[aria-label='Retime by'] [title='factor']").click()
    bench.fill(bench.field("Retime factor"), "0.8")
    bench.wait(lambda: "1000 → 800 ms" in bench.one(".retime").text)
    bench.button("Leave it").click()
    assert bench.one(".ring .of").text == "of 1.00 s"
    bench.fill(bench.field("Retime factor"), "0.8")
    bench.button("Take it").click()
    bench.wait_for_revision(3)
    bench.wait(lambda: bench.one(".ring .of").text == "of 0.80 s")

    # What cannot be had is said beside the field, and nothing changes.
    bench.fill(bench.field("Retime factor"), "0")
    bench.wait(lambda: any("from 0.01 to 100" in fault for fault in bench.faults()))
    assert bench.revision() == 3
    for revision in (4, 5):
        bench.button("Undo").click()
        bench.wait_for_revision(revision)
    bench.wait(lambda: bench.one(".ring .of").text == "of 2.54 s")


def test_a_spring_is_set_by_what_is_seen_of_it(bench) -> None:
    bench.open("/pieces/beacon-pulse")
    bench.one("[data-transition]").click()
    bench.fill(bench.field("overshoot"), "8")
    bench.wait_for_revision(2)
    bench.fill(bench.field("settles in"), "400")
    bench.wait_for_revision(3)
    bench.wait(lambda: bench.field("settles in").get_property("value") == "400")
    assert float(bench.field("overshoot").get_property("value")) == pytest.approx(8, abs=0.1)

    # Pulled on the plot: the peak down to half, then the moment by which it has settled to the left.
    peak = bench.one(".plot .peak-grip")
    goal = bench.one(".plot .goal").rect["y"]
    bench.drag(peak, 0, (goal - peak.rect["y"] - 4.5) / 2)
    bench.wait_for_revision(4)
    bench.wait(lambda: 2 < float(bench.field("overshoot").get_property("value")) < 7)
    assert bench.field("settles in").get_property("value") == "400"
    bench.drag(bench.one(".plot .settled-grip rect"), -40, 0)
    bench.wait_for_revision(5)
    bench.wait(lambda: 300 < float(bench.field("settles in").get_property("value")) < 380)

    bench.fill(bench.field("overshoot"), "120")
    bench.wait(lambda: any("overshoot between 0 and 1" in fault for fault in bench.faults()))
    assert bench.revision() == 5
