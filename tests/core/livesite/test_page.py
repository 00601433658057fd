from unittest import TestCase

import html5lib
from hypothesis import given, settings
from hypothesis import strategies as st

from bexi.core.livesite.page import read_page
from bexi.core.livesite.served import Served
from bexi.core.sitehead.link import declared_by
from tests.core.livesite.site import HOME, page

PIECES = st.lists(
    st.sampled_from(
        [
            *('<link rel=icon href="a.png">', "<link rel='shortcut icon' href=b.ico sizes=16x16>", "<title>t</title>"),
            *(
                "<meta charset=utf-8>",
                "<script>'<link rel=icon href=no.png>'</script>",
                "<!-- <link rel=icon href=n> -->",
            ),
            *("<p>text", "</head>", "<body>", "<table><link rel=icon href=t.png>", "<svg><title>x</title></svg>", "x"),
            *("<noscript><link rel=icon href=v></noscript>", "</p>"),
            *('<link rel="apple-touch-icon" href="c.png"/>', "<style>a{}</style>", "<textarea><link rel=icon href=w>"),
        ]
    ),
    max_size=12,
)


class PageTests(TestCase):
    def test_relative_addresses_lead_from_where_the_page_really_is(self):
        home = Served(HOME, 200, {"content-type": "text/html"}, b"<link rel=icon href=i.png>", moved=(f"{HOME}en/",))
        self.assertEqual(read_page(home).of_kind("icon")[0].address, f"{HOME}en/i.png")

    def test_a_base_is_heeded_and_only_the_first(self):
        for base, led in (
            ('<base href="/deep/down/">', f"{HOME}deep/down/i.png"),
            ('<base href="sub/"><base href="/other/">', f"{HOME}sub/i.png"),
            ('<base target="_top"><base href="//else.example/x/">', "http://else.example/x/i.png"),
            ('<base href="http://[">', f"{HOME}i.png"),
        ):
            self.assertEqual(page(base + '<link rel="icon" href="i.png">').of_kind("icon")[0].address, led)

    def test_declared_sizes_as_the_standard_reads_them(self):
        """WHATWG HTML, link type "icon": tokens without leading zeros, an ASCII case-insensitive "x", or "any"."""
        for said, sides in (
            ("16x16 32X32", (16, 32)),
            ("any", (0,)),
            ("ANY 48x48", (0, 48)),
            ("016x16 16 x16 0x0 1.5x2 -4x4 16x16px", ()),
            ("", ()),
        ):
            self.assertEqual(page(f'<link rel="icon" href="i" sizes="{said}">').declared[0].sides, sides)

    def test_text_in_the_encodings_that_pages_have(self):
        link = '<link rel="icon" href="é.png">'
        for encoding, content_type, written in (
            ("utf-8", "text/html", link),
            ("windows-1252", "text/html", link),
            ("utf-16-le", "text/html", "\ufeff" + link),
            ("iso-8859-2", "text/html; charset=iso-8859-2", link),
            ("koi8-r", "text/html", '<meta charset="koi8-r"><link rel="icon" href="я.png">'),
        ):
            read = read_page(Served(HOME, 200, {"content-type": content_type}, written.encode(encoding)))
            self.assertIn(read.of_kind("icon")[0].link.href, ("é.png", "я.png"), encoding)

    def test_what_stands_in_a_template_is_no_link(self):
        self.assertEqual(page('<template><link rel="icon" href="a.png"></template>').declared, ())

    def test_xhtml_closes_elements_by_their_own_tags(self):
        text = b'<html><head><title/><script src="a"/><link rel="icon" href="a.png"/></head></html>'
        read = read_page(Served(HOME, 200, {"content-type": "application/xhtml+xml"}, text))
        self.assertEqual([one.address for one in read.declared], [f"{HOME}a.png"])

    def test_a_page_without_a_type_is_told_by_how_it_begins(self):
        for body, is_page in (
            (b" <!DOCTYPE html><p>", True),
            (b"<link rel=icon>", True),
            (b"<svg ", False),
            (b"%PDF", False),
        ):
            self.assertEqual(Served(HOME, 200, {}, body).is_page, is_page, body)

    def test_hostile_pages_end(self):
        for body in (b"<" * 200_000, b"<link rel=icon href=x>" * 50_000, b"<div>" * 5_000, b"\0\xff<!--" * 1000):
            read = read_page(Served(HOME, 200, {"content-type": "text/html; charset=idna"}, body))
            self.assertLessEqual(len(read.declared), 200)

    @settings(max_examples=150, deadline=None)
    @given(PIECES)
    def test_links_stand_where_another_parser_of_the_standard_puts_them(self, pieces):
        """html5lib, which knows no <template>: the same links in the same order, in the head or not."""
        text = "<!doctype html><html><head>" + "".join(pieces)
        tree = html5lib.parse(text, namespaceHTMLElements=False)
        expected = []
        for element, parents in _with_parents(tree, ()):
            if element.tag == "link" and "noscript" not in parents:
                link = declared_by("link", element.attrib)
                if link:
                    expected.append((link.href, parents[-1] == "head"))
        read = read_page(Served(HOME, 200, {"content-type": "text/html"}, text.encode()))
        self.assertEqual([(one.link.href, one.in_head) for one in read.declared], expected)


def _with_parents(element, parents):
    yield element, parents
    for child in element:
        if isinstance(child.tag, str):
            yield from _with_parents(child, (*parents, element.tag))
