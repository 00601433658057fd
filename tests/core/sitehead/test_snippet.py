import re
from unittest import TestCase

import html5lib

from bexi.core.iconset.catalogue import CATALOGUE, ICONS, MANIFEST
from bexi.core.sitehead.scan import attribute_values, find_head
from bexi.core.sitehead.snippet import head_lines, marked


class SnippetTests(TestCase):
    def test_lines_are_what_the_standard_asks_for(self):
        # WHATWG HTML, link type "icon": `sizes` is a list of WxH without leading zeros; parsed by html5lib.
        for xhtml in (False, True):
            head = html5lib.parse("\n".join(head_lines(xhtml)), namespaceHTMLElements=False).find("head")
            links = [link.attrib for link in head.iter("link")]
            self.assertEqual([link["rel"] for link in links], ["icon", "icon", "icon", "apple-touch-icon", "manifest"])
            for link in links[:-1]:
                self.assertTrue(all(re.fullmatch(r"[1-9]\d*x[1-9]\d*", size) for size in link["sizes"].split(" ")))
                self.assertTrue(link["type"].startswith("image/"))

    def test_every_address_is_a_file_of_the_set(self):
        names = {f"/{spec.name}" for spec in CATALOGUE}
        self.assertLessEqual(set(attribute_values("".join(head_lines()), "link", "href")), names)

    def test_the_block_is_found_again(self):
        text = "<head>" + "".join(marked(head_lines())) + "</head>"
        head = find_head(text)
        self.assertEqual((head.block.start, head.block.end), (len("<head>"), len(text) - len("</head>")))
        self.assertEqual(len(head.icon_links), 5)


class CatalogueTests(TestCase):
    def test_every_file_has_its_reason_and_source(self):
        for spec in CATALOGUE:
            self.assertTrue(spec.why.endswith(".") and spec.source and spec.title, spec.name)

    def test_conventional_names_and_sizes(self):
        # Names and sizes by convention and the makers' public documentation, from memory.
        sizes = {spec.name: spec.sizes for spec in ICONS}
        self.assertEqual(sizes["favicon.ico"], (16, 32, 48))
        self.assertEqual(sizes["apple-touch-icon.png"], (180,))
        self.assertEqual([spec.sizes[0] for spec in ICONS if spec.in_manifest], [192, 512])
        self.assertEqual([spec.name for spec in ICONS if spec.opaque], ["apple-touch-icon.png"])
        self.assertEqual(MANIFEST.media_type, "application/manifest+json")
