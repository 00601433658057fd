"""The same thing asked several times at once: once it is done, and nobody meets an error."""

import tempfile
import threading
from pathlib import Path
from unittest import mock

from django.db import connections
from django.test import Client, TransactionTestCase, override_settings

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.plan import Plan
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.services import add_artwork
from bexi.server.builds import starting as builds
from bexi.server.builds.models import BuildRun
from bexi.server.builds.services import build_site, keep_plan
from bexi.server.drafts.services import save_draft
from bexi.server.installs import starting as installs
from bexi.server.installs.models import Planning
from bexi.server.sites.models import Site
from tests.pictures import BLUE_DISC, plain_png

TIMES = 8


class AtOnceTests(TransactionTestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.enterContext(override_settings(BLOB_FOLDER=Path(folder.name) / "blobs"))

    def all_at_once(self, work) -> list:
        """What `work` gave each of TIMES threads that began together."""
        barrier, outcomes = threading.Barrier(TIMES), []

        def one() -> None:
            barrier.wait()
            try:
                outcomes.append(work())
            except Exception as error:
                outcomes.append(error)
            finally:
                connections.close_all()

        threads = [threading.Thread(target=one) for _ in range(TIMES)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return outcomes

    def test_one_picture_is_taken_in_once(self):
        taken = self.all_at_once(lambda: add_artwork("disc.svg", BLUE_DISC).pk)
        self.assertEqual((set(taken), Artwork.objects.count()), ({Artwork.objects.get().pk}, 1))

    def test_a_fresh_preview_is_made_for_everybody(self):
        artwork = add_artwork("a.png", plain_png(600, 400))
        answers = self.all_at_once(
            lambda: Client(SERVER_NAME="127.0.0.1").get(f"/api/artwork/{artwork.pk}/picture?longest=500")
        )
        self.assertEqual({answer.status_code for answer in answers}, {200}, answers)
        self.assertEqual(len({answer.content for answer in answers}), 1)

    def test_a_build_is_begun_once(self):
        site = Site.objects.create(name="Ferry")
        save_draft(site, add_artwork("disc.svg", BLUE_DISC), Recipe.of(Frame(0, 0, 512)), 0)
        with mock.patch("bexi.server.machines.work.Work.offer"):
            runs = self.all_at_once(lambda: builds.start(site).pk)
        self.assertEqual((set(runs), BuildRun.objects.count()), ({BuildRun.objects.get().pk}, 1))

    def test_one_planning_is_begun_for_one_question_and_a_later_one_takes_its_place(self):
        folder = self.enterContext(tempfile.TemporaryDirectory())
        site = Site.objects.create(name="Ferry", place=folder)
        keep_plan(site, Plan(("icon-32.png",)))
        save_draft(site, add_artwork("disc.svg", BLUE_DISC), Recipe.of(Frame(0, 0, 512)), 0)
        build_site(site)
        with mock.patch("bexi.server.machines.work.Work.offer"):
            asked = self.all_at_once(lambda: installs.start_planning(site).pk)
            self.assertEqual((set(asked), Planning.objects.count()), ({Planning.objects.get().pk}, 1))
            questions = iter(("", "a", "b", "c") * TIMES)
            asked = self.all_at_once(lambda: installs.start_planning(site, pages=next(questions)))
        others = [answer for answer in asked if not isinstance(answer, Planning)]
        self.assertEqual({getattr(answer, "code", answer) for answer in others} - {"plan-outdated"}, set())
        self.assertEqual(Planning.objects.count(), 1)
