import json
from unittest import TestCase

from bexi.core.errors import PlanRefused
from bexi.core.framing.purpose import Purpose
from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.catalogue import CATALOGUE, ICONS, MANIFEST, Currency
from bexi.core.iconset.installed_app import Display, InstalledApp
from bexi.core.iconset.plan import READY_MADE, RECOMMENDED, Plan
from bexi.core.pixels.colour import Colour


class CatalogueTests(TestCase):
    def test_every_file_has_its_reason_and_source(self):
        for spec in CATALOGUE:
            self.assertTrue(spec.why.endswith(".") and spec.source and spec.title, spec.name)
        self.assertEqual(len({spec.name for spec in CATALOGUE}), len(CATALOGUE))

    def test_conventional_names_and_sizes(self):
        # Names and sizes by convention and the makers' public documentation, from memory.
        specs = {spec.name: spec for spec in ICONS}
        self.assertEqual(specs["favicon.ico"].sizes, (16, 32, 48))
        home = [spec.sizes[0] for spec in ICONS if spec.rel == "apple-touch-icon"]
        self.assertEqual(home, [57, 60, 72, 76, 114, 120, 144, 152, 167, 180])
        tiles = [(spec.width or spec.sizes[0], spec.sizes[0]) for spec in ICONS if spec.tile]
        self.assertEqual(tiles, [(128, 128), (270, 270), (558, 270), (558, 558)])
        self.assertEqual(MANIFEST.media_type, "application/manifest+json")

    def test_manifest_icons_come_in_both_sizes_for_every_purpose(self):
        # W3C Web Application Manifest: purposes any, maskable, monochrome; 192 and 512 px by the makers' criteria.
        named = [(spec.sizes[0], spec.purpose) for spec in ICONS if spec.in_manifest]
        purposes = (Purpose.TAB, Purpose.MASKED, Purpose.ONE_COLOUR)
        self.assertEqual(named, [(size, purpose) for purpose in purposes for size in (192, 512)])


class PlanTests(TestCase):
    def test_ready_made_plans_grow_and_the_recommended_one_holds_nothing_old(self):
        short, balanced, whole = (set(READY_MADE[name].files) for name in ("short", "balanced", "whole"))
        self.assertTrue(short < balanced < whole)
        self.assertTrue(all(spec.currency is Currency.TODAY for spec in RECOMMENDED.specs))

    def test_survives_json(self):
        own = Plan(
            ("favicon.ico",),
            (16, 256),
            "png",
            (24, 64),
            Addresses("/icons/", stamped=True),
            Colour(1, 2, 3),
            1.5,
            InstalledApp("Ferry", Colour(1, 2, 3), Colour(4, 5, 6), Display.STANDALONE, "/app/?from=home", "/app/"),
        )
        for plan in (own, *READY_MADE.values()):
            self.assertEqual(Plan.from_json(json.loads(json.dumps(plan.as_json()))), plan)

    def test_reads_what_was_kept_before_there_were_apps(self):
        kept = RECOMMENDED.as_json() | {"version": 1}
        del kept["app"]
        self.assertEqual(Plan.from_json(kept), RECOMMENDED)

    def test_members_have_the_names_and_values_of_the_standard(self):
        # W3C Web Application Manifest §1, members; §1.8 display modes. From memory.
        app = InstalledApp("Ferry", Colour(255, 0, 0), None, Display.MINIMAL, "/", "/app")
        self.assertEqual(
            app.members,
            {
                "short_name": "Ferry",
                "start_url": "/",
                "id": "/app",
                "display": "minimal-ui",
                "theme_color": "#ff0000",
            },
        )

    def test_what_no_manifest_should_say_is_refused_with_a_sentence(self):
        for members in (
            {"short_name": "x" * 61},
            {"start_url": "https://elsewhere.example/"},
            {"start_url": "//elsewhere.example/"},
            {"start_url": r"\\elsewhere.example/"},
            {"start_url": "javascript:alert(1)"},
            {"start_url": "/a b"},
            {"id": '/"'},
            {"display": "window"},
            {"orientation": "any"},
        ):
            with self.assertRaises(PlanRefused) as caught:
                InstalledApp.from_members(members)
            self.assertTrue(caught.exception.sentence.endswith("."), members)
        with self.assertRaises(PlanRefused):
            Plan(RECOMMENDED.files, addresses=Addresses("https://static.example/"), app=InstalledApp(start="/"))

    def test_sizes_of_ones_own_stand_among_the_png_icons(self):
        plan = Plan(("favicon.ico", "icon-32.png", "apple-touch-icon.png"), frames=(48, 16), extra=(64, 24, 32))
        names = [spec.name for spec in plan.specs]
        self.assertEqual(names, ["favicon.ico", "icon-32.png", "icon-24.png", "icon-64.png", "apple-touch-icon.png"])
        self.assertEqual(plan.icons[0].sizes, (16, 48))

    def test_a_plan_knows_what_it_holds(self):
        plan = Plan(("favicon.ico", "icon-32.png"), extra=(64,))
        plan.must_hold(("icon-64.png", "favicon.ico"))
        with self.assertRaises(PlanRefused):
            plan.must_hold(("icon-16.png",))

    def test_bad_plans_are_refused_with_a_sentence(self):
        good = RECOMMENDED.as_json()
        for change in (
            {"version": 99},
            {"files": []},
            {"files": ["index.html"]},
            {"files": ["icon-512.png"]},
            {"files": ["tile-wide.png"]},
            {"frames": []},
            {"frames": [300]},
            {"frame_kind": "jpeg"},
            {"extra": [0]},
            {"extra": [5000]},
            {"extra": 3},
            {"base": "icons"},
            {"base": "javascript:alert(1)//"},
            {"base": '/"><script>/'},
            {"palette_error": 40},
        ):
            with self.assertRaises(PlanRefused, msg=change) as caught:
                Plan.from_json({**good, **change})
            self.assertTrue(caught.exception.sentence.endswith("."), change)
