"""Loading the demo: five invented sites on the stand-in host, at three points of the work."""

from pathlib import Path

from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.hand.drawn import BY_HAND
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.pixels.colour import Colour
from bexi.server.artwork.drawings import LettersBody, SymbolBody, add_drawing
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.services import build_site
from bexi.server.checks.starting import check_now
from bexi.server.demo import artwork as drawings
from bexi.server.drafts.services import save_draft
from bexi.server.installs.starting import install_now
from bexi.server.sites.models import Site
from bexi.standin.account import USER
from bexi.standin.host import LOOPBACK, SFTP_OFFSET, running
from bexi.standin.sites import SITES, DemoSite, reset


def load_demo(served: Path, control_port: int) -> None:
    """Fill an empty database and the stand-in's folder. The ports must be free: the demo is really installed."""
    reset(served)
    lockup, letters = _artwork()
    ferry, crew, log, tide, shop = (
        Site.objects.create(
            name=site.title,
            address=f"http://{LOOPBACK}:{control_port + site.port_offset}/",
            place=_place(site, served, control_port),
        )
        for site in SITES
    )
    save_draft(ferry, lockup, _by_hand(Frame(27, 27, 566), drawings.SAND), 0)
    build_site(ferry)
    save_draft(ferry, lockup, _by_hand(Frame(2, 2, 616), drawings.SAND), 1)
    save_draft(crew, letters, _by_hand(whole_artwork(1024, 1024), drawings.NAVY), 0)
    build_site(crew)
    with running(served, control_port):
        install_now(crew)
        for site in (crew, log, tide, shop):
            check_now(site)


def _by_hand(frame: Frame, home_ground: str) -> Recipe:
    return Recipe(Framing(frame, home_ground=Colour.parse(home_ground), by_hand=BY_HAND))


def _place(site: DemoSite, served: Path, control_port: int) -> str:
    """Two sites lie in a folder of this machine; the old one is only reached by SFTP, as at many a rented host."""
    if site.folder == "log":
        return f"sftp://{USER}@{LOOPBACK}:{control_port + SFTP_OFFSET}/log"
    return str(served / site.folder)


def _artwork() -> tuple[Artwork, Artwork]:
    """Take in and draw every piece; returns the lockup and the letters."""
    ours = {"licence": "own", "permission": True, "credit": "Merrowmouth Ferry Cooperative"}
    add_artwork("pennant-scan.bmp", drawings.pennant_scan(), "Pennant scan", origin="scanned from the 1962 pennant")
    add_artwork("log-book.jpg", drawings.log_book_photo(), "Log-book photo", origin="harbour office, by phone")
    add_artwork("old-button.gif", drawings.old_button(), "Old button", **ours)
    add_drawing(SymbolBody(name="waves-horizontal", ink=Colour(0x0F, 0x6B, 0x6F), stroke=3))
    letters = add_drawing(
        LettersBody(
            text="MF",
            face="rubik",
            weight=700,
            ink=Colour.parse(drawings.SAIL),
            plate=Plate(PlateShape.ROUNDED, Colour.parse(drawings.NAVY)),
        )
    )
    add_artwork("harbour-stamp.png", drawings.harbour_stamp(), "Harbour stamp", **ours)
    add_artwork("ferry-emblem.jpg", drawings.ferry_emblem_on_white(), "Ferry emblem on white", **ours)
    alt = "A small red ferry with a yellow flag on a dark blue disc"
    return add_artwork("ferry-lockup.svg", drawings.ferry_lockup(), "Ferry lockup", alt=alt, **ours), letters
