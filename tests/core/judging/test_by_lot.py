"""The first proposal for logos that nobody chose."""

from unittest import TestCase

from tests.core.judging.brought.by_lot import by_lot
from tests.core.judging.brought.looking import first_of, what_is_wrong

FOUND = (5, 16, 73, 80)
"""An emblem of two pieces beside a divider, a disc with fine lines, a bold word of like letters, an emblem of bars."""
HELD_BACK = range(400, 430)
"""Not looked at while the rules were made; of 160 others that were not looked at 158 are right."""


class LotTests(TestCase):
    def test_those_that_were_wrong_once_are_right(self):
        self.assertEqual({seed: said for seed in FOUND if (said := self.wrong(seed))}, {})

    def test_nearly_all_are_right(self):
        wrong = {seed: said for seed in HELD_BACK if (said := self.wrong(seed))}
        self.assertLessEqual(len(wrong), 2, wrong)

    def wrong(self, seed: int) -> str:
        logo = by_lot(seed)
        return what_is_wrong(logo, first_of(logo))
