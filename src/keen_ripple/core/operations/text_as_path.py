"""A text turned into the outlines of its letters, in all states: it needs no font any more, and is no text."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.document import Piece, walk, written
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.errors import Fault
from keen_ripple.core.outlines import canonical, parse
from keen_ripple.core.properties import names_of

LETTERS = names_of("text") - names_of("path")
# What the place of letters in their box depends on.
SHAPING = LETTERS | {"width", "height"}

Outline = Callable[[Mapping[str, Any]], str]
"""From all properties of a text to path data, in px of its box."""


def with_text_as_path(piece: Piece, layer_id: str, outline: Outline) -> dict[str, Any]:
    """The document in which the text is a path. Raises Fault where there is no such text, where nothing is seen of it,
    or where options, parameters or undercurrents speak of its letters."""
    text, place = next(((each, at) for each, at in walk(piece.layers) if each.id == layer_id), (None, ""))
    if text is None or text.kind != "text":
        raise Fault(f"There is no text {layer_id!r}.", value=layer_id, remedy="Choose a text.")
    for said in _said_elsewhere(piece, layer_id):
        raise Fault(
            f"{said} of the letters of {text.name}, which it would no longer have.",
            value=layer_id,
            remedy="Take that out first.",
        )
    view = max(text.base["width"], 1.0), max(text.base["height"], 1.0)
    base = _path(outline, text.base, view, text)
    document = written(piece)
    own = _found(document, place)
    path = {name: value for name, value in own.items() if name not in LETTERS}
    own.clear()
    own.update({**path, "kind": "path", "path": base, "view_width": view[0], "view_height": view[1]})
    for state, said in zip(piece.states, document["states"], strict=True):
        if SHAPING & state.of(layer_id).keys():
            there = _path(outline, {**text.base, **state.of(layer_id)}, view, text)
            look = {name: value for name, value in said["changes"][layer_id].items() if name not in LETTERS}
            said["changes"][layer_id] = look if there == base else {**look, "path": there}
    for way in document.get("transitions", ()):
        if "lanes" in way:
            way["lanes"] = [each for each in way["lanes"] if each["layer"] != layer_id or _stays(each)]
    return document


def _stays(lane: Mapping[str, Any]) -> bool:
    return lane.get("property") not in LETTERS


def _path(outline: Outline, look: Mapping[str, Any], view: tuple[float, float], text: LayerBase) -> str:
    """In the px of the view, from where a path is stretched to its width and height."""
    data = outline(look)
    if not data.strip():
        raise Fault(f"There is nothing to be seen of {text.name}.", value=text.id, remedy="Write something first.")
    across, down = (side / max(look[name], 1.0) for side, name in zip(view, ("width", "height"), strict=True))
    pen = SVGPathPen(None, ntos=lambda number: css_number(number, 3))
    parse(data).replay(TransformPen(pen, (across, 0.0, 0.0, down, 0.0, 0.0)))
    return canonical(pen.getCommands())


def _found(document: Any, pointer: str) -> Any:
    for step in pointer.strip("/").split("/"):
        document = document[int(step)] if isinstance(document, list) else document[step]
    return document


def _said_elsewhere(piece: Piece, layer: str) -> Iterator[str]:
    for trait in piece.traits:
        looks = [option.changes[layer] for option in trait.options if layer in option.changes]
        if any(SHAPING & look.model_fields_set for look in looks):
            yield f"Options of {trait.name} speak"
    for own in piece.parameters:
        if any(bind.layer == layer and bind.property in LETTERS for bind in own.bind):
            yield f"The parameter {own.name} speaks"
    for round_ in piece.undercurrents:
        if any(course.layer == layer and course.property in SHAPING for course in round_.courses):
            yield f"{round_.name} goes round in one"
