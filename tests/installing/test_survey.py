import json
from unittest import TestCase, mock

from PIL import Image

from bexi.core.errors import HostRefused
from bexi.core.formats import ico
from bexi.core.livesite.inspect import inspect
from bexi.core.sitehead.link import IconLink
from bexi.hosts.careful import CarefulHost
from bexi.installing.plan import plan_install
from bexi.installing.survey import MOST_LINES, Found, SiteSurvey
from tests.core.livesite.site import HOME, FakeSite
from tests.installing.places import MemoryStorage
from tests.pictures import BLUE_DISC, encoded, noise, plain_png
from tests.sets import SMALL, head_lines_of

GOOD_ICO = ico.write([noise(16, 16), noise(32, 32)])


def page(*lines: str) -> bytes:
    return f"<html><head><title>a</title>\n{''.join(lines)}</head></html>".encode()


def found(files: dict[str, bytes]) -> dict[str, Found]:
    """What is found, by path."""
    plan = plan_install(CarefulHost(MemoryStorage(files)), head_lines_of(SMALL))
    return {one.path: one for one in plan.found}


class SurveyTests(TestCase):
    """What a site has before anything is installed, each flaw with its evidence."""

    def test_a_good_icon_is_described_without_a_problem(self):
        link = '<link rel="shortcut icon" type="image/x-icon" sizes="16x16 32x32" href="../favicon.ico">'
        site = {"a/index.html": page(link), "a/b.html": page(link), "favicon.ico": GOOD_ICO}
        self.assertEqual(
            list(found(site).values()),
            [Found("favicon.ico", "icon", 2, f"ICO, 16 × 16, 32 × 32 px, {len(GOOD_ICO):,} bytes", ())],
        )

    def test_icons_made_to_harm_neither_hang_nor_raise(self):
        noise_without_end = (
            b'<svg xmlns="http://www.w3.org/2000/svg"><filter id="f"><feTurbulence baseFrequency="9" '
            b'numOctaves="100000000"/></filter><rect width="999" height="999" filter="url(#f)"/></svg>'
        )
        for data in (noise_without_end, b"II*\0" + bytes(99), b"\x89PNG\r\n\x1a\n" + bytes(50)):
            site = {"index.html": page("<link rel=icon href=i.ico>"), "i.ico": data}
            with mock.patch("bexi.sandbox.children.SECONDS", 5):
                self.assertTrue(found(site)["i.ico"].problems)

    def test_looking_can_be_stopped(self):
        class Stopped(Exception):
            pass

        looked = []

        def watch(done: int, total: int) -> None:
            looked.append(done)
            if len(looked) > 5:
                raise Stopped

        links = [f"<link rel=icon sizes={n}x{n} href={n}.png>" for n in range(50)]
        files = {"index.html": page(*links), **{f"{n}.png": b"x" for n in range(50)}}
        with self.assertRaises(Stopped):
            plan_install(CarefulHost(MemoryStorage(files)), head_lines_of(SMALL), watch=watch)

    def test_what_a_template_names_by_code_is_not_called_missing(self):
        told = found({"index.html": page("<link rel=icon href=\"{{ asset('x.png') }}\">")})
        self.assertEqual([one.problems for one in told.values()], [()])

    def test_a_map_of_a_build_is_not_taken_for_a_manifest(self):
        self.assertNotIn("manifest.json", found({"index.html": page(), "manifest.json": b'{"main.js": "main.1.js"}'}))

    def test_each_problem_is_told(self):
        jpeg = encoded(Image.new("RGB", (300, 180)), "JPEG")
        clear = encoded(Image.new("RGBA", (180, 180)), "PNG")
        for link, files, told in (
            ("", {}, "fall back on /favicon.ico"),
            ("", {"favicon.ico": jpeg}, "Not an ICO: By its content it is a JPEG picture."),
            ("", {"favicon.ico": jpeg}, "Not square: 300 × 180 px."),
            ('<link rel=icon href="/gone.png">', {}, "There is no such file"),
            (
                '<link rel=icon type=image/gif href="/t.png">',
                {"t.png": clear},
                "Declared as image/gif, but it is a PNG",
            ),
            (
                '<link rel=icon sizes=16x16 href="/t.png">',
                {"t.png": clear},
                "Declared with 16x16, but it holds 180 × 180",
            ),
            ("<link rel=apple-touch-icon href=t.png>", {"t.png": clear}, "A phone fills the clear parts with black."),
            ("<link rel=icon href=n.png>", {"n.png": b"text"}, "Not a picture: 4 bytes"),
            ("<link rel=icon href=t.png>", {"t.png": clear[:-30]}, "Cannot be read: This PNG file is damaged"),
            ('<link rel=icon href="">', {}, "is not inside the site's top folder"),
            ("<link rel=manifest href=m.json>", {"m.json": b"["}, "Not a manifest"),
            ("<link rel=manifest href=m.json>", {"m.json": b"{}"}, "It declares no icon of 192 px and 512 px"),
        ):
            problems = " ".join(p for one in found({"index.html": page(link), **files}).values() for p in one.problems)
            self.assertIn(told, problems)

    def test_two_icons_of_one_size_say_which_one_wins(self):
        """WHATWG HTML, link type "icon": of equally appropriate icons the last in tree order is used."""
        links = "<link rel=icon href=/a.ico>", "<link rel=icon href=/b.ico>"
        there = found({"index.html": page(*links), "a.ico": GOOD_ICO, "b.ico": GOOD_ICO})
        self.assertIn("On 1 page most browsers take another icon of the same size instead.", there["a.ico"].problems[0])
        self.assertEqual(there["b.ico"].problems, ())

    def test_icons_named_by_a_manifest_are_looked_for(self):
        icons = [{"src": "i/192.png", "sizes": "192x192"}, {"src": "/512.png", "sizes": "512x512"}]
        manifest = json.dumps({"icons": icons}).encode()
        site = {"index.html": page("<link rel=manifest href=app/m.json>"), "app/m.json": manifest}
        problems = found(site)["app/m.json"].problems
        self.assertEqual(
            problems, tuple(f"It names {path}, which is not there." for path in ("app/i/192.png", "512.png"))
        )

    def test_what_cannot_be_read_is_not_called_missing(self):
        class Unreadable(MemoryStorage):
            def get(self, path: str, most: int) -> bytes | None:
                raise HostRefused("cannot-read", "It cannot be read.")

        survey = SiteSurvey(CarefulHost(Unreadable({})))
        survey.add("index.html", (IconLink("icon", "/a.png"),), has_block=False)
        told = {(one.evidence, one.problems) for one in survey.found()}
        self.assertEqual(told, {("not read", ("It cannot be read.",))})

    def test_addresses_that_lead_elsewhere_are_not_looked_at(self):
        for href, told in (
            ("https://other.example/i.png", "a full address; the live check looks at it"),
            ("//other.example/i.png", "a full address; the live check looks at it"),
            ("data:,x", "a full address; the live check looks at it"),
            ("../../../etc/passwd", "missing"),
        ):
            (one,) = found({"index.html": page(f'<link rel=icon href="{href}">')}).values()
            self.assertEqual(one.evidence, told)

    def test_a_site_with_icons_of_its_own_on_every_page_stays_bounded(self):
        pages = {f"{number}.html": page(f"<link rel=icon href={number}.png>") for number in range(MOST_LINES + 50)}
        self.assertEqual(len(found(pages)), MOST_LINES)
        repeated = page("<link rel=icon href=/a.png>" * 150)
        self.assertEqual(found({"index.html": repeated})["a.png"].pages, 1)


class OneRuleTests(TestCase):
    """The plan tells the icon that the live check sees in most browsers, whatever pages declare."""

    def test_the_plan_and_the_live_check_name_the_same_icon(self):
        icons = {"favicon.ico": GOOD_ICO, "16.png": plain_png(16, 16), "32.png": plain_png(32, 32)}
        icons |= {"192.png": plain_png(192, 192), "bad.png": b"no picture", "logo.svg": BLUE_DISC}
        line = '<link rel="icon" href="/{}" {}>'.format
        for head in (
            "",
            line("16.png", "") + line("32.png", ""),
            line("32.png", "sizes=32x32") + line("16.png", "sizes=32x32"),
            line("16.png", "sizes=16x16") + line("32.png", "sizes=32x32") + line("192.png", "sizes=192x192"),
            line("favicon.ico", "sizes=32x32") + line("logo.svg", "type=image/svg+xml"),
            line("logo.svg", "type=image/svg+xml") + line("favicon.ico", "sizes=any"),
            line("16.png", "") + line("bad.png", ""),
            line("16.png", "") + line("gone.png", ""),
            '<link rel="apple-touch-icon" href="/192.png">',
        ):
            files = {**icons, "index.html": page(head)}
            told = plan_install(CarefulHost(MemoryStorage(files)), head_lines_of(SMALL)).shown
            report = inspect(HOME, FakeSite({**files, "": files["index.html"]}).once(), {})
            seen = report.pages[0].taken["blink"].address.removeprefix(HOME)
            self.assertEqual(told, seen, head)

    def test_what_code_names_is_not_known(self):
        coded = page('<link rel=icon href="{{ icon }}">')
        self.assertIsNone(plan_install(CarefulHost(MemoryStorage({"index.html": coded})), head_lines_of(SMALL)).shown)
