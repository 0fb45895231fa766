"""How much a piece may hold: generous for work, and small enough that whatever is accepted also plays.

Ranges of single properties stand in the property table; `docs/piece-format.md` lists all of this for people.
"""

from __future__ import annotations

# The whole document.
LONGEST_DOCUMENT = 12_000_000
"""Characters of JSON."""
LARGEST_COLLECTION = 200_000_000
"""Bytes of all pieces of an archive together."""
MOST_FILES = 2000
"""Of one archive."""
DEEPEST_JSON = 180
DEEPEST_GROUPS = 64
"""Groups inside each other."""
MOST_LAYERS = 1200
MOST_STATES = 200
MOST_LOOKS = 12_000
"""Layers × states."""
MOST_TRANSITIONS = 1000
MOST_LANES = 1000
"""Of one transition."""
MOST_STAGGERS = 100
LONGEST_NAME_OF_PROPERTY = 64
LONGEST_NAME = 120
MOST_SECTIONS = 60
MOST_GUIDES = 100
"""Upright, and level."""
MOST_FONTS = 16
"""Families that a piece brings."""
MOST_FONT_FILES = 24
"""Of one family."""
LONGEST_FONT = 4_000_000
"""Characters of base64."""
LARGEST_FONT = 16_000_000
"""Bytes of a font without its compression."""
MOST_AXES = 16
MOST_TRAITS = 8
MOST_OPTIONS = 24
"""Of one trait."""
MOST_PARAMETERS = 64
MOST_BINDS = 64
"""Of one parameter."""
MOST_UNDERCURRENTS = 64
MOST_COURSES = 500
"""Of one undercurrent."""
MOST_KNOTS = 600_000
"""Of all tapes of a piece together."""
MOST_MOVES = 36_000
"""Of all transitions of a piece together, those of numbers; what is no number takes the time of several."""
NUMBERS_IN_TIME_OF_ONE_COLOUR = 75
NUMBERS_IN_TIME_OF_ONE_OUTLINE = 150
CHARACTERS_IN_TIME_OF_ONE_NUMBER = 5
"""Of path data."""
LONGEST_COMMON_LOOP_MS = 2**53 - 1
"""285,000 years: the longest whole time that JSON can be relied on to keep."""
LONGEST_WAIT_MS = 600_000
"""So long a run waits for what lives in the piece."""
LONGEST_SHOWN_LOOP_MS = 60_000
"""A common loop that takes longer is said, and not played as the loop of a piece that rests itself."""

# Curves.
LONGEST_EASING = 20_000
MOST_STEPS = 1000
MOST_POINTS = 1000
"""Stops of a linear()."""
FARTHEST_PROGRESS = 100.0
FARTHEST_PERCENTAGE = 10_000.0

# Outlines.
LONGEST_PATH = 200_000
MOST_COMMANDS = 20_000
LONGEST_PATHS = 1_000_000
"""Characters of all outlines of a piece together."""

# Pictures and media.
LARGEST_PICTURE = 40_000_000
"""Pixels."""
FARTHEST = 100_000.0
"""px from the origin: beyond it the arithmetic of browsers loses fractions of a pixel."""

# Rehearsals.
MOST_EVENTS = 10_000
LATEST_EVENT_MS = 3_600_000
MOST_KEPT_REHEARSALS = 30
MOST_KEPT_EVENTS = 400
"""Of one kept rehearsal: it is acted again after every edit."""
