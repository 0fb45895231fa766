"""Answers that need not be sent again."""

from __future__ import annotations

import secrets

from flask import Response, request

# Of this start of the program: another version of it may compute other answers for the same revision.
VERSION = secrets.token_hex(4)


def unless_known(response: Response) -> Response:
    """The answer, or 304 where the browser has it already."""
    # Weak: it is the same answer however it is compressed.
    response.add_etag(weak=True)
    response.headers["Cache-Control"] = "no-cache"
    response.make_conditional(request)
    return response
