"""SVG as layers: shapes, groups, gradients, strokes, transforms and clips; what cannot be taken is named."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any
from xml.etree.ElementTree import Element

from svgelements import Matrix, Path

from keen_ripple.core.document import Piece, read_piece
from keen_ripple.core.limits import MOST_LAYERS
from keen_ripple.intake.areas import Area, Pen
from keen_ripple.intake.cuts import SHAPES, Cuts
from keen_ripple.intake.filters import cuts_off, effects_of
from keen_ripple.intake.layers import Names, check_layer, group_of, is_upright, layer_of_box, layer_of_path, mask_of
from keen_ripple.intake.moment import MOTION, is_seen, stand_at_first
from keen_ripple.intake.opened import IntakeFault, called, href_of, is_foreign, kind_of, opened
from keen_ripple.intake.outlines import (
    Outline,
    ShapeFault,
    box_of,
    dash_of,
    diagonal,
    is_even,
    length,
    line_of,
    matrix_of,
    offset_of,
    path_of,
    placed,
)
from keen_ripple.intake.paints import Gradients, at_least, colour, share
from keen_ripple.intake.pictures import layer_of_image
from keen_ripple.intake.stage import sized, stage, view_of
from keen_ripple.intake.styles import Sheet, Style
from keen_ripple.intake.texts import layers_of_text

__all__ = ["IntakeFault", "Taken", "take_svg"]

GROUPS = ("g", "a", "svg", "switch", "symbol")
BOXES = ("rect", "circle", "ellipse")
# Read where something refers to them, or of no look at all.
SILENT = (
    *("defs", "style", "title", "desc", "metadata", "linearGradient", "radialGradient", "clipPath", "marker"),
    *("mask", "filter", "pattern"),
)
MOST_VISITED, LONGEST_IN_ALL, DEEPEST_USE = 8000, 300_000, 12
Layers = list[dict[str, Any]]
URL = re.compile(r"""url\(\s*['"]?#([^'")]+)['"]?\s*\)\s*(.*)""")


@dataclass(frozen=True)
class Taken:
    """A piece of one state, and a line for each thing that could not be taken as it was."""

    document: dict[str, Any]
    notes: tuple[str, ...]

    def piece(self) -> Piece:
        return read_piece(self.document)


def take_svg(data: bytes, name: str) -> Taken:
    """A piece from the bytes of an SVG file, at its first moment. Raises IntakeFault for what is refused whole."""
    intake, layers = _read(data, at_first=True)
    if intake.moves and not any(map(is_seen, layers)):
        # What draws itself begins with nothing.
        intake, layers = _read(data, at_first=False)
    width, height, _ = stage(intake.root)
    if intake.sheet.left_out:
        intake.note(f"{intake.sheet.left_out} style rules were left out")
    if not layers:
        raise IntakeFault(
            "; ".join(["Nothing in the file can be shown", *list(intake.notes)[:3]]) + ".",
            remedy="Choose another file.",
        )
    document = {
        "format": 1,
        "id": Names().of(name, "piece"),
        "name": name[:120] or "Artwork",
        "width": width,
        "height": height,
        "layers": layers,
        "states": [{"id": "first", "name": "First"}],
        "start": "first",
    }
    return Taken(document, tuple(intake.notes))


def _read(data: bytes, at_first: bool) -> tuple[_Intake, list[dict[str, Any]]]:
    """The layers of a file, at its first moment or as if nothing in it moved."""
    root = opened(data)
    moves = stand_at_first(root) if at_first else any(kind_of(element) in MOTION for element in root.iter())
    intake = _Intake(root, at_first, moves)
    _, _, matrix = stage(root)
    layers = intake.inside(root, intake.sheet.of(root, {}), matrix)
    if intake.moves:
        shown = "it shows its first moment" if at_first else "nothing is seen at its first moment, so it shows all"
        intake.note(f"motion inside the file was left out; {shown}")
    return intake, layers


class _Intake:
    def __init__(self, root: Element, at_first: bool, moves: bool) -> None:
        self.root = root
        self.notes: dict[str, None] = {}
        self.sheet = Sheet(root, at_first)
        self.moves = moves or self.sheet.moves
        self._by_id = {element.get("id", ""): element for element in root.iter() if element.get("id")}
        self._gradients = Gradients(self._by_id, self.sheet, self.note)
        self._view = view_of(root)
        self._cuts = Cuts(self._by_id, self.sheet, self._view)
        self._names = Names()
        self._count = self._visited = self._characters = 0
        self._using: list[Element] = []

    def note(self, text: str) -> None:
        self.notes[text] = None

    def inside(self, element: Element, style: Style, matrix: Matrix) -> Layers:
        """The layers of everything inside an element."""
        return [layer for child in element for layer in self._layers(child, style, matrix)]

    def _layers(self, element: Element, outer: Style, matrix: Matrix) -> Layers:
        kind = kind_of(element)
        if not isinstance(element.tag, str) or kind in (*SILENT, *MOTION) or is_foreign(element.tag):
            return []
        if kind == "symbol" and not self._using:
            return []
        if kind not in (*GROUPS, *SHAPES, "use", "image", "text"):
            self.note(f"{kind} was left out")
            return []
        self._visited += 1
        if self._visited > MOST_VISITED:
            raise IntakeFault(
                "The file uses its parts too often.", remedy="Save it without references, or simplify it."
            )
        style = self.sheet.of(element, outer)
        if style["display"] == "none":
            return []
        try:
            own = matrix_of(style["transform"]) * matrix
            read = self._filtered(called(element), style, own, self._read(element, kind, style, own))
            return self._cut(element, style, own, read)
        except IntakeFault:
            raise
        except ShapeFault as fault:
            why = str(fault)
        except (ValueError, ArithmeticError, LookupError, TypeError):
            # Whatever the libraries stumble over: one shape that is wrong takes no other with it.
            why = "it has numbers that cannot be read"
        self.note(f"{kind} {element.get('id', '')[:60]}".strip() + f" was left out: {why}")
        return []

    def _read(self, element: Element, kind: str, style: Style, matrix: Matrix) -> Layers:
        if kind in GROUPS:
            return self._group(element, style, self._nested(element, kind, matrix))
        if kind == "use":
            return self._used(element, style, matrix)
        if style["visibility"] != "visible":
            return []
        self._counted(1)
        read = {"image": self._image, "text": self._text}.get(kind)
        found = read(element, style, matrix) if read else self._shape(element, kind, style, matrix)
        # A text has a layer for each of its lines.
        self._counted(max(len(found) - 1, 0))
        for layer in found:
            check_layer(layer)
        return found

    def _filtered(self, name: str, style: Style, matrix: Matrix, layers: Layers) -> Layers:
        """The layers under the filter of their element, as one."""
        if style["filter"] == "none" or not layers:
            return layers
        values = effects_of(style["filter"], self._by_id, self.sheet, matrix, layers)
        if values is None:
            self.note(f"the filter of {name} was left out")
            return layers
        if cuts_off(style["filter"], self._by_id):
            self.note(f"the blur of {name} is not cut off where its filter ends")
        alone = len(layers) == 1 and not values.keys() & layers[0].keys()
        [layer] = layers if alone else [group_of(layers, self._names, name, 1.0)]
        return [{**layer, **values}]

    def _counted(self, more: int) -> None:
        self._count += more
        if self._count > MOST_LAYERS:
            raise IntakeFault(f"The file has more than {MOST_LAYERS} shapes.", remedy="Simplify it, or split it.")

    def _nested(self, element: Element, kind: str, matrix: Matrix) -> Matrix:
        """Of an svg inside of another: its place and its own units."""
        if kind != "svg" and not (kind == "symbol" and element.get("viewBox")):
            return matrix
        host = self._using[-1] if self._using else element
        try:
            _, _, inner = stage(sized(element, host, self._view))
        except IntakeFault as fault:
            raise ShapeFault(fault.message.removesuffix(".").lower()) from None
        return inner * offset_of(element, self._view) * matrix

    def _group(self, element: Element, style: Style, matrix: Matrix) -> Layers:
        layers = self.inside(element, style, matrix)
        opacity = share(style["opacity"], 1.0)
        named = element.get("id")
        if not layers or (opacity == 1.0 and not named):
            return layers
        if len(layers) == 1 and opacity == 1.0:
            return layers
        return [group_of(layers, self._names, named or "group", opacity)]

    def _used(self, element: Element, style: Style, matrix: Matrix) -> Layers:
        name = href_of(element)
        target = self._by_id.get(name.removeprefix("#")) if name.startswith("#") else None
        if target is None:
            self.note(f"use of {name[:60] or 'nothing'} was left out: only what is in the file is read")
            return []
        if target in self._using or element in self._using or len(self._using) >= DEEPEST_USE:
            raise ShapeFault("it uses itself")
        own = offset_of(element, self._view) * matrix
        self._using.append(element)
        try:
            layers = self._layers(target, style, own)
        finally:
            self._using.pop()
        opacity = share(style["opacity"], 1.0)
        # What is used is one thing, and moves as one.
        apart = len(layers) < 2 and opacity == 1.0
        return layers if apart or not layers else [group_of(layers, self._names, name[1:], opacity)]

    def _shape(self, element: Element, kind: str, style: Style, matrix: Matrix) -> Layers:
        self._characters += len(element.get("d", "")) + len(element.get("points", ""))
        if self._characters > LONGEST_IN_ALL:
            raise IntakeFault(
                f"The paths of the file have more than {LONGEST_IN_ALL} characters.",
                remedy="Simplify them, or split it.",
            )
        path = path_of(element, kind, self._view)
        outline = placed(path, matrix) if path is not None else None
        if path is None or outline is None:
            return []
        if {style["marker-start"], style["marker-mid"], style["marker-end"]} != {"none"}:
            self.note(f"the markers of {kind} were left out")
        if style["stroke"] != "none" and not is_even(matrix):
            return self._apart(element, kind, style, path, matrix)
        look = line_of(style, matrix, self._view)
        name = self._names.of(element.get("id", ""), "rectangle" if kind == "rect" else kind)
        fill = self._paint("fill", style, path, matrix, outline) if kind != "line" else "none"
        if look["stroke"] != "none":
            look["stroke"] = self._paint("stroke", style, path, matrix, outline)
        if fill == "none" and look["stroke"] == "none":
            return []
        # Those without a name are counted.
        title = element.get("id", "")[:120] or name.replace("-", " ").capitalize()
        look |= {"id": name, "name": title, "fill": fill}
        if share(style["opacity"], 1.0) < 1.0:
            look["opacity"] = share(style["opacity"], 1.0)
        # Dashes of a circle begin at its right, those of an ellipse of ours at its top.
        begins = kind == "rect" or "stroke_dash" not in look
        own = box_of(element, kind, self._view) if kind in BOXES and begins else None
        # A gradient would turn with its box.
        stands = is_upright(matrix) or (isinstance(fill, str) and isinstance(look["stroke"], str))
        plain = layer_of_box(kind, own, matrix) if own and stands else None
        if plain is not None:
            return [{**plain, **look, **({"stroke_align": "centre"} if look["stroke"] != "none" else {})}]
        if style["fill-rule"] == "evenodd":
            look["fill_rule"] = "evenodd"
        return [layer_of_path(outline, look)]

    def _apart(self, element: Element, kind: str, style: Style, path: Path, matrix: Matrix) -> Layers:
        """A shape whose stroke is stretched more in one direction: its fill, and its stroke as a filled outline."""
        layers = self._shape(element, kind, {**style, "stroke": "none", "opacity": "1"}, matrix)
        width = length(style["stroke-width"], diagonal(self._view))
        pen = Pen(width, style["stroke-linecap"], style["stroke-linejoin"], *dash_of(style, self._view))
        outline, rule = Area.along(path, pen, matrix).outline() if width > 0.0 else (None, "nonzero")
        if outline is not None:
            look = {"id": self._names.of("", "stroke"), "name": f"Stroke of {element.get('id') or kind}"[:120]}
            fill = self._paint("stroke", style, path, matrix, outline)
            layers = [*layers, layer_of_path(outline, {**look, "fill": fill, "fill_rule": rule})]
        opacity = share(style["opacity"], 1.0)
        alone = opacity == 1.0 or not layers
        return layers if alone else [group_of(layers, self._names, element.get("id") or kind, opacity)]

    def _paint(self, name: str, style: Style, path: Path, matrix: Matrix, outline: Outline) -> Any:
        """The fill or the stroke, a gradient laid over the box of the outline."""
        opacity = share(style[f"{name}-opacity"], 1.0)
        found = URL.match(style[name])
        if not found:
            return colour(style[name], style["color"], opacity, self.note)
        left, top, right, bottom = outline.bounds
        local = placed(path, Matrix())
        if local is None:
            return "none"
        x1, y1, x2, y2 = local.bounds
        paint = self._gradients.paint(found[1], (x1, y1, x2 - x1, y2 - y1), matrix, opacity, self._view)
        if paint is None:
            self.note(f"the paint {found[1]} was left out")
            return colour(found[2] or "none", style["color"], opacity, self.note)
        return paint if isinstance(paint, str) else paint.laid_over(at_least((left, top, right - left, bottom - top)))

    def _text(self, element: Element, style: Style, matrix: Matrix) -> Layers:
        return list(layers_of_text(element, style, self.sheet, matrix, self._names, self._view, self.note))

    def _image(self, element: Element, style: Style, matrix: Matrix) -> Layers:
        return [layer_of_image(element, style, matrix, self._names, self._view)]

    def _cut(self, element: Element, style: Style, matrix: Matrix, layers: Layers) -> Layers:
        """Inside of a group with the clip as its mask, and of another with the mask."""
        for how, read in (("clip-path", self._cuts.clip), ("mask", self._cuts.mask)):
            if style[how] == "none" or not layers:
                continue
            found = URL.match(style[how])
            cut = read(found[1], matrix) if found else None
            if cut is None and found and how == "mask":
                layers = self._masked(element, found[1], matrix, layers)
                continue
            if cut is None:
                self.note(f"the clip of {called(element)} was left out")
                continue
            outline, rule = cut
            if outline is None:
                return []
            mask = mask_of(outline, self._names, rule)
            layers = [group_of([mask, *layers], self._names, element.get("id") or "clipped", 1.0)]
        return layers

    def _masked(self, element: Element, name: str, matrix: Matrix, layers: Layers) -> Layers:
        """Under a mask that no outline can say: by how bright or opaque its content is."""
        mask = self._by_id.get(name)
        if mask is None or kind_of(mask) != "mask" or mask.get("maskContentUnits") == "objectBoundingBox":
            self.note(f"the mask of {called(element)} was left out: it is none, or goes by the box of what it cuts")
            return layers
        if mask in self._using:
            raise ShapeFault("its mask is masked by itself")
        self._using.append(mask)
        style = self.sheet.of(mask, {})
        try:
            content = self._cut(mask, style, matrix, self.inside(mask, style, matrix))
        finally:
            self._using.pop()
        region = self._cuts.region(mask, matrix)
        if region is not None:
            content = [mask_of(region[0], self._names, region[1]), *content] if content and region[0] else []
        if not content:
            return []
        by = "alpha" if style["mask-type"] == "alpha" else "brightness"
        group = {**group_of(content, self._names, name, 1.0), "mask": by}
        return [group_of([group, *layers], self._names, element.get("id") or "masked", 1.0)]
