from collections.abc import Callable
from unittest import TestCase, mock

import html5lib
from hypothesis import given, settings
from hypothesis import strategies as st

from bexi.core.errors import HeadRefused
from bexi.core.sitehead.edit import HeadEdit, HeadEditor
from bexi.core.sitehead.edit import edit_head as edit_with
from bexi.core.sitehead.scan import LARGEST_PAGE, find_head
from bexi.core.sitehead.snippet import BEGIN, END
from tests.sets import SMALL, head_lines_of

PAGE = b"""<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <title>Sailings</title>
    <link rel="stylesheet" href="/ferry.css">
    <script>var a = "<head><link rel='icon' href='no'>";</script>
  </head>
  <body><p>caf\xc3\xa9</p></body>
</html>
"""


ICONS = head_lines_of(SMALL)


def edit_head(page: bytes) -> HeadEdit:
    return edit_with(page, ICONS)


def links(page: bytes) -> list[tuple[str, str]]:
    """The rel and href of every link in the head, read by html5lib, a parser of the HTML standard."""
    head = html5lib.parse(page, namespaceHTMLElements=False).find("head")
    return [(link.get("rel"), link.get("href")) for link in head.iter("link")]


def without_block(page: bytes) -> bytes:
    """The page with its block, and the white space before it, cut out."""
    start, end = page.index(BEGIN.encode()), page.index(END.encode()) + len(END)
    return page[:start].rstrip() + page[end:]


def code_of(page: bytes) -> str:
    try:
        edit_head(page)
    except HeadRefused as refusal:
        return refusal.code
    return "edited"


def outcome(edit: Callable[..., HeadEdit], *given: object) -> object:
    """An edit with the page after it, or the code of its refusal."""
    try:
        edited = edit(*given)
    except HeadRefused as refusal:
        return refusal.code
    return (
        edited,
        edited.after,
        edited.size_after == len(edited.after),
        edited.is_same == (edited.after == edited.before),
    )


class EditTests(TestCase):
    def test_block_stands_beside_the_other_links(self):
        edited = edit_head(PAGE).after
        lines = edited.decode().splitlines()
        begin = lines.index(f"    {BEGIN}")
        self.assertEqual(lines[begin - 1].strip(), '<link rel="stylesheet" href="/ferry.css">')
        self.assertEqual([line.strip() for line in lines[begin + 1 : begin + 5]], ICONS.lines())
        self.assertEqual(without_block(edited), PAGE)

    def test_html5lib_sees_the_same_page_and_the_icons(self):
        edited = edit_head(PAGE).after
        self.assertEqual(
            links(edited),
            [
                ("stylesheet", "/ferry.css"),
                ("icon", "/favicon.ico"),
                ("icon", "/icon-16.png"),
                ("icon", "/icon-32.png"),
                ("apple-touch-icon", "/apple-touch-icon.png"),
            ],
        )

    def test_earlier_icon_links_give_way_and_are_named(self):
        page = PAGE.replace(
            b"    <script>",
            b"    <link rel='shortcut icon' href='old.ico'>\n    <LINK REL=apple-touch-icon HREF=t.png>\n    <script>",
        )
        edit = edit_head(page)
        self.assertEqual(
            edit.removed, ("<link rel='shortcut icon' href='old.ico'>", "<LINK REL=apple-touch-icon HREF=t.png>")
        )
        self.assertEqual(edit.after, edit_head(PAGE).after)

    def test_heads_with_icons_or_links_without_end_are_bounded(self):
        icons = b"<head><title>a</title>" + b"<link rel=icon href=a>" * 300_000 + b"</head>"
        with self.assertRaises(HeadRefused) as caught:
            edit_head(icons)
        self.assertEqual(caught.exception.code, "too-many-icons")
        links = b"<head><title>a</title>" + b"<link rel=stylesheet href=a>" * 200_000 + b"</head>"
        self.assertIn(b"/favicon.ico", edit_head(links).after)

    def test_tile_pictures_give_way_and_a_manifest_only_to_another(self):
        tile, manifest = (
            b'<meta name="msapplication-TileImage" content="t.png">\n',
            b"<link rel=manifest href=m.json>\n",
        )
        page = PAGE.replace(b"    <script>", tile + manifest + b"    <script>")
        without, bringing = edit_head(page), edit_with(page, head_lines_of())
        self.assertNotIn(tile.strip(), without.after)
        self.assertIn(manifest, without.after)
        self.assertNotIn(manifest, bringing.after)
        self.assertEqual([link.kind for link in without.declared], ["msapplication-tileimage", "manifest"])

    def test_line_ends_and_other_encodings_are_kept(self):
        page = b"<HTML>\r\n<HEAD>\r\n<TITLE>Log \x96 caf\xe9</TITLE>\r\n</HEAD>\r\n<BODY></BODY>\r\n</HTML>\r\n"
        edited = edit_head(page).after
        self.assertEqual(edited.count(b"\n"), edited.count(b"\r\n"))
        self.assertEqual(without_block(edited), page)

    def test_xhtml_lines_are_closed(self):
        page = b'<html xmlns="http://www.w3.org/1999/xhtml"><head><title>a</title>\n</head></html>'
        self.assertIn(b'href="/apple-touch-icon.png" />', edit_head(page).after)

    def test_one_line_pages_stay_one_line(self):
        page = b"<html><head><title>x</title></head><body></body></html>"
        edited = edit_head(page).after
        self.assertNotIn(b"\n", edited)
        self.assertEqual(without_block(edited), page)

    def test_never_before_charset_and_title(self):
        page = b"<head>\n<link rel=icon href=a>\n<meta charset=utf-8>\n<title>t</title>\n</head>"
        edited = edit_head(page).after
        self.assertLess(edited.index(b"</title>"), edited.index(BEGIN.encode()))

    def test_only_the_real_head_counts(self):
        page = b"<!-- <head> --><?php echo '<head>'; ?><html><head>\n<title><head></title>\n</head><body><head></body>"
        self.assertEqual(without_block(edit_head(page).after), page)

    def test_refusals(self):
        for page, code in (
            (b"<p>only a fragment</p>", "no-head"),
            (b"<head><head></head>", "two-heads"),
            ("<head></head>".encode("utf-16"), "page-encoding"),
            (b"<head></head>" + b" " * LARGEST_PAGE, "page-too-large"),
            (b"<head>" + BEGIN.encode() + b"</head>", "broken-block"),
        ):
            self.assertEqual(code_of(page), code)


def tree(page: bytes) -> list[tuple[str, dict, str]]:
    """Every element with its attributes and text, without comments and without icon links, read by html5lib."""
    document = html5lib.parse(page, namespaceHTMLElements=False)
    return [
        (element.tag, dict(element.attrib), (element.text or "").strip())
        for element in document.iter()
        if isinstance(element.tag, str) and not (element.tag == "link" and "icon" in element.get("rel", ""))
    ]


class LeftOutHeadTests(TestCase):
    """HTML allows a page to leave the tags of its head out; a parser of the standard sees the same page after."""

    PAGES = (
        b"<!DOCTYPE html>\n<title>a</title>\n<link rel=stylesheet href=x.css>\n<p>text",
        b"<html>\r\n<title>x</title>\r\n<body>a</body></html>",
        b"<!doctype html><p>hi</p>",
        b"<HTML>\r\n<BODY>\r\n<H1>Log \x96</H1></BODY></HTML>",
        b"<!-- c -->\n<!doctype html>\n<meta charset=utf-8><title>t < u</title><style>p{}</style><script>1</script>.",
        b"<title>a</title><h1>b</h1>",
    )

    def test_the_same_page_but_for_the_icons(self):
        for page in self.PAGES:
            edited = edit_head(page).after
            self.assertEqual(tree(edited), tree(page), page)
            self.assertEqual(next(href for rel, href in links(edited) if rel == "icon"), "/favicon.ico")
            self.assertEqual(without_block(edited).split(), page.split())
            self.assertEqual(edit_head(edited).after, edited)

    def test_earlier_links_give_way_there_too(self):
        edit = edit_head(b"<!doctype html>\n<title>a</title>\n<link rel=icon href=x>\n<p>text")
        self.assertEqual(edit.removed, ("<link rel=icon href=x>",))

    def test_parts_of_pages_are_left_alone(self):
        for part in (
            b"text <title>a</title>",
            b"<?php include 'a.php'; ?>\n<p>part",
            b"<li>a",
            b"",
            b"{% for a in b %}x",
        ):
            self.assertEqual(code_of(part), "no-head", part)


class TemplateTests(TestCase):
    def test_templates_that_embed_other_languages(self):
        for before, after in (
            (b"<?php require 'x.php'; ?>\n", b"<?php wp(); ?>\n"),
            (b"{% load static %}\n", b"{{ extra }}\n"),
            (b'<%@ page language="x" %>\n', b"<%= head %>\n"),
        ):
            page = before + b"<html>\n<head>\n  <title>a</title>\n" + after + b"</head>\n<body></body></html>"
            edited = edit_head(page).after
            self.assertEqual(without_block(edited), page)
            self.assertLess(edited.index(END.encode()), edited.index(b"</head>"))

    def test_heads_that_differ_in_their_titles_only_are_of_one_template(self):
        first, second = (edit_head(PAGE.replace(b"Sailings", name)).template for name in (b"Fares", b"Boats"))
        self.assertEqual(first, second)
        self.assertEqual(edit_head(edit_head(PAGE).after).template, first)
        self.assertNotEqual(edit_head(PAGE.replace(b"ferry.css", b"other.css")).template, first)


ELEMENTS = st.sampled_from(
    [
        '<meta charset="utf-8">',
        "<title>a < b</title>",
        '<link rel="stylesheet" href="a.css">',
        "<link rel=icon href=x.png>",
        "<link rel='apple-touch-icon' href=\"t.png\"/>",
        "<!-- <link rel=icon> -->",
        "<script>if (a<b) '</head>'</script>".replace("</head>", "<head>"),
        "<style>a{}</style>",
        "<?php if ($a > 1): ?><meta name=a><?php endif; ?>",
        "{% block x %}",
    ]
)
PAGES = st.builds(
    lambda elements, newline, indent, tail: "".join(
        [
            "<html>",
            newline,
            "<head>",
            newline,
            *(f"{indent}{element}{newline}" for element in elements),
            "</head>",
            tail,
        ]
    ).encode("cp1252"),
    st.lists(ELEMENTS, max_size=6),
    st.sampled_from(["\n", "\r\n", ""]),
    st.sampled_from(["", "  ", "\t"]),
    st.sampled_from(["<body>é</body></html>", "", "\r\n<body>"]),
)


TITLES = st.sampled_from(
    [
        b"",
        b"Fares",
        b"caf\xe9 -- a > b",
        b"a\nb",
        b"</script>",
        b"<!--",
        b"-->",
        b"<?php",
        b"{%",
        b"</head>",
        b"</title>",
    ]
)


def with_title(page: bytes, title: bytes) -> bytes:
    if b"</title>" in page:
        return page.replace(b"</title>", title + b"</title>", 1)
    return page.replace(b"<head>", b"<head><TITLE>" + title + b"</TITLE>", 1)


class GeneratedPageTests(TestCase):
    @given(PAGES)
    @settings(max_examples=200, deadline=None)
    def test_editing_twice_changes_nothing_more(self, page):
        once = edit_head(page).after
        self.assertEqual(edit_head(once).after, once)

    @given(PAGES)
    @settings(max_examples=200, deadline=None)
    def test_every_byte_outside_the_block_and_the_old_links_is_kept(self, page):
        edit = edit_head(page)
        rest = without_block(edit.after)
        for link in edit.removed:
            page = page.replace(link.encode("cp1252"), b"", 1)
        self.assertEqual(b"".join(rest.split()), b"".join(page.split()))

    def test_pages_that_differ_in_their_titles_only_are_scanned_once(self):
        editor = HeadEditor(ICONS)
        with mock.patch("bexi.core.sitehead.edit.find_head", side_effect=find_head) as scanned:
            edits = [editor.edit(PAGE.replace(b"Sailings", title), "a.html") for title in (b"Fares", b"Boats", b"")]
        self.assertEqual(scanned.call_count, 1)
        self.assertEqual(len({edit.after for edit in edits}), 3)

    @given(PAGES, TITLES, TITLES)
    @settings(max_examples=300, deadline=None)
    def test_what_is_remembered_of_another_head_gives_the_same_edit(self, page, first, second):
        editor = HeadEditor(ICONS)
        for title in (first, second, first):
            for path in ("index.html", "deep/er.html"):
                titled = with_title(page, title)
                self.assertEqual(outcome(editor.edit, titled, path), outcome(edit_with, titled, ICONS, path))

    @given(st.text(alphabet="<>/ha=e\"'!-d?%{} \n", max_size=120))
    @settings(max_examples=300, deadline=None)
    def test_no_text_crashes_the_scanner(self, text):
        code_of(text.encode("latin-1"))
