"""The page itself, as the front end's build left it."""

from __future__ import annotations

from pathlib import Path

from flask import Blueprint, Response, abort, send_from_directory

from keen_ripple.web.security import nonce

DIST = Path(__file__).parent / "dist"

blueprint = Blueprint("page", __name__)


@blueprint.get("/assets/<path:name>")
def asset(name: str) -> Response:
    # Names hold a hash of their content.
    return send_from_directory(DIST / "assets", name, max_age=31_536_000)


@blueprint.get("/")
@blueprint.get("/pieces/<piece_id>")
@blueprint.get("/pieces/<piece_id>/<view>")
def page(piece_id: str = "", view: str = "") -> Response:
    """The same for every view: which there are, the page knows."""
    index = DIST / "index.html"
    if not index.exists():
        abort(503, "The page has not been built. Run `make setup`.")
    return Response(index.read_text("utf-8").replace("__NONCE__", nonce()), mimetype="text/html")
