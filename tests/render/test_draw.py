"""Drawing as such: sizes, grounds, moments, fades; and the command line."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import skia

from keen_ripple import cli
from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.measures.seam import sides_of
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS
from keen_ripple.render import draw_at, draw_pose
from keen_ripple.render.difference import differing
from support import piece, way

BOX = {"id": "box", "name": "Box", "x": 10, "y": 20, "width": 40, "height": 40, "fill": "#ff0000"}
LINEAR = {"kind": "curve", "duration_ms": 400, "easing": "linear"}


def drawn(state: str = "a", scale: float = 1.0, ground: str | None = None, **rest: Any) -> np.ndarray[Any, Any]:
    timeline = timeline_of(read_piece(piece([{"kind": "rectangle", **BOX}], **rest)))
    return draw_pose(timeline.piece, timeline.poses[state], scale, ground)


def test_pixels_are_where_the_pose_has_them() -> None:
    pixels = drawn("b", 2)
    assert pixels.shape == (200, 400, 4)
    red = np.argwhere(pixels[:, :, 3] == 255)
    assert (red.min(axis=0).tolist(), red.max(axis=0).tolist()) == ([40, 220], [119, 299])
    assert pixels[80, 260].tolist() == [255, 0, 0, 255]


def test_the_ground_is_the_piece_s_own_unless_it_is_said() -> None:
    assert drawn()[0, 0, 3] == 0
    assert drawn(ground="#00ff0080")[0, 0].tolist() == [0, 255, 0, 128]
    own = timeline_of(read_piece(piece(ground="#123456")))
    assert draw_pose(own.piece, own.poses["a"])[0, 0].tolist() == [0x12, 0x34, 0x56, 255]
    assert draw_pose(own.piece, own.poses["a"], ground="none")[0, 0, 3] == 0


def test_a_cross_fade_adds_up_to_a_whole() -> None:
    ways = [way("a", "b", LINEAR, style="cross-fade"), way("b", "a", LINEAR, hold_ms=100)]
    states = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"box": {"x": 30}}}]
    timeline = timeline_of(read_piece(piece([{"kind": "rectangle", **BOX}], states=states, transitions=ways)))
    row = draw_at(timeline, 100)[40, :, 3].astype(int)
    # A quarter on: what both have in common is whole, what only one has is there by its share.
    assert (row[20], row[40], row[60]) == (pytest.approx(191, abs=2), 255, pytest.approx(64, abs=2))


def test_too_large_a_picture_is_refused() -> None:
    with pytest.raises(Fault, match="12800 × 6400 px"):
        drawn(scale=64)


@pytest.mark.parametrize(
    ("kind", "turn", "share"), [("ellipse", 90, 0.0), ("rectangle", 90, 0.0), ("rectangle", 45, 0.01)]
)
def test_a_seam_may_look_the_same(kind: str, turn: float, share: float) -> None:
    states = [{"id": "a", "name": "A"}, {"id": "b", "name": "B", "changes": {"box": {"rotation": turn}}}]
    ways = [way("a", "b", LINEAR), way("b", "a", LINEAR, style="cut", hold_ms=50)]
    timeline = timeline_of(read_piece(piece([{"kind": kind, **BOX}], states=states, transitions=ways)))
    found = differing(timeline.piece, *sides_of(timeline))
    assert found == 0.0 if share == 0.0 else found > share


def test_the_command_draws_a_state_or_a_moment(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    source, out = tmp_path / "piece.json", tmp_path / "out.png"
    source.write_text(json.dumps(piece([{"kind": "rectangle", **BOX}])), "utf-8")

    def left(*options: str) -> int:
        assert cli.main(["draw", str(source), "--out", str(out), *options]) == 0
        image = skia.Image.open(str(out)).toarray(colorType=skia.kRGBA_8888_ColorType)
        return int(np.argwhere(image[:, :, 3] == 255)[:, 1].min())

    assert (left(), left("--state", "b"), left("--at", "400", "--scale", "0.5")) == (10, 110, 55)
    assert cli.main(["draw", str(source), "--out", str(out), "--state", "nowhere"]) == 1
    assert "no state 'nowhere'" in capsys.readouterr().err
    assert cli.main(["draw", str(source), "--out", str(out), "--ground", "pinkish"]) == 1
    assert "'pinkish' is not a colour" in capsys.readouterr().err
    for wrong in (["--state", "a", "--at", "0"], ["--scale", "0"], ["--at", "1,2"]):
        with pytest.raises(SystemExit) as caught:
            cli.main(["draw", str(source), "--out", str(out), *wrong])
        assert caught.value.code == 2


def test_a_piece_that_clips_shows_nothing_beyond_its_edge_also_in_another() -> None:
    inner = piece([{"kind": "rectangle", **BOX, "x": -30}], id="inner", clips=True, width=60, height=60)
    holder = piece(
        [
            {"kind": "placement", "id": "copy", "name": "Copy", "piece": "inner", "state": "a"}
            | {"x": 100, "y": 20, "width": 60, "height": 60, "scale_x": 0.5, "scale_y": 0.5, "pivot_x": 0, "pivot_y": 0}
        ],
        states=[{"id": "a", "name": "A"}],
        transitions=[],
    )
    for clips, left in ((True, 100), (False, 85)):
        library = {"inner": read_piece({**inner, "clips": clips})}
        timeline = timeline_of(read_piece(holder), library=library)
        seen = np.argwhere(draw_at(timeline, 0)[:, :, 3] == 255)
        assert (seen[:, 1].min(), seen[:, 1].max()) == (left, 104)
        page = FORMATS["html"].write(timeline_of(library["inner"])).decode()
        rule = page[page.index(".piece {") :]
        assert ("overflow: hidden" in rule[: rule.index("}")]) is clips
