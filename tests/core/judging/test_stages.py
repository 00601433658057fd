"""The stages as pictures: what each shows of a logo with a shadow, a fade, letters and an emblem."""

from unittest import TestCase

import numpy as np

from bexi.core.artwork.intake import take_in
from bexi.core.framing.tabs import DARK_TAB
from bexi.core.judging.stages import stages_of
from tests.core.judging.brought.developed import DEVELOPED


def colours(pixels: np.ndarray) -> int:
    return len(np.unique(pixels.reshape(-1, 4), axis=0))


class StagesTests(TestCase):
    def test_a_logo(self):
        logo = next(one for one in DEVELOPED if one.name == "soft shadow")
        stages = dict(stages_of(logo.picture))
        self.assertEqual(
            list(stages), ["1-flat-on-light", "1-flat-on-dark", "2-regions", "3-parts", "4-letters", "5-groups"]
        )
        self.assertEqual(len({pixels.shape for pixels in stages.values()}), 1)
        self.assertEqual(colours(stages["1-flat-on-dark"]), 2)  # neither the shadow nor soft edges are left
        self.assertEqual(tuple(stages["1-flat-on-dark"][0, 0, :3]), DARK_TAB.channels)
        self.assertGreater(colours(stages["2-regions"]), 6)
        blue = (stages["4-letters"][..., :3] == (20, 60, 200)).all(axis=-1)
        columns = np.flatnonzero(blue.any(axis=0))
        self.assertGreater(columns[0], blue.shape[1] * 0.4)  # the emblem is no letter
        for frame in ((0, 110, 60), (20, 60, 200), (190, 90, 0)):
            self.assertTrue((stages["5-groups"][..., :3] == frame).all(axis=-1).any())

    def test_fades_in_every_direction_are_one_colour(self):
        for x, y in ((1, 0), (0, 1), (1, 1)):
            fade = f'<linearGradient id="g" x2="{x}" y2="{y}"><stop stop-color="#38bdf8"/>'
            body = f'{fade}<stop offset="1" stop-color="#1d4ed8"/></linearGradient><circle cx="50" cy="50" r="40"'
            svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">{body} fill="url(#g)"/></svg>'
            stages = dict(stages_of(take_in(svg.encode())[1]))
            self.assertEqual(colours(stages["1-flat-on-light"]), 2, (x, y))
            self.assertEqual(colours(stages["2-regions"]), 2)
