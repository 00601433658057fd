"""Connected areas, against scipy's labels of each kind alone."""

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import array_shapes, arrays
from scipy import ndimage

from bexi.core.pixels.areas import areas_of

KINDS = arrays(np.uint8, array_shapes(min_dims=2, max_dims=2, max_side=24), elements=st.integers(0, 2))


class AreasTests(TestCase):
    @given(kinds=KINDS, corners=st.booleans())
    def test_as_scipy_has_them(self, kinds: np.ndarray, corners: bool):
        areas, near = areas_of(kinds, corners), ndimage.generate_binary_structure(2, 2 if corners else 1)
        alone = [ndimage.label(kinds == kind, structure=near)[0] for kind in np.unique(kinds)]
        expected = {tuple(np.flatnonzero(labels == one)) for labels in alone for one in range(1, labels.max() + 1)}
        found = [tuple(np.flatnonzero(areas.labels == number)) for number in range(len(areas.firsts))]
        self.assertEqual(set(found), expected)
        self.assertEqual([each[0] for each in found], areas.firsts.tolist())
        self.assertEqual(sorted(areas.firsts), areas.firsts.tolist())
        for (left, top, right, bottom), (down, across) in zip(
            areas.boxes, ndimage.find_objects(areas.labels + 1), strict=True
        ):
            self.assertEqual((slice(top, bottom), slice(left, right)), (down, across))

    def test_a_spiral_hangs_together(self):
        spiral = np.zeros((21, 21), dtype=np.uint8)
        for turn in range(0, 10, 2):
            spiral[turn, turn : 21 - turn] = spiral[turn : 21 - turn, 20 - turn] = 1
            spiral[20 - turn, turn : 21 - turn] = spiral[turn + 2 : 21 - turn, turn] = 1
            spiral[turn + 2, turn : turn + 3] = 1
        _, count = ndimage.label(spiral)
        numbers = areas_of(spiral).labels
        self.assertEqual(len(np.unique(numbers[spiral == 1])), count)
