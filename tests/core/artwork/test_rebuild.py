"""SVG files of strangers, written anew: what draws stays, everything else is gone and told."""

import base64
import time
from unittest import TestCase
from xml.etree import ElementTree

import numpy as np

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.limits import Limits
from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.svg.allowed import ELEMENTS
from bexi.core.artwork.vector import render
from tests.core.artwork.test_vector import code_of, svg
from tests.pictures import plain_png


def rebuilt(body: str, attributes: str = 'width="64" height="64"') -> Vector:
    return take_in(svg(body, attributes))[1]


def pixel(picture: Vector, x: int = 32, y: int = 32) -> list[int]:
    return render(picture, 0, 0, max(picture.width, picture.height), 64)[y, x].tolist()


XHTML = 'xmlns="http://www.w3.org/1999/xhtml"'
FILL = '<rect width="64" height="64" {}/>'
RED, BLUE = [255, 0, 0, 255], [0, 0, 255, 255]


class NothingElseTests(TestCase):
    def test_what_could_act_or_fetch_is_gone_and_told(self):
        for body, told in (
            ("<script>alert(1)</script>", "scripts"),
            (FILL.format('onload="alert(1)" onCLICK="x"'), "event handlers"),
            ('<a href="javascript:alert(1)"><rect width="9" height="9"/></a>', "links"),
            (f'<foreignObject><iframe {XHTML} src="http://x.example/"/></foreignObject>', "web page content"),
            (f'<link {XHTML} rel="stylesheet" href="http://x.example/a.css"/>', "web page content"),
            (f'<img {XHTML} src="http://x.example/a.png"/>', "web page content"),
            ('<rect><animate attributeName="x" to="9"/><set attributeName="y" to="1"/></rect>', "animations"),
            ("<style>@font-face{font-family:a;src:url(http://x.example/a.woff)}</style>", "style rules"),
            ("<style>rect{behavior:url(#x);-moz-binding:none}</style>", "style rules"),
            (FILL.format('style="background:image-set(&quot;http://x.example/a.png&quot; 1x)"'), "styles"),
            ('<x:y xmlns:x="urn:editor"/>', "data for editors"),
            ("<unknown/>", "<unknown>"),
        ):
            picture = rebuilt(body)
            self.assertIn(told, picture.left_out, body)
            for trace in ("script", "alert", "http:", "href", "onload", "x.example", "html"):
                self.assertNotIn(trace, picture.markup.replace('xmlns="http://www.w3.org/2000/svg"', ""), body)

    def test_only_allowed_elements_of_one_namespace_are_written(self):
        picture = rebuilt('<g><title>a</title><metadata><x/></metadata><rect width="9" height="9"/></g>')
        tags = {element.tag for element in ElementTree.fromstring(picture.markup).iter()}
        self.assertEqual(tags, {"{http://www.w3.org/2000/svg}" + name for name in ("svg", "g", "rect")})
        self.assertNotIn("script", ELEMENTS)

    def test_whatever_is_drawn_from_elsewhere_is_refused_however_it_is_written(self):
        for body in (
            "<style>@\\69mport 'a.css';</style>",
            "<style>@IMPORT url(a.css);</style>",
            "<style>rect{fill:u\\72l(b.svg#x)}</style>",
            FILL.format('fill="u\\72l(http://x.example/#a)"'),
            FILL.format("style=\"fill:URL( 'http://x.example/#a' )\""),
            FILL.format('filter="url(//x.example/#a)"'),
            "<image href='DATA:image/svg+xml,&lt;svg/&gt;'/>",
            "<use href=' other.svg#a'/>",
            "<feImage href='http://x.example/'/>",
        ):
            self.assertEqual(code_of(svg(body)), "svg-external-reference", body)

    def test_what_drawing_programs_write_by_the_dozen_is_not_worth_a_word(self):
        style = "enable-background:new 0 0 9 9;line-height:1.2;-editor-thing:1;--own:2;fill:#f00"
        picture = rebuilt(FILL.format(f'style="{style}"'))
        self.assertEqual((picture.left_out, pixel(picture)), ((), RED))

    def test_names_meet_none_of_our_own(self):
        picture = rebuilt(
            '<linearGradient id="bexi-recoloured"><stop stop-color="red"/></linearGradient>'
            "<style>.bexi-ink{display:none} #r{fill:url(#bexi-recoloured)} rect{stroke:none}</style>"
            '<rect id="r" class="bexi-ink x" width="64" height="64" style="display:inline"/>'
        )
        self.assertEqual(pixel(picture), RED)
        for trace in ("bexi", "class", "<style", "gone"):
            self.assertNotIn(trace, picture.markup)


class SameDrawingTests(TestCase):
    def test_styles_count_as_in_css(self):
        # CSS Cascade 4 §6: importance, then the style attribute, then specificity, then order; attributes are weakest.
        for styles, attributes in (
            ("rect{fill:blue}", 'fill="red"'),
            ("rect{fill:red} rect{fill:blue}", ""),
            ("#r{fill:blue} rect{fill:red} .c{fill:red}", 'id="r" class="c"'),
            ("g>.c{fill:blue} .c{fill:red}", 'class="c"'),
            ("rect{fill:red}", 'style="fill:blue"'),
            ("rect{fill:blue!important}", 'style="fill:red"'),
            ("svg{color:blue} rect{fill:currentColor}", ""),
            (":root{fill:blue}", ""),
            ("rect:first-child{fill:blue}", ""),
            ("/*a*/ rect{/*b*/fill/*c*/:/*d*/blue}", ""),
            ("@media print{rect{fill:red}} rect{fill:blue}", ""),
            ("rect{fill:rgb(0 0 255)} rect::before{fill:red}", ""),
        ):
            picture = rebuilt(f"<style>{styles}</style><g>{FILL.format(attributes)}</g>")
            self.assertEqual(pixel(picture), BLUE, styles)

    def test_references_are_kept_under_their_new_names(self):
        for body in (
            '<defs><rect id="a b" width="64" height="64" fill="red"/></defs><use xlink:href="#a b"/>',
            '<clipPath id="c"><rect width="64" height="64"/></clipPath>'
            + FILL.format('fill="red" clip-path="url(#c)"'),
            '<pattern id="p" width="1" height="1"><rect width="64" height="64" fill="red"/></pattern>'
            + FILL.format("style=\"fill:url('#p')\""),
            '<rect id="x" width="64" height="64" fill="red"/><rect id="x" width="9" height="9"/><use href="#x"/>',
        ):
            self.assertEqual(pixel(rebuilt(body)), RED, body)

    def test_embedded_bitmaps_are_read_and_counted_however_they_are_written(self):
        data = base64.b64encode(plain_png(200, 200, "#ff0000")).decode()
        for address in (
            f"data:image/png;base64,{data}",
            f"DATA:IMAGE/PNG;BASE64,{data}",
            f" data:;base64,{data[:40]}\n{data[40:]}",
            f"data:image/gif;base64,{data}",
        ):
            body = f'<image width="64" height="64" href="{address}"/>'
            self.assertEqual(pixel(rebuilt(body)), RED)
            self.assertEqual(code_of(svg(body * 3), Limits(pixels=1_500_000)), "taken in")
            self.assertEqual(code_of(svg(body * 40), Limits(pixels=1_500_000)), "too-many-pixels")
        broken = svg('<image href="data:image/png;base64,AAAA"/>')
        self.assertEqual(code_of(broken), "broken-picture")

    def test_a_file_without_a_namespace_is_drawn_and_checked_all_the_same(self):
        bare = b"<svg width='64' height='64'><style>rect{fill:red}</style><rect width='64' height='64'/></svg>"
        self.assertEqual(pixel(take_in(bare)[1]), RED)
        self.assertIn('xmlns="http://www.w3.org/2000/svg"', take_in(bare)[1].markup)
        self.assertEqual(code_of(bare.replace(b"fill:red", b"fill:url(a.svg#x)")), "svg-external-reference")

    def test_text_keeps_its_words_in_order(self):
        markup = rebuilt("<text>a <tspan>b</tspan> c <a>d</a> e<title>f</title> g</text>").markup
        self.assertEqual("".join(ElementTree.fromstring(markup).itertext()), "a b c d e g")


class BoundTests(TestCase):
    def test_noise_without_end_is_bounded_and_looks_the_same(self):
        def noise(octaves: str) -> np.ndarray:
            filters = f'<filter id="f"><feTurbulence baseFrequency=".1" numOctaves="{octaves}"/></filter>'
            return render(rebuilt(filters + FILL.format('filter="url(#f)"')), 0, 0, 1024, 64)

        start = time.process_time()
        endless = noise("100000000")
        self.assertLess(time.process_time() - start, 5)
        self.assertLessEqual(np.abs(endless.astype(int) - noise("10")).max(), 1)

    def test_sizes_beyond_all_numbers(self):
        for attributes, code in (
            ('width="1e400"', "too-many-pixels"),
            ('width="1e300" height="1e-300"', "too-many-pixels"),
            ('viewBox="0 0 1e999 1e999"', "taken in"),
            ('viewBox="0 0 inf nan"', "taken in"),
            ('viewBox="-1e999 0 10 10"', "taken in"),
            ('width="120000" height="1"', "too-many-pixels"),
        ):
            self.assertEqual(code_of(svg("<rect/>", attributes)), code, attributes)

    def test_reuse_through_style_sheets_is_weighed(self):
        ten = [f'<rect class="c{n}"/>' * 10 for n in range(8)]
        levels = "".join(
            f'<pattern id="p{n}" width="1" height="1">{inside}</pattern>' for n, inside in enumerate(ten, 1)
        )
        rules = "".join(f".c{n}{{fill:url(#p{n})}}" for n in range(9))
        self.assertEqual(code_of(svg(f"<style>{rules}</style>{levels}<rect class='c8'/>")), "svg-too-heavy")

    def test_rules_without_end_are_refused(self):
        self.assertEqual(code_of(svg(f"<style>{'a,b{fill:red}' * 3000}</style>")), "svg-too-heavy")
