"""Which picture of a page is its logo, and what a site is called."""

from unittest import TestCase

from bexi.core.livesite.naming import site_name
from bexi.core.livesite.page import Page, read_page
from bexi.core.livesite.served import Served

HOME = "https://merrowmouth.example/"
PAGES = {
    "an image named like a logo": ('<header><img src="/a.png"><img src="/b.png" class="site-logo"></header>', "/b.png"),
    "a folder named so": ('<img src="/photo.jpg"><div id="brand"><img src="/b.png"></div>', "/b.png"),
    "the image that leads home": ('<img src="/photo.jpg"><a href="/"><img src="/b.png"></a>', "/b.png"),
    "the header's": ('<img src="/photo.jpg"><header><img src="/b.png"></header>', "/b.png"),
    "the icon as SVG": ('<img src="/photo.jpg"><link rel="icon" href="/i.png"><link rel=icon href="/b.svg">', "/b.svg"),
    "the home-screen icon": ('<link rel="icon" href="/i.png"><link rel="apple-touch-icon" href="/b.png">', "/b.png"),
    "the picture for sharing": ('<img src="/x.jpg"><meta property="og:image" content="/b.png">', "/b.png"),
}


def page(html: str) -> Page:
    return read_page(Served(HOME, 200, {"content-type": "text/html; charset=utf-8"}, html.encode()))


class MarksTests(TestCase):
    def test_the_likeliest_comes_first(self):
        for name, (html, expected) in PAGES.items():
            with self.subTest(name):
                self.assertEqual(page(html).marks[0].address, HOME.rstrip("/") + expected)

    def test_a_drawing_in_the_header_is_a_file_of_its_own_and_signs_are_none(self):
        sign = '<svg viewBox="0 0 9 9"><path d="M0 0h9"/></svg>'
        drawn = '<a class="logo" href="/"><svg viewBox="0 0 9 9"><circle cx="4" cy="4" r="3"/></svg></a>'
        (mark,) = page(f"<nav>{sign}</nav>{drawn}").marks
        self.assertIn("circle", mark.markup)
        self.assertIn('xmlns="http://www.w3.org/2000/svg"', mark.markup)
        self.assertIn("named like a logo", mark.why)

    def test_each_once_and_not_too_many(self):
        html = '<header><img src="/a.png" class="logo"></header><img src="/a.png">' + '<img src="/b.png">' * 3
        self.assertEqual([mark.likely for mark in page(html).marks], [60, 5])
        many = "".join(f'<img src="/{number}.png">' for number in range(900))
        self.assertEqual(len(page(many).marks), 60)

    def test_addresses_that_lead_nowhere_are_no_marks(self):
        self.assertEqual(page('<img src=""><img src="data:,x"><link rel=icon href="javascript:1">').marks, ())


class NamingTests(TestCase):
    def test_by_manifest_title_or_address(self):
        for title, manifest, expected in (
            ("Timetable | Merrowmouth Ferry", b"", "Merrowmouth Ferry"),
            ("Harbour – all about ropes", b"", "Harbour"),
            ("Harbour-side shop", b"", "Harbour-side shop"),
            ("", b"", "merrowmouth.example"),
            ("Home", b'{"name": " The  Ferry ", "short_name": "F"}', "The Ferry"),
            ("Home", b'{"short_name": "Ferry"}', "Ferry"),
            ("Home", b"[" * 5000, "Home"),
            ("Home", b'{"name": 7}', "Home"),
            ("x" * 300, b"", "x" * 80),
        ):
            with self.subTest(title=title, manifest=manifest[:20]):
                self.assertEqual(site_name(page(f"<title>{title}</title>"), manifest), expected)
