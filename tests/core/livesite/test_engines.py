from unittest import TestCase

from bexi.core.formats import ico
from bexi.core.livesite.engines import BLINK, GECKO, WEBKIT
from bexi.core.livesite.launchers import app, home_screen, search
from bexi.core.livesite.media import DARK, is_true
from tests.core.livesite.site import HOME, FakeSite, page
from tests.pictures import noise, plain_png

SVG = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path d="M0 0h8v8z"/></svg>'
FILES = {
    **{f"{side}.png": plain_png(side, side) for side in (16, 32, 48, 180, 192, 512)},
    **{"a.png": plain_png(16, 16), "b.png": plain_png(16, 16), "icon.svg": SVG, "broken.png": b"<!doctype html>"},
    "i.ico": ico.write([noise(32, 32)]),
    "favicon.ico": ico.write([noise(16, 16)]),
}
SIZED = '<link rel="icon" href="{0}.png" sizes="{0}x{0}">'


def taken(engine, head: str, files=FILES, body: str = "", **options):
    site = FakeSite(files)
    found = engine.take(page(head, body), site.once().look, **options)
    return found.address.removeprefix(HOME), [address.removeprefix(HOME) for address in found.asked]


class EngineTests(TestCase):
    def test_what_was_seen_of_the_engines(self):
        """Asked of Debian's chromium 156 and firefox-esr 153: what each got, in a fresh profile, in its order."""
        icon = '<link rel="icon" href="{}"{}>'.format
        for head, body, blink, gecko in (
            ("", "", ["favicon.ico"], ["favicon.ico"]),
            (
                icon("i.ico", ' sizes="32x32"') + icon("icon.svg", ' type="image/svg+xml"'),
                "",
                ["icon.svg"],
                ["icon.svg"],
            ),
            (
                icon("icon.svg", ' type="image/svg+xml" sizes="any"') + icon("i.ico", ' sizes="any"'),
                "",
                ["i.ico", "icon.svg"],
                ["icon.svg"],
            ),
            ("".join(SIZED.format(side) for side in (16, 32, 48, 192)), "", ["32.png"], ["16.png", "192.png"]),
            (icon("a.png", ' sizes="16x16"') + icon("b.png", ' sizes="16x16"'), "", ["b.png"], ["b.png"]),
            (icon("a.png", "") + icon("b.png", ""), "", ["b.png", "a.png"], ["b.png"]),
            (SIZED.format(16) + icon("gone.png", ""), "", ["gone.png", "16.png"], ["16.png"]),
            (icon("a.png", "") + icon("gone.png", ""), "", ["gone.png", "a.png"], ["gone.png"]),
            ('<link rel="apple-touch-icon" href="180.png">', "", ["favicon.ico"], ["favicon.ico", "180.png"]),
            ('<link rel="manifest" href="m.webmanifest">', "", ["favicon.ico"], ["favicon.ico"]),
            (
                icon("a.png", ' media="(prefers-color-scheme: light)"')
                + icon("b.png", ' media="(prefers-color-scheme: dark)"'),
                "",
                ["a.png"],
                ["b.png"],
            ),
            ("", icon("a.png", ""), ["favicon.ico"], ["a.png"]),
        ):
            self.assertEqual(taken(BLINK, head, body=body)[1], blink, head)
            self.assertEqual(taken(GECKO, head, body=body)[1], gecko, head)

    def test_the_scheme_decides_between_media_where_they_are_heeded(self):
        head = (
            '<link rel="icon" href="a.png" media="(prefers-color-scheme: light)">'
            '<link rel="icon" href="b.png" media="(prefers-color-scheme:dark)">'
        )
        self.assertEqual([taken(BLINK, head)[0], taken(BLINK, head, scheme=DARK)[0]], ["a.png", "b.png"])
        for media, true in (
            ("", True),
            ("print", False),
            ("not print", True),
            ("screen and (min-width: 1px)", True),
            ("not all", False),
            ("print, screen", True),
            ("only screen and (prefers-color-scheme: dark)", False),
            ("not screen and (prefers-color-scheme: dark)", True),
            ("not (prefers-color-scheme: dark)", True),
            ("not (prefers-color-scheme: light)", False),
            ("(not (prefers-color-scheme: light))", False),
            ("screen and (not (prefers-color-scheme: dark))", True),
            ("screen and (not (prefers-color-scheme: light))", False),
            ("not all and (prefers-color-scheme: light)", False),
            ("not (print)", False),  # a feature that is not understood counts as true, so this does not
            ("(prefers-color-scheme: dark) or (prefers-color-scheme: light)", True),
            ("(prefers-color-scheme: light) and (not (prefers-color-scheme: dark))", True),
            ("not ((prefers-color-scheme: dark) or (prefers-color-scheme: light))", False),
            ("print, not (prefers-color-scheme: dark)", True),
            ("((((" * 2000, True),
        ):
            self.assertEqual(is_true(media), true, media)

    def test_reasons_are_sentences_about_what_decided(self):
        look = FakeSite(FILES).once().look
        told = GECKO.take(page('<link rel="icon" type="image/svg+xml" href="icon.svg">'), look).why
        self.assertEqual(told, "uses /icon.svg: by type it prefers SVG")
        head = SIZED.format(16) + '<link rel="icon" href="broken.png">'
        told = BLINK.take(page(head), look).why
        self.assertIn("fits a tab best; /broken.png comes before it, but is no picture", told)
        self.assertIn("/favicon.ico: status 404", BLINK.take(page(), FakeSite({}).once().look).why)

    def test_an_svg_with_a_wrong_type_is_no_picture_to_a_browser(self):
        head = '<link rel="icon" href="icon.svg">' + SIZED.format(16)
        site = FakeSite(FILES, headers={"icon.svg": {"content-type": "text/plain"}})
        for engine in (BLINK, WEBKIT):
            self.assertEqual(engine.take(page(head), site.once().look).address, f"{HOME}16.png")

    def test_what_bexi_refuses_and_a_browser_shows_is_taken(self):
        outside = SVG.replace(b"<path", b'<image href="http://else.example/a.png"/><path')
        page_with = page('<link rel="icon" href="icon.svg">')
        for data, works in ((outside, True), (b"<svg><not closed", False)):
            found = BLINK.take(page_with, FakeSite({"icon.svg": data}).once().look)
            self.assertEqual(bool(found.address), works, data)

    def test_gecko_may_show_what_it_gets_for_its_start_page(self):
        found = GECKO.take(page(SIZED.format(16) + SIZED.format(192)), FakeSite(FILES).once().look)
        self.assertEqual((found.address, found.maybe), (f"{HOME}16.png", (f"{HOME}192.png",)))


class LauncherTests(TestCase):
    """By the phone makers' public documentation [from memory]."""

    def take(self, launcher, head: str = "", files=FILES) -> str:
        found = launcher(page(head), FakeSite(files).once().look)
        return found.address.removeprefix(HOME)

    def test_home_screen_by_size_then_name_then_manifest_then_a_small_picture_of_the_page(self):
        touch = '<link rel="apple-touch-icon" sizes="{0}x{0}" href="{0}.png">'.format
        self.assertEqual(self.take(home_screen, touch(192) + touch(180) + touch(48)), "180.png")
        self.assertEqual(self.take(home_screen, touch(512) + touch(192)), "192.png")
        self.assertEqual(self.take(home_screen, touch(16) + touch(48)), "48.png")
        self.assertEqual(self.take(home_screen, '<link rel="apple-touch-icon" href="b.png">' + touch(48)), "b.png")
        self.assertEqual(
            self.take(home_screen, files={"apple-touch-icon.png": FILES["180.png"]}), "apple-touch-icon.png"
        )
        manifest = b'{"icons":[{"src":"192.png","sizes":"192x192"},{"src":"512.png","sizes":"512x512"}]}'
        link = '<link rel="manifest" href="m.webmanifest">'
        self.assertEqual(self.take(home_screen, link, {**FILES, "m.webmanifest": manifest}), "192.png")
        found = home_screen(page(), FakeSite({}).once().look)
        self.assertIn("a small picture of the page", found.why)

    def test_an_app_takes_a_masked_icon_first_and_goes_on_when_it_fails(self):
        members = (
            b'{"icons":[{"src":"i/512.png","sizes":"512x512","purpose":"maskable any"},'
            b'{"src":"i/192.png","sizes":"192x192","purpose":"maskable"},{"src":"i/48.png","sizes":"48x48"}]}'
        )
        files = {"i/512.png": FILES["512.png"], "i/192.png": FILES["192.png"], "i/48.png": FILES["48.png"]}
        link = '<link rel="manifest" href="m.webmanifest">'
        with_manifest = {**files, "m.webmanifest": members}
        self.assertEqual(self.take(app, link, with_manifest), "i/192.png")
        self.assertEqual(self.take(app, link, {**with_manifest, "i/192.png": b"x"}), "i/512.png")
        only_small = {"i/48.png": FILES["48.png"], "m.webmanifest": members}
        self.assertEqual(self.take(app, link, only_small), "i/48.png")
        touch = '<link rel="apple-touch-icon" href="180.png">'
        for broken in (b"no json", b"[]", b'{"icons":"x"}', b'{"icons":[1,{"src":7}]}'):
            self.assertEqual(self.take(app, link + touch, {**FILES, "m.webmanifest": broken}), "180.png")

    def test_a_search_result_wants_48_px_of_the_home_page(self):
        self.assertEqual(self.take(search, SIZED.format(16) + SIZED.format(48) + SIZED.format(192)), "48.png")
        self.assertEqual(self.take(search, SIZED.format(16)), "16.png")
        self.assertEqual(self.take(search), "favicon.ico")
