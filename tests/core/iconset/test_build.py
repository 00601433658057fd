import io
import json
import zipfile
from unittest import TestCase

import numpy as np
from PIL import Image

from bexi.core.artwork.intake import take_in
from bexi.core.errors import BuildFailed, FramingRefused
from bexi.core.formats import ico, png
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import build
from bexi.core.iconset.catalogue import ICONS
from bexi.core.iconset.package import package
from bexi.core.iconset.verify import verify_icon
from tests.pictures import BLUE_DISC, decoded, noise, noise_bitmap

NAMES = [
    "favicon.ico",
    "icon-16.png",
    "icon-32.png",
    "apple-touch-icon.png",
    "icon-192.png",
    "icon-512.png",
    "site.webmanifest",
]


class BuildTests(TestCase):
    def setUp(self):
        self.picture = noise_bitmap(300, 200)
        self.recipe = Recipe.of(whole_artwork(300, 200))
        self.files = {file.name: file for file in build(lambda key: self.picture, self.recipe, "Ferry")}

    def test_every_file_with_its_conventional_name(self):
        self.assertEqual(list(self.files), NAMES)

    def test_icons_hold_the_composed_pictures(self):
        for name, size in (("icon-16.png", 16), ("icon-512.png", 512)):
            meant = compose(self.picture, self.recipe.framing.frame, None, [size])[0]
            np.testing.assert_array_equal(decoded(self.files[name].data), meant)
        frames = ico.read(self.files["favicon.ico"].data)
        self.assertEqual(
            [(frame.pixels.shape[0], frame.is_png) for frame in frames], [(16, False), (32, False), (48, False)]
        )

    def test_home_screen_icon_is_opaque(self):
        image = Image.open(io.BytesIO(self.files["apple-touch-icon.png"].data))
        self.assertEqual(
            (image.size, decoded(self.files["apple-touch-icon.png"].data)[..., 3].min()), ((180, 180), 255)
        )

    def test_manifest_names_files_of_the_set(self):
        for icon in json.loads(self.files["site.webmanifest"].data)["icons"]:
            image = Image.open(io.BytesIO(self.files[icon["src"].removeprefix("/")].data))
            self.assertEqual(icon["sizes"], f"{image.width}x{image.height}")
            self.assertEqual(icon["type"], Image.MIME[image.format])

    def test_same_recipe_gives_the_same_bytes(self):
        again = build(lambda key: self.picture, self.recipe, "Ferry")
        self.assertEqual([file.sha256 for file in again], [file.sha256 for file in self.files.values()])

    def test_progress_names_each_file(self):
        told = []
        build(lambda key: take_in(BLUE_DISC)[1], Recipe.of(Frame(0, 0, 500)), "Ferry", told.append)
        self.assertEqual(told, NAMES)

    def test_frame_beside_the_artwork_is_refused(self):
        with self.assertRaises(FramingRefused):
            build(lambda key: self.picture, Recipe.of(Frame(5000, 0, 10)), "Ferry")

    def test_package_is_the_same_for_the_same_files(self):
        files = list(self.files.values())
        archive = package(files, ["<link>"])
        self.assertEqual(archive, package(files, ["<link>"]))
        with zipfile.ZipFile(io.BytesIO(archive)) as opened:
            self.assertIsNone(opened.testzip())
            self.assertEqual(opened.namelist(), [*NAMES, "head-lines.html"])
            self.assertEqual(opened.read("favicon.ico"), self.files["favicon.ico"].data)


class VerifyTests(TestCase):
    """A check that says "passed" has looked: spoiled files do not pass."""

    def test_spoiled_files_fail(self):
        specs = {spec.name: spec for spec in ICONS}
        pixels = noise(16, 16)
        other = pixels.copy()
        other[3, 3, 0] ^= 1
        clear_home = noise(180, 180)
        for name, data, expected in (
            ("icon-16.png", png.write(other), [pixels]),
            ("icon-16.png", png.write(noise(17, 17)), [pixels]),
            ("icon-16.png", png.write(pixels)[:60], [pixels]),
            ("icon-16.png", ico.write([pixels]), [pixels]),
            ("favicon.ico", ico.write([pixels]), [pixels, noise(32, 32), noise(48, 48)]),
            ("apple-touch-icon.png", png.write(clear_home), [clear_home]),
        ):
            with self.assertRaises(BuildFailed):
                verify_icon(specs[name], data, expected)
        verify_icon(specs["icon-16.png"], png.write(pixels), [pixels])
