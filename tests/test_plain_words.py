"""No quaint wording is left where English has a plain word: what people read on screens, in the terminal, in pages."""

import re
from pathlib import Path
from unittest import TestCase

ROOT = Path(__file__).parent.parent
QUAINT = (
    "however far", "as they were added", "Bring in a list", "Take the list along", "Look now", "Looked at",
    "Look by itself", "Only when I ask", "Go on at the bench", "Put it on the bench", "See what is wrong",
    "What could be better", "All is well", "Nothing is wrong", "things are wrong", "Types and freshness",
    "Lines for the server", "for certain from", "still the earlier one", "gets nothing that it can show",
    "it declares no size", "Take one from the site", "Search the shelf", "We are allowed to use it",
    "What somebody should hear", "Under the opaque", "Hug the ink", "Margin to hug", "Centred by weight",
    "Own framing:", "Back to all sizes", "Ways out, tried", "Nothing to mend", "Drop to take in",
    "Name it to keep it", "Not said yet", "nothing said\"", "Where the site lives", "Change the place",
    "Try the connection", "Plan with these", "Gives way", "that gives way\"", "Take over what",
    "Remove all the same", "Bring back", "Stand-in visitor", "Have it visit", "Back to ours",
    "Put on the phone", "It administers Bexi", "scrap of the page", "pass over it", "Agree to this key", "sealed on",
    "What to make of", "Take it off", "Make again", "off the shelf", "Look through the doc", "the log says more",
    "no whole backup", "Build it anew", "download it anew", "Lift the ground", "do not belong together",
    "Wait for its end", "It has been nowhere", "goes with all sizes", "stands installed", "Mend these first",
)  # fmt: skip
"""Each has its plain word; the list is of sentences that were on the screen once."""


class PlainWordsTests(TestCase):
    def test_none_of_them_is_read_anywhere(self):
        left = []
        for path in self.read_by_people():
            # Comments tell developers, not people.
            text = re.sub(r"/\*.*?\*/|^\s*(//|#).*?$", "", path.read_text(), flags=re.DOTALL | re.MULTILINE)
            if path.suffix == ".py":
                text = re.sub(r'""".*?"""', "", text, flags=re.DOTALL)
            left += [f"{path.relative_to(ROOT)}: {one}" for one in QUAINT if one in text]
        self.assertEqual(left, [])

    def read_by_people(self):
        """Everything with words for people in it."""
        yield from (path for path in (ROOT / "frontend/src").rglob("*.ts*") if path.name != "schema.d.ts")
        yield from (ROOT / "bexi").rglob("*.py")
        yield from (ROOT / "docs/pages").rglob("*.md")
        yield ROOT / "README.md"
