"""Icons of before that no page names any more: told, removed when somebody wants it, and brought back by undoing."""

from dataclasses import replace

from bexi.hosts.careful import CarefulHost
from bexi.installing.plan import plan_install
from bexi.installing.step import StepKind
from tests.installing.test_installing import InstallingTestCase
from tests.pictures import plain_png

HEAD = (
    b'<html><head><link rel="icon" href="/old/favicon-32x32.png"><link rel="manifest" href="/old/site.webmanifest">'
    b"</head><body></body></html>"
)
OLD = {
    "index.html": HEAD,
    "old/favicon-32x32.png": plain_png(32, 32, "#cc2200"),
    "old/site.webmanifest": b'{"name": "Rota", "icons": [{"src": "big.png", "sizes": "192x192"}]}',
    "old/big.png": plain_png(192, 192, "#cc2200"),
    "old/mstile-150x150.png": b"a tile",
    "old/team.png": b"a picture",
    "browserconfig.xml": b"<browserconfig/>",
    "apple-touch-icon-120x120.png": plain_png(120, 120, "#cc2200"),
    "icon-48.png": b"of an earlier set",
    "logo.png": b"a picture",
    "notes/icon-16.png": b"elsewhere",
}


class LeftoverTests(InstallingTestCase):
    def setUp(self):
        super().setUp()
        self.storage.contents = dict(OLD)

    def told(self, wants=lambda path: True) -> list[str]:
        return sorted(step.path for step in plan_install(CarefulHost(self.storage), self.icons, wants).leftovers)

    def test_what_pages_named_what_lies_beside_it_and_what_is_asked_for_by_name(self):
        named = ["apple-touch-icon-120x120.png", "browserconfig.xml", "icon-48.png", "old/favicon-32x32.png"]
        self.assertEqual(self.told(), [*named, "old/mstile-150x150.png"])

    def test_why_it_may_go_is_said_as_it_is(self):
        why = {step.path: step.notes[0] for step in self.plan().leftovers}
        self.assertIn("ask for it by its name", why["browserconfig.xml"])
        self.assertIn("A page may still show it as a picture", why["icon-48.png"])

    def test_a_manifest_that_pages_go_on_naming_stays_with_its_icons(self):
        self.assertNotIn("old/site.webmanifest", self.told())
        self.assertNotIn("old/big.png", self.told())

    def test_nothing_that_the_set_brings_or_a_page_may_still_name(self):
        self.storage.contents |= {"favicon.ico": b"old", "part.html": b"<img src=/old/favicon-32x32.png>"}
        self.assertNotIn("favicon.ico", self.told())
        self.assertNotIn("old/favicon-32x32.png", self.told())
        self.storage.contents["more/page.html"] = HEAD
        self.assertEqual(self.told(lambda path: path == "index.html"), [])

    def test_removed_with_the_rest_and_brought_back(self):
        plan = self.plan()
        both = replace(plan, steps=(*plan.steps, *plan.leftovers))
        self.assertEqual({step.kind for step in plan.leftovers}, {StepKind.REMOVE})
        self.install(both)
        self.assertNotIn("old/favicon-32x32.png", self.storage.contents)
        self.assertEqual(self.storage.contents["old/team.png"], b"a picture")
        self.assertEqual(self.told(), [])
        self.undo()
        self.assertEqual(self.storage.contents, OLD)
