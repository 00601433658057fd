"""The word against that of a person, who looked at each icon of the gallery at true size and enlarged.

The words stand in gallery/words.csv, a line of reason beside each [common practice]. Bounds were scaled on every other
icon; the rest was held back. At first sight 84 of 96 and 70 of 95 were the same.
"""

import csv
from pathlib import Path
from unittest import TestCase

from bexi.core.judging.readings import Verdict
from tests.core.judging.gallery.icons import gallery

_WORDS = Path(__file__).parent / "gallery" / "words.csv"
_SAME = 0.9


class GalleryTests(TestCase):
    def test_the_word_is_that_of_a_person_and_never_two_words_apart(self):
        with _WORDS.open(newline="") as file:
            words = {row["icon"]: row["word"] for row in csv.DictReader(file)}
        icons = list(gallery())
        self.assertEqual([icon.name for icon in icons], list(words))
        self.assertGreaterEqual(len(icons), 160)
        for half in (icons[::2], icons[1::2]):
            unlike = {}
            for icon in half:
                word, said = words[icon.name], icon.judged().verdict
                if word != (said or ""):
                    unlike[icon.name] = (word, said)
                if word and said:
                    self.assertLess(abs(Verdict(word).rank - said.rank), 2, icon.name)
            self.assertLessEqual(len(unlike), (1 - _SAME) * len(half), unlike)
