"""Until when the old icon is seen, foreseen from what a site serves before anything is changed (RFC 9111)."""

from unittest import TestCase

from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.build import BuiltFile
from bexi.core.iconset.catalogue import tab_icon
from bexi.core.livesite.foreseen import old_seconds
from bexi.core.livesite.visitor import ICON_STORE_SECONDS
from bexi.core.pixels.colour import BLACK
from bexi.core.sitehead.snippet import HeadLines
from tests.core.livesite.site import HOME, READING, FakeSite, html
from tests.pictures import plain_png

OLD, NEW = plain_png(32, 32, "#aa0000"), plain_png(32, 32, "#0000aa")
NOW = 1_790_000_000.0
ICON = "icon-32.png"
NAMED = html(f'<link rel="icon" sizes="32x32" href="/{ICON}">')
YEAR = 31_536_000


class ForeseenTests(TestCase):
    def foreseen(
        self,
        page: bytes,
        stamped: bool = True,
        edits: bool = True,
        page_cache: str = "no-cache",
        cache: str = "",
        **files,
    ) -> float | None:
        headers = {"": {"cache-control": page_cache}, **{name: {"cache-control": cache} for name in files if cache}}
        site = FakeSite({"": page, **files}, headers)
        lines = HeadLines((BuiltFile(tab_icon(32), NEW),), Addresses(stamped=stamped), BLACK)
        return old_seconds(HOME, site, {ICON: NEW}, lines if edits else None, READING, NOW)

    def test_under_the_same_address_it_is_kept_as_long_as_a_browser_keeps_it(self):
        same = {ICON: OLD}
        self.assertEqual(self.foreseen(NAMED, stamped=False, **same), ICON_STORE_SECONDS - 1)
        self.assertEqual(self.foreseen(NAMED, stamped=False, cache=f"max-age={YEAR}", **same), YEAR - 1)
        self.assertEqual(self.foreseen(NAMED, edits=False, **same), ICON_STORE_SECONDS - 1)

    def test_an_address_that_changes_with_the_content_is_seen_with_the_next_page(self):
        for old in ({ICON: OLD}, {"old.png": OLD}):
            page = html(f'<link rel="icon" sizes="32x32" href="/{next(iter(old))}">')
            self.assertEqual(self.foreseen(page, cache=f"max-age={YEAR}", **old), 0)
            self.assertEqual(self.foreseen(page, page_cache="max-age=600", **old), 599)

    def test_where_there_is_no_icon_nobody_holds_one(self):
        self.assertIsNone(self.foreseen(html("")))
        self.assertIsNone(self.foreseen(html('<link rel="icon" href="/gone.png">')))
