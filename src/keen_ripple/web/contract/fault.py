"""What is wrong with a request."""

from __future__ import annotations

from keen_ripple.core.errors import Fault


class RequestFault(Fault):
    """A request that is not what the API takes."""
