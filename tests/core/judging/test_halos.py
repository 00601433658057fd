"""A shadow fades out, which pale ink that shades off does not, however weak it is."""

from unittest import TestCase

import numpy as np
from PIL import Image, ImageFilter

from bexi.core.judging.halos import halos_in


def card(start: float, end: float) -> np.ndarray:
    """How strong a card on white is that shades off from its top to its foot."""
    strength = np.zeros((200, 200), dtype=np.uint8)
    strength[40:160, 30:170] = np.linspace(start, end, 120)[:, None]
    return strength


class HaloTests(TestCase):
    def test_pale_cards_that_shade_off_are_ink(self):
        for start, end in ((60, 120), (120, 60), (80, 160), (50, 150)):
            self.assertFalse(halos_in(card(start, end), 1).any(), (start, end))

    def test_soft_shadows_are_halos(self):
        square = Image.fromarray(np.where(card(1, 1), 120, 0).astype(np.uint8))
        for radius in (6, 12, 20):
            shadow = np.asarray(square.filter(ImageFilter.GaussianBlur(radius)))
            self.assertGreater(halos_in(shadow, 1)[shadow > 8].mean(), 0.9, radius)
