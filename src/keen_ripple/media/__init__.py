"""Media: moving pictures and films, as frames with the times at which they are shown."""

from keen_ripple.media.facts import Facts, facts_of
from keen_ripple.media.opened import reel_of
from keen_ripple.media.reel import MediumFault, Reel

__all__ = ["Facts", "MediumFault", "Reel", "facts_of", "reel_of"]
