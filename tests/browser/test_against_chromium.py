"""Files and drawings of ours, decoded and drawn by a real browser."""

import base64
import io

import numpy as np
from PIL import Image
from playwright.sync_api import Page

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.letters import Letters, draw_letters
from bexi.core.artwork.symbols import Symbol, draw_symbol
from bexi.core.artwork.vector import render_whole
from bexi.core.formats import ico, media_types, png
from bexi.core.framing.compose import compose
from bexi.core.framing.drawn import drawn
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import build
from bexi.core.iconset.plan import READY_MADE
from bexi.core.pixels import palette
from bexi.core.pixels.colour import Colour
from bexi.resources import face_files, symbol_shapes
from bexi.server.demo.artwork import ferry_lockup
from tests.browser.case import BrowserTestCase
from tests.pictures import BLUE_DISC, decoded, noise

DRAW = """async ([address, width, height]) => {
    const image = new Image();
    image.src = address;
    await image.decode();
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [width, height];
    const pen = canvas.getContext('2d', { colorSpace: 'srgb', willReadFrequently: true });
    pen.drawImage(image, 0, 0, width, height);
    const { data } = pen.getImageData(0, 0, width, height);
    let text = '';
    for (let at = 0; at < data.length; at += 32768) text += String.fromCharCode(...data.subarray(at, at + 32768));
    return btoa(text);
}"""


class ChromiumTests(BrowserTestCase):
    def drawn(self, page: Page, data: bytes, media_type: str, width: int, height: int) -> np.ndarray:
        """What Chromium draws of a file on a canvas."""
        address = f"data:{media_type};base64,{base64.b64encode(data).decode()}"
        values = base64.b64decode(page.evaluate(DRAW, [address, width, height]))
        return np.frombuffer(values, dtype=np.uint8).reshape(height, width, 4)

    def test_png_and_ico_files_decode_to_their_pixels(self):
        page = self.open("/")
        for size in (16, 48, 180):
            pixels = noise(size, size, seed=size)
            pixels[..., 3] = 255  # a canvas stores premultiplied, so half-clear colours come back rounded
            np.testing.assert_array_equal(self.drawn(page, png.write(pixels), media_types.PNG, size, size), pixels)
        pixels = noise(48, 48)
        pixels[..., 3] = np.where(pixels[..., 3] > 127, 255, 0)
        pixels[pixels[..., 3] == 0] = 0
        data = ico.write([noise(16, 16), pixels])
        np.testing.assert_array_equal(self.drawn(page, data, media_types.ICO, 48, 48), pixels)

    def test_every_picture_of_the_whole_set_decodes_to_what_pillow_reads(self):
        page = self.open("/")
        picture = take_in(ferry_lockup())[1]
        recipe = Recipe.of(Frame(27, 27, 566), ground=Colour(0xF4, 0xF6, 0xF1))
        built = build(lambda key: picture, recipe, READY_MADE["whole"], "Ferry")
        for file in built.files:
            if file.name.endswith(".png") and "monochrome" not in file.name and "wide" not in file.name:
                ours = decoded(file.data)
                theirs = self.drawn(page, file.data, media_types.PNG, ours.shape[1], ours.shape[0])
                np.testing.assert_array_equal(theirs, ours, file.name)

    def test_drawn_icons_change_in_dark_schemes_and_look_as_composed(self):
        picture = take_in(ferry_lockup())[1]
        framing = Recipe.of(Frame(27, 27, 566)).framing
        data = drawn(picture, framing, Colour(255, 0, 255))
        (meant,) = compose(picture, framing, Purpose.TAB, [128])
        light = self.drawn(self.open("/"), data, "image/svg+xml", 128, 128)
        self.assertLess(palette.error(light, meant), 2)
        dark = self.drawn(self.open("/", color_scheme="dark"), data, "image/svg+xml", 128, 128)
        self.assertEqual(dark[64, 64].tolist(), [255, 0, 255, 255])

    def test_vectors_are_drawn_as_the_browser_draws_them(self):
        page = self.open("/")
        drawings = {
            "disc": BLUE_DISC,
            "lockup": ferry_lockup(),
            "letters": draw_letters(Letters("Qg"), face_files("nunito", 800)).encode(),
            "symbol": draw_symbol(Symbol("anchor"), symbol_shapes()).encode(),
        }
        for name, svg in drawings.items():
            _, picture = take_in(svg)
            ours = render_whole(picture, 256).astype(int)
            height, width = ours.shape[:2]
            theirs = self.drawn(page, svg, "image/svg+xml", width, height).astype(int)
            # Both smooth edges in their own way; the shapes are the same.
            self.assertLess(np.abs(ours[..., 3] - theirs[..., 3]).mean(), 1.5, name)
            both_full = (ours[..., 3] == 255) & (theirs[..., 3] == 255)
            self.assertLessEqual(np.abs(ours - theirs)[both_full].mean(), 0.5, name)

    def test_screenshots_of_the_browser_are_taken_in(self):
        page = self.open("/")
        page.evaluate("document.body.style.background = '#3366cc'")
        for kind in ("png", "jpeg"):
            shot = page.screenshot(type=kind, clip={"x": 20, "y": 700, "width": 60, "height": 40})
            picture_format, picture = take_in(shot)
            self.assertEqual((picture_format.name, picture.width, picture.height), (kind.upper(), 60, 40))
            meant = np.asarray(Image.open(io.BytesIO(shot)).convert("RGBA"))
            np.testing.assert_array_equal(picture.pixels, meant)
