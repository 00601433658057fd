"""The first proposal against what a designer would make, over logos as people bring them; half was held back."""

from unittest import TestCase

from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import best_first, candidates, judged_in_turn
from bexi.core.judging.ways_out import Source
from tests.core.judging.brought.developed import DEVELOPED
from tests.core.judging.brought.drawing import Brought
from tests.core.judging.brought.held_back import HELD_BACK
from tests.core.judging.brought.looking import what_is_wrong
from tests.core.judging.brought.strange import STRANGE


class BroughtTests(TestCase):
    logos: tuple[Brought, ...] = DEVELOPED

    def test_the_first_is_the_right_one_and_none_is_lost_while_another_is_not(self):
        wrong, lost = {}, []
        for logo in self.logos:
            picture = logo.picture
            judged = judged_in_turn(candidates(Source(picture, groups_of(picture))), with_letters=False)
            made = [one for one in judged if one]
            proposals = best_first(made)
            # It is told as the first before the others are judged.
            self.assertIs(next((one for one in made if one.stands_first), proposals[0]), proposals[0], logo.name)
            self.assertLessEqual(len(proposals), 5)
            self.assertTrue(all(one.why for one in proposals))
            if said := what_is_wrong(logo, proposals[0]):
                wrong[logo.name] = said
            if proposals[0].is_lost and not all(one.is_lost for one in proposals):
                lost.append(logo.name)
        self.assertEqual(lost, [])
        self.assertEqual(wrong, {})


class HeldBackTests(BroughtTests):
    logos = HELD_BACK


class StrangeTests(BroughtTests):
    logos = STRANGE
