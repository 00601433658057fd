import gzip
import re
from unittest import TestCase

from django.conf import settings

MOST_BYTES = 180_000


class FirstScreenTests(TestCase):
    def test_its_script_is_small(self):
        """What the page asks for before anything is shown, gzipped; the views come when they are opened."""
        built = settings.FRONTEND_BUILD
        scripts = set(re.findall(r"assets/[\w.-]+\.js", (built / "index.html").read_text()))
        self.assertGreater(len(scripts), 1)
        self.assertLessEqual(sum(len(gzip.compress((built / one).read_bytes(), 9)) for one in scripts), MOST_BYTES)
