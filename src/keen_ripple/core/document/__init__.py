"""The piece as one JSON document: its models, its reading, its schema."""

from keen_ripple.core.document.edited import read_edited
from keen_ripple.core.document.json_text import parsed
from keen_ripple.core.document.layers import Layer, walk
from keen_ripple.core.document.piece import Piece, State
from keen_ripple.core.document.read import read_piece, read_text, written
from keen_ripple.core.document.schema import json_schema
from keen_ripple.core.document.transitions import Lane, Transition

__all__ = [
    "Lane",
    "Layer",
    "Piece",
    "State",
    "Transition",
    "json_schema",
    "parsed",
    "read_edited",
    "read_piece",
    "read_text",
    "walk",
    "written",
]
