"""The highest and the lowest around each px, against scipy's filters."""

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import array_shapes, arrays
from scipy import ndimage

from bexi.core.pixels.around import highest_around, lowest_around

PICTURES = st.sampled_from([np.uint8, np.bool_]).flatmap(
    lambda kind: arrays(kind, array_shapes(min_dims=2, max_dims=2, max_side=40))
)


class AroundTests(TestCase):
    @given(picture=PICTURES, reach=st.integers(0, 12))
    def test_as_scipy_has_it(self, picture: np.ndarray, reach: int):
        size = 2 * reach + 1
        np.testing.assert_array_equal(highest_around(picture, size), ndimage.maximum_filter(picture, size))
        np.testing.assert_array_equal(lowest_around(picture, size), ndimage.minimum_filter(picture, size))
