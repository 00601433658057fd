"""Judging over the API: verdicts on rungs and builds, a close look, proposals, and what a new piece begins with."""

import base64
import json
from unittest import mock

from django.core.cache import caches

from bexi.server import blobs
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.services import build_site
from bexi.server.demo import artwork as demo
from bexi.server.drafts import judging
from bexi.server.drafts.beginnings import begin_with
from bexi.server.drafts.models import Draft
from bexi.server.sites.models import Site
from tests.core.judging.logos import TALL, WORDS_ALONE
from tests.pictures import decoded, plain_png
from tests.server.case import ApiTestCase

EMBLEM = {"x": 27, "y": 27, "side": 566}


class JudgingTestCase(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Merrow Ferry")
        self.lockup = add_artwork("lockup.svg", demo.ferry_lockup(), "Lockup")
        self.whole = {"framing": {"frame": {"x": 0, "y": -310, "side": 1240}}}

    def put(self, artwork: Artwork, revision: int = 0):
        return self.ask("POST", f"sites/{self.site.pk}/bench", {"artwork_id": artwork.pk, "revision": revision})

    def look(self, recipe: dict, size: int = 16, **more: object):
        body = {"recipe": recipe, "size": size, "site_id": self.site.pk, **more}
        return self.ask("POST", f"artwork/{self.lockup.pk}/judgement", body)


class ProgressTests(JudgingTestCase):
    def progress(self) -> list[dict]:
        answer = self.client.get(f"/api/sites/{self.site.pk}/proposals/{self.lockup.pk}/progress")
        self.assertEqual(answer.headers["Content-Type"], "application/x-ndjson")
        return [json.loads(line) for line in b"".join(answer.streaming_content).splitlines()]

    def test_each_framing_is_told_when_it_is_judged_and_nothing_twice(self):
        caches["proposals"].clear()
        told = self.progress()
        total = told[-1]["total"]
        self.assertGreaterEqual(total, 4)
        self.assertEqual([one["done"] for one in told], [0, 1, *range(1, total + 1), total])
        self.assertEqual([one["total"] for one in told], [0, 0, *[total] * (total + 1)])
        self.assertEqual(self.progress(), [])
        offers = self.ask("GET", f"sites/{self.site.pk}/proposals/{self.lockup.pk}").json()
        self.assertEqual(offers[0]["kind"], "emblem")
        self.assertEqual([one["first"] for one in told], [None, offers[0], *[None] * total, offers[0]])

    def test_the_best_is_put_on_the_bench_before_the_others_are_judged(self):
        caches["proposals"].clear()
        steps = judging.proposing(self.lockup, self.site)
        first = next(step.first for step in steps if step.first)
        judged = "bexi.core.judging.proposals.Contender.judged"
        with mock.patch(judged, side_effect=AssertionError("judged once more")):
            answer = self.put(self.lockup).json()
        self.assertEqual(answer["proposal"]["why"], first.why)
        self.assertEqual(answer["draft"]["recipe"]["framing"], answer["proposal"]["framing"])
        steps.close()
        self.assertEqual(judging.proposals_for(self.lockup, self.site)[0].framing, first.framing)

    def test_letters_stand_for_the_name_of_a_website_and_never_for_that_of_a_file(self):
        begun = begin_with(self.lockup, "", None)
        for name, letters in ((begun.name, False), ("Tide tables", True)):
            begun.name = name
            offers = judging.proposals_for(self.lockup, begun)
            self.assertEqual("letters" in [one.kind for one in offers], letters)

    def test_a_name_from_right_to_left_begins_at_the_right(self):
        sign = add_artwork("sign.svg", WORDS_ALONE, "Sign")
        lefts = []
        for name in ("Quayside", "מגדלור"):
            self.site.name = name
            offers = judging.proposals_for(sign, self.site)
            lefts.append(next(one.framing.frame.x for one in offers if one.kind.startswith("first letter")))
        self.assertLess(lefts[0], lefts[1] - 100)


class RungTests(JudgingTestCase):
    def rungs(self, recipe: dict, **more: object) -> list[dict]:
        pictures = [{"size": 16, "purpose": "tab"}, {"size": 180, "purpose": "home"}]
        body = {"recipe": recipe, "pictures": pictures, "site_id": self.site.pk, **more}
        return self.ask("POST", f"artwork/{self.lockup.pk}/ladder", body).json()

    def test_each_rung_says_its_verdict_with_the_worst_number(self):
        small, home = self.rungs(self.whole)
        self.assertEqual((small["verdict"], small["says"][:19]), ("lost", "lost: letter height"))
        self.assertEqual(home["verdict"], "hard")
        self.assertEqual([rung["says"] for rung in self.rungs({"framing": {"frame": EMBLEM}})], ["clear", "clear"])

    def test_a_ground_of_one_s_own_counts(self):
        small, _ = self.rungs({"framing": {"frame": EMBLEM}}, own_ground="#123f59")
        self.assertEqual(set(small["contrast"]), {"light", "dark", "own"})
        self.problem(
            self.ask(
                "POST",
                f"artwork/{self.lockup.pk}/ladder",
                {"recipe": self.whole, "pictures": [], "own_ground": "sky"},
            ),
            422,
            "unknown-colour",
        )

    def test_an_icon_like_that_of_another_site_is_told(self):
        other = Site.objects.create(name="Crew rota")
        self.put(self.lockup)
        framing = self.site.drafts.get().read_recipe.framing
        self.site = other
        seen = {"framing": {"frame": EMBLEM, "ground": framing.ground and str(framing.ground)}}
        small, _ = self.rungs(seen)
        self.assertEqual((small["verdict"], small["notes"]), ("well", []))  # they share it on purpose
        self.lockup = add_artwork("twin.svg", blobs.get(self.lockup.sha256) + b"<!-- another file -->")
        small, _ = self.rungs(seen)
        self.assertEqual((small["verdict"], small["says"]), ("well", "clear"))  # the word is not concerned
        self.assertEqual(small["notes"], ["looks like Merrow Ferry's icon"])


class CloseLookTests(JudgingTestCase):
    def test_ways_out_are_judged_against_the_other_sites_as_well(self):
        self.put(self.lockup)
        self.site = Site.objects.create(name="Crew rota")
        close = self.look({"framing": {"frame": Draft.objects.get().read_recipe.framing.frame.__dict__}}).json()
        self.assertIsNone(close["judgement"]["because"])
        self.assertEqual(close["judgement"]["notes"], [])  # the artwork is the same on purpose

    def test_readings_marks_and_ways_out(self):
        close = self.look(self.whole).json()
        self.assertEqual(close["judgement"]["because"], "lettering")
        readings = {one["name"]: one for one in close["judgement"]["readings"]}
        self.assertEqual(readings["lettering"]["amount"], "0.5 px")
        self.assertEqual((readings["lettering"]["lost"], readings["lettering"]["well"]), (4, 7))
        self.assertEqual(len(close["marks"]["lettering"]), 2)
        self.assertTrue(close["marks"]["strokes"])
        first = close["ways_out"][0]
        self.assertEqual((first["kind"], first["pictures"][0]["judgement"]["verdict"]), ("emblem", "well"))
        self.assertEqual(decoded(base64.b64decode(first["pictures"][0]["png"])).shape, (16, 16, 4))
        letters = next(way for way in close["ways_out"] if way["kind"] == "letters")
        self.assertEqual(letters["letters"]["text"], "MF")

    def test_a_way_out_can_be_looked_at_as_it_was_offered(self):
        framing = self.look(self.whole).json()["ways_out"][0]["framing"]
        again = self.look({"framing": framing}).json()
        self.assertEqual((again["judgement"]["says"], again["ways_out"]), ("clear", []))

    def test_what_cannot_be_looked_at_is_refused(self):
        self.problem(self.look({"framing": {"frame": {"x": 9000, "y": 0, "side": 10}}}), 422, "frame-misses-artwork")
        cut = {"left": 5, "top": 5, "right": 5, "bottom": 9}
        self.problem(self.look({"framing": {"frame": EMBLEM, "cut": cut}}), 422, "cut-without-area")
        self.problem(self.look(self.whole, own_ground="sky"), 422, "unknown-colour")
        self.problem(self.look({"framing": {"frame": EMBLEM, "finish": {"weight": 40}}}), 422, "bad-finish")


class GroupTests(JudgingTestCase):
    def test_the_emblem_and_the_words_each_alone(self):
        emblem, words = self.ask("GET", f"artwork/{self.lockup.pk}/groups").json()
        self.assertEqual([emblem["kind"], words["kind"]], ["emblem", "words"])
        self.assertAlmostEqual(emblem["frame"]["side"], 528, delta=8)
        self.assertGreater(words["frame"]["x"], 550)
        self.assertIsNone(words["cut"])  # nothing else reaches into their square
        tall = add_artwork("tall.svg", TALL.svg)
        emblem, _ = self.ask("GET", f"artwork/{tall.pk}/groups").json()
        self.assertIsNotNone(emblem["cut"])


class FirstLookTests(JudgingTestCase):
    def test_a_piece_comes_to_the_bench_with_the_best_proposal_taken(self):
        answer = self.put(self.lockup).json()
        self.assertEqual(answer["proposal"]["kind"], "emblem")
        self.assertEqual(answer["draft"]["recipe"]["framing"]["frame"], answer["proposal"]["framing"]["frame"])
        sizes = [picture["judgement"]["size"] for picture in answer["proposal"]["pictures"]]
        self.assertEqual(sizes, [16, 32, 180])

    def test_putting_another_piece_there_is_one_change(self):
        first = self.put(self.lockup).json()["draft"]
        other = add_artwork("emblem.jpg", demo.ferry_emblem_on_white())
        second = self.put(other, first["revision"]).json()["draft"]
        self.assertEqual(second["id"], first["id"])
        undone = self.ask("POST", f"drafts/{first['id']}/undo", {"revision": second["revision"]}).json()
        self.assertEqual((undone["artwork_id"], undone["recipe"]), (self.lockup.pk, first["recipe"]))
        self.problem(self.put(other, 0), 409, "draft-changed-elsewhere")

    def test_words_alone_become_their_first_letter(self):
        sign = add_artwork("sign.svg", WORDS_ALONE)
        answer = self.put(sign).json()
        self.assertEqual(answer["proposal"]["kind"], "first letter on a plate")
        self.assertIn("first letter as the logo draws it", answer["proposal"]["why"])
        self.assertEqual(answer["draft"]["artwork_id"], sign.pk)
        self.assertGreater(len(answer["draft"]["recipe"]["framing"]["cut"]["outline"]), 8)

    def test_where_nothing_else_is_told_the_sites_letters_are_and_the_piece_stays(self):
        ring = b'<circle cx="256" cy="256" r="240" fill="none" stroke="#777" stroke-width="2"/>'
        hair = add_artwork("hair.svg", b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 512 512">%s</svg>' % ring)
        answer = self.put(hair).json()
        self.assertEqual(answer["proposal"]["kind"], "letters")
        self.assertEqual(answer["draft"]["artwork_id"], hair.pk)
        letters = Artwork.objects.get(pk=answer["draft"]["recipe"]["framing"]["artwork"])
        self.assertEqual(letters.drawing["text"], "MF")

    def test_a_blank_picture_has_proposals_all_the_same(self):
        # A white square is not seen on a light tab, so letters come before it; a blue one is.
        for colour, kinds in (("#ffffff", ["letters", "as it is"]), ("#1a5fb4", ["as it is", "letters"])):
            blank = add_artwork(f"{colour}.png", plain_png(60, 60, colour))
            offers = self.ask("GET", f"sites/{self.site.pk}/proposals/{blank.pk}").json()
            self.assertEqual([one["kind"] for one in offers], kinds)

    def test_the_same_proposals_over_again(self):
        first = self.ask("GET", f"sites/{self.site.pk}/proposals/{self.lockup.pk}").json()
        caches["proposals"].clear()
        self.assertEqual(self.ask("GET", f"sites/{self.site.pk}/proposals/{self.lockup.pk}").json(), first)


class SetTests(JudgingTestCase):
    def test_a_build_keeps_the_verdict_of_each_picture(self):
        self.put(self.lockup)
        draft = self.site.drafts.get()
        self.ask(
            "PUT",
            f"drafts/{draft.pk}",
            {"artwork_id": self.lockup.pk, "recipe": self.whole, "revision": draft.revision},
        )
        build = build_site(self.site)
        self.assertIn("16 px lost: letter height 0.5 px", build.not_well)
        told = {(one["size"], one["purpose"]): one for one in build.verdicts}
        self.assertEqual(told[16, "tab"]["verdict"], "lost")
        self.assertEqual(told[16, "tab"]["files"], ["favicon.ico", "icon-16.png"])
        (listed,) = self.ask("GET", f"sites/{self.site.pk}/builds").json()
        self.assertEqual(len(listed["verdicts"]), len(build.verdicts))

    def test_a_set_that_is_well_has_nothing_to_say_of_tabs(self):
        self.put(self.lockup)
        told = [one for one in build_site(self.site).verdicts if one["purpose"] == "tab"]
        self.assertEqual({one["verdict"] for one in told}, {"well"})


class LiftedTests(JudgingTestCase):
    def test_the_ground_is_lifted_for_looking_only(self):
        piece = add_artwork("emblem.jpg", demo.ferry_emblem_on_white())
        answer = self.client.get(f"/api/artwork/{piece.pk}/picture/lifted?tolerance=0.08&longest=200")
        self.assertEqual(decoded(answer.content)[0, 0, 3], 0)
        piece.refresh_from_db()
        self.assertIsNone(piece.read_as.lift)
        answer = self.client.get(f"/api/artwork/{self.lockup.pk}/picture/lifted?tolerance=0.08")
        self.problem(answer, 422, "no-ground-to-lift")
