"""The scanner reads a head as the tokenizer of WHATWG HTML does: html5lib, a parser of that standard, says the same."""

from unittest import TestCase

import html5lib
from hypothesis import given, settings
from hypothesis import strategies as st

from bexi.core.errors import HeadRefused
from bexi.core.sitehead.edit import edit_head
from bexi.core.sitehead.link import declared_by
from bexi.core.sitehead.scan import find_head
from tests.sets import SMALL, head_lines_of

ICONS = head_lines_of(SMALL)


def links_of(page: str) -> list[str]:
    """The icons that html5lib finds in the head, in tree order."""
    head = html5lib.parse(page, namespaceHTMLElements=False).find("head")
    found = (declared_by("link", link.attrib) for link in head.iter("link"))
    return [link.href for link in found if link]


def seen_in(page: str) -> list[str]:
    return [link.href for link in find_head(page).icon_links]


ODD = (
    "<!-->",
    "<!--->",
    "<!-- a --!>",
    "<!-- a -->",
    "<!---->",
    "<!-- <link rel=icon href=hidden> --!>",
    "<script><!-- <script> </script> <link rel=icon href=no> --></script>",
    "<script><!-- <script> </script> </script>",
    "<script><!--> <script> </script>",
    "<script>a --> b <!-- c </script>",
    "<SCRIPT><!--<sCript >'</scRipt >--></SCRIPT>",
    "<script/><link rel=icon href=no></script>",
    "<title/>a</title>",
    "<style/>a{}</style>",
    "<meta name=it's content=a>",
    "<meta name='a' content=it\"s>",
    "<meta name = 'a>b' content >",
    "<meta =a=b c>",
    '<meta a\'b="c">',
    "<link rel=icon href=plain>",
    "<link rel='icon' href=\"quoted\">",
    "<link rel=icon href=slash/ >",
    "<LINK REL=ICON HREF=upper/>",
    "<link rel=stylesheet href='>'>",
    "</ odd>",
    "<!odd>",
    "<base href=a>",
)
BEHIND = (
    "",
    "<link rel=icon href=behind>",
    " <script></script><link rel=icon href=behind>",
    "text<link rel=icon href=no>",
)


class StandardTests(TestCase):
    @settings(max_examples=400, deadline=None)
    @given(st.lists(st.sampled_from(ODD), max_size=6), st.sampled_from(BEHIND))
    def test_icons_are_seen_where_the_standard_has_them(self, pieces, behind):
        page = f"<!doctype html><html><head>{''.join(pieces)}</head>{behind}<body><p>a</body></html>"
        try:
            seen = seen_in(page)
        except HeadRefused:  # a head that never begins, or never ends for sure
            return
        self.assertEqual(seen, links_of(page))

    @settings(max_examples=400, deadline=None)
    @given(st.lists(st.sampled_from(ODD), max_size=6), st.sampled_from(BEHIND))
    def test_after_an_edit_only_the_new_icons_are_there(self, pieces, behind):
        page = f"<!doctype html><html><head>{''.join(pieces)}</head>{behind}<body><p>a</body></html>"
        try:
            edited = edit_head(page.encode(), ICONS, "index.html").after.decode()
        except HeadRefused:
            return
        self.assertEqual(links_of(edited), [f"/{file.name}" for file in ICONS.files], edited)

    def test_each_odd_piece_by_itself(self):
        for piece in ODD:
            page = f"<!doctype html><html><head>{piece}<link rel=icon href=last></head><body></body></html>"
            self.assertEqual(seen_in(page), links_of(page), piece)


class XhtmlTests(TestCase):
    def test_its_self_closing_elements_are_whole(self):
        for begins in (
            '<html xmlns="http://www.w3.org/1999/xhtml">',
            '<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.0 Strict//EN" "x"><html>',
            '<?xml version="1.0"?><html>',
        ):
            head = '<title>a</title><script src="a.js"/><link rel="icon" href="b.png"/>'
            page = f"{begins}<head>{head}</head><body/></html>"
            self.assertEqual(seen_in(page), ["b.png"], begins)
        self.assertEqual(seen_in('<html><head><script src="a.js"/><link rel="icon" href="b.png"/></script></head>'), [])


class StayingTests(TestCase):
    def test_what_the_set_brings_nothing_for_stays_and_is_said(self):
        page = (
            "<html><head><title>a</title><link rel=icon href=a.png><link rel=manifest href=m.json></head><body></body>"
        )
        edit = edit_head(page.encode(), ICONS, "index.html")
        self.assertEqual(edit.removed, ("<link rel=icon href=a.png>",))
        self.assertEqual(edit.stays, ("<link rel=manifest href=m.json>",))

    def test_an_icon_behind_the_head_gives_way_too(self):
        page = "<html><head><title>a</title></head><link rel=icon href=a.png><body></body>"
        edit = edit_head(page.encode(), ICONS, "index.html")
        self.assertEqual(edit.removed, ("<link rel=icon href=a.png>",))
        self.assertNotIn(b"a.png", edit.after)


class IncludesTests(TestCase):
    """Server-side includes, whose conditions are comments [common practice: the two servers that read them]."""

    def test_their_conditions_are_conditions(self):
        inside = (
            '<!--#if expr="$a" -->\n<link rel="icon" href="a.png">\n<!--#else -->\n<link rel="x">\n<!--#endif -->\n'
        )
        page = f"<html><head><title>a</title>\n{inside}</head><body></body></html>"
        after = edit_head(page.encode(), ICONS, "index.shtml").after.decode()
        begin, condition = after.index("<!-- icons"), after.index("<!--#if")
        self.assertFalse(condition < begin < after.index("<!--#endif"), after)

    def test_a_head_that_is_there_at_times_only_is_left_alone(self):
        page = '<html><!--#if expr="$a" --><head><title>a</title></head><!--#endif --><body></body></html>'
        with self.assertRaises(HeadRefused) as caught:
            edit_head(page.encode(), ICONS, "index.shtml")
        self.assertEqual(caught.exception.code, "conditional-head")

    def test_what_is_included_is_no_condition(self):
        page = '<html><head><title>a</title><!--#include virtual="/head.html" --></head><body></body></html>'
        self.assertIn(b"favicon.ico", edit_head(page.encode(), ICONS, "index.shtml").after)
