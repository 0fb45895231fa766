"""Fonts of others: taken in or refused, chosen by weight, cut down, and what a piece may say of them."""

from __future__ import annotations

import io
import struct
import time
from collections.abc import Callable
from itertools import pairwise
from typing import Any

import brotli
import numpy as np
import pytest
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.t2CharStringPen import T2CharStringPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont, newTable

from fonts_of_others import FILES, LIGATURES, VARIABLE, brought, source
from keen_ripple.core.document import read_piece, walk
from keen_ripple.core.errors import DocumentFault, Fault
from keen_ripple.core.operations.text_as_path import with_text_as_path
from keen_ripple.core.timeline import sample, timeline_of
from keen_ripple.core.values.font_file import FontFault, data_in, font_in, ranges_of
from keen_ripple.fonts import chosen, cut_down, faces_of, lacking, take_font
from keen_ripple.handoff import FORMATS
from keen_ripple.render import draw_pose, outline_of_text
from support import piece, way


def made(kind: str = "TTF", weight: int = 400, embedding: int = 0, **names: str) -> TTFont:
    """A font with a box for an A, a B and a space."""
    builder = FontBuilder(1000, isTTF=kind == "TTF")
    builder.setupGlyphOrder([".notdef", "space", "A", "B"])
    builder.setupCharacterMap({32: "space", 65: "A", 66: "B"})
    if kind == "TTF":
        builder.setupGlyf({name: box(TTGlyphPen(None), name).glyph() for name in (".notdef", "space", "A", "B")})
    else:
        shapes = {
            name: box(T2CharStringPen(600, None), name).getCharString() for name in (".notdef", "space", "A", "B")
        }
        builder.setupCFF("Quay", {}, shapes, {})
    builder.setupHorizontalMetrics(dict.fromkeys((".notdef", "space", "A", "B"), (600, 0)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Quay Sans", "styleName": "Regular", **names})
    builder.setupOS2(usWeightClass=weight, fsType=embedding)
    builder.setupPost()
    return builder.font


def box(pen: Any, name: str) -> Any:
    if name in "AB":
        pen.moveTo((0, 0))
        for corner in ((0, 700), (500, 700), (500, 0)):
            pen.lineTo(corner)
        pen.closePath()
    return pen


def saved(font: TTFont, flavor: str | None = None) -> bytes:
    font.flavor = flavor
    file = io.BytesIO()
    font.save(file)
    return file.getvalue()


@pytest.mark.parametrize("kind", ["TTF", "OTF"])
@pytest.mark.parametrize("flavor", [None, "woff2"])
def test_a_file_becomes_woff2_with_all_that_is_known_of_it(kind: str, flavor: str | None) -> None:
    url, file = take_font(saved(made(kind, weight=650), flavor))
    assert file == font_in(url)
    assert (file.family, file.weights, file.axes) == ("Quay Sans", (650.0, 650.0), ())
    assert (ranges_of(file.characters), file.may_be_sent, file.may_be_cut) == ("U+20, U+41-42", True, True)


@pytest.mark.parametrize(
    ("names", "family"),
    [
        ({"familyName": "Quay Sans Semi Bold"}, "Quay Sans"),
        ({"familyName": "Quay Sans Light", "typographicFamily": "Quay Sans Display"}, "Quay Sans Display"),
        ({"familyName": "Black"}, "Black"),
        ({"familyName": "Quay\u0007 Sans"}, "Quay Sans"),
    ],
)
def test_the_weights_of_a_family_share_its_name(names: dict[str, str], family: str) -> None:
    assert take_font(saved(made(**names)))[1].family == family


def test_what_is_no_outline_of_a_letter_is_left_behind() -> None:
    font = made()
    font["DSIG"] = newTable("DSIG")
    font["DSIG"].__dict__.update(ulVersion=1, usFlag=0, usNumSigs=0, signatureRecords=[])
    assert "DSIG" in TTFont(io.BytesIO(saved(font)))
    assert "DSIG" not in TTFont(io.BytesIO(data_in(take_font(saved(font))[0])))


def many_characters(font: TTFont) -> bytes:
    """A cmap of little bytes that says each character a thousand times."""
    data = bytearray(saved(font))
    groups = struct.pack(">III", 0, 0x10FFFF, 1) * 1000
    table = struct.pack(">HHHHI", 0, 1, 3, 10, 12) + struct.pack(">HHIII", 12, 0, 16 + len(groups), 0, 1000) + groups
    return _with_table(bytes(data), b"cmap", table)


def _with_table(data: bytes, tag: bytes, table: bytes) -> bytes:
    """The font with another table behind all others."""
    at = data.index(tag, 12)
    return data[: at + 8] + struct.pack(">II", len(data), len(table)) + data[at + 16 :] + table


def bomb() -> bytes:
    """A WOFF2 that says it is small and unpacks to 400 MB."""
    whole = saved(made(), "woff2")
    packed = brotli.compress(bytes(400_000_000), quality=1, lgwin=24)
    size = struct.unpack(">I", whole[20:24])[0]
    start = packed_from(whole, size)
    return whole[:20] + struct.pack(">I", len(packed)) + whole[24:start] + packed


def packed_from(whole: bytes, size: int) -> int:
    """Where what is packed begins: the only place from which it unpacks."""
    for start in range(48, len(whole)):
        try:
            brotli.decompress(whole[start : start + size])
        except brotli.error:
            continue
        return start
    raise AssertionError


REFUSED: dict[str, tuple[Callable[[], bytes], str]] = {
    "nothing": (lambda: b"", "This is no font."),
    "a text": (lambda: b"<svg/>" * 20, "This is no font."),
    "several fonts": (lambda: b"ttcf" + bytes(40), "several fonts"),
    "WOFF": (lambda: saved(made(), "woff"), "WOFF of the first kind"),
    "cut off": (lambda: saved(made())[:300], "cannot be read"),
    "cut off WOFF2": (lambda: saved(made(), "woff2")[:-60], "cannot be read"),
    "without outlines": (lambda: _without(made(), "glyf", "loca"), "no outlines"),
    "without names": (lambda: _without(made(), "name"), "no name table"),
    "too many characters": (lambda: many_characters(made()), "more characters than there are"),
    "much from little": (bomb, "Unpacked, this font has"),
    "too large": (lambda: bytes(9_000_000), "This file has 9.0 MB."),
}


def _without(font: TTFont, *tags: str) -> bytes:
    font = TTFont(io.BytesIO(saved(font)))
    for tag in tags:
        del font[tag]
    return saved(font)


@pytest.mark.parametrize("name", REFUSED)
def test_what_is_no_font_or_could_do_harm_is_refused_in_words(name: str) -> None:
    data = REFUSED[name][0]()
    begun = time.process_time()
    with pytest.raises(FontFault, match=REFUSED[name][1]) as caught:
        take_font(data)
    assert caught.value.remedy
    assert time.process_time() - begun < 2.0


@pytest.mark.parametrize("cut", range(0, 2000, 37))
def test_any_byte_may_be_wrong(cut: int) -> None:
    data = bytearray(saved(made()))
    data[cut % len(data)] ^= 0xFF
    try:
        url, _ = take_font(bytes(data))
    except FontFault:
        return
    assert font_in(url).characters >= set()


# CSS Fonts Level 4, section 5.2, with weights of 300, 400, 500 and 700, and one from 600 to 650.
@pytest.mark.parametrize(
    ("weight", "shown"),
    [(100, 300), (350, 300), (400, 400), (450, 500), (500, 500), (550, 600), (620, 600), (660, 700), (900, 700)],
)
def test_the_weight_that_is_shown_is_the_one_of_css(weight: float, shown: float) -> None:
    faces = [Named(low, high) for low, high in ((300, 300), (400, 400), (500, 500), (600, 650), (700, 700))]
    assert chosen(faces, weight)[0].file.weights[0] == shown


class Named:
    """As much of a face as its weight needs."""

    def __init__(self, low: float, high: float) -> None:
        self.file = self
        self.weights = (low, high)


def test_between_400_and_500_without_either_lighter_ones_come_first() -> None:
    assert chosen([Named(300, 300), Named(700, 700)], 450)[0].weights == (300, 300)


def family_of(document: dict[str, Any], family: str) -> Any:
    return faces_of(read_piece(document).fonts, family)


def test_each_character_is_shown_by_the_first_file_that_has_it() -> None:
    faces = chosen(family_of(piece(fonts=brought()), LIGATURES), 400)
    assert len(faces) == 2
    assert not faces[0].characters & faces[1].characters
    assert lacking(faces, "a αЖ \n漢") == "Ж漢"
    assert lacking(family_of(piece(), "Hanken Grotesk"), "Łódź Ж") == "Ж"


def test_what_is_cut_down_keeps_what_sets_it() -> None:
    [face] = [face for face in family_of(piece(fonts=brought()), LIGATURES) if ord("=") in face.characters][:1]
    cut = TTFont(io.BytesIO(cut_down(face.data, frozenset(map(ord, "!=")))))
    assert set(cut.getBestCmap()) == {ord("!"), ord("=")}
    # And the one glyph that stands for both.
    assert len(cut.getGlyphOrder()) > 3
    [variable] = family_of(piece(fonts=brought()), VARIABLE)
    kept = TTFont(io.BytesIO(cut_down(variable.data, frozenset(map(ord, "AV")))))
    assert {axis.axisTag for axis in kept["fvar"].axes} == {"wght", "MONO", "CASL", "slnt", "CRSV"}
    assert "GPOS" in kept


def text(**look: Any) -> dict[str, Any]:
    return {"kind": "text", "id": "word", "name": "Word", "text": "AB", **look} | {
        "x": 10, "y": 10, "width": 100, "height": 40, "font_size": 30}  # fmt: skip


def lettered(*states: dict[str, Any], base: dict[str, Any], fonts: list[Any] | None = None) -> dict[str, Any]:
    changes = [{"id": f"s{i}", "name": f"S{i}", "changes": {"word": look}} for i, look in enumerate(states)]
    ways = [way("s0", "s1", {"kind": "curve", "duration_ms": 100, "easing": "linear"})] if len(states) > 1 else []
    return piece([text(**base)], states=changes, transitions=ways, start="s0", fonts=fonts or [])


WIDE = [{"axis": "CASL", "value": 0}, {"axis": "slnt", "value": -10}]
FAULTS: dict[str, tuple[dict[str, Any], str, str]] = {
    "another family": (lettered({}, base={"font_family": "Nowhere"}), "/layers/0/font_family", "Bring it in"),
    "in a state": (lettered({"font_family": "Nowhere"}, base={}), "/states/0/changes/word/font_family", "Bring it in"),
    "other axes": (lettered({"font_axes": WIDE}, base={}), "/states/0/changes/word/font_axes", "the same axes"),
    "an axis twice": (lettered({}, base={"font_axes": [WIDE[0]] * 2}), "/layers/0/font_axes", "Say it once."),
    "a shipped name": (
        lettered({}, base={}, fonts=[{"family": "JetBrains Mono", "files": [source("ligatures")]}]),
        "/fonts/0/family",
        "another name",
    ),
    "no font": (
        lettered({}, base={}, fonts=[{"family": "Quay", "files": ["data:font/woff2;base64,AAAA"]}]),
        "/fonts/0/files/0",
        "TTF, OTF or WOFF2",
    ),
    "another kind of file": (
        lettered({}, base={}, fonts=[{"family": "Quay", "files": ["data:font/ttf;base64,AAAA"]}]),
        "/fonts/0/files/0",
        "Bring in a TTF, OTF or WOFF2",
    ),
}


@pytest.mark.parametrize("name", FAULTS)
def test_what_a_document_cannot_say_of_fonts(name: str) -> None:
    document, place, remedy = FAULTS[name]
    with pytest.raises(DocumentFault) as caught:
        read_piece(document)
    fault = (caught.value.all or (caught.value,))[0]
    assert fault.place == place
    assert remedy in fault.remedy


def test_axes_move_and_are_seen_to_move() -> None:
    other = [{"axis": "CASL", "value": 1}, {"axis": "slnt", "value": 0}]
    document = lettered({"font_axes": WIDE}, {"font_axes": other}, base={"font_family": VARIABLE, "font_axes": WIDE})
    timeline = timeline_of(read_piece({**document, "fonts": brought()}))
    [half] = sample(timeline, [50.0])
    assert [(place.axis, place.value) for place in half["word"]["font_axes"]] == [("CASL", 0.5), ("slnt", -5.0)]
    pictures = [draw_pose(timeline.piece, pose) for pose in (timeline.poses["s0"], half, timeline.poses["s1"])]
    assert all((a != b).any() for a, b in pairwise(pictures))


@pytest.mark.parametrize(
    ("embedding", "sent", "cut"),
    [(0, True, True), (2, False, True), (4, True, True), (8, True, True), (0x100, True, False), (0x200, False, True)],
)
def test_what_the_font_itself_says_of_being_sent_is_kept(embedding: int, sent: bool, cut: bool) -> None:
    url, file = take_font(saved(made(embedding=embedding)))
    assert (file.may_be_sent, file.may_be_cut) == (sent, cut)
    document = lettered({}, base={"font_family": "Quay Sans"}, fonts=[{"family": "Quay Sans", "files": [url]}])
    timeline = timeline_of(read_piece(document))
    for form in ("html", "live"):
        handed = FORMATS[form].write(timeline).decode()
        assert ("@font-face" in handed) == sent
        # One that is not cut down goes along as it is.
        assert (url in handed) == (sent and not cut)
        assert any("Quay Sans" in note for note in FORMATS[form].report(timeline).leaves_out) != sent


def test_letters_that_no_font_has_are_told_before_a_file_is_taken() -> None:
    timeline = timeline_of(read_piece(lettered({}, base={"text": "ЖA"})))
    assert any("Ж in Hanken Grotesk" in note for note in FORMATS["html"].report(timeline).leaves_out)


SHAPED = {"font_family": LIGATURES, "text": "a != b", "fill": "#1f7a70"}


def test_a_text_as_an_outline_looks_the_same_in_every_state() -> None:
    states = {}, {"font_size": 20, "width": 60, "x": 30}, {"text": "ab\nba", "text_align": "right", "height": 60}
    before = read_piece(lettered(*states, base=SHAPED, fonts=brought()))
    after = read_piece(with_text_as_path(before, "word", lambda look: outline_of_text(look, before.fonts)))
    [(layer, _)] = walk(after.layers)
    assert (layer.kind, layer.base["fill"]) == ("path", "#1f7a70")
    poses = timeline_of(before).poses, timeline_of(after).poses
    for state in poses[0]:
        ours, theirs = (
            draw_pose(each, pose[state], 2.0, "white").astype(np.int16)
            for each, pose in zip((before, after), poses, strict=True)
        )
        assert (ours < 128).any()
        assert (np.abs(ours - theirs).max(axis=2) > 64).mean() < 0.002


OPTION = {"id": "o", "name": "O", "changes": {"word": {"text": "C"}}}
BREATH = {"layer": "word", "property": "font_size", "keys": [{"at_ms": 0, "value": 9}, {"at_ms": 50, "value": 8}]}
TITLE = {"id": "p", "name": "Title", "kind": "text", "bind": [{"layer": "word", "property": "text"}]}
SPEAKING: dict[str, tuple[dict[str, Any], str]] = {
    "options": ({"traits": [{"id": "k", "name": "Kind", "options": [OPTION]}]}, "Options of Kind"),
    "parameters": ({"parameters": [TITLE]}, "parameter Title"),
    "rounds": ({"undercurrents": [{"id": "u", "name": "Breath", "period_ms": 100, "courses": [BREATH]}]}, "Breath"),
    "nothing to be seen": ({"layers": [text(text=" ")]}, "nothing to be seen"),
    "no text": ({"layers": [{**text(), "id": "other"}], "states": [{"id": "s0", "name": "S"}]}, "no text 'word'"),
}


@pytest.mark.parametrize("name", SPEAKING)
def test_what_speaks_of_letters_keeps_them(name: str) -> None:
    spoil, said = SPEAKING[name]
    before = read_piece({**lettered({}, base={}), **spoil})
    with pytest.raises(Fault, match=said):
        with_text_as_path(before, "word", lambda look: outline_of_text(look, before.fonts))


def test_every_file_of_others_is_taken() -> None:
    for path in FILES.values():
        assert take_font(path.read_bytes())[1].characters
