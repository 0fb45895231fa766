"""Hand-offs played by others: right ones are near, wrong ones are found out, and what cannot be played is said."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from keen_ripple.cli import main
from keen_ripple.handoff import AS_IT_IS, FORMATS, Files, Options
from keen_ripple.measured import NotMeasured, measure
from keen_ripple.measured import browser as of_browser
from support import DEMO, piece, timeline_in

OF_ELEMENTS = ("html", "css", "svg", "animate", "element")
PIECES = ("tide-loader", "fog-notice", "sonar-sweep", "boarding-stamp")
MOST = {"px": 0.5, "opacity": 0.01, "colour": 2.0}


@pytest.mark.parametrize("name", OF_ELEMENTS)
@pytest.mark.parametrize("piece_id", PIECES)
def test_elements_are_where_the_core_has_them(piece_id: str, name: str) -> None:
    found = measure(timeline_in(DEMO[piece_id]), name, AS_IT_IS)
    assert found.moments == 24 and found.by.startswith("Chromium ")
    assert all(found.worst[kind].value <= most for kind, most in MOST.items()), found.said()


@pytest.mark.parametrize("name", ["apng", "webp", "gif", "webm"])
def test_pictures_show_what_is_drawn(name: str) -> None:
    found = measure(timeline_in(DEMO["fog-notice"]), name, Options(fps=15, ground="#ffffff"))
    assert found.worst["mean"].value <= 1.5 and found.worst["off"].value <= 0.03, found.said()


def spoiled(files: Files, was: str, now: str) -> Files:
    changed = {ending: content.replace(was.encode(), now.encode()) for ending, content in files.items()}
    assert changed != files
    return changed


@pytest.mark.parametrize("name", ["html", "css", "svg"])
@pytest.mark.parametrize(
    ("was", "now", "kind", "least"),
    [
        ("translate: 110px 20px", "translate: 113px 20px", "px", 3.0),
        ("#1f7a70", "#1f7a90", "colour", 32.0),
        ("opacity: 0.4", "opacity: 0.6", "opacity", 0.19),
    ],
)
def test_a_file_that_is_wrong_is_found_out(name: str, was: str, now: str, kind: str, least: float) -> None:
    document = piece()
    document["layers"][0] |= {"fill": "#1f7a70", "opacity": 0.4}
    timeline = timeline_in(document)
    right = FORMATS[name].files(timeline, AS_IT_IS)
    found = measure(timeline, name, AS_IT_IS, spoiled(right, was, now))
    assert found.worst[kind].value >= least, found.said()
    assert document["layers"][0]["name"] in found.said()


@pytest.mark.parametrize("name", OF_ELEMENTS)
def test_turned_ellipses_and_outlines_smaller_than_their_box_are_right_too(name: str) -> None:
    turned = {"x": 60, "y": 10, "width": 80, "height": 20, "rotation": 30}
    outline = {"kind": "path", "path": "m20 30H60v50z", "view_width": 100, "view_height": 100}
    layers = [
        {"kind": "ellipse", "id": "eye", "name": "Eye", **turned},
        {"id": "sail", "name": "Sail", **outline, **turned, "rotation": -40},
    ]
    document = piece(layers, states=[{"id": "here", "name": "Here"}], transitions=[], start="here")
    timeline = timeline_in(document)
    files = FORMATS[name].files(timeline, AS_IT_IS)
    assert measure(timeline, name, AS_IT_IS, files).worst["px"].value <= 0.1
    if name in ("html", "css", "svg"):
        found = measure(timeline, name, AS_IT_IS, spoiled(files, "H60", "H70"))
        assert found.worst["px"].value == pytest.approx(8.0, abs=0.1) and "Sail" in found.said()


def test_what_is_not_measured_says_why(monkeypatch) -> None:
    timeline = timeline_in(piece())
    with pytest.raises(NotMeasured, match="nothing here plays what tokens writes"):
        measure(timeline, "tokens", AS_IT_IS)
    files = FORMATS["html"].files(timeline, AS_IT_IS)
    with pytest.raises(NotMeasured, match="is not shown"):
        measure(timeline, "html", AS_IT_IS, spoiled(files, 'data-layer="box"', ""))
    wheel = {"kind": "conic", "stops": [{"at": 0, "colour": "#d9503a"}, {"at": 1, "colour": "#1f7a70"}]}
    ring = {"kind": "ellipse", "id": "box", "name": "Ring", "x": 0, "y": 0, "width": 9, "height": 9, "stroke": wheel}
    for name in ("html", "css", "svg", "animate"):
        with pytest.raises(NotMeasured, match="all of it is drawn into pictures"):
            measure(timeline_in(piece([ring])), name, AS_IT_IS)
    large = {"lottie.json": FORMATS["lottie"].files(timeline, AS_IT_IS)["lottie.json"] + b" " * 3_000_000}
    with pytest.raises(NotMeasured, match="The file has 3"):
        measure(timeline, "lottie", AS_IT_IS, large)
    of_browser.browser.cache_clear()
    monkeypatch.setattr("keen_ripple.measured.browser.NAMES", ("no-such-browser",))
    with pytest.raises(NotMeasured, match="no browser is installed") as told:
        measure(timeline, "html", AS_IT_IS)
    assert told.value.remedy == "Install Chromium."
    of_browser.browser.cache_clear()


def test_the_command_line_prints_it_and_writes_it_down(tmp_path: Path, capsys) -> None:
    document = tmp_path / "probe.json"
    named = piece()
    named["layers"][0]["name"] = "Buoy --> */"
    document.write_text(json.dumps(named), "utf-8")
    for name, mark in (("html", "<!-- Measured: At most 0.0"), ("css", "/* Measured: At most 0.0")):
        out = tmp_path / name
        assert main(["handoff", str(document), "--format", name, "--measure", "--out", str(out)]) == 0
        told = json.loads(capsys.readouterr().out)
        assert told["format"] == name and told["worst"]["px"]["value"] <= 0.5 and told["moments"] == 24
        text = (out if out.is_file() else out / "probe.css").read_text("utf-8")
        assert text.splitlines()[-1].startswith(mark) and text.count("-->") <= 1 and "Buoy --> */" not in text[-300:]
    assert main(["handoff", str(document), "--format", "tokens", "--measure", "--out", str(tmp_path / "t.json")]) == 0
    told = capsys.readouterr()
    assert not told.out and "Not measured" in told.err and (tmp_path / "t.json").exists()
