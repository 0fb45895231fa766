"""Pieces of every kind, for laws."""

from __future__ import annotations

from typing import Any

from hypothesis import strategies as st

from support import piece

EASINGS = ("linear", "ease", "cubic-bezier(0.6, -0.5, 0.4, 1.5)", "steps(3, jump-both)", "linear(0, 0.7 30% 40%, 1)")
whole_ms = st.integers(0, 900)
timings = st.one_of(
    st.fixed_dictionaries({"kind": st.just("curve"), "duration_ms": whole_ms, "easing": st.sampled_from(EASINGS)}),
    st.fixed_dictionaries(
        {"kind": st.just("spring"), "stiffness": st.floats(40, 700), "damping": st.floats(6, 60)}
        | {"velocity": st.floats(-10, 10)}
    ),
)
colours = st.sampled_from(("none", "#1f7a70", "#ffffff", "rgb(217 80 58 / 0.4)", "black"))
stops = st.lists(st.tuples(st.floats(0, 1), colours), min_size=2, max_size=4).map(
    lambda pairs: [{"at": at, "colour": colour} for at, colour in sorted(pairs)]
)
gradients = st.one_of(
    st.fixed_dictionaries({"kind": st.just("linear"), "angle": st.floats(-360, 360), "stops": stops}),
    st.fixed_dictionaries(
        {"kind": st.just("radial"), "radius": st.floats(0, 2), "stops": stops},
        optional={"stretch": st.floats(0, 3), "angle": st.floats(-90, 90), "focus_x": st.floats(-1, 1)},
    ),
    st.fixed_dictionaries({"kind": st.just("conic"), "centre_x": st.floats(0, 1), "stops": stops}),
)
shadows = st.lists(
    st.fixed_dictionaries(
        {"x": st.floats(-20, 20), "blur": st.floats(0, 30), "colour": colours, "inset": st.booleans()}
    ),
    max_size=3,
)
OUTLINES = (
    "M10 10H90V90H10Z",
    "M15 55L40 80L85 25",
    "M20 10L90 50L20 90Z",
    "M20 10H42V90H20Z M58 10H80V90H58Z",
    "M10 50C30 10 40 10 50 50S70 90 90 50",
)
looks = st.fixed_dictionaries(
    {},
    optional={
        "x": st.floats(-500, 500),
        "width": st.floats(0, 300),
        "rotation": st.floats(-720, 720),
        "opacity": st.floats(0, 1),
        "scale_x": st.floats(-3, 3),
        "visible": st.booleans(),
        "saturation": st.floats(0, 2),
        "hue": st.floats(-360, 360),
        "fill": st.one_of(colours, gradients),
        "shadows": shadows,
        "stroke": st.one_of(colours, gradients),
        "stroke_cap": st.sampled_from(("butt", "round")),
        "stroke_dash": st.lists(st.integers(0, 40).map(lambda n: n / 2), max_size=3),
        "trim_end": st.floats(0, 1),
        "path": st.sampled_from(OUTLINES),
    },
)
words = st.fixed_dictionaries(
    {},
    optional={
        "font_axes": st.tuples(st.floats(60, 140), st.floats(0, 1)).map(
            lambda at: [{"axis": "wdth", "value": at[0]}, {"axis": "CASL", "value": at[1]}]
        ),
        "font_weight": st.floats(100, 900),
        "font_family": st.sampled_from(("Hanken Grotesk", "JetBrains Mono")),
        "letter_spacing": st.floats(-2, 5),
    },
)
anchors = st.sampled_from(
    [{"edge": edge, **of} for edge in ("with", "after", "before-end") for of in ({}, {"layer": "mark"})]
)
lanes = st.lists(
    st.fixed_dictionaries(
        {"layer": st.just("box"), "property": st.sampled_from((None, "x", "fill")), "delay_ms": whole_ms},
        optional={"timing": timings, "anchor": anchors, "style": st.sampled_from(("tween", "cut"))},
    ),
    max_size=2,
    unique_by=lambda lane: lane["property"],
)
staggers = st.lists(
    st.fixed_dictionaries(
        {"layers": st.permutations(("box", "mark", "lamp")), "origin": st.sampled_from(("first", "last", "centre"))}
        | {"easing": st.sampled_from(("linear", "ease-in"))},
    ).flatmap(lambda stagger: st.sampled_from(("each_ms", "total_ms")).map(lambda name: {**stagger, name: 37})),
    max_size=1,
)
undercurrents = st.lists(
    st.integers(2, 60).map(
        lambda tens: (
            {"id": f"u{tens}", "name": "Round", "period_ms": tens * 10, "phase_ms": tens * 7}
            | {
                "courses": [
                    {
                        "layer": "lamp",
                        "property": "rotation",
                        "offset_ms": tens * 16,
                        "keys": [{"at_ms": 0, "value": 0}, {"at_ms": tens * 10, "value": 360}],
                    }
                ]
            }
        )
    ),
    max_size=2,
    unique_by=lambda undercurrent: undercurrent["id"],
)

styles = st.sampled_from(("tween", "tween", "tween", "cut", "cross-fade"))


@st.composite
def pieces(draw: st.DrawFn) -> dict[str, Any]:
    count = draw(st.integers(1, 4))
    names = [f"s{index}" for index in range(count)]
    transitions = [
        {"id": f"t{index}", "from": name, "to": names[(index + 1) % count]}
        | {
            "style": draw(st.sampled_from(("tween", "tween", "tween", "cut", "cross-fade"))),
            "hold_ms": draw(st.integers(0, 300)),
        }
        | {"timing": draw(timings), "lanes": draw(lanes), "staggers": draw(staggers)}
        for index, name in enumerate(names)
    ]
    transitions[-1]["hold_ms"] += 1
    states = [
        {"id": name, "name": name}
        | {"changes": {"box": draw(looks), "mark": {"x": 10 * at}, "lamp": {"y": 5 * at}, "word": draw(words)}}
        for at, name in enumerate(names)
    ]
    blend = draw(st.sampled_from(("oklab", "srgb")))
    outline = {"kind": "path", "id": "box", "name": "Box", "x": 10, "y": 20, "width": 40, "height": 30}
    small = {"kind": "ellipse", "x": 0, "y": 0, "width": 8, "height": 8}
    layers = [
        {**outline, "path": OUTLINES[0], "view_width": 100, "view_height": 100},
        {**small, "id": "mark", "name": "Mark"},
        {**small, "id": "lamp", "name": "Lamp"},
        {"kind": "text", "id": "word", "name": "Word", "text": "Quay", "x": 90, "y": 90, "width": 20, "height": 9}
        | {"font_axes": [{"axis": "wdth", "value": 100}, {"axis": "CASL", "value": 0}]},
    ]
    rounds = draw(undercurrents)
    return piece(layers, states=states, transitions=transitions, start="s0", blend=blend, undercurrents=rounds)
