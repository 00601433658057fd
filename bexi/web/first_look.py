"""The first look at a site whose address is all that is known."""

from dataclasses import dataclass

from bexi.core.errors import HostRefused
from bexi.core.livesite.naming import site_name
from bexi.core.livesite.page import Page
from bexi.core.livesite.served import Fetch
from bexi.sandbox.pages import read_page_apart


@dataclass(frozen=True)
class FirstLook:
    """A site's home page, and what the site is called."""

    page: Page
    name: str


def look_first(address: str, fetch: Fetch) -> FirstLook:
    """Ask for the home page and its manifest; raises HostRefused when there is none to be had."""
    served = fetch(address)
    if served.status != 200 or not served.is_page:
        told = (served.told or "what it sends is not a page").rstrip(".")
        raise HostRefused(
            "no-page", f"{address} cannot be looked at: {told}. Look at the address, or add the site by name."
        )
    page = read_page_apart(served)
    manifest = fetch(page.manifest) if page.manifest else None
    return FirstLook(page, site_name(page, manifest.body if manifest and manifest.status == 200 else b""))
