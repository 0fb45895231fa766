"""Traits: kinds in which a piece comes, beside its states. It shows one option of each; a copy may choose another."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from keen_ripple.core.document.fields import Id, Model, Name
from keen_ripple.core.document.looks import Look
from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import MOST_LAYERS, MOST_OPTIONS


class Option(Model):
    """What differs from the base, by layer, as a state says it; a state has the last word."""

    id: Id
    name: Name
    changes: Annotated[dict[str, Look], Field(max_length=MOST_LAYERS)] = Field(default={})


class Trait(Model):
    """A dimension with options. `shows` is the option that the piece itself shows; the first where none is said."""

    id: Id
    name: Name
    options: Annotated[tuple[Option, ...], Field(min_length=1, max_length=MOST_OPTIONS)]
    shows: Id | None = None

    @model_validator(mode="after")
    def _shows_one_of_its_own(self) -> Trait:
        names = [option.id for option in self.options]
        if len(set(names)) < len(names):
            raise Fault("Two options have the same id.", value=names, remedy="Give each its own.")
        if self.shows is not None and self.shows not in names:
            raise Fault(f"There is no option {self.shows!r}.", value=self.shows, remedy=f"Known: {', '.join(names)}.")
        return self

    def option(self, name: str | None = None) -> Option:
        """The option by that id; where there is none, the one that the piece shows."""
        by_name = {option.id: option for option in self.options}
        return by_name.get(name or "") or by_name.get(self.shows or "") or self.options[0]
