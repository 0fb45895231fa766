"""Files of others, read into layers; nothing is stored until the page makes an edit of it."""

from __future__ import annotations

from flask import Blueprint, request
from flask.typing import ResponseReturnValue

from keen_ripple.core.limits import LONGEST_NAME
from keen_ripple.intake import take_svg
from keen_ripple.web.contract.answers import Artwork
from keen_ripple.web.contract.bodies import Drawing, body

blueprint = Blueprint("intakes", __name__, url_prefix="/api/intake")


@blueprint.post("")
def take() -> ResponseReturnValue:
    """The layers of an SVG drawing: the bytes of the file, whatever its encoding, as image/svg+xml, with ?name=…; or
    {name, svg}, its text. Notes say what could not be taken."""
    if request.mimetype == "image/svg+xml":
        name, data = request.args.get("name", ""), request.get_data()
    else:
        wish = body(Drawing)
        name, data = wish.name, wish.svg.encode("utf-8", "replace")
    taken = take_svg(data, name[:LONGEST_NAME])
    taken.piece()
    document = taken.document
    artwork = {key: document[key] for key in ("name", "width", "height", "layers")}
    return Artwork(**artwork, notes=taken.notes).told()
