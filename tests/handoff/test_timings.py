"""Design tokens, timing sheets and tapes: read again, and held against the piece."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Iterator
from html.parser import HTMLParser
from typing import Any

import numpy as np
import pytest

from keen_ripple.core.curves import Spring, parse_easing
from keen_ripple.core.timeline import sample
from keen_ripple.handoff import AS_IT_IS, FORMATS
from keen_ripple.handoff.compact import unpack
from support import DEMO, piece, timeline_in, way

SPRING = {"kind": "spring", "stiffness": 420, "damping": 24}
CURVE = {"kind": "curve", "duration_ms": 300, "easing": "cubic-bezier(0.2, 0, 0.1, 1)"}
FORMULA = "-1+cmd|' /C x'!A0"
HOSTILE = "=HYPERLINK(1)|<b onclick=alert(1)>`x`\n[y](javascript:1)"


def tokens(document: dict[str, Any]) -> dict[str, Any]:
    return json.loads(FORMATS["tokens"].files(timeline_in(document), AS_IT_IS)["tokens.json"])


def typed(group: dict[str, Any], path: str = "") -> Iterator[tuple[str, dict[str, Any]]]:
    for name, item in group.items():
        if isinstance(item, dict) and not name.startswith("$"):
            own = f"{path}.{name}" if path else name
            if "$value" in item:
                yield own, item
            else:
                yield from typed(item, own)


@pytest.mark.parametrize("name", sorted(DEMO))
def test_tokens_are_well_formed_and_all_that_they_name_is_there(name: str) -> None:
    found = dict(typed(tokens(DEMO[name])))
    for path, token in found.items():
        assert not re.search(r"[{}]|(^|\.)\$", path)
        value = token["$value"]
        if token["$type"] == "duration":
            assert value["unit"] == "ms" and value["value"] >= 0
        elif token["$type"] == "cubicBezier":
            assert len(value) == 4 and 0 <= value[0] <= 1 and 0 <= value[2] <= 1
        else:
            kinds = {part: found[reference.strip("{}")]["$type"] for part, reference in value.items()}
            assert kinds == {"duration": "duration", "delay": "duration", "timingFunction": "cubicBezier"}


def test_tokens_say_springs_beside_and_lanes_by_layer() -> None:
    lane = {"layer": "box", "property": "y", "delay_ms": 40, "timing": CURVE}
    states = [
        {"id": "a", "name": "A", "changes": {}},
        {"id": "b", "name": "B", "changes": {"box": {"x": 110, "y": 60}}},
    ]
    ways = [way("a", "b", SPRING, lanes=[lane]), way("b", "a", CURVE, hold_ms=100)]
    found = tokens(piece(states=states, transitions=ways))["probe"]
    both, back = found["a-to-b"], found["b-to-a"]
    assert both["layers"]["box"]["y"]["delay"]["$value"] == {"value": 40, "unit": "ms"}
    assert both["layers"]["box"]["y"]["curve"]["$value"] == [0.2, 0.0, 0.1, 1.0]
    [beside] = both["layers"]["box"]["x"]["duration"]["$extensions"].values()
    assert (beside["spring"]["stiffness"], beside["spring"]["damping"]) == (420, 24)
    # Its linear() is the spring.
    spring, u = Spring(420.0, 24.0), np.linspace(0, 1, 101)
    length = both["layers"]["box"]["x"]["duration"]["$value"]["value"]
    assert np.abs(parse_easing(beside["css"])(u) - spring.position(u * length / 1000)).max() < 0.002
    assert back["transition"]["$value"]["timingFunction"] == "{probe.b-to-a.curve}"


class Read(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.tags: list[str] = []
        self.text: list[str] = []

    def handle_starttag(self, tag: str, attrs: Any) -> None:
        assert not any(name.startswith("on") for name, _ in attrs)
        self.tags.append(tag)

    def handle_data(self, data: str) -> None:
        self.text.append(data)


def test_a_sheet_says_every_lane_in_three_ways() -> None:
    box = {"kind": "rectangle", "id": "box", "name": HOSTILE, "x": -10, "y": 20, "width": 40, "height": 30}
    files = FORMATS["sheet"].files(timeline_in(piece([box])), AS_IT_IS)
    rows = list(csv.DictReader(io.StringIO(files["sheet.csv"].decode("utf-8-sig"))))
    assert [(r["transition"], r["property"], r["from"], r["to"], r["start_ms"], r["duration_ms"]) for r in rows] == [
        ("A → B", "x", "-10 px", "110 px", "0", "400"),
        ("B → A", "x", "110 px", "-10 px", "0", "0"),
    ]
    assert [r["curve"] for r in rows] == ["ease-out", "at once"]
    # What a spreadsheet would run, it shows.
    assert rows[0]["layer"] == f"'{HOSTILE}"
    named = FORMATS["sheet"].files(timeline_in(piece([{**box, "name": FORMULA}])), AS_IT_IS)["sheet.csv"].decode()
    assert f"'{FORMULA}" in named
    page = Read()
    page.feed(files["sheet.html"].decode())
    assert HOSTILE in page.text and "b" not in page.tags and "script" not in page.tags
    assert (page.tags.count("svg"), page.tags.count("img"), page.tags.count("table")) == (1, 1, 2)
    lines = files["sheet.md"].decode().splitlines()
    [row] = [line for line in lines if "ease-out" in line]
    assert len(re.split(r"(?<!\\)\|", row)) == 9 and "<b" not in row.replace("\\<b", "")


@pytest.mark.parametrize("name", ["tide-loader", "beacon-pulse", "pier-carousel"])
def test_a_tape_plays_what_the_core_plays(name: str) -> None:
    timeline = timeline_in(DEMO[name])
    files = FORMATS["tape"].files(timeline, AS_IT_IS)
    said, packed = json.loads(files["tape.json"]), unpack(files["krt"])
    assert list(packed) == list(said["legs"])
    compared = 0
    for segment in [s for s in timeline.run.segments if s.kind == "travel"]:
        moments = np.linspace(segment.start_ms, segment.end_ms, 7)[1:-1]
        poses = sample(timeline, moments)
        for track in said["legs"][segment.leg]["tracks"]:
            if "form" in track or len(track["rows"][0]) > 1 or track["property"] == "visible":
                continue
            played = np.interp(moments - segment.start_ms, track["times_ms"], [row[0] for row in track["rows"]])
            wanted = [pose[track["layer"]][track["property"]] for pose in poses]
            assert np.abs(played - wanted).max() < 0.05, (segment.transition, track["layer"], track["property"])
            compared += 1
    assert compared
