from unittest import TestCase

import numpy as np

from bexi.core.formats import ico, png
from bexi.core.iconset.compare import FileChange, compare, difference_image, pictures_in
from tests.pictures import BLUE_DISC, noise


class CompareTests(TestCase):
    def test_every_file_is_told_with_what_became_of_it(self):
        one, other = noise(16, 16), noise(16, 16)
        one[..., 3] = other[..., 3] = 255
        other[4, 5, 1] = one[4, 5, 1] ^ 255 if one[4, 5, 1] < 128 else 0
        apart = abs(int(one[4, 5, 1]) - int(other[4, 5, 1]))
        before = {"same.png": png.write(one), "a.png": png.write(one), "gone.txt": b"x", "s.ico": ico.write([one])}
        after = {
            "same.png": before["same.png"],
            "a.png": png.write(other),
            "s.ico": ico.write([noise(32, 32)]),
            "new.txt": b"yy",
        }
        told = {one.name: one for one in compare(before, after)}
        self.assertEqual(
            {name: difference.change for name, difference in told.items()},
            {
                "same.png": FileChange.SAME,
                "a.png": FileChange.CHANGED,
                "gone.txt": FileChange.GONE,
                "s.ico": FileChange.CHANGED,
                "new.txt": FileChange.ADDED,
            },
        )
        (picture,) = told["a.png"].pictures
        self.assertEqual(picture.largest, apart)
        self.assertAlmostEqual(picture.mean, apart / (16 * 16 * 4), places=4)
        self.assertIsNone(told["s.ico"].pictures[0].mean)  # other sizes are not compared
        self.assertEqual((told["new.txt"].bytes_before, told["new.txt"].bytes_after), (None, 2))

    def test_the_difference_image_is_white_where_pictures_are_equal(self):
        one = noise(20, 20)
        one[..., 3] = 255
        other = one.copy()
        other[3, 7, 0] ^= 255
        image = difference_image(one, other)
        self.assertEqual(np.argwhere((image[..., :3] < 255).any(axis=-1)).tolist(), [[3, 7]])
        self.assertEqual(image[..., 3].min(), 255)

    def test_pictures_of_every_kind_of_file(self):
        self.assertEqual([one.shape[0] for one in pictures_in(ico.write([noise(16, 16), noise(32, 32)]))], [16, 32])
        self.assertEqual(len(pictures_in(BLUE_DISC)), 1)
        for data in (b"text", b"", png.write(noise(9, 9))[:40], b"\0\0\1\0\x09\0"):
            self.assertEqual(pictures_in(data), [])
