"""Reading pages that a site serves."""

from bexi.core.errors import ArtworkRefused
from bexi.core.livesite.page import Page, read_page
from bexi.core.livesite.served import Served
from bexi.sandbox.children import in_sandbox


def read_page_apart(served: Served) -> Page:
    """A served page, read in the sandbox; one that breaks its reader says so."""
    try:
        return in_sandbox(read_page, served)
    except ArtworkRefused:
        trouble = "it is built so that reading it takes too long or too much memory"
        return Page(served.url, served.address, served.address, trouble=trouble)
