"""SVG as layers: shapes, groups, gradients, strokes, transforms and clips; what cannot be taken is named."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any
from xml.etree.ElementTree import Element

from svgelements import Matrix, Path

from keen_ripple.core.document import Piece, read_piece
from keen_ripple.core.document.fields import PICTURE
from keen_ripple.core.limits import MOST_LAYERS
from keen_ripple.intake.filters import cuts_off, effects_of
from keen_ripple.intake.layers import Names, check_layer, group_of, is_upright, layer_of_box, layer_of_path, mask_of
from keen_ripple.intake.opened import IntakeFault, href_of, is_foreign, kind_of, opened
from keen_ripple.intake.outlines import (
    Outline,
    ShapeFault,
    box_of,
    diagonal,
    length,
    matrix_of,
    numbers_of,
    offset_of,
    path_of,
    placed,
    scale_of,
)
from keen_ripple.intake.paints import Box, Gradients, at_least, colour, middle_of, share
from keen_ripple.intake.stage import sized, stage, view_of
from keen_ripple.intake.styles import Sheet, Style
from keen_ripple.intake.texts import layers_of_text

__all__ = ["IntakeFault", "Taken", "take_svg"]

GROUPS = ("g", "a", "svg", "switch", "symbol")
SHAPES = ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon")
BOXES = ("rect", "circle", "ellipse")
MOTION = ("animate", "animateTransform", "animateMotion", "set", "animateColor")
# Read where something refers to them, or of no look at all.
SILENT = ("defs", "style", "title", "desc", "metadata", "linearGradient", "radialGradient", "clipPath", "marker")
MOST_VISITED = 8000
LONGEST_IN_ALL = 300_000
DEEPEST_USE = 12
URL = re.compile(r"""url\(\s*['"]?#([^'")]+)['"]?\s*\)\s*(.*)""")


@dataclass(frozen=True)
class Taken:
    """A piece of one state, and a line for each thing that could not be taken as it was."""

    document: dict[str, Any]
    notes: tuple[str, ...]

    def piece(self) -> Piece:
        return read_piece(self.document)


def take_svg(data: bytes, name: str) -> Taken:
    """A piece from the bytes of an SVG file. Raises IntakeFault for what is refused whole."""
    root = opened(data)
    intake = _Intake(root)
    width, height, matrix = stage(root)
    layers = intake.inside(root, intake.sheet.of(root, {}), matrix)
    if any(kind_of(element) in MOTION for element in root.iter()):
        intake.note("motion inside the file was left out; it shows its first look")
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


class _Intake:
    def __init__(self, root: Element) -> None:
        self.notes: dict[str, None] = {}
        self.sheet = Sheet(root)
        self._by_id = {element.get("id", ""): element for element in root.iter() if element.get("id")}
        self._gradients = Gradients(self._by_id, self.sheet, self.note)
        self._names = Names()
        self._count = self._visited = self._characters = 0
        self._view = view_of(root)
        self._using: list[Element] = []

    def note(self, text: str) -> None:
        self.notes[text] = None

    def inside(self, element: Element, style: Style, matrix: Matrix) -> list[dict[str, Any]]:
        """The layers of everything inside an element."""
        return [layer for child in element for layer in self._layers(child, style, matrix)]

    def _layers(self, element: Element, outer: Style, matrix: Matrix) -> list[dict[str, Any]]:
        kind = kind_of(element)
        if not isinstance(element.tag, str) or kind in (*SILENT, *MOTION) or is_foreign(element.tag):
            return []
        if kind not in (*GROUPS, *SHAPES, "use", "image", "text") or (kind == "symbol" and not self._using):
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
            read = self._filtered(kind, style, own, self._read(element, kind, style, own))
            return self._clipped(element, style, own, read)
        except IntakeFault:
            raise
        except ShapeFault as fault:
            why = str(fault)
        except (ValueError, ArithmeticError, LookupError, TypeError):
            # Whatever the libraries stumble over: one shape that is wrong takes no other with it.
            why = "it has numbers that cannot be read"
        self.note(f"{kind} {element.get('id', '')[:60]}".strip() + f" was left out: {why}")
        return []

    def _read(self, element: Element, kind: str, style: Style, matrix: Matrix) -> list[dict[str, Any]]:
        if style["mask"] != "none":
            self.note(f"the mask of {kind} was left out")
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

    def _filtered(self, kind: str, style: Style, matrix: Matrix, layers: list[dict[str, Any]]) -> list[dict[str, Any]]:
        """The layers under the filter of their element, as one."""
        if style["filter"] == "none" or not layers:
            return layers
        values = effects_of(style["filter"], self._by_id, matrix)
        if values is None:
            self.note(f"the filter of {kind} was left out")
            return layers
        if cuts_off(style["filter"], self._by_id):
            self.note(f"the blur of {kind} is not cut off where its filter ends")
        alone = len(layers) == 1 and not values.keys() & layers[0].keys()
        [layer] = layers if alone else [group_of(layers, self._names, kind, 1.0)]
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

    def _group(self, element: Element, style: Style, matrix: Matrix) -> list[dict[str, Any]]:
        layers = self.inside(element, style, matrix)
        opacity = share(style["opacity"], 1.0)
        named = element.get("id")
        if not layers or (opacity == 1.0 and not named):
            return layers
        if len(layers) == 1 and opacity == 1.0:
            return layers
        return [group_of(layers, self._names, named or "group", opacity)]

    def _used(self, element: Element, style: Style, matrix: Matrix) -> list[dict[str, Any]]:
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
        return [group_of(layers, self._names, "use", opacity)] if layers and opacity < 1.0 else layers

    def _shape(self, element: Element, kind: str, style: Style, matrix: Matrix) -> list[dict[str, Any]]:
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
        look = self._line(style, matrix, kind)
        name = self._names.of(element.get("id", ""), kind)
        fill, box = self._fill(style, path, matrix, outline) if kind != "line" else ("none", None)
        if fill == "none" and look["stroke"] == "none":
            return []
        look |= {"id": name, "name": (element.get("id") or kind.title())[:120], "fill": fill}
        if share(style["opacity"], 1.0) < 1.0:
            look["opacity"] = share(style["opacity"], 1.0)
        own = box_of(element, kind, self._view) if kind in BOXES and box is None else None
        plain = layer_of_box(kind, own, matrix) if own and (is_upright(matrix) or isinstance(fill, str)) else None
        if plain is not None:
            return [{**plain, **look, **({"stroke_align": "centre"} if look["stroke"] != "none" else {})}]
        if style["fill-rule"] == "evenodd":
            look["fill_rule"] = "evenodd"
        return [layer_of_path(outline, look, box)]

    def _fill(self, style: Style, path: Path, matrix: Matrix, outline: Outline) -> tuple[Any, Box | None]:
        """The paint, and the box that it has to be laid over if that is not the outline's own."""
        opacity = share(style["fill-opacity"], 1.0)
        found = URL.match(style["fill"])
        if not found:
            return colour(style["fill"], style["color"], opacity, self.note), None
        left, top, right, bottom = outline.bounds
        bounds = (left, top, right - left, bottom - top)
        local = placed(path, Matrix())
        if local is None:
            return "none", None
        x1, y1, x2, y2 = local.bounds
        paint = self._gradients.paint(found[1], (x1, y1, x2 - x1, y2 - y1), matrix, opacity, self._view)
        if paint is None:
            self.note(f"the paint {found[1]} was left out")
            return colour(found[2] or "none", style["color"], opacity, self.note), None
        if isinstance(paint, str):
            return paint, None
        box = paint.box_for(bounds) if hasattr(paint, "box_for") else at_least(bounds)
        return paint.laid_over(box), box if box != bounds else None

    def _line(self, style: Style, matrix: Matrix, kind: str) -> dict[str, Any]:
        text = style["stroke"]
        if text == "none":
            return {"stroke": "none"}
        a, b, c, d, _, _ = numbers_of(matrix)
        scale = scale_of(matrix)
        if abs(math.hypot(a, b) - math.hypot(c, d)) > 1e-3 * scale:
            self.note(f"the stroke of {kind} is drawn as wide everywhere, though it was stretched unevenly")
        width = length(style["stroke-width"], diagonal(self._view)) * scale
        if width <= 0.0:
            return {"stroke": "none"}
        found = URL.match(text)
        if found:
            paint = self._gradients.paint(found[1], (0.0, 0.0, 1.0, 1.0), matrix, 1.0, self._view)
            self.note("the gradient of a stroke became one colour")
            text = middle_of(paint.laid_over((0.0, 0.0, 1.0, 1.0)) if hasattr(paint, "laid_over") else paint)
        dash = [] if style["stroke-dasharray"] == "none" else re.split(r"[\s,]+", style["stroke-dasharray"].strip())
        joins = {"round": "round", "bevel": "bevel"}
        look = {
            "stroke": colour(text, style["color"], share(style["stroke-opacity"], 1.0), self.note),
            "stroke_width": round(width, 4),
            "stroke_cap": style["stroke-linecap"] if style["stroke-linecap"] in ("round", "square") else "butt",
            "stroke_join": joins.get(style["stroke-linejoin"], "miter"),
        }
        lengths = [length(part, 100.0) * scale for part in dash if part][:16]
        if sum(lengths) > 0.0 and min(lengths) >= 0.0:
            look |= {"stroke_dash": lengths, "stroke_dash_offset": length(style["stroke-dashoffset"], 100.0) * scale}
        return look

    def _text(self, element: Element, style: Style, matrix: Matrix) -> list[dict[str, Any]]:
        return list(layers_of_text(element, style, self.sheet, matrix, self._names, self._view, self.note))

    def _image(self, element: Element, style: Style, matrix: Matrix) -> list[dict[str, Any]]:
        source = re.sub(r"\s+", "", href_of(element)).replace("image/jpg", "image/jpeg")
        if not re.match(PICTURE, source) or len(source) > 4_000_000:
            self.note("image was left out: only PNG, JPEG and WebP inside the file are read, up to 3 MB")
            return []
        box = box_of(element, "rect", self._view)
        frame = layer_of_box("rect", box, matrix) if box else None
        if frame is None:
            self.note("image was left out: it has no size, or is stretched while it is turned")
            return []
        name = self._names.of(element.get("id", ""), "picture")
        fit = "fill" if element.get("preserveAspectRatio", "") == "none" else "contain"
        look = {
            "kind": "picture",
            "id": name,
            "name": name,
            "source": source,
            "fit": fit,
            "opacity": share(style["opacity"], 1.0),
        }
        return [{**frame, **look}]

    def _clipped(
        self, element: Element, style: Style, matrix: Matrix, layers: list[dict[str, Any]]
    ) -> list[dict[str, Any]]:
        """Inside of a group with the clip as its mask."""
        if style["clip-path"] == "none" or not layers:
            return layers
        found = URL.match(style["clip-path"])
        clip = self._by_id.get(found[1]) if found else None
        if clip is None or clip.get("clipPathUnits") == "objectBoundingBox":
            self.note(f"the clip {style['clip-path'][:60]} was left out")
            return layers
        outlines = list(self._clip_outlines(clip, matrix))
        if not outlines:
            return []
        rule = "evenodd" if any(rule == "evenodd" for _, rule in outlines) else "nonzero"
        mask = mask_of([outline for outline, _ in outlines], self._names, rule)
        return [group_of([mask, *layers], self._names, element.get("id") or "clipped", 1.0)]

    def _clip_outlines(self, clip: Element, matrix: Matrix) -> Iterable[tuple[Outline, str]]:
        own = matrix_of(clip.get("transform", "")) * matrix
        for child in clip:
            kind, placing = kind_of(child), own
            if kind == "use":
                name = href_of(child).removeprefix("#")
                placing = offset_of(child, self._view) * matrix_of(child.get("transform", "")) * own
                child = self._by_id.get(name, child)
                kind = kind_of(child)
            if kind not in SHAPES:
                continue
            path = path_of(child, kind, self._view)
            outline = placed(path, matrix_of(child.get("transform", "")) * placing) if path is not None else None
            if outline is not None:
                yield outline, self.sheet.of(child, {})["clip-rule"]
