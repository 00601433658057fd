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

    def test_prefixes_that_a_page_does_without_are_known(self):
        for root, body in (
            ("<svg", '<defs><rect id="a" width="64" height="64" fill="red"/></defs><use xlink:href="#a"/></svg>'),
            ("<svg:svg", '<svg:rect width="64" height="64" fill="red"/></svg:svg>'),
            ("<svg", '<g editor:label="b"><rect width="64" height="64" fill="red" xlink:title="t"/></g></svg>'),
        ):
            bare = f'{root} width="64" height="64">{body}'.encode()
            self.assertEqual(pixel(take_in(bare)[1]), RED, body)
        outside = b'<svg width="64" height="64"><image xlink:href="http://x.example/a.png"/></svg>'
        self.assertEqual(code_of(outside), "svg-external-reference")

    def test_text_keeps_its_words_in_order(self):
        markup = rebuilt("<text>a <tspan>b</tspan> c <a>d</a> e<title>f</title> g</text>").markup
        self.assertEqual("".join(ElementTree.fromstring(markup).itertext()), "a b c d e g")


class ModernStyleTests(TestCase):
    """What the renderer does not know by itself is written as what it does; each as Chromium draws it."""

    def test_colours_of_every_kind(self):
        # Examples of CSS Color 4: §9.3 and §9.4 for lab, lch, oklab and oklch, §7 and §8 for hsl and hwb.
        for said, channels in (
            ("lab(29.2345% 39.3825 20.0664)", "7d2329"),
            ("lab(52.2345% 40.1645 59.9971)", "c65d07"),
            ("lch(52.2345% 72.2 56.2)", "c65d06"),
            ("oklab(40.101% 0.1147 0.0453)", "7d2329"),
            ("oklch(40.101% 0.12332 21.555)", "7d2329"),
            ("hsl(120deg 100% 25%)", "008000"),
            ("hwb(90deg 10% 10%)", "80e61a"),
            ("rgb(50% 20% 10%)", "80331a"),
            ("light-dark(#0066cc, #fff)", "0066cc"),
            ("color(srgb 0 0.4 0.8)", "0066cc"),
            ("color(srgb-linear 0 1 0)", "00ff00"),
            ("color(display-p3 0 0 0)", "000000"),
            ("color(display-p3 1 1 1)", "ffffff"),
            ("color(xyz 0.9505 1 1.089)", "ffffff"),
        ):
            for written in (f'fill="{said}"', f'style="fill:{said}"'):
                picture = rebuilt(FILL.format(written))
                self.assertEqual(picture.left_out, (), said)
                shown, meant = np.array(pixel(picture)[:3], int), np.array([*bytes.fromhex(channels)], int)
                self.assertLessEqual(np.abs(shown - meant).max(), 1, said)
        self.assertEqual(pixel(rebuilt(FILL.format('fill="rgb(255 0 0 / 40%)"'))), [255, 0, 0, 102])
        # As a drawing program writes wide colours: what follows an older one counts, what is unknown does not.
        wide = "fill:#00f;fill:color(display-p3 1 0 0);fill:color(unknown 0 1 0)"
        self.assertEqual(pixel(rebuilt(FILL.format(f'style="{wide}"'))), RED)

    def test_variables_are_handed_down(self):
        # CSS Custom Properties 1 §2 and §3.
        for sheet, attributes in (
            (":root{--a:blue} rect{fill:var(--a)}", ""),
            (":root{--a:red} g{--a:blue} rect{fill:var(--a)}", ""),
            (":root{--a:var(--b);--b:blue} rect{fill:var(--a)}", ""),
            (":root{--b:255} rect{fill:rgb(0 0 var(--b))}", ""),
            ("rect{fill:var(--none, blue)}", ""),
            ("rect{fill:red;fill:var(--none)} g{fill:blue}", ""),
            (":root{--A:red;--a:blue}", 'fill="var(--a)"'),
            (":root{--a:blue}", 'style="fill:var(--a)"'),
            ("", 'style="--a:blue;fill:var(--a)"'),
            ("rect{--a:red} #r{--a:blue} rect{fill:var(--a)}", 'id="r"'),
            (":root{--a:blue} @media (prefers-color-scheme: dark){:root{--a:red}} rect{fill:var(--a)}", ""),
        ):
            picture = rebuilt(f"<style>{sheet}</style><g>{FILL.format(attributes)}</g>")
            self.assertEqual(pixel(picture), BLUE, sheet + attributes)

    def test_variables_without_end_mean_nothing(self):
        loop = "--a:var(--b);--b:var(--a);fill:var(--a)"
        growing = ";".join(f"--v{n + 1}:{f'var(--v{n}) ' * 10}" for n in range(12))
        for style in (loop, f"--v0:blue;{growing};fill:var(--v12)", "--a:rgb(var(--a));fill:var(--a)"):
            picture = rebuilt(FILL.format(f'style="{style}" fill="red"'))
            self.assertEqual(pixel(picture), RED)
            self.assertIn("styles", picture.left_out)

    def test_media_that_are_no_light_screen_are_left_out(self):
        for attributes, colour in (
            ('media="print"', BLUE),
            ('media="(prefers-color-scheme: dark)"', BLUE),
            ('media="screen"', RED),
            ("", RED),
        ):
            body = f"<style>rect{{fill:blue}}</style><style {attributes}>rect{{fill:red}}</style>"
            self.assertEqual(pixel(rebuilt(body + FILL.format(""))), colour)
        deep = rebuilt(f"<style>rect{{fill:blue}} {'@media all{' * 3000}rect{{fill:red}}</style>" + FILL.format(""))
        self.assertEqual((pixel(deep), deep.left_out), (BLUE, ("style rules",)))
        screen = "<style>rect{fill:blue} @media only screen{rect{fill:red}}</style>"
        self.assertEqual(pixel(rebuilt(screen + FILL.format(""))), RED)

    def test_transforms_with_units(self):
        # CSS Transforms 1 §8; each moves a square from the top left to the bottom right quarter.
        for said in (
            "translate(32px, 32px)",
            "translate(1in) translate(-2cm) translate(11.5908px) translateY(24pt)",
            "translate(64px, 64px) rotate(180deg)",
            "translate(64px,64px) rotate(.5turn)",
            "translate(64px, 64px) scale(-100%)",
            "translateX(64px) scaleX(-1) matrix(1, 0, 0, 1, 0, 32)",
            "translate(64px, 32px) rotate(100grad)",
            "rotate(180deg); transform-origin: 32px 32px",
            "rotate(180deg); transform-origin: center",
        ):
            square = f'<rect width="32" height="32" fill="red" style="transform:{said}"/>'
            shown = [pixel(rebuilt(square), *place) for place in ((8, 8), (56, 8), (8, 56), (56, 56))]
            self.assertEqual(shown, [[0, 0, 0, 0]] * 3 + [RED], said)
        stays = '<rect width="32" height="32" fill="red" style="transform:{}"/>'
        endless = ("rotate(1e999deg)", "scale(1e308) scale(1e308)", "skew(1e999deg)")
        for unknown in ("rotate(45)", "translate(10%)", "rotate(45deg, 2px)", "spin(3deg)", *endless):
            picture = rebuilt(stays.format(unknown))
            self.assertEqual((pixel(picture, 8, 8), picture.left_out), (RED, ("styles",)), unknown)

    def test_shapes_that_style_sheets_tell(self):
        for shape in (
            "<circle style='cx:32px;cy:32px;r:31px'/>",
            "<rect style='x:1px;y:1px;width:62px;height:62px'/>",
            "<rect x='99' width='62' height='62' style='x:1px'/>",
            "<ellipse style='cx:32px;cy:32px;rx:31px;ry:20px'/>",
            "<path style='d:path(\"M1 1H60V60H1z\")'/>",
        ):
            self.assertEqual(pixel(rebuilt(f"<style>*{{fill:blue}}</style>{shape}")), BLUE, shape)
        self.assertEqual(rebuilt("", "style='width:32px;height:16px'").height, 512)

    def test_short_entities_are_read(self):
        head = b'<!DOCTYPE svg [<!ENTITY ns "http://www.w3.org/2000/svg"><!ENTITY c "blue">]>'
        body = b'<svg xmlns="&ns;" width="64" height="64"><rect width="64" height="64" fill="&c;"/></svg>'
        self.assertEqual(pixel(take_in(head + body)[1]), BLUE)


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
