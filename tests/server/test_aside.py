"""Pictures too large for a web process are worked on aside, whatever is asked of them."""

import os
import pickle
import time
from collections.abc import Callable
from unittest import mock

from django.core.cache import cache, caches
from django.test import SimpleTestCase

from bexi.core.errors import ArtworkRefused, FramingRefused
from bexi.server.artwork import aside
from bexi.server.artwork.services import _opened
from bexi.server.problems import Busy, Conflict
from tests.server.case import BenchTestCase


class EveryRouteTests(BenchTestCase):
    """With a bound that the bench's picture is above, each answer comes from aside, the same as it was."""

    def setUp(self):
        super().setUp()
        self.keep(0)
        self.built = self.build()
        self.asked: list[str] = []

    def questions(self) -> list[object]:
        artwork, site = self.artwork["id"], self.site.pk
        frame = self.recipe["framing"]["frame"]
        sixteen = {"size": 16, "purpose": "tab"}
        asked = [
            ("POST", f"artwork/{artwork}/ladder", {"recipe": self.recipe, "pictures": [sixteen], "site_id": site}),
            ("POST", f"artwork/{artwork}/judgement", {"recipe": self.recipe, **sixteen, "site_id": site}),
            ("POST", f"artwork/{artwork}/cut-off", frame),
            ("GET", f"artwork/{artwork}/groups", None),
            ("GET", f"sites/{site}/proposals/{artwork}", None),
            ("GET", f"sites/{site}/costs", None),
            ("POST", f"sites/{site}/fit", {"format": "png", "size": 48}),
            ("POST", f"builds/{self.built['id']}/again", None),
        ]
        answers = [self.ask(*question) for question in asked]
        self.assertEqual([answer.status_code for answer in answers], [200] * len(asked))
        return [answer.json() for answer in answers]

    def here(self, work: Callable[..., object], args: tuple, kwargs: dict, nobody_waits: Callable[[], bool]) -> object:
        """In the place of the other process, which does not see what a test keeps."""
        self.assertFalse(nobody_waits())
        self.asked.append(work.__name__)
        pickle.dumps((work, args, kwargs))
        with mock.patch.object(aside._aside, "most_pixels", None):
            return pickle.loads(pickle.dumps(work(*args, **kwargs)))

    def test_all_is_asked_aside_and_answered_alike(self):
        before = self.questions()
        _opened.cache_clear()
        for kept in (cache, caches["rungs"], caches["proposals"]):
            kept.clear()
        with mock.patch.multiple(aside._aside, most_pixels=100, ask=self.here):
            self.assertEqual(self.questions(), before)
        expected = {"rungs", "look_closely", "ink_in", "framed_groups", "_propose", "whole_set", "fit_for", "rebuild"}
        self.assertEqual(set(self.asked), expected)


class ProcessTests(SimpleTestCase):
    """The process itself, which needs no data."""

    def setUp(self):
        self.aside = aside._Aside()
        self.addCleanup(lambda: self.aside._pool and self.aside._pool.shutdown())

    def ask(self, work: Callable[..., object], *args: object, nobody_waits: Callable[[], bool] = lambda: False):
        return self.aside.ask(work, args, {}, nobody_waits)

    def test_it_is_another_one_and_kept_for_the_next(self):
        first = self.ask(os.getpid)
        self.assertNotEqual(first, os.getpid())
        self.assertEqual(self.ask(os.getpid), first)

    def test_it_ends_when_nobody_asks_for_a_while(self):
        with mock.patch.object(aside, "_IDLE_SECONDS", 0.1):
            first = self.ask(os.getpid)
            self.wait_for(lambda: self.aside._pool is None)
        self.assertNotEqual(self.ask(os.getpid), first)

    def test_it_is_kept_a_while_after_the_last_that_asked(self):
        with mock.patch.object(aside, "_IDLE_SECONDS", 1.0):
            first = self.ask(os.getpid)
            for _ in range(4):
                time.sleep(0.4)
                self.assertEqual(self.ask(os.getpid), first)
            self.wait_for(lambda: self.aside._pool is None)

    def wait_for(self, reached: Callable[[], bool]) -> None:
        end = time.monotonic() + 60
        while not reached():
            self.assertLess(time.monotonic(), end)
            time.sleep(0.05)

    def test_refusals_come_back_as_they_are(self):
        with self.assertRaises(FramingRefused) as caught:
            self.ask(refuse)
        self.assertEqual((caught.exception.code, str(caught.exception)), ("no", "No."))
        self.assertIsInstance(pickle.loads(pickle.dumps(ArtworkRefused("a", "b"))), ArtworkRefused)

    def test_one_that_crashes_is_a_sentence_and_the_next_is_done(self):
        with self.assertRaisesMessage(Busy, "too much memory"):
            self.ask(os._exit, 1)
        self.assertNotEqual(self.ask(os.getpid), os.getpid())

    def test_who_hung_up_is_not_waited_for(self):
        with self.assertRaises(Conflict):
            self.ask(sleep_a_while, nobody_waits=lambda: True)


def refuse() -> None:
    raise FramingRefused("no", "No.")


def sleep_a_while() -> None:
    time.sleep(2)
