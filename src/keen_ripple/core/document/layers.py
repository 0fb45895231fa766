"""Layers: one model per kind, its fields made from the property table."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property
from typing import TYPE_CHECKING, Annotated, Any, Literal, Self, Union

from pydantic import Field, create_model

from keen_ripple.core.document.fields import Id, MediumLength, MediumText, Model, Name, property_type
from keen_ripple.core.limits import MOST_LAYERS
from keen_ripple.core.properties import KINDS, SHAPES, properties_of

MaskedBy = Literal["alpha", "brightness"]


class LayerBase(Model):
    """What every layer has besides the properties of its kind."""

    id: Id
    name: Name
    locked: bool = False
    # What is under the pointer there is touched instead; and how far beyond its edge it can be touched, px.
    lets_touches_through: bool = False
    # Where the content of the piece scrolls, this stays in its place; only of layers that lie in no group.
    pinned: bool = False
    touch_margin: Annotated[float, Field(ge=0.0, le=200.0)] = 0.0
    # Not painted itself: what stands above it in its group is seen only inside its outline (true, of shapes), or as
    # much as its content is opaque or bright.
    mask: Any = False
    # Filled by the kinds below; declared here so that code can ask any layer.
    kind: Any
    layers: Any = ()
    # Of a path: its outline.
    path: Any = None
    # Of a placement: the id of the piece in it, and whether the states of the piece around lead it, or it lives free.
    piece: Any = None
    life: Any = None
    # Of a medium: how long it plays.
    length_ms: Any = 0

    @property
    def masks_by_content(self) -> bool:
        """Whether it cuts by what it shows and not by its outline."""
        return isinstance(self.mask, str)

    @cached_property
    def base(self) -> Mapping[str, Any]:
        """The base value of each property of this kind."""
        return {row.name: getattr(self, row.name) for row in properties_of(self.kind)}

    def with_values(self, values: Mapping[str, Any]) -> Self:
        """The same layer with other values in its base."""
        copy = self.model_copy(update=dict(values))
        # Worked out of the values that it had.
        copy.__dict__.pop("base", None)
        return copy


def _model_of(kind: str) -> type[LayerBase]:
    fields: dict[str, Any] = {"kind": (Literal[kind], ...)}
    for row in properties_of(kind):
        fields[row.name] = (property_type(row), ... if row.default is None else row.default)
    fields["mask"] = ((bool | MaskedBy) if kind in SHAPES else (Literal[False] | MaskedBy), False)
    if kind == "group":
        fields["layers"] = (Annotated[tuple["Layer", ...], Field(max_length=MOST_LAYERS)], ())
    else:
        fields["layers"] = (tuple[()], Field(default=(), exclude=True))
    if "path" not in fields:
        fields["path"] = (Literal[None], Field(default=None, exclude=True))
    if kind == "placement":
        fields |= {"piece": (Id, ...), "life": (Literal["led", "free"], "led")}
    else:
        fields |= {name: (Literal[None], Field(default=None, exclude=True)) for name in ("piece", "life")}
    if kind == "medium":
        fields |= {"source": (MediumText, ...), "length_ms": (MediumLength, ...)}
    else:
        fields["length_ms"] = (Literal[0], Field(default=0, exclude=True))
    return create_model(kind.title(), __base__=LayerBase, __module__=__name__, **fields)


MODELS = {kind: _model_of(kind) for kind in KINDS}
if TYPE_CHECKING:
    Layer = LayerBase
else:
    Layer = Annotated[Union[tuple(MODELS.values())], Field(discriminator="kind")]  # noqa: UP007
for _model in MODELS.values():
    _model.model_rebuild(_types_namespace={"Layer": Layer})


def walk(layers: Sequence[LayerBase], place: str = "/layers") -> Iterator[tuple[LayerBase, str]]:
    """Every layer in painting order, groups before their content, with its JSON pointer."""
    for index, layer in enumerate(layers):
        here = f"{place}/{index}"
        yield layer, here
        if layer.layers:
            yield from walk(layer.layers, f"{here}/layers")
