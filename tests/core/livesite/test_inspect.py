from unittest import TestCase

from PIL import Image

from bexi.core.formats import ico
from bexi.core.livesite.icon_file import look_at
from bexi.core.livesite.inspect import MOST_PAGES, Finding, inspect
from bexi.core.livesite.pages import Served
from tests.pictures import encoded, noise, plain_png

ADDRESS = "http://merrowmouth.example/"
HOME = b'<html><head><title>a</title><link rel="icon" href="favicon.ico"></head><body><a href="/b.html#x">b</a></body>'


class FakeSite:
    """Answers from a dictionary of paths; anything else is a 404."""

    def __init__(self, files: dict[str, bytes]) -> None:
        self.files = files
        self.asked: list[str] = []

    def __call__(self, url: str) -> Served:
        path = url.removeprefix(ADDRESS)
        self.asked.append(path)
        if path not in self.files:
            return Served(url, 404, "text/html")
        is_page = path == "" or path.endswith(".html")
        return Served(url, 200, "text/html; charset=utf-8" if is_page else "image/png", self.files[path])


def problems(files: dict[str, bytes], installed: dict[str, bytes] | None = None) -> dict[str, Finding]:
    findings = inspect(ADDRESS, installed or {}, FakeSite(files), look_at)
    return {finding.what: finding for finding in findings if not finding.ok}


class InspectTests(TestCase):
    good = {"": HOME, "b.html": HOME, "favicon.ico": ico.write([noise(16, 16)])}

    def test_a_good_site_has_no_problems(self):
        self.assertEqual(problems(self.good, {"favicon.ico": self.good["favicon.ico"]}), {})

    def test_each_problem_is_named_with_its_evidence(self):
        jpeg = encoded(Image.new("RGB", (30, 30)), "JPEG")
        clear = encoded(Image.new("RGBA", (20, 20)), "PNG")
        home_icon = HOME.replace(b"</head>", b'<link rel="apple-touch-icon" href="/t.png"></head>')
        for changes, what, evidence in (
            ({"favicon.ico": jpeg}, "Not an ICO", "JPEG"),
            ({"favicon.ico": b"hello"}, "Not a picture", "5 bytes"),
            ({"b.html": b"<html><head></head></html>"}, "Page declares no icon", "rel=icon"),
            ({"b.html": b"<p>no head here"}, "Page without a head", "without a head of its own"),
            ({"": home_icon, "t.png": clear}, "Home-screen icon is transparent", "clear"),
            ({"": home_icon}, "Icon missing", "404"),
        ):
            found = problems({**self.good, **changes})
            self.assertEqual(list(found), [what])
            self.assertIn(evidence, found[what].evidence)

    def test_served_bytes_are_compared_with_the_installed_ones(self):
        found = problems(self.good, {"favicon.ico": plain_png(), "icon-16.png": plain_png()})
        self.assertEqual(list(found), ["Icon file not as installed"])
        self.assertIn("404", found["Icon file not as installed"].evidence)

    def test_silent_site(self):
        findings = inspect(ADDRESS, {}, lambda url: Served(url, 0, error="No answer: timeout."), look_at)
        self.assertEqual([finding.evidence for finding in findings], ["No answer: timeout."])

    def test_pages_are_visited_once_on_this_host_only_and_not_for_ever(self):
        def endless(url: str) -> Served:
            asked.append(url)
            page = (
                f'<head></head><a href="{url}x.html"></a><a href="http://[bad"></a><a href="http://else.example/"></a>'
            )
            return Served(url, 200, "text/html", page.encode())

        asked: list[str] = []
        inspect(ADDRESS, {}, endless, look_at)
        self.assertTrue(all(url.startswith(ADDRESS) for url in asked))
        self.assertLessEqual(len(asked), MOST_PAGES + 1)  # and /favicon.ico
        self.assertEqual(len(asked), len(set(asked)))
