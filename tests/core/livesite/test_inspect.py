import dataclasses
from unittest import TestCase

from PIL import Image

from bexi.core.formats import ico
from bexi.core.livesite.comparison import news_since
from bexi.core.livesite.findings import Action, Finding
from bexi.core.livesite.inspect import MOST_PAGES, inspect
from bexi.core.livesite.page import Page, read_page
from bexi.core.livesite.report import report_json
from bexi.core.livesite.served import Served
from tests.core.livesite.site import HOME, READING, FakeSite, html
from tests.core.livesite.test_engines import SVG
from tests.pictures import encoded, noise, plain_png

LINES = '<link rel="icon" href="/favicon.ico"><link rel="apple-touch-icon" href="/touch.png">'
GOOD = {
    "": html(LINES, '<a href="/b.html#x">b</a>'),
    "b.html": html(LINES),
    "favicon.ico": ico.write([noise(16, 16)]),
    "touch.png": plain_png(180, 180),
}


def look(files: dict[str, bytes], installed: dict[str, bytes] | None = None, **options):
    site = FakeSite(files, options.pop("headers", {}), options.pop("moved", {}))
    return inspect(HOME, site.once(), installed or {}, **options)


def found(files: dict[str, bytes], installed: dict[str, bytes] | None = None, **options) -> dict[str, Finding]:
    return {one.what: one for one in look(files, installed, **options).findings}


class InspectTests(TestCase):
    def test_a_good_site_has_no_findings(self):
        self.assertEqual(found(GOOD, {"favicon.ico": GOOD["favicon.ico"], "touch.png": GOOD["touch.png"]}), {})

    def test_each_problem_is_named_with_its_evidence_and_its_remedy(self):
        jpeg = encoded(Image.new("RGB", (30, 30)), "JPEG")
        clear = encoded(Image.new("RGBA", (180, 180)), "PNG")
        manifest = html(LINES + '<link rel="manifest" href="m.webmanifest">')
        members = b'{"icons":[{"src":"gone.png","sizes":"192x192"},{"src":"favicon.ico","sizes":"512x512"}]}'
        svg = html(LINES + '<link rel="icon" type="image/svg+xml" href="/icon.svg">')
        year = {"cache-control": "max-age=31536000"}
        for changes, what, evidence, action, wrong, headers in (
            ({"favicon.ico": jpeg}, "Not an ICO", "JPEG", Action.INSTALL, True, {}),
            ({"favicon.ico": b"hello"}, "Not a picture", "5 bytes", Action.INSTALL, True, {}),
            (
                {"favicon.ico": b"<!doctype html>"},
                "A page instead of an icon",
                "text/html",
                Action.INSTALL,
                True,
                {"favicon.ico": {"content-type": "text/html"}},
            ),
            ({"b.html": html()}, "Page declares no icon", "rel=icon", Action.INSTALL, False, {}),
            ({"touch.png": clear}, "Home-screen icon is transparent", "clear", Action.INSTALL, True, {}),
            ({"touch.png": None}, "Declared icon is missing", "404", Action.INSTALL, True, {}),
            ({"favicon.ico": None}, "No icon in tabs", "In every browser", Action.INSTALL, True, {}),
            ({"": manifest, "m.webmanifest": b"no"}, "Not a manifest", "JSON", Action.INSTALL, True, {}),
            ({"": manifest, "m.webmanifest": b"{}"}, "Manifest lacks icons", "192 px", Action.PLAN, False, {}),
            (
                {"": manifest, "m.webmanifest": members},
                "Manifest names a broken icon",
                "gone.png",
                Action.INSTALL,
                True,
                {},
            ),
            (
                {"": svg, "icon.svg": SVG},
                "SVG served with a wrong type",
                "text/plain",
                Action.HEADERS,
                True,
                {"icon.svg": {"content-type": "text/plain"}},
            ),
            (
                {},
                "Served with a wrong type",
                "application/x",
                Action.HEADERS,
                False,
                {"touch.png": {"content-type": "application/x"}},
            ),
            ({}, "Cached for very long under one address", "365 days", Action.STAMP, False, {"favicon.ico": year}),
            (
                {"b.html": html(LINES, '<link rel="icon" href="/touch.png">')},
                "Icon line outside the head",
                "touch.png",
                Action.BY_HAND,
                True,
                {},
            ),
            (
                {"b.html": html(LINES + '<link rel="icon" href="http://[">')},
                "Icon line that leads nowhere",
                "rel=icon",
                Action.INSTALL,
                True,
                {},
            ),
            ({"": html(LINES, '<a href="/gone.html">')}, "Page not seen", "404", Action.BY_HAND, False, {}),
        ):
            files = {path: data for path, data in {**GOOD, **changes}.items() if data is not None}
            findings = found(files, headers=headers)
            self.assertIn(what, findings, changes)
            one = findings[what]
            self.assertIn(evidence, one.evidence)
            self.assertEqual((one.action, one.wrong), (action, wrong), what)
            self.assertTrue(one.why and one.remedy.endswith("."), one)

    def test_a_flaw_of_the_set_itself_is_mended_on_the_bench(self):
        clear = encoded(Image.new("RGBA", (180, 180)), "PNG")
        findings = found({**GOOD, "touch.png": clear}, {"touch.png": clear})
        self.assertEqual(findings["Home-screen icon is transparent"].action, Action.BENCH)

    def test_a_home_screen_icon_that_is_enlarged_is_an_advice(self):
        small = found({**GOOD, "touch.png": plain_png(57, 57)})["Small home-screen icon"]
        self.assertEqual((small.wrong, small.where), (False, (HOME, f"{HOME}b.html")))
        self.assertIn("57 px, where phones draw 180 px", small.evidence)
        self.assertNotIn("Small home-screen icon", found({**GOOD, "touch.png": plain_png(152, 152)}))

    def test_pages_with_the_same_finding_stand_together(self):
        pages = {f"p{number}.html": html() for number in range(5)}
        home = html(LINES, "".join(f'<a href="{path}">x</a>' for path in pages))
        one = found({**GOOD, "": home, **pages})["Page declares no icon"]
        self.assertEqual(one.where, tuple(HOME + path for path in pages))

    def test_served_bytes_are_compared_with_the_installed_ones(self):
        findings = found(GOOD, {"favicon.ico": plain_png(), "icon-16.png": plain_png()})
        self.assertIn("File not as installed", findings)
        self.assertIn("404", findings["Installed file is not served"].evidence)

    def test_an_icon_that_was_not_installed_and_wins_is_told(self):
        old = html('<link rel="icon" sizes="32x32" href="/old.png">')
        findings = found({**GOOD, "": old, "old.png": plain_png(32, 32)}, {"favicon.ico": GOOD["favicon.ico"]})
        self.assertIn("old.png", findings["Another icon wins"].evidence)

    def test_an_installed_icon_under_an_address_with_a_stamp_is_the_installed_one(self):
        icon = plain_png(32, 32)
        page = html(
            '<link rel="icon" sizes="32x32" href="/icon-32.png?v=1"><link rel="apple-touch-icon" href="/touch.png">'
        )
        served = {**GOOD, "": page, "icon-32.png?v=1": icon, "touch.png": GOOD["touch.png"]}
        installed = {"icon-32.png": icon, "touch.png": GOOD["touch.png"]}
        self.assertEqual(found(served, installed), {})
        self.assertIn("File not as installed", found({**served, "icon-32.png?v=1": plain_png(31, 31)}, installed))

    def test_no_false_alarms(self):
        """A redirect to /en/ with a relative icon; a base; an address with a stamp, kept for a year."""
        english = html('<link rel="icon" href="i.png"><link rel="apple-touch-icon" href="/touch.png">')
        based = html('<base href="/en/"><link rel="icon" href="i.png"><link rel="apple-touch-icon" href="/touch.png">')
        stamped = html('<link rel="icon" href="/i.png?v=1"><link rel="apple-touch-icon" href="/touch.png">')
        icons = {"en/i.png": plain_png(32, 32), "touch.png": GOOD["touch.png"]}
        self.assertEqual(found({"en/": english, **icons}, moved={"": "en/"}), {})
        self.assertEqual(found({"": based, **icons}), {})
        year = {"i.png?v=1": {"cache-control": "max-age=31536000, immutable"}}
        self.assertEqual(found({"": stamped, "i.png?v=1": plain_png(32, 32), **icons}, headers=year), {})

    def test_silent_site(self):
        site = FakeSite({})
        report = inspect(HOME, site.once(), {})
        self.assertEqual(
            [(one.what, one.evidence) for one in report.findings], [("The site does not answer", "status 404")]
        )
        self.assertEqual(site.asked, [""])

    def test_pages_are_visited_once_on_this_host_only_and_not_for_ever(self):
        def endless(url: str) -> Served:
            asked.append(url)
            links = f'<a href="{url}x"></a><a href="http://[bad"></a><a href="http://else.example/"></a>'
            return Served(url, 200, {"content-type": "text/html"}, html(LINES, links))

        asked: list[str] = []
        once = dataclasses.replace(FakeSite({}).once(), fetch=endless, reading=READING)
        report = inspect(HOME, once, {})
        self.assertEqual((len(report.pages), len(report.left)), (MOST_PAGES, 1))
        self.assertTrue(all(url.startswith(HOME) for url in asked))
        self.assertEqual(len(asked), len(set(asked)))

    def test_a_page_that_cannot_be_read_is_no_page_without_icons(self):
        def reading(served: Served) -> Page:
            trouble = "it is too deep" if served.url.endswith("b.html") else ""
            return dataclasses.replace(read_page(served), trouble=trouble)

        site = FakeSite(GOOD)
        once = dataclasses.replace(site.once(), reading=dataclasses.replace(READING, page=reading))
        self.assertEqual([one.what for one in inspect(HOME, once, {}).findings], ["Page not seen"])
        home = dataclasses.replace(site.once(), reading=dataclasses.replace(READING, page=reading))
        report = inspect(f"{HOME}b.html", home, {})
        self.assertEqual([one.what for one in report.findings], ["The home page cannot be read"])

    def test_what_a_hostile_site_declares_is_asked_for_within_bounds(self):
        many = html("".join(f'<link rel="icon" href="/i{number}.png">' for number in range(5000)))
        site = FakeSite({"": many})
        inspect(HOME, site.once(), {})
        self.assertLess(len(site.asked), 400)
        members = ",".join(f'{{"src":"/i{number}.png","sizes":"192x192"}}' for number in range(20000))
        site = FakeSite({"": html('<link rel="manifest" href="/m.webmanifest">')})
        site.files = {**site.files, "m.webmanifest": f'{{"icons":[{members}]}}'.encode()}
        inspect(HOME, site.once(), {})
        self.assertLess(len(site.asked), 400)

    def test_what_there_was_no_time_for_is_told_and_no_finding(self):
        site = FakeSite({**GOOD, "": html(LINES, '<a href="/b.html"><a href="/c.html">')})

        def slow(url: str) -> Served:
            is_late = url.endswith(("c.html", "touch.png"))
            return Served(url, 0, error="No answer: it took too long.", late=True) if is_late else site(url)

        report = inspect(HOME, dataclasses.replace(site.once(), fetch=slow), {})
        self.assertEqual((report.left, report.files_left), ((f"{HOME}c.html",), 1))
        self.assertEqual([one.what for one in report.findings if one.wrong], [])

    def test_progress_is_told_and_may_stop_it(self):
        told: list[tuple[int, int]] = []
        look(GOOD, most=5, told=lambda done, total: told.append((done, total)))
        self.assertEqual(told, [(1, 5), (2, 5), (5, 5)])

        def stop(done: int, total: int) -> None:
            raise InterruptedError

        with self.assertRaises(InterruptedError):
            look(GOOD, told=stop)

    def test_the_report_says_of_each_page_what_is_taken(self):
        said = report_json(look(GOOD))
        self.assertEqual([one["address"] for one in said["pages"]], [HOME, f"{HOME}b.html"])
        self.assertEqual(said["pages"][0]["taken"]["blink"]["address"], f"{HOME}favicon.ico")
        self.assertEqual(set(said["pages"][0]["taken"]), {"blink", "gecko", "webkit", "search", "home-screen", "app"})
        self.assertEqual([one["kind"] for one in said["pages"][0]["declared"]], ["icon", "apple-touch-icon"])

    def test_news_since_an_earlier_check(self):
        def finding(what: str, *where: str, wrong: bool = True) -> Finding:
            return Finding(what, "e", "w", "r.", Action.INSTALL, where, wrong)

        before = [finding("No icon in tabs", "a"), finding("Not square", "i"), finding("Old advice", "x", wrong=False)]
        after = [finding("No icon in tabs", "a", "b", "c"), finding("New advice", "x", wrong=False)]
        self.assertEqual(
            [one.told for one in news_since(before, after)],
            ["New: no icon in tabs, 2 places", "Gone: not square, 1 place"],
        )
