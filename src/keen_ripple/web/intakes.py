"""Files of others, read into layers; nothing is stored until the page makes an edit of it."""

from __future__ import annotations

from flask import Blueprint, jsonify
from flask.typing import ResponseReturnValue

from keen_ripple.intake import take_svg
from keen_ripple.web.requests import body, field

blueprint = Blueprint("intakes", __name__, url_prefix="/api/intake")


@blueprint.post("")
def take() -> ResponseReturnValue:
    """The layers of an SVG drawing: {name, svg}, the text of the file. Notes say what could not be taken."""
    wish = body()
    taken = take_svg(field(wish, "svg", str).encode(), field(wish, "name", str))
    taken.piece()
    document = taken.document
    artwork = {key: document[key] for key in ("name", "width", "height", "layers")}
    return jsonify({**artwork, "notes": taken.notes})
