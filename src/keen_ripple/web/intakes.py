"""Files of others, read into layers; nothing is stored until the page makes an edit of it."""

from __future__ import annotations

from dataclasses import asdict

from flask import Blueprint, request
from flask.typing import ResponseReturnValue

from keen_ripple.core.limits import LONGEST_NAME
from keen_ripple.core.values.font_file import ranges_of
from keen_ripple.fonts import take_font
from keen_ripple.intake import take_svg
from keen_ripple.media import facts_of
from keen_ripple.web.contract.bodies import Drawing, body
from keen_ripple.web.contract.taken import Artwork, FontTaken, MediumFacts

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


@blueprint.post("/medium")
def facts() -> ResponseReturnValue:
    """How large a medium is, and how long it plays: the bytes of a GIF, APNG, WebP, MP4, WebM or Lottie file."""
    return MediumFacts(**asdict(facts_of(request.get_data()))).told()


@blueprint.post("/font")
def font() -> ResponseReturnValue:
    """A font as a document holds it, and what is in it: the bytes of a TTF, OTF or WOFF2 file."""
    source, file = take_font(request.get_data())
    characters = ranges_of(file.characters)
    return FontTaken(family=file.family, source=source, weights=file.weights, characters=characters).told()
