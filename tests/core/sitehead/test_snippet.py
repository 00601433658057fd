import re
from unittest import TestCase

import html5lib

from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.plan import READY_MADE
from bexi.core.sitehead.scan import find_head
from bexi.core.sitehead.snippet import marked
from tests.sets import SMALL, head_lines_of

WHOLE = READY_MADE["whole"]


def parsed(lines: list[str]) -> list[dict[str, str]]:
    """The attributes of every link, read by html5lib, a parser of the HTML standard."""
    head = html5lib.parse("\n".join(lines), namespaceHTMLElements=False).find("head")
    return [dict(link.attrib) for link in head.iter("link")]


class SnippetTests(TestCase):
    def test_lines_are_what_the_standard_asks_for(self):
        # WHATWG HTML, link type "icon": `sizes` is `any` or a list of WxH without leading zeros.
        for xhtml in (False, True):
            links = parsed(head_lines_of(WHOLE).lines(xhtml=xhtml))
            icons = [link for link in links if link["rel"] in ("icon", "apple-touch-icon")]
            self.assertEqual(len(icons), 16)
            for link in icons:
                self.assertTrue(all(re.fullmatch(r"[1-9]\d*x[1-9]\d*|any", one) for one in link["sizes"].split(" ")))
                self.assertTrue(link["type"].startswith("image/"))

    def test_the_best_icon_comes_last(self):
        # WHATWG HTML, link type "icon": of equally suitable icons the last in tree order is taken.
        icons = [link["href"] for link in parsed(head_lines_of(WHOLE).lines()) if link["rel"] == "icon"]
        self.assertEqual((icons[0], icons[1], icons[-1]), ("/favicon.ico", "/icon-16.png", "/icon.svg"))

    def test_pinned_tabs_get_the_colour_of_the_mark(self):
        (mask,) = (link for link in parsed(head_lines_of(WHOLE).lines()) if link["rel"] == "mask-icon")
        self.assertEqual(mask, {"rel": "mask-icon", "href": "/pinned-tab.svg", "color": "#123456"})

    def test_every_address_is_a_file_of_the_set(self):
        names = {f"/{spec.name}" for spec in WHOLE.specs}
        page = html5lib.parse("".join(head_lines_of(WHOLE).lines()), namespaceHTMLElements=False)
        hrefs = {link.get("href") for link in page.iter("link")}
        self.assertGreater(len(hrefs), 5)
        self.assertLessEqual(hrefs, names)

    def test_the_block_is_found_again(self):
        lines = head_lines_of(WHOLE).lines()
        text = "<head>" + "".join(marked(lines)) + "</head>"
        head = find_head(text)
        self.assertEqual((head.block.start, head.block.end), (len("<head>"), len(text) - len("</head>")))
        self.assertEqual(len(head.icon_links), len(lines))


class AddressTests(TestCase):
    def hrefs(self, addresses: Addresses, page: str = "") -> list[str]:
        return [link["href"] for link in parsed(head_lines_of(SMALL, addresses).lines(page))]

    def test_relative_addresses_lead_from_each_page_to_the_top(self):
        for page, href in (("index.html", "favicon.ico"), ("a/b/c.html", "../../favicon.ico")):
            self.assertEqual(self.hrefs(Addresses(""), page)[0], href)

    def test_another_host_and_a_path(self):
        for base in ("https://static.example/icons/", "/ferry/"):
            self.assertEqual(self.hrefs(Addresses(base), "a/b.html")[0], f"{base}favicon.ico")

    def test_a_stamp_changes_with_the_file_and_only_with_it(self):
        first, second = self.hrefs(Addresses(stamped=True)), self.hrefs(Addresses(stamped=True))
        self.assertEqual(first, second)
        self.assertEqual(len(set(first)), len(first))
        self.assertRegex(first[0], r"^/favicon\.ico\?v=[0-9a-f]{8}$")

    def test_the_tile_configuration_is_named_where_it_is_not_found_by_itself(self):
        named = "msapplication-config"
        self.assertNotIn(named, "".join(head_lines_of(WHOLE).lines()))
        self.assertIn(named, "".join(head_lines_of(WHOLE, Addresses("/icons/")).lines()))
