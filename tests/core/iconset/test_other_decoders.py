"""Every file of the whole set, opened by libvips, a decoder that shares nothing with the one that wrote it."""

from unittest import TestCase

import numpy as np
import pyvips

from bexi.core.formats import ico
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import build
from bexi.core.iconset.plan import READY_MADE, Plan
from tests.pictures import decoded, noise_bitmap


class LibvipsTests(TestCase):
    def test_every_png_of_the_set(self):
        picture = noise_bitmap(300, 200)
        built = build(lambda key: picture, Recipe.of(Frame(0, 0, 250)), READY_MADE["whole"], "Ferry")
        for file in built.files:
            if not file.name.endswith(".png"):
                continue
            image = pyvips.Image.new_from_buffer(file.data, "")
            pixels = image.colourspace("srgb").numpy()
            ours = decoded(file.data)
            np.testing.assert_array_equal(pixels[..., :3], ours[..., :3], file.name)
            if pixels.shape[2] == 4:
                np.testing.assert_array_equal(pixels[..., 3], ours[..., 3], file.name)

    def test_png_frames_of_the_root_favicon(self):
        picture = noise_bitmap(300, 200)
        plan = Plan(("favicon.ico",), frames=(16, 256), frame_kind="png")
        data = build(lambda key: picture, Recipe.of(Frame(0, 0, 200)), plan, "Ferry").files[0].data
        start = data.index(b"\x89PNG")
        image = pyvips.Image.new_from_buffer(data[start:], "").numpy()
        np.testing.assert_array_equal(image, ico.read(data)[0].pixels)
        self.assertEqual(image.shape[2], 4)  # Microsoft, PNG frames of icons: 32 bits
