from unittest import TestCase

from bexi.core.livesite.page import read_page
from bexi.core.livesite.walk import Walk
from tests.core.livesite.site import HOME, FakeSite, html

MAP = '<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">{}</urlset>'


def linking(*links: str) -> bytes:
    return html(body="".join(f'<a href="{link}">x</a>' for link in links))


def walked(site: FakeSite, most: int = 20, also: tuple[str, ...] = ()) -> tuple[list[str], Walk]:
    walk = Walk(HOME, site, read_page, most, tuple(HOME + path for path in also))
    return [visited.served.url.removeprefix(HOME) for visited in walk], walk


class WalkingTests(TestCase):
    def test_nearest_pages_come_first_and_each_once(self):
        site = FakeSite({"": linking("a", "b"), "a": linking("c", "/"), "b": linking("a", "c#part"), "c": linking()})
        self.assertEqual(walked(site)[0], ["", "a", "b", "c"])
        self.assertEqual(sorted(site.asked), ["", "a", "b", "c", "sitemap.xml"])

    def test_relative_links_are_followed_from_their_page(self):
        pages = {"": ["deep/one"], "deep/one": ["two", "../three"], "deep/two": [], "three": []}
        site = FakeSite({path: linking(*links) for path, links in pages.items()})
        self.assertEqual(walked(site)[0], ["", "deep/one", "deep/two", "three"])

    def test_other_hosts_schemes_and_files_are_left_out(self):
        links = (
            "http://else.example/",
            "//else.example/",
            "mailto:a@b",
            "javascript:x()",
            "http://[bad",
            "pic.png",
            "a",
        )
        site = FakeSite({"": linking(*links), "pic.png": b"", "a": linking()})
        self.assertEqual(walked(site)[0], ["", "a"])
        self.assertNotIn("pic.png", site.asked)

    def test_links_to_documents_take_no_page_its_place(self):
        pages = {f"p{number}.html": linking() for number in range(9)}
        files = {f"f{number}.pdf": b"%PDF-" for number in range(60)}
        site = FakeSite({"": linking(*files, *pages, "download"), "download": b"x", **files, **pages})
        site.headers = {"download": {"content-type": "application/octet-stream"}}
        visited, walk = walked(site, most=10)
        self.assertEqual(visited, ["", *pages])
        self.assertEqual(walk.left, {f"{HOME}download"})

    def test_missing_pages_are_told_too(self):
        self.assertEqual(walked(FakeSite({"": linking("gone")}))[0], ["", "gone"])

    def test_never_more_than_asked_for_and_what_is_left_is_known(self):
        pages = {f"p{number}": linking() for number in range(50)}
        visited, walk = walked(FakeSite({"": linking(*pages), **pages}))
        self.assertEqual((len(visited), len(walk.left)), (20, 31))

    def test_pages_of_the_site_map_and_those_named_besides(self):
        index = f"<sitemapindex><sitemap><loc>{HOME}more.xml</loc></sitemap></sitemapindex>"
        hidden = MAP.format(f"<url><loc>{HOME}hidden</loc></url><url><loc>http://else.example/</loc></url>")
        files = {"": linking(), "hidden": linking(), "edited": linking()}
        site = FakeSite({**files, "sitemap.xml": index.encode(), "more.xml": hidden.encode()})
        self.assertEqual(walked(site, also=("edited",))[0], ["", "edited", "hidden"])
        bomb = b'<!DOCTYPE a [<!ENTITY b "c">]><urlset><url><loc>&b;</loc></url></urlset>'
        for broken in (bomb, b"<urlset>", b"", b"\xff\xfe"):
            self.assertEqual(walked(FakeSite({"": linking(), "sitemap.xml": broken}))[0], [""])

    def test_two_addresses_of_one_page_are_one(self):
        site = FakeSite({"": linking("old", "new"), "new": linking()}, moved={"old": "new"})
        self.assertEqual(walked(site)[0], ["", "old"])
