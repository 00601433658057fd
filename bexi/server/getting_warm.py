"""What the first person who brings a picture would wait for, done beside other work when a web process begins."""

import logging
import threading

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.treatment import AS_IT_IS
from bexi.core.errors import ArtworkRefused
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import candidates
from bexi.core.judging.ways_out import Source
from bexi.resources import initials_face
from bexi.resources.generic import generic_icons
from bexi.sandbox.measuring import measure_file
from bexi.server.artwork.reading import read_apart
from bexi.server.problems import Busy

_DRAWING = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="64" height="64">'
    b'<circle cx="32" cy="32" r="30" fill="#246"/><rect x="24" y="16" width="16" height="32" fill="#fff"/></svg>'
)


def begin_to_get_warm() -> None:
    """Get warm in a thread of its own."""
    threading.Thread(target=get_warm, daemon=True).start()


def get_warm() -> None:
    """Start the reader apart and judge a drawing; a reader that does not start is told whoever asks for it, too."""
    try:
        read_apart(measure_file, "drawing.svg", _DRAWING, AS_IT_IS)
    except (ArtworkRefused, Busy) as refusal:
        logging.getLogger(__name__).warning("The reader apart does not start: %s", refusal)
    picture = check(_DRAWING, DEFAULT_LIMITS)
    contenders = candidates(Source(picture, groups_of(picture)))
    next(contenders).judged(others=generic_icons())
    initials_face()
