"""How a job stands."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field
from typing import Any, Literal

from keen_ripple.core.errors import Fault

State = Literal["waiting", "running", "done", "stopped", "failed"]


@dataclass(frozen=True)
class Job:
    """One attempt at an order. `share` of it is done, 0 to 1, and about `left_s` seconds are left, None where that is
    not known. `beat` grows while somebody works at it. `sizes` are the bytes of its files by their endings, once they
    are there; `fault` says why there are none.
    """

    id: str
    attempt: int
    state: State = "waiting"
    share: float = 0.0
    left_s: float | None = None
    beat: int = 0
    sizes: Mapping[str, int] = field(default_factory=dict)
    fault: Mapping[str, str] | None = None

    @property
    def has_ended(self) -> bool:
        return self.state in ("done", "stopped", "failed")

    def to_json(self) -> bytes:
        return json.dumps(asdict(self)).encode()

    @classmethod
    def from_json(cls, data: bytes) -> Job:
        return cls(**json.loads(data))


def told(fault: Fault) -> dict[str, Any]:
    """A fault, to be raised again somewhere else."""
    return {"message": fault.message, "place": fault.place, "remedy": fault.remedy}
