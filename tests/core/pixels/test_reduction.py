import os
import subprocess
import sys
from threading import Barrier, Thread
from unittest import TestCase
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw, ImageFont

from bexi.core.pixels.colour import Colour
from bexi.core.pixels.kernel import ONE, Axis, Kernel, Level
from bexi.core.pixels.light import over, to_light, to_pixels
from bexi.core.pixels.reduction import Reduction
from tests.core.pixels import reference
from tests.pictures import noise


def light_of(pixels: np.ndarray, left: int, top: int, side: int, size: int, ground: Colour | None = None) -> np.ndarray:
    return Reduction(pixels, ground).square(left, top, side, [size])[0]


def resized(pixels: np.ndarray, size: int) -> np.ndarray:
    return to_pixels(light_of(pixels, 0, 0, max(pixels.shape[:2]), size))


def apart(ours: np.ndarray, meant: np.ndarray) -> np.ndarray:
    """How far icons are apart, 0 to 255; colours count by their alpha, since a clear pixel has none to be seen."""
    alpha = np.minimum(ours[..., 3:], meant[..., 3:])
    seen = np.abs(ours[..., :3].astype(int) - meant[..., :3]) * np.minimum(alpha / 24, 1)
    return np.concatenate([seen, np.abs(ours[..., 3:].astype(int) - meant[..., 3:])], axis=-1)


def tiles(height: int, width: int) -> np.ndarray:
    """Black and white in oblongs, and a red disc without smooth edges."""
    y, x = np.mgrid[:height, :width]
    pixels = np.full((height, width, 4), 255, dtype=np.uint8)
    pixels[(x // 37 + y // 53) % 2 == 0] = (0, 0, 0, 255)
    pixels[(x - width // 3) ** 2 + (y - height // 2) ** 2 < (height // 5) ** 2] = (200, 30, 60, 255)
    return pixels


def mark(height: int, width: int) -> np.ndarray:
    """A dark disc with smooth edges and thin yellow bars, on nothing."""
    y, x = np.mgrid[:height, :width]
    pixels = np.zeros((height, width, 4), dtype=np.uint8)
    pixels[..., :3] = 20
    pixels[..., 3] = np.rint(np.clip(height * 0.3 + 0.5 - np.hypot(x - width / 2, y - height / 2), 0, 1) * 255)
    pixels[x % 97 < 5] = (255, 240, 0, 255)
    return pixels


def veils(height: int, width: int) -> np.ndarray:
    """Smooth colours, half-clear at one end and nearly clear at another."""
    y, x = np.mgrid[:height, :width]
    colours = [127 + 120 * np.sin(x / 90), 127 + 120 * np.cos(y / 70), x * y // 4000 % 256, np.full_like(x, 255)]
    pixels = np.stack(colours, axis=-1).astype(np.uint8)
    pixels[y > height * 0.7, 3], pixels[x > width * 0.9, 3] = 120, 30
    return pixels


class ExactTests(TestCase):
    """An icon is the one made by cutting first and reducing directly in double precision, within 1 of 255."""

    def test_frames_anywhere(self):
        random = np.random.default_rng(4)
        for side, rounds, grounds in ((1024, 4, (None, (250, 200, 10))), (4096, 1, (None,))):
            for art in (noise, tiles, mark, veils):
                pixels = art(side, side - 124)
                for ground in grounds:
                    reduction = Reduction(pixels, Colour(*ground) if ground else None)
                    for _ in range(rounds):
                        square = self._square(random, side)
                        sizes = random.choice([16, 24, 32, 48, 64, 96, 180], 2, replace=False).tolist()
                        light = reference.cut(pixels, *square, ground)
                        for ours, size in zip(reduction.square(*square, sizes), sizes, strict=True):
                            if size <= square[2]:  # enlarging flat art is another matter
                                meant = reference.stored(reference.reduced(light, size))
                                self.assertLessEqual(apart(to_pixels(ours), meant).max(), 1, (art, square, size))

    def _square(self, random: np.random.Generator, side: int) -> tuple[int, int, int]:
        """A square inside, across the edge of or around a picture."""
        length = int(random.integers(60, side * 1.4))
        left, top = random.integers(20 - length, side - 150, 2)
        return int(left), int(top), length

    def test_a_cut_is_a_cut(self):
        pixels = np.full((900, 900, 4), 255, dtype=np.uint8)
        pixels[300:701, 200:601, :3] = 0
        for size in (16, 24, 32, 48, 180):
            icon = to_pixels(light_of(pixels, 200, 300, 401, size))
            self.assertEqual(icon[..., :3].max(), 0, size)  # nothing of the white around it
            self.assertEqual(icon[..., 3].min(), 255, size)

    def test_an_opaque_square_that_is_hugged_stays_opaque(self):
        pixels = np.zeros((1200, 1200, 4), dtype=np.uint8)
        pixels[111:1012, 37:938] = (10, 90, 200, 255)
        for size in (16, 32, 64, 180):
            icon = to_pixels(light_of(pixels, 37, 111, 901, size))
            self.assertEqual(np.unique(icon.reshape(-1, 4), axis=0).tolist(), [[10, 90, 200, 255]], size)

    def test_all_sizes_of_one_pass_equal_single_passes(self):
        pixels = noise(1100, 900)
        sizes = [180, 16, 48, 400, 1000]
        together = Reduction(pixels, None).square(-20, 10, 880, sizes)
        for light, size in zip(together, sizes, strict=True):
            np.testing.assert_array_equal(light, light_of(pixels, -20, 10, 880, size))


def text() -> np.ndarray:
    image = Image.new("L", (900, 900), 255)
    ImageDraw.Draw(image).text((30, 250), "Merrow", 0, ImageFont.load_default(240))
    return np.asarray(image.convert("RGBA"))


class NoHaloTests(TestCase):
    def test_nothing_is_darker_or_lighter_than_what_is_there(self):
        """Plain Lanczos makes rings of up to 40 of 255 here; asked for is none above 1."""
        y, x = np.mgrid[:900, :900] - 450.0
        shapes = {
            "disc": np.hypot(x, y) < 300,
            "bars": (x // 70 % 2 == 0) & (np.abs(y) < 300),
            "triangle": (y < 300) & (np.abs(x) < (y + 400) / 2),
        }
        for name, inside in shapes.items():
            pixels = np.full((900, 900, 4), (230, 225, 215, 255), dtype=np.uint8)
            pixels[inside] = (60, 70, 80, 255)
            for size in (16, 32, 48, 180, 1024):
                icon = resized(pixels, size)[..., :3].astype(int)
                for channel, (dark, bright) in enumerate(((60, 230), (70, 225), (80, 215))):
                    self.assertGreaterEqual(icon[..., channel].min(), dark - 1, (name, size))
                    self.assertLessEqual(icon[..., channel].max(), bright + 1, (name, size))

    def test_text_gets_no_ring(self):
        pixels = np.where(text() < 128, 90, 200).astype(np.uint8)
        pixels[..., 3] = 255
        plain = reference.stored(reference.reduced(reference.cut(pixels, 0, 0, 900), 64, bound=False))
        self.assertGreater(plain[..., :3].max(), 205)
        icon = resized(pixels, 64)
        self.assertEqual((icon[..., :3].min() >= 89, icon[..., :3].max() <= 201), (True, True))

    def test_edges_are_as_sharp_as_with_plain_lanczos(self):
        """The spread of an edge, from its px at many places, as in ISO 12233 [the standard's idea, from memory]."""
        for size in (32, 48, 180):
            ours, plain, places = [], [], []
            for phase in range(0, 25, 4):
                pixels = np.full((800, 800, 4), 255, dtype=np.uint8)
                pixels[:, : 400 + phase, :3] = 0
                places.append(np.arange(size) + 0.5 - (400 + phase) * size / 800)
                ours.append(to_light(resized(pixels, size))[size // 2, :, 0])
                cut = reference.cut(pixels, 0, 0, 800)
                plain.append(reference.reduced(cut, size, bound=False)[size // 2, :, 0])
            widths = [self._width(np.concatenate(places), np.concatenate(light)) for light in (ours, plain)]
            self.assertLessEqual(widths[0], 1.05 * widths[1], size)

    def _width(self, places: np.ndarray, light: np.ndarray) -> float:
        """From a tenth to nine tenths of white, in px."""
        order = np.argsort(places)
        fine = np.interp(np.arange(-2, 2, 0.001), places[order], light[order])
        return float(np.argmax(fine > 0.9) - np.argmax(fine > 0.1)) / 1000


class EnlargingTests(TestCase):
    def test_flat_art_gets_smooth_edges_of_its_own_colours(self):
        y, x = np.mgrid[:40, :40]
        pixels = np.full((40, 40, 4), (240, 240, 230, 255), dtype=np.uint8)
        pixels[x > y] = (20, 60, 90, 255)  # stair steps of one pixel
        icon = resized(pixels, 320).astype(int)
        on_edge = np.abs(np.subtract(*np.mgrid[:320, :320]) + 4) > 8  # the steps reach 4 px to either side
        inner = np.zeros_like(on_edge)
        inner[24:-24, 24:-24] = True
        colours = {tuple(one) for one in icon[on_edge & inner].tolist()}
        self.assertEqual(colours, {(240, 240, 230, 255), (20, 60, 90, 255)})
        crossings = [int(np.argmax(icon[row, :, 0] < 130)) - row for row in range(60, 260)]
        self.assertLessEqual(max(crossings) - min(crossings), 2)  # px; the steps are 8 px high

    def test_where_three_colours_meet_there_is_no_fourth(self):
        pixels = np.full((30, 30, 4), (10, 60, 90, 255), dtype=np.uint8)
        pixels[15:] = (230, 90, 40, 255)
        pixels[5:15, 12:18] = (245, 245, 240, 255)
        icon = resized(pixels, 240).astype(float)
        own = np.array([(10, 60, 90), (230, 90, 40), (245, 245, 240)], dtype=float)
        light = to_light(icon.astype(np.uint8))[..., :3].reshape(-1, 3)
        ends = reference.linear(own)
        far = np.full(len(light), np.inf)
        for one, other in ((0, 1), (1, 2), (0, 2)):  # every pixel lies on a line between two of the three
            way = ends[other] - ends[one]
            along = np.clip((light - ends[one]) @ way / (way @ way), 0, 1)[:, None]
            far = np.minimum(far, np.linalg.norm(light - ends[one] - along * way, axis=1))
        self.assertLess(far.max(), 0.01)


class SharedLevelTests(TestCase):
    def test_several_that_ask_at_once_get_what_one_alone_gets(self):
        pixels = noise(700, 600)
        alone = Reduction(pixels, None).square(0, 0, 600, [8, 16, 32])
        for _ in range(5):
            shared, barrier, given = Reduction(pixels, None), Barrier(4), []

            def ask(shared: Reduction = shared, barrier: Barrier = barrier, given: list = given) -> None:
                barrier.wait()
                given.append(shared.square(0, 0, 600, [8, 16, 32]))

            threads = [Thread(target=ask) for _ in range(4)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
            for icons in given:
                for icon, meant in zip(icons, alone, strict=True):
                    np.testing.assert_array_equal(icon, meant)


class ThreadTests(TestCase):
    def test_one_thread_or_two_give_the_same(self):
        told = "from bexi.core.pixels import reduction; print(reduction._WORKERS)"
        told += "; from tests.pictures import noise; from hashlib import sha256"
        told += "; made = reduction.Reduction(noise(700, 900), None).square(-20, 5, 640, (16, 180, 512))"
        told += "; print(sha256(b''.join(light.tobytes() for light in made)).hexdigest())"
        (one, its), (two, other) = (
            subprocess.run(
                [sys.executable, "-c", told],
                env={**os.environ, "BEXI_ONE_THREAD": asked},
                capture_output=True,
                check=True,
            ).stdout.split()
            for asked in ("1", "")
        )
        self.assertEqual((one, two), (b"1", b"2"))
        self.assertEqual(its, other)


class AgainstPillowTests(TestCase):
    def test_equals_pillow_on_float_planes(self):
        # Pillow's resize of 32-bit float planes is the reference for the filter itself.
        for side, size in ((120, 16), (300, 48), (97, 32), (1500, 24)):
            pixels = noise(side, side, seed=side)
            ours = light_of(pixels, 0, 0, side, size)
            light = to_light(pixels)
            for channel in range(4):
                plane = Image.fromarray(np.ascontiguousarray(light[..., channel]))
                theirs = np.asarray(plane.resize((size, size), Image.Resampling.LANCZOS))
                np.testing.assert_allclose(ours[..., channel], theirs, atol=3e-5)


class LightTests(TestCase):
    def test_checkerboard_averages_to_188(self):
        # IEC 61966-2-1: half the light of white is stored as 188, not 128.
        board = np.indices((64, 64)).sum(axis=0) % 2 * 255
        pixels = np.stack([board, board, board, np.full_like(board, 255)], axis=-1).astype(np.uint8)
        small = resized(pixels, 4)
        self.assertEqual(np.unique(small[1:-1, 1:-1, :3]).tolist(), [188])
        self.assertTrue(np.isin(small[..., :3], (187, 188, 189)).all())

    def test_clear_neighbour_gives_no_fringe(self):
        # Porter and Duff, "Compositing Digital Images", 1984: colour counts by its coverage.
        pixels = np.zeros((40, 40, 4), dtype=np.uint8)
        pixels[:, :20] = (255, 0, 0, 255)
        pixels[:, 20:] = (0, 255, 0, 0)
        small = resized(pixels, 7)
        self.assertEqual(small[..., 1].max(), 0)
        self.assertTrue((small[small[..., 3] > 0][:, 0] == 255).all())

    def test_stored_pixels_survive_the_way_to_light_and_back(self):
        pixels = noise(256, 64)
        back = to_pixels(to_light(pixels))
        seen = pixels[..., 3] > 0
        np.testing.assert_array_equal(back[seen], pixels[seen])
        self.assertFalse(back[~seen].any())

    def test_same_size_is_pixel_exact(self):
        pixels = noise(48, 48)
        pixels[..., 3] = 255
        np.testing.assert_array_equal(resized(pixels, 48), pixels)

    def test_ground_fills_what_the_picture_leaves_free(self):
        pixels = noise(60, 30)
        ground = Colour(10, 20, 30)
        out = to_pixels(light_of(pixels, 0, -15, 60, 60, ground))
        self.assertEqual(out[..., 3].min(), 255)
        np.testing.assert_array_equal(out[15:45], over(pixels, ground))
        self.assertTrue((out[:15, :, :3] == ground.channels).all())


class WeightTests(TestCase):
    @given(st.integers(1, 500), st.integers(1, 200))
    @settings(max_examples=60, deadline=None)
    def test_rows_sum_to_one(self, length, size):
        weights = Kernel(Axis(0, length, length, size)).direct(slice(0, size), slice(0, length))
        self.assertEqual(set(weights.sum(axis=1)), {ONE})
        self.assertTrue((weights == np.rint(weights)).all())

    @given(st.integers(-90, 90), st.integers(60, 300), st.integers(1, 200), st.integers(1, 12), st.integers(1, 4))
    @settings(max_examples=80, deadline=None)
    def test_a_level_and_what_it_leaves_to_the_ends_are_the_whole_kernel(self, start, length, count, size, number):
        axis, level = Axis(start, length, count, size), Level(number)
        ends = level.ends(axis)
        if ends is None or length < 4 * size * level.pitch:
            return
        kernel, everything, cells = Kernel(axis), slice(0, size), level.cells(axis)
        direct = kernel.direct(everything, axis.inside)
        told = kernel.on(level, everything, cells) @ level.spread(cells, axis.inside) / 8**number
        for end in ends:
            place = slice(end.start - axis.inside.start, end.stop - axis.inside.start)
            told[:, place] += kernel.left_to(level, everything, end)
        self.assertLess(np.abs(np.cumsum(told - direct, axis=1)).max() / ONE, 2.5e-4)
        self.assertTrue((kernel.on(level, everything, cells) == np.rint(kernel.on(level, everything, cells))).all())

    def test_any_number_of_workers_gives_the_same_light(self):
        pixels = noise(1400, 1300)
        results = []
        for workers in (1, 2, 5):
            with patch("bexi.core.pixels.reduction._WORKERS", workers):
                made = Reduction(pixels, None).square(-20, -70, 1340, [48, 200])
                results.append(b"".join(light.tobytes() for light in made))
        self.assertEqual(len(set(results)), 1)


_ICONS = """
import hashlib
from bexi.core.artwork.intake import take_in
from bexi.core.framing.compose import compose
from bexi.core.framing.finish import Finish
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.pixels.colour import Colour
from bexi.server.demo.artwork import ferry_emblem_on_white, harbour_stamp, old_button

told = hashlib.sha256()
for data in (ferry_emblem_on_white(), harbour_stamp(), old_button()):
    picture = take_in(data)[1]
    frame = Frame(3, 5, max(picture.width, picture.height) - 9)
    for finish in (Finish(), Finish(sharpen=3, outline=4, recolour=Colour(200, 20, 60))):
        for purpose in (Purpose.TAB, Purpose.MASKED, Purpose.ONE_COLOUR):
            for icon in compose(picture, Framing(frame, finish=finish), purpose, [16, 180]):
                told.update(icon.tobytes())
print(told.hexdigest())
"""


class AnyProcessorTests(TestCase):
    def test_every_kernel_gives_the_same_pixels(self):
        """Forced are kernels of the linear algebra library, and numpy's own for processors of three ages."""
        plain = "AVX2 FMA3 AVX512F AVX512CD AVX512_SKX AVX512_CLX AVX512_CNL AVX512_ICL AVX512_SPR"
        told = set()
        for kernel, without in (("Prescott", plain), ("Haswell", plain[10:]), ("SkylakeX", "")):
            forced = {**os.environ, "OPENBLAS_CORETYPE": kernel, "NPY_DISABLE_CPU_FEATURES": without}
            command = [sys.executable, "-W", "ignore", "-c", _ICONS]
            told.add(subprocess.run(command, env=forced, capture_output=True, text=True, check=True).stdout)
        self.assertEqual(len(told), 1)
