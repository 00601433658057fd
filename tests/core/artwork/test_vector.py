import base64
from unittest import TestCase

import numpy as np

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.limits import Limits
from bexi.core.artwork.svg.checking import SMALLEST_GRID
from bexi.core.artwork.vector import render, render_whole
from bexi.core.errors import ArtworkRefused
from tests.pictures import BLUE_DISC, plain_png


def svg(body: str, attributes: str = 'width="100" height="100"') -> bytes:
    xlink = 'xmlns:xlink="http://www.w3.org/1999/xlink"'
    return f'<svg xmlns="http://www.w3.org/2000/svg" {xlink} {attributes}>{body}</svg>'.encode()


def code_of(data: bytes, limits: Limits | None = None) -> str:
    try:
        take_in(data, limits or Limits())
    except ArtworkRefused as refusal:
        return refusal.code
    return "taken in"


class RenderingTests(TestCase):
    def test_disc_covers_its_analytic_area(self):
        _, picture = take_in(BLUE_DISC)
        side = picture.height  # the left half of the artwork: a disc of radius 0.4 sides
        for size in (16, 64, 256):
            alpha = render(picture, 0, 0, side, size)[..., 3] / 255
            self.assertAlmostEqual(alpha.sum(), np.pi * (0.4 * size) ** 2, delta=0.02 * size * size)

    def test_what_lies_far_to_the_right_or_below_is_drawn_whatever_layers_it_lies_in(self):
        mark = '<rect width="9" height="9"/><path d="M880 850h100v100H880z" fill="red"/>'
        layers = {
            "opacity": '<g opacity=".999999">{}</g>',
            "clip": '<clipPath id="c{n}"><path d="M-9-9H1100V1100H-9Z"/></clipPath><g clip-path="url(#c{n})">{}</g>',
            "picture": '<svg width="1024" height="1024" viewBox="0 0 1024 1024">{}</svg>',
        }
        for box in ("0 0 1024 1024", "-512 -512 2048 2048", "512 512 512 512"):
            for name, layer in layers.items():
                drawn = []
                for depth in range(5):
                    nested = mark
                    for n in range(depth):
                        nested = layer.format(nested, n=n)
                    picture = take_in(svg(nested, f'viewBox="{box}"'))[1]
                    left, _, length = (float(box.split()[at]) for at in (0, 1, 2))
                    scale = picture.width / length
                    x, y = (int((edge - left) * scale) for edge in (870, 840))
                    drawn.append(render(picture, x, y, int(120 * scale), 32).astype(int))
                self.assertGreater(drawn[0][..., 3].max(), 200)
                for depth, one in enumerate(drawn):
                    self.assertLessEqual(abs(one - drawn[0]).max(), 2, (box, name, depth))

    def test_outside_the_artwork_stays_clear(self):
        box = 'viewBox="0 0 60 60"'
        rule = "<style>svg { overflow: visible !important }</style>"
        for attributes, style in (
            (box, ""),
            (f'{box} overflow="visible"', ""),
            (box, rule),
            (f'{box} style="overflow: visible"', ""),
        ):
            with self.subTest(attributes + style):
                _, picture = take_in(svg(f'{style}<rect x="-500" y="-500" width="2000" height="2000"/>', attributes))
                padded = render(picture, -picture.width // 2, 0, picture.width, 20)
                self.assertEqual(padded[:, :9, 3].max(), 0)
                self.assertEqual(padded[:, 11:, 3].min(), 255)

    def test_what_is_seen_inside_is_the_same_whether_it_is_clipped_or_not(self):
        _, picture = take_in(BLUE_DISC)
        side = picture.height
        inside = render(picture, 0, 0, side, 64)
        beyond = render(picture, 0, -side // 2, 2 * side, 128)  # reaches outside, so it is clipped
        apart = np.abs(inside.astype(int) - beyond[32:96, :64])
        self.assertLessEqual(apart[..., 3].max(), 64)  # a quarter of a px, in which edges are counted
        self.assertLess((apart > 2).any(axis=-1).mean(), 0.05)

    def test_sizes_come_from_attributes_or_view_box(self):
        # SVG 2 §8.2 and CSS 2.2 §10.3.2: 300 × 150 when nothing says otherwise.
        for attributes, ratio in (
            ('width="40" height="10"', 4.0),
            ('viewBox="0 0 30 60"', 0.5),
            ('width="2cm" viewBox="0 0 10 5"', 2.0),
            ("", 2.0),
        ):
            _, picture = take_in(svg("<circle r='9'/>", attributes))
            self.assertAlmostEqual(picture.width / picture.height, ratio, places=2)
            self.assertEqual(max(picture.width, picture.height), SMALLEST_GRID)

    def test_script_is_never_run_and_links_are_harmless(self):
        data = svg('<script>alert(1)</script><a href="https://merrowmouth.example"><rect width="9" height="9"/></a>')
        self.assertEqual(render_whole(take_in(data)[1], 100)[2, 2, 3], 255)

    def test_live_text_is_noticed(self):
        self.assertTrue(take_in(svg("<text y='20'>MF</text>"))[1].live_text)


class RefusalTests(TestCase):
    def test_external_references(self):
        for body in (
            '<image href="https://merrowmouth.example/a.png"/>',
            '<image xlink:href="file:///etc/passwd"/>',
            '<image href="a.png"/>',
            '<use href="other.svg#part"/>',
            '<rect fill="url(https://merrowmouth.example/p.svg#x)"/>',
            "<style>@import 'a.css';</style>",
            "<style>rect{fill:url( 'b.svg#x' )}</style>",
            '<image href="data:image/svg+xml;base64,PHN2Zy8+"/>',
        ):
            self.assertEqual(code_of(svg(body)), "svg-external-reference", body)
        self.assertEqual(code_of(b'<?xml-stylesheet href="a.css"?>' + svg("")), "svg-external-reference")

    def test_entity_bomb(self):
        bomb = b'<!DOCTYPE svg [<!ENTITY a "xxxxxxxxxx"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">]>'
        self.assertEqual(code_of(bomb + svg("<text>&b;</text>")), "svg-entities")

    def test_reuse_bomb(self):
        levels = "".join(
            f'<g id="l{n}">{f"<use href=%sl{n - 1}%s/>" % (chr(34) + "#", chr(34)) * 10}</g>' for n in range(1, 9)
        )
        self.assertEqual(code_of(svg(f'<g id="l0"><rect/></g>{levels}<use href="#l8"/>')), "svg-too-heavy")

    def test_deep_nesting_and_loops_end(self):
        self.assertEqual(code_of(svg("<g>" * 5000 + "</g>" * 5000)), "svg-too-heavy")
        self.assertEqual(code_of(svg("<g>" * 190 + "</g>" * 190)), "taken in")
        code_of(svg('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>'))

    def test_broken_and_oversized(self):
        self.assertEqual(code_of(svg("<g>")), "broken-picture")
        self.assertEqual(code_of(svg("", 'width="90000" height="90000"')), "too-many-pixels")
        image = base64.b64encode(plain_png(200, 200)).decode()
        embedded = svg(f'<image width="9" height="9" href="data:image/png;base64,{image}"/>')
        self.assertEqual(code_of(embedded), "taken in")
        self.assertEqual(code_of(embedded, Limits(pixels=30_000)), "too-many-pixels")


class Utf16Tests(TestCase):
    """An SVG in UTF-16, as some programs save it (XML 1.0, appendix F: told by its first bytes)."""

    def test_it_is_read_like_the_same_in_utf_8(self):
        text = BLUE_DISC.decode()
        for prolog in ("", '<?xml version="1.0" encoding="UTF-16"?>\n', "<!-- drawn -->"):
            plain = take_in(BLUE_DISC)[1]
            for encoding in ("utf-16", "utf-16-le", "utf-16-be"):
                data = (prolog + text).encode(encoding)
                for marked in (data, "\ufeff".encode(encoding) + data if encoding != "utf-16" else data):
                    picture_format, vector = take_in(marked)
                    self.assertEqual((picture_format.label, vector.markup), ("SVG", plain.markup), (prolog, encoding))

    def test_a_style_sheet_outside_is_seen_there_too(self):
        data = ('<?xml-stylesheet href="http://x.example/a.css"?>' + BLUE_DISC.decode()).encode("utf-16")
        with self.assertRaises(ArtworkRefused):
            take_in(data)
