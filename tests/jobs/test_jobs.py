"""What is asked for is made once; how far it is is told; it is stopped, refused, begun again."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import pytest

from keen_ripple.core.errors import Fault
from keen_ripple.handoff import AS_IT_IS, FORMATS, Options
from keen_ripple.jobs import FILES, MEASURED, Jobs, Order, QueueFault
from keen_ripple.jobs import jobs as jobs_module
from keen_ripple.jobs.queue import Queue
from queues import until
from support import DEMO, timeline_in

TIDE = DEMO["tide-loader"]
LONG = Order(DEMO["fog-notice"], FILES, "webp", Options(scale=4.0))


def made(jobs: Jobs, order: Order) -> dict[str, bytes]:
    return dict(jobs.made(order, 60.0, lambda: False))


def test_files_are_made_as_they_are_without_a_queue_and_only_once(jobs: Jobs) -> None:
    order = Order(TIDE, FILES, "html", AS_IT_IS)
    expected = FORMATS["html"].files(timeline_in(TIDE), AS_IT_IS)
    assert made(jobs, order) == expected
    job = jobs.look(order.id)
    assert job is not None and (job.state, job.share, job.attempt) == ("done", 1.0, 1)
    assert job.sizes == {ending: len(content) for ending, content in expected.items()}
    # Asked for again, and by somebody else, it is there.
    assert jobs.ask(order) == job == jobs.ask(replace(order), again=True)
    # What is measured is what was made.
    measured = json.loads(made(jobs, replace(order, what=MEASURED))["json"])
    assert measured["said"].startswith("At most 0.0") or measured["why_not"]


def test_what_differs_is_another_order() -> None:
    orders = [
        Order(TIDE, FILES, "gif", AS_IT_IS),
        Order(TIDE, FILES, "gif", Options(scale=2.0)),
        Order(TIDE, FILES, "gif", AS_IT_IS, ([], 100.0)),
        Order(TIDE, MEASURED, "gif", AS_IT_IS),
        Order({**TIDE, "name": "Ebb"}, FILES, "gif", AS_IT_IS),
    ]
    assert len({order.id for order in orders}) == len(orders)
    assert orders[3].source == orders[0].id and orders[0].source is None


def test_how_far_it_is_is_told_until_it_is_stopped(jobs: Jobs) -> None:
    job = jobs.ask(LONG)
    shares, lefts = [], []

    def looked() -> bool:
        now = jobs.look(job.id)
        assert now is not None
        shares.append(now.share)
        lefts.append(now.left_s)
        return now.share > 0.3

    until(looked, "a third of it")
    assert shares == sorted(shares) and lefts[-1] is not None and 0.0 < lefts[-1] < 60.0
    stopped = jobs.stop(job.id)
    assert stopped is not None and stopped.state == "stopped"
    # It stays so, and nothing of it is there; asked for in general it stays stopped.
    until(lambda: not jobs.ahead_of(job) and jobs.look(job.id).state == "stopped", "its end")  # type: ignore[union-attr]
    assert jobs.ask(LONG).state == "stopped"
    again = jobs.ask(LONG, again=True)
    assert (again.state, again.attempt) == ("waiting", 2)
    assert made(jobs, LONG).keys() == {"webp"}


def test_what_waits_is_stopped_before_it_is_begun(jobs: Jobs) -> None:
    jobs.ask(LONG)
    waits = jobs.ask(replace(LONG, options=Options(scale=2.0)))
    until(lambda: jobs.look(LONG.id).state == "running", "the first begun")  # type: ignore[union-attr]
    assert jobs.ahead_of(waits) == 1
    assert jobs.stop(waits.id).state == "stopped"  # type: ignore[union-attr]
    # What is quick does not wait for what is drawn.
    made(jobs, Order(TIDE, FILES, "tokens", AS_IT_IS))
    assert jobs.look(LONG.id).state == "running"  # type: ignore[union-attr]
    made(jobs, LONG)
    made(jobs, Order(TIDE, FILES, "gif", AS_IT_IS))
    # It has been passed over.
    assert jobs.look(waits.id).share == 0.0  # type: ignore[union-attr]


def test_what_is_refused_says_why_and_where(jobs: Jobs) -> None:
    order = Order(TIDE, FILES, "gif", Options(fps=60.0))
    with pytest.raises(Fault, match=r"gif cannot say 60 pictures per second\.") as caught:
        made(jobs, order)
    assert (caught.value.place, caught.value.remedy) == ("/fps", "Choose at most 50 per second.")
    job = jobs.look(order.id)
    assert job is not None and job.state == "failed" and job.fault["place"] == "/fps"
    with pytest.raises(Fault, match="no piece 'harbour-post'"):
        made(jobs, Order(DEMO["harbour-feed"], FILES, "html", AS_IT_IS))
    # Who made it is there for the next.
    made(jobs, Order(TIDE, FILES, "tokens", AS_IT_IS))


def test_the_oldest_make_room(jobs: Jobs, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(jobs_module, "MOST_KEPT", 2)
    orders = [Order(TIDE, FILES, name, AS_IT_IS) for name in ("tokens", "tape", "sheet", "css")]
    for order in orders:
        made(jobs, order)
        until(lambda order=order: not jobs._open, "that it has ended")  # type: ignore[misc]
    assert [jobs.look(order.id) is not None for order in orders] == [False, True, True, True]
    assert made(jobs, orders[0])
    # Orders are kept only until they are done.
    until(lambda: not jobs._open, "that it has ended")
    assert jobs._begun().peek(f"{orders[0].id}.order") is None


def test_nothing_that_comes_out_of_a_queue_is_run(tmp_path: Path) -> None:
    jobs = Jobs(str(tmp_path / "jobs.sqlite"), at_once=1)
    jobs.begin()
    queue = Queue(str(tmp_path / "jobs.sqlite"))
    bomb = b"cos\nsystem\n(S'touch " + str(tmp_path / "run").encode() + b"'\ntR."
    for message in (bomb, b"[]", b'["1", "os.system"]', b'["1", "keen_ripple.jobs.queue.begin"]'):
        queue.quick.storage.enqueue(message)
    assert made(jobs, Order(TIDE, FILES, "tokens", AS_IT_IS))
    assert not (tmp_path / "run").exists()
    jobs.stop_all()


@pytest.mark.parametrize(
    ("place", "told"),
    [
        ("redis://127.0.0.1:1/0", "does not answer"),
        ("redis://127.0.0.1:port/0", "is no address of a Redis"),
        ("no/such/folder/jobs.sqlite", "There is no folder"),
        ("README.md", "cannot be used"),
    ],
)
def test_a_queue_that_cannot_be_used_says_so(place: str, told: str) -> None:
    with pytest.raises(Fault, match=told) as caught:
        Jobs(place).begin()
    assert caught.value.remedy
    assert isinstance(caught.value, QueueFault) or caught.value.place == "KEEN_RIPPLE_QUEUE"
