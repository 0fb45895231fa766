"""SVG as layers: what is taken, what is named, what is refused."""

# ruff: noqa: E501 (a case is a line)

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from keen_ripple import cli
from keen_ripple.core.document import read_piece
from keen_ripple.intake import IntakeFault, take_svg

SVG = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'


def file(inside: str, attributes: str = 'viewBox="0 0 100 80"') -> bytes:
    return f"<svg {SVG} {attributes}>{inside}</svg>".encode()


def only(inside: str, **rest: Any) -> dict[str, Any]:
    taken = take_svg(file(inside, **rest), "drawing")
    read_piece(taken.document)
    [layer] = taken.document["layers"]
    return layer


def part(layer: dict[str, Any], names: str) -> tuple[Any, ...]:
    return tuple(layer.get(name) for name in names.split())


PLACE = "x y width height"
CASES: dict[str, tuple[str, str, tuple[Any, ...]]] = {
    "a rect": ('<rect x="5" y="6" width="20" height="10" fill="red"/>', f"kind {PLACE} fill", ("rectangle", 5, 6, 20, 10, "#ff0000")),
    "round corners": ('<rect width="20" height="10" rx="3"/>', "radius_top_left radius_bottom_left", (3, 3)),
    "uneven corners": ('<rect width="20" height="10" rx="3" ry="1"/>', f"kind {PLACE}", ("path", 0, 0, 20, 10)),
    "a circle in percent": ('<circle cx="50%" cy="50%" r="10"/>', f"kind {PLACE}", ("ellipse", 40, 30, 20, 20)),
    "moved and scaled": ('<g transform="translate(10 5) scale(2)"><rect width="4" height="3"/></g>', PLACE, (10, 5, 8, 6)),
    "turned": ('<g transform="translate(9 0) rotate(30)"><rect width="8" height="4" rx="1"/></g>', f"kind {PLACE} rotation radius_top_left",
               ("rectangle", 9 + 2.464 - 4, 3.732 - 2, 8, 4, 30, 1)),
    "turned and stretched": ('<rect width="4" height="4" transform="scale(1 2) rotate(45 2 2)"/>', "kind x", ("path", -0.828)),
    "mirrored": ('<rect width="4" height="4" transform="scale(-1 1)"/>', "kind x width", ("path", -4, 4)),
    "a text": (
        '<text x="50" y="40" font-size="10" font-weight="bold" text-anchor="middle" fill="#1f7a70" font-family="Hanken Grotesk">Pier  9</text>',
        "kind text name font_family font_size font_weight text_align fill", ("text", "Pier 9", "Pier 9", "Hanken Grotesk", 10, 700, "centre", "#1f7a70"),
    ),
    "a text in percent": ('<text x="50%" y="25%" font-size="10">Ok</text>', "x y", (50, 10)),
    "a hidden part of a text": ('<text>Pier<tspan display="none"> 8</tspan><tspan visibility="hidden"> 7</tspan></text>', "text", ("Pier",)),
    "a text in other units": ('<text transform="scale(2)" font-size="1.5em" letter-spacing="0.1em">Ok</text>', "font_size letter_spacing text_align", (48, 4.8, "left")),
    "packed numbers": ('<path d="M1.5.5a1 1 0 011 1l.5.5z"/>', "path", ("M0 0A1 1 0 0 1 1 1L1.5 1.5Z",)),
    "a polygon": ('<polygon points="0,0 10 0 10,10"/>', "path", ("M0 0L10 0L10 10Z",)),
    "current colour": ('<g color="#1f7a70"><path d="M0 0h5v5z" fill="currentColor"/></g>', "fill", ("#1f7a70",)),
    "a style attribute": ('<rect width="5" height="5" fill="red" style="fill: #00f; opacity: .5"/>', "fill opacity", ("#0000ff", 0.5)),
    "class rules": (
        '<style>.a{fill:#0f0} rect.b{stroke:#f00;stroke-width:2px} #c{fill:#00f}</style><rect id="c" class="a b" width="5" height="5"/>',
        "fill stroke stroke_width stroke_align", ("#0000ff", "#ff0000", 2, "centre"),
    ),
    "a stroke": (
        '<line x1="0" y1="5" x2="20" y2="5" stroke="#15293b" stroke-width="3" stroke-linecap="square" stroke-dasharray="4 2"/>',
        "kind fill stroke_width stroke_cap stroke_dash", ("path", "none", 3, "square", [4, 2]),
    ),
    "a stroke under a scale": ('<path transform="scale(2)" d="M0 0h9" stroke="red" stroke-width="1.5"/>', "stroke_width", (3,)),
    "even-odd": ('<path fill-rule="evenodd" d="M0 0h9v9h-9zM2 2h5v5h-5z"/>', "fill_rule", ("evenodd",)),
    "opacities multiply": ('<rect width="5" height="5" fill="#f00" fill-opacity="50%"/>', "fill", ("#ff000080",)),
    "a faded group": ('<g opacity=".5"><rect width="5" height="5"/><rect x="9" width="5" height="5"/></g>', f"kind {PLACE} opacity", ("group", 0, 0, 14, 5, 0.5)),
    "a named group": ('<g id="Hull 1"><rect width="5" height="5"/><rect x="9" width="5" height="5"/></g>', "kind id name", ("group", "hull-1", "Hull 1")),
    "use": ('<defs><rect id="r" width="4" height="4"/></defs><use xlink:href="#r" x="10" y="3" fill="red"/>', f"{PLACE} fill", (10, 3, 4, 4, "#ff0000")),
    "a symbol": (
        '<symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10"/></symbol><use href="#s" x="8" width="20" height="20"/>',
        PLACE, (8, 0, 20, 20),
    ),
    "hidden things": ('<rect width="5" height="5" display="none"/><rect width="6" height="5" visibility="hidden"/><rect width="7" height="5"/>', "width", (7,)),
}  # fmt: skip


@pytest.mark.parametrize("case", CASES.values(), ids=CASES.keys())
def test_what_is_taken(case: tuple[str, str, tuple[Any, ...]]) -> None:
    inside, names, expected = case
    found = part(only(inside), names)
    assert found == tuple(pytest.approx(e, abs=2e-3) if isinstance(e, float | int) else e for e in expected)


GRADIENT = '<linearGradient id="g" {}><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/></linearGradient>'
RADIAL = '<radialGradient id="g" {}><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/></radialGradient>'
FILLED = '<rect x="10" y="10" width="40" height="20" fill="url(#g)"/>'


@pytest.mark.parametrize(
    ("gradient", "angle", "places"),
    [
        (GRADIENT.format(""), 90, [0, 1]),
        (GRADIENT.format('x2="0" y2="1"'), 180, [0, 1]),
        (GRADIENT.format('gradientUnits="userSpaceOnUse" x1="20" x2="40"'), 90, [0.25, 0.75]),
        (
            GRADIENT.format('gradientUnits="userSpaceOnUse" x1="10" x2="50" gradientTransform="rotate(90 30 20)"'),
            180,
            None,
        ),
        # Reaching beyond the box: cut there, in the colour that is seen there.
        (GRADIENT.format('x1="-1" x2="2"'), 90, [0, 1]),
        # Level lines of a slanting gradient lie along the other diagonal of the box.
        (GRADIENT.format('x2="1" y2="1"'), 153.4349, None),
    ],
)
def test_linear_gradients_keep_their_level_lines(gradient: str, angle: float, places: list[float] | None) -> None:
    fill = only(gradient + FILLED)["fill"]
    assert (fill["kind"], fill["angle"]) == ("linear", pytest.approx(angle, abs=0.01))
    if places is not None:
        assert [stop["at"] for stop in fill["stops"]] == pytest.approx(places)


def test_what_a_gradient_builds_on_is_followed_and_ends_are_blended() -> None:
    chain = (
        GRADIENT.format("").replace('id="g"', 'id="base"')
        + '<linearGradient id="g" xlink:href="#base" x1="-1" x2="2"/>'
    )
    fill = only(chain + FILLED)["fill"]
    assert [stop["colour"] for stop in fill["stops"]] == ["#aa0055", "#5500aa"]


@pytest.mark.parametrize(
    ("attributes", "said"),
    [
        ("", {"radius": 0.5}),
        # A circle over a box of 40 by 20.
        ('gradientUnits="userSpaceOnUse" cx="30" cy="20" r="10"', {"radius": 0.5, "stretch": 0.5}),
        ('fx="0.7"', {"radius": 0.5, "focus_x": 0.4}),
        # In a square, turned and stretched, with a focus that turns along.
        ('gradientTransform="rotate(30 0.5 0.5)" fy="0.3"', {"radius": 0.5, "focus_x": 0.2, "focus_y": -0.34641}),
        (
            'gradientTransform="translate(0.5 0.5) rotate(80) scale(2 1) translate(-0.5 -0.5)"',
            {"radius": 1.0, "stretch": 0.5, "angle": -10.0},
        ),
    ],
)
def test_circles_of_radial_gradients_become_ellipses_of_their_box(attributes: str, said: dict[str, float]) -> None:
    layer = only(RADIAL.format(attributes) + FILLED)
    fill = {k: v for k, v in layer["fill"].items() if k not in ("kind", "stops")}
    assert (layer["kind"], layer["width"], layer["height"]) == ("rectangle", 40, 20)
    assert fill == {"centre_x": 0.5, "centre_y": 0.5, **said}


def test_a_clip_becomes_a_mask_under_what_it_cuts() -> None:
    clip = '<clipPath id="c"><circle cx="10" cy="10" r="8"/><rect x="20" width="5" height="5"/></clipPath>'
    group = only(clip + '<rect id="deck" width="30" height="20" clip-path="url(#c)"/>')
    mask, cut = group["layers"]
    assert (group["kind"], mask["mask"], mask["path"].count("M"), cut["id"]) == ("group", True, 2, "deck")


@pytest.mark.parametrize(
    ("attributes", "size", "place"),
    [
        ('viewBox="0 0 100 80"', (100, 80), (0, 0, 10, 10)),
        ('width="200" height="80" viewBox="0 0 100 80"', (200, 80), (50, 0, 10, 10)),
        ('width="200" height="80" viewBox="0 0 100 80" preserveAspectRatio="none"', (200, 80), (0, 0, 20, 10)),
        ('width="1in" height="72pt"', (96, 96), (0, 0, 10, 10)),
        ('width="100%" height="100%" viewBox="-10 -10 50 50"', (50, 50), (10, 10, 10, 10)),
    ],
)
def test_the_size_of_the_piece(attributes: str, size: tuple[float, float], place: tuple[float, ...]) -> None:
    document = take_svg(file('<rect width="10" height="10"/>', attributes), "x").document
    assert (document["width"], document["height"]) == size
    assert part(document["layers"][0], PLACE) == pytest.approx(place)


NAMED = {
    "motion": ('<rect width="5" height="5"><animate attributeName="x"/></rect>', "first moment"),
    "a script": ('<script>alert(1)</script><rect width="5" height="5"/>', "script was left out"),
    "a filter of another kind": ('<filter id="f"><feFlood/></filter><rect width="5" height="5" filter="url(#f)"/>', "filter of rect was left out"),
    "a blur of another picture": ('<filter id="f"><feGaussianBlur in="SourceAlpha" stdDeviation="2"/></filter><rect width="5" height="5" filter="url(#f)"/>', "filter of rect"),
    "a blur that is cut off": ('<filter id="f"><feGaussianBlur stdDeviation="2"/></filter><rect width="5" height="5" filter="url(#f)"/>', "is not cut off"),
    "a blur to one side": ('<filter id="f"><feGaussianBlur stdDeviation="2 0"/></filter><rect width="5" height="5" filter="url(#f)"/>', "filter of rect"),
    "filters in another order": ('<rect width="5" height="5" style="filter: contrast(2) blur(2px)"/>', "filter of rect"),
    "a filter without sense": ('<rect width="5" height="5" style="filter: blur(green) tide"/>', "filter of rect"),
    "a filter": ('<rect width="5" height="5" filter="url(#f)"/>', "filter"),
    "a picture from outside": ('<image href="http://quay.invalid/a.png" width="5" height="5"/><rect width="5" height="5"/>', "image"),
    "use from outside": ('<use href="other.svg#a"/><rect width="5" height="5"/>', "only what is in the file"),
    "no such paint": ('<rect width="5" height="5" fill="url(#nowhere) red"/>', "paint nowhere"),
    "no colour": ('<rect width="5" height="5" fill="seasick"/>', "'seasick'"),
    "points that are no numbers": ('<path d="M0 0LNaN 5"/><rect width="5" height="5"/>', "cannot be read"),
    "itself": ('<g id="a"><use href="#a"/><rect width="5" height="5"/></g>', "uses itself"),
    "too far": ('<rect x="1e30" width="5" height="5"/><rect width="5" height="5"/>', "too far away"),
    "markers": ('<path d="M0 0h9v9" marker-end="url(#m)"/>', "the markers of path"),
    "a mask that goes by boxes": (
        '<mask id="m" maskContentUnits="objectBoundingBox"><rect width="1" height="1" fill="gray"/></mask>'
        '<rect width="9" height="9" mask="url(#m)"/>',
        "goes by the box of what it cuts",
    ),
    "a text that leans": ('<text transform="skewX(9)">Pier</text><rect width="5" height="5"/>', "text was left out: it is stretched"),
    "another font": ('<text font-family="Tide Serif">Pier</text>', "text was set in Hanken Grotesk instead of Tide Serif"),
    "letters along a path": ('<text><textPath href="#p">Pier</textPath></text><rect width="5" height="5"/>', "textPath in a text"),
    "a gradient in text": ('<text fill="url(#g)">Pier</text>', "a gradient in text"),
    "letters by themselves, with commas": ('<text x="1,5,9">Pier</text>', "places of single letters"),
    "a gap in a line": ('<text>Pier<tspan dx="9">9</tspan></text>', "a gap inside a line"),
    "letters that no font has": ('<text font-family="Hanken Grotesk">Pier \u6e2f</text>', "Hanken Grotesk has no \u6e2f"),
    "letters by themselves": ('<text x="1 5 9">Pier</text>', "places of single letters"),
    "slanted letters": ('<text font-style="italic">Pier</text>', "font-style italic of text"),
    "a line below": ('<text style="text-decoration: underline">Pier</text>', "text-decoration underline"),
    "styles in a line": ('<text>Pier <tspan fill="red">9</tspan></text>', "inside a line"),
    "a path without end": (f'<path d="M0 0{"L1 1" * 60_000}"/><rect width="5" height="5"/>', "240004 characters"),
}  # fmt: skip


@pytest.mark.parametrize("case", NAMED.values(), ids=NAMED.keys())
def test_what_cannot_be_taken_is_named(case: tuple[str, str]) -> None:
    taken = take_svg(file(case[0]), "x")
    assert any(case[1] in note for note in taken.notes), taken.notes
    assert len(taken.piece().layers) == 1


BOMB = "<!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaa'>" + "".join(
    f"<!ENTITY {chr(98 + i)} '{f'&{chr(97 + i)};' * 10}'>" for i in range(10)
)
USES = '<g id="u0"/>' + "".join(f'<g id="u{i + 1}">{f"""<use href="#u{i}"/>""" * 10}</g>' for i in range(9))
HOSTILE: dict[str, tuple[bytes, str]] = {
    "nothing": (b"", "not XML"),
    "another file": (b"\x89PNG\r\n\x1a\n", "not XML"),
    "broken encoding": (b'<svg xmlns="http://www.w3.org/2000/svg">\xff\xc3</svg>', "not XML"),
    "an unknown encoding": (b'<?xml version="1.0" encoding="semaphore"?><svg/>', "unknown encoding"),
    "another root": (b"<html/>", "html, not svg"),
    "a file from outside": (
        b'<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>' + file("<text>&x;</text>"),
        "entities",
    ),
    "an entity bomb": (BOMB.encode() + b"]>" + file("<text>&k;</text>"), "entities"),
    "a bomb of uses": (file(f'<defs>{USES}</defs><use href="#u9"/>'), "too often"),
    "five megabytes of path": (file(f'<path d="M0 0{"L1.2 2.5 " * 600_000}"/>'), "characters"),
    "very many shapes": (file('<rect width="1" height="1"/>' * 19_000), "1200 shapes"),
    "very many lines of text": (file("<text>" + '<tspan y="1">a</tspan>' * 15_000 + "</text>"), "1200 shapes"),
    "very deep groups": (file("<g>" * 5000 + "</g>" * 5000), "too deep"),
    "many megabytes": (b" " * 9_000_000, "9.0 MB"),
    "no size": (file('<rect width="5" height="5"/>', 'width="0" height="0"'), "no size"),
    "nothing to be seen": (file("<g/>"), "Nothing in the file"),
}


@pytest.mark.parametrize("case", HOSTILE.values(), ids=HOSTILE.keys())
def test_what_is_refused(case: tuple[bytes, str]) -> None:
    with pytest.raises(IntakeFault, match=case[1]) as caught:
        take_svg(case[0], "x")
    assert caught.value.remedy


def test_a_document_type_that_points_outside_is_not_followed() -> None:
    doctype = b'<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://quay.invalid/svg11.dtd">'
    assert take_svg(doctype + file('<rect width="5" height="5"/>'), "x").piece().layers


def test_style_rules_without_end_are_cut_off_soon() -> None:
    rules = "<style>" + ".a .b{fill:red}" * 20_000 + "</style>"
    taken = take_svg(file(rules + '<g class="a"><rect class="b" width="2" height="2"/></g>' * 50), "x")
    assert "19000 style rules were left out" in taken.notes


def test_the_command_writes_a_piece_and_names_the_rest(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    source, out = tmp_path / "Ferry Deck.svg", tmp_path / "piece.json"
    source.write_bytes(file('<rect width="5" height="5"/><video>Pier</video>'))
    assert cli.main(["intake", str(source), "--out", str(out)]) == 0
    assert capsys.readouterr().err == "keen-ripple: video was left out\n"
    document = json.loads(out.read_text("utf-8"))
    assert (document["id"], document["name"]) == ("ferry-deck", "Ferry Deck")
    assert read_piece(document).layers[0].id == "rectangle"
    source.write_bytes(b"<html/>")
    out.unlink()
    assert cli.main(["intake", str(source), "--out", str(out)]) == 1
    assert "html, not svg" in capsys.readouterr().err and not out.exists()


WRONG = ("NaN", "inf", "1e999", "abc", "-5", "1e30", "5foo", "")
SHAPES = (
    '<rect width="{}" height="5"/>',
    '<circle r="{}"/>',
    '<line x1="{}" x2="3" stroke="red"/>',
    '<polygon points="{},{} 3,3 4,9"/>',
    '<path d="M{} 0L5 5L3 9Z"/>',
    '<rect width="5" height="5" opacity="{}" stroke="red" stroke-width="{}" stroke-dasharray="{} 2"/>',
    '<rect width="5" height="5" transform="rotate({})"/>',
    '<g transform="matrix({} 0 0 1 0 0)"><rect width="5" height="5"/></g>',
    '<linearGradient id="g" x1="{}"><stop offset="0"/><stop offset="{}" stop-opacity="{}"/></linearGradient>'
    '<rect width="5" height="5" fill="url(#g)"/>',
    '<radialGradient id="g" r="{}" gradientTransform="scale({})"><stop/><stop offset="1"/></radialGradient>'
    '<rect width="5" height="5" fill="url(#g)"/>',
    '<svg width="{}" height="5" viewBox="0 0 {} 5"><rect width="5" height="5"/></svg>',
    '<image width="5" height="5" href="data:image/png;base64,{}"/>',
)


@pytest.mark.parametrize("wrong", WRONG)
@pytest.mark.parametrize("shape", SHAPES)
def test_one_wrong_shape_takes_no_other_with_it(shape: str, wrong: str) -> None:
    taken = take_svg(file(shape.replace("{}", wrong) + '<rect id="sound" width="5" height="5"/>'), "x")
    assert "sound" in [layer.id for layer in taken.piece().layers]


ENTITIES = '<!DOCTYPE svg PUBLIC "-//A//B" "svg.dtd" [<!-- names --> <!ENTITY ns "http://www.w3.org/2000/svg"> {}]>'


@pytest.mark.parametrize("encoding", ["utf-8", "utf-16", "iso-8859-1"])
def test_a_file_is_read_as_it_says_it_is_written(encoding: str) -> None:
    text = f'<?xml version="1.0" encoding="{encoding}"?>' + ENTITIES.format("") * (encoding != "utf-16")
    space = "http://www.w3.org/2000/svg" if encoding == "utf-16" else "&ns;"
    text += f'<svg xmlns="{space}" viewBox="0 0 5 5"><rect id="caf\xe9" width="5" height="5"/></svg>'
    assert [layer.name for layer in take_svg(text.encode(encoding), "x").piece().layers] == ["caf\xe9"]


@pytest.mark.parametrize(
    "entity",
    [
        '<!ENTITY x SYSTEM "file:///etc/passwd">',
        '<!ENTITY x "&ns;&ns;">',
        '<!ENTITY x "&#60;g/>">',
        '<!ENTITY % x "y">',
    ],
)
def test_entities_that_could_load_or_grow_are_refused(entity: str) -> None:
    with pytest.raises(IntakeFault, match="entities that are not read"):
        take_svg(f'{ENTITIES.format(entity)}<svg xmlns="&ns;"><rect width="5" height="5"/></svg>'.encode(), "x")


def test_entities_grow_no_larger_than_a_file_may_be() -> None:
    long = f'<!ENTITY x "{"a" * 9000}">'
    with pytest.raises(IntakeFault, match="too large"):
        take_svg(f'{ENTITIES.format(long)}<svg xmlns="&ns;">{"&x;" * 2000}</svg>'.encode(), "x")
