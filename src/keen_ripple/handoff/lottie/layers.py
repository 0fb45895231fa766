"""Layers of a piece as those of Lottie: shapes, groups as compositions, and pictures of what no shape shows."""

from __future__ import annotations

import base64
import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from keen_ripple.core.document import Piece
from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.properties import GROUPED
from keen_ripple.handoff.beyond_css import WHOLE
from keen_ripple.handoff.flipbook import Flipbook, flipbook_of, reach_of
from keen_ripple.handoff.frames import on_a_sheet
from keen_ripple.handoff.lottie.beyond import is_seen, why_drawn
from keen_ripple.handoff.lottie.carried import PX, SCALE, STANDS, Place, carried, leans
from keen_ripple.handoff.lottie.looks import Looks, numbers
from keen_ripple.handoff.lottie.shapes import Shapes
from keen_ripple.handoff.progress import along
from keen_ripple.render import png
from keen_ripple.render.draw import Pixels
from keen_ripple.render.layers import fitted, pixels_of

# Players show what is said of the beginning of each frame.
AT_FRAMES = 0.0
SHAPES, COMPOSITION, PICTURE, SOLID = 4, 0, 2, 1
BY_OPACITY, BY_BRIGHTNESS = 1, 3
# Every so many looks tell how far a group reaches.
SELDOM = 8
Json = dict[str, Any]


@dataclass(frozen=True, eq=False)
class Writer:
    """Writes layers, and collects the compositions and pictures that they use."""

    looks: Looks
    frames_per_ms: float
    last: float
    assets: list[Json] = field(default_factory=list)

    @property
    def piece(self) -> Piece:
        return self.looks.timeline.piece

    def layers(self, layers: Sequence[LayerBase], place: Place) -> list[Json]:
        """Of one group, the uppermost first."""
        found: list[Json] = []
        for index, layer in enumerate(along(layers)):
            if layer.mask:
                found += self._cut(layer, layers[index + 1 :], place)
                break
            found += self._layer(layer, place)
        found.reverse()
        return [{**layer, "ind": number} for number, layer in enumerate(found, 1)]

    def whole(self) -> list[Json]:
        """One picture after another of all of it."""
        book = flipbook_of(self.looks.timeline, WHOLE, within=AT_FRAMES)
        return [{**self._pages(book, self.piece.name, _lying(book, Place(0.0, 0.0))), "ind": 1}]

    def _cut(self, mask: LayerBase, above: Sequence[LayerBase], place: Place) -> list[Json]:
        """What stands above a mask, as a composition that is seen through it; what cuts lies over it."""
        content = self._composition(self.layers(above, place), place)
        seen = self.layer_of(f"Under {mask.name}", COMPOSITION, STANDS, **content)
        if mask.mask is True:
            shapes = Shapes(mask.id, mask.kind, self.looks.of(mask.id), self.piece.fonts)
            opaque = {**carried(self.looks, mask, place), "o": {"a": 0, "k": 100}}
            matte = [self.layer_of(mask.name, SHAPES, opaque, shapes=shapes.outline())]
        else:
            matte = self._layer(mask, place)
        if not matte:
            return []
        way = BY_BRIGHTNESS if mask.mask == "brightness" else BY_OPACITY
        return [{**seen, "tt": way}, {**matte[0], "td": 1}]

    def _layer(self, layer: LayerBase, place: Place) -> list[Json]:
        looks = self.looks.of(layer.id)
        if not is_seen(looks):
            return []
        reason = why_drawn(layer, looks, self.piece.fonts)
        if reason:
            return [self._drawn(layer, place)]
        if layer.kind in GROUPED:
            return self._group(layer, place)
        if layer.kind == "picture":
            return self._pictured(layer, place)
        items = Shapes(layer.id, layer.kind, looks, self.piece.fonts).items()
        return [self.layer_of(layer.name, SHAPES, carried(self.looks, layer, place), shapes=items)] if items else []

    def _drawn(self, layer: LayerBase, place: Place) -> Json:
        """As it is upright, and carried; unless nothing carries layers so."""
        upright = not any(look["perspective"] or leans(look) for look in self.looks.of(layer.id))
        book = flipbook_of(self.looks.timeline, layer.id, upright, AT_FRAMES)
        left, top, *_ = book.area
        lying = carried(self.looks, layer, place, -left, -top, book.scale) if upright else _lying(book, place)
        return self._pages(book, layer.name, lying)

    def _pictured(self, layer: LayerBase, place: Place) -> list[Json]:
        """A picture as it is, as large as its layer wants it, seen through the outline of that."""
        looks = self.looks.of(layer.id)
        pixels = pixels_of(looks[0]["source"])
        if pixels is None:
            return []
        height, width = pixels.shape[:2]
        fits = {
            "p": numbers(layer.id, lambda look: fitted(look, width, height)[:2], PX),
            "s": numbers(layer.id, lambda look: [100.0 * by for by in fitted(look, width, height)[2:]], SCALE),
        }
        inside = Place(*(max(look[side] for look in looks) for side in ("width", "height")))
        shown = self.layer_of("Picture", PICTURE, {**STANDS, **fits}, refId=self._picture(pixels), tt=BY_OPACITY)
        shapes = Shapes(layer.id, layer.kind, looks, self.piece.fonts)
        cut = self.layer_of("Box", SHAPES, STANDS, shapes=shapes.outline(), td=1)
        content = self._composition([{**cut, "ind": 1}, {**shown, "ind": 2}], inside)
        return [self.layer_of(layer.name, COMPOSITION, carried(self.looks, layer, place), **content)]

    def _group(self, layer: LayerBase, place: Place) -> list[Json]:
        if not layer.layers:
            return []
        inside = _inner_place(self.looks, layer)
        content = self.layers(layer.layers, inside)
        if not content:
            return []
        lying = carried(self.looks, layer, place, inside.left, inside.top)
        return [self.layer_of(layer.name, COMPOSITION, lying, **self._composition(content, inside))]

    def _composition(self, layers: list[Json], place: Place) -> Json:
        name = f"comp-{len(self.assets) + 1}"
        self.assets.append({"id": name, "layers": layers})
        return {"refId": name, "w": math.ceil(place.width), "h": math.ceil(place.height)}

    def _pages(self, book: Flipbook, name: str, lying: Json) -> Json:
        """Pictures on one sheet, of which a composition as large as one of them shows one at a time."""
        sheet = self._picture(on_a_sheet(book.cells, len(book.cells), book.columns))
        if len(book.cells) == 1:
            return self.layer_of(name, PICTURE, lying, refId=sheet)
        height, width = book.cells[0].shape[:2]
        length, strip = book.loop if book.loop[1] else book.lead_in
        keys = [
            {
                "t": round(at * self.frames_per_ms),
                "s": [-(cell % book.columns) * width, -(cell // book.columns) * height],
                "h": 1,
            }
            for at, cell in strip
            if at <= length
        ]
        stepped = {"a": 1, "k": keys} if len(keys) > 1 else {"a": 0, "k": keys[0]["s"]}
        inside = [{**self.layer_of("Sheet", PICTURE, {**STANDS, "p": stepped}, refId=sheet), "ind": 1}]
        return self.layer_of(name, COMPOSITION, lying, **self._composition(inside, Place(width, height)))

    def _picture(self, pixels: Pixels) -> str:
        name, (height, width) = f"picture-{len(self.assets) + 1}", pixels.shape[:2]
        data = f"data:image/png;base64,{base64.b64encode(png(pixels)).decode()}"
        self.assets.append({"id": name, "w": width, "h": height, "u": "", "p": data, "e": 1})
        return name

    def layer_of(self, name: str, kind: int, lying: Json, **own: Any) -> Json:
        times = {"ip": 0, "op": self.last, "st": 0}
        return {"ddd": 0, "ty": kind, "nm": name, "sr": 1, "ks": lying, "ao": 0, "bm": 0, **times, **own}


def _inner_place(looks: Looks, group: LayerBase) -> Place:
    """As large as anything in the group is ever seen."""
    left, top, width, height = reach_of(looks.timeline.piece, group.layers, looks.looks[::SELDOM])
    return Place(width, height, -left, -top)


def _lying(book: Flipbook, place: Place) -> Json:
    """Pictures of what is drawn as it lies."""
    left, top, *_ = book.area
    smaller = 100.0 / book.scale
    at = {"a": 0, "k": [left + place.left, top + place.top]}
    return {**STANDS, "p": at, "s": {"a": 0, "k": [smaller, smaller]}}
