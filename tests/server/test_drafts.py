"""The history of drafts, sizes of their own, and frames over changed artwork."""

import base64
from random import Random

import numpy as np
from PIL import Image

from bexi.server.drafts.models import Draft
from bexi.server.sites.models import Site
from tests.pictures import BLUE_DISC, decoded, encoded, noise, plain_png
from tests.server.case import BenchTestCase


class HistoryTests(BenchTestCase):
    def step(self, direction: str, revision: int):
        return self.ask("POST", f"drafts/{self.draft()['id']}/{direction}", {"revision": revision})

    def sides(self, count: int) -> None:
        for number in range(count):
            self.assertEqual(
                self.keep(number, frame={"x": 0, "y": 0, "side": 100 + number}).status_code, 200 if number else 201
            )

    def test_back_to_the_first_and_forward_to_the_last(self):
        self.sides(4)
        revision, seen = 4, []
        for direction in ("undo", "undo", "undo", "redo", "redo", "redo"):
            draft = self.step(direction, revision).json()
            revision = draft["revision"]
            seen.append((draft["recipe"]["framing"]["frame"]["side"], draft["can_undo"], draft["can_redo"]))
        self.assertEqual(
            seen,
            [
                (102, True, True),
                (101, True, True),
                (100, False, True),
                (101, True, True),
                (102, True, True),
                (103, True, False),
            ],
        )
        self.problem(self.step("redo", revision), 409, "no-such-change")

    def test_a_new_change_after_undoing_drops_what_was_undone(self):
        self.sides(3)
        self.step("undo", 3)
        self.keep(4, frame={"x": 0, "y": 0, "side": 7})
        self.problem(self.step("redo", 5), 409, "no-such-change")
        self.assertEqual(self.step("undo", 5).json()["recipe"]["framing"]["frame"]["side"], 101)

    def test_undoing_from_an_overtaken_window_is_told(self):
        self.sides(2)
        self.problem(self.step("undo", 1), 409, "draft-changed-elsewhere")

    def test_undo_brings_back_the_artwork_too(self):
        self.keep(0)
        other = self.send(BLUE_DISC, "disc.svg").json()
        recipe = {"framing": {"frame": other["framings"]["whole"]}}
        body = {"artwork_id": other["id"], "recipe": recipe, "revision": 1}
        self.put(body)
        self.assertEqual(self.step("undo", 2).json()["artwork_id"], self.artwork["id"])


class UndoPropertyTests(BenchTestCase):
    def test_undoing_is_the_inverse_of_any_changes(self):
        # Random walks of changes and undoing against a plain list of states.
        random = Random(7)
        for _ in range(5):
            Draft.objects.all().delete()
            revision, states, position = 0, [], -1
            for _ in range(25):
                move = random.choice(["change", "change", "undo", "redo"])
                if move == "change":
                    side = random.randint(1, 300)
                    answered = self.keep(revision, frame={"x": 0, "y": 0, "side": side})
                    states, position = [*states[: position + 1], side], position + 1
                elif 0 <= position + (1 if move == "redo" else -1) < len(states):
                    answered = self.ask("POST", f"drafts/{self.draft()['id']}/{move}", {"revision": revision})
                    position += 1 if move == "redo" else -1
                else:
                    continue
                draft = answered.json()
                revision = draft["revision"]
                self.assertEqual(draft["recipe"]["framing"]["frame"]["side"], states[position])
                self.assertEqual((draft["can_undo"], draft["can_redo"]), (position > 0, position < len(states) - 1))


class OwnSizesTests(BenchTestCase):
    def own(self, artwork_id: int | None = None, **sizes: object) -> dict:
        return {"framing": {"frame": {"x": 0, "y": 0, "side": 40}, "artwork": artwork_id and str(artwork_id)}, **sizes}

    def test_ladder_and_build_follow_the_own_framings(self):
        plain = self.send(plain_png(40, 40, "#cc2200"), "plain.png").json()
        own = [self.own(plain["id"], largest=32)]
        self.keep(0, own=own)
        recipe = {**self.recipe, "own": own}
        wanted = [{"size": 16, "purpose": "tab"}, {"size": 48, "purpose": "tab"}, {"size": 180, "purpose": "home"}]
        ladder = self.ask("POST", f"artwork/{self.artwork['id']}/ladder", {"recipe": recipe, "pictures": wanted}).json()
        self.assertEqual([rung["own"] for rung in ladder], [0, None, None])
        colours = [
            decoded(base64.b64decode(rung["png"]))[rung["size"] // 2, rung["size"] // 2].tolist() for rung in ladder
        ]
        self.assertEqual([colour[:3] for colour in colours], [[0xCC, 0x22, 0], [0x22, 0x44, 0x66], [0x22, 0x44, 0x66]])
        build = self.build()
        for name, colour in (("icon-32.png", [0xCC, 0x22, 0]), ("icon-192.png", [0x22, 0x44, 0x66])):
            served = decoded(self.client.get(f"/api/builds/{build['id']}/files/{name}").content)
            self.assertEqual(served[len(served) // 2, len(served) // 2, :3].tolist(), colour)

    def test_by_hand_is_told_shown_plain_beside_and_built(self):
        bars = b'<path d="M23 20h10v120H23zM70 20h10v120H70z" fill="#123f59"/>'
        head = b'<svg xmlns="http://www.w3.org/2000/svg" width="160" height="160">'
        self.artwork = self.send(head + bars + b"</svg>", "bars.svg").json()
        side = {"frame": {"x": 0, "y": 0, "side": self.artwork["facts"]["width"]}}
        wanted = {"pictures": [{"size": size, "purpose": "tab"} for size in (16, 32, 64)]}
        ladders = []
        for sizes in ([16], []):
            recipe = {"framing": {**side, "by_hand": sizes}}
            told = self.ask("POST", f"artwork/{self.artwork['id']}/ladder", {"recipe": recipe, **wanted})
            ladders.append(told.json())
        by_hand, plain = ladders
        self.assertEqual(
            [(rung["edges"], bool(rung["plain"])) for rung in by_hand], [(2, True), (0, False), (0, False)]
        )
        self.assertEqual(by_hand[0]["plain"], plain[0]["png"])
        self.assertNotEqual(by_hand[0]["png"], plain[0]["png"])
        self.assertEqual([rung["png"] for rung in by_hand[1:]], [rung["png"] for rung in plain[1:]])
        self.problem(self.keep(0, **side, by_hand=[64]), 422, "not-by-hand")
        self.keep(0, **side, by_hand=[16])
        build = self.build()
        served = self.client.get(f"/api/builds/{build['id']}/files/icon-16.png")
        self.assertEqual(served.content, base64.b64decode(by_hand[0]["png"]))

    def test_a_treatment_of_the_other_artwork_puts_the_draft_ahead(self):
        other = self.send(BLUE_DISC, "disc.svg").json()
        self.keep(
            0,
            own=[
                {
                    **self.own(other["id"], largest=32),
                    "framing": {"frame": other["framings"]["whole"], "artwork": str(other["id"])},
                }
            ],
        )
        self.order_build()
        self.assertTrue(self.ask("GET", f"sites/{self.site.pk}/builds").json()[0]["current"])
        self.ask("PUT", f"artwork/{other['id']}/treatment", {"recolour": "#ff0000"})
        self.assertFalse(self.ask("GET", f"sites/{self.site.pk}/builds").json()[0]["current"])

    def test_bad_own_framings_are_refused(self):
        self.problem(self.keep(0, own=[self.own(999, largest=32)]), 422, "no-such-artwork")
        self.problem(self.keep(0, own=[self.own(smallest=48, largest=16)]), 422, "unknown-sizes")
        off = self.own(largest=16)
        off["framing"]["frame"] = {"x": 9000, "y": 0, "side": 9}
        self.problem(self.keep(0, own=[off]), 422, "frame-misses-artwork")
        self.problem(self.keep(0, plate={"shape": "disc", "margin": 90}), 422, "bad-plate")
        self.assertIsNone(self.ask("GET", f"sites/{self.site.pk}/draft").json())

    def test_frames_over_a_replaced_artwork_follow_in_its_own_framings_only(self):
        other = self.send(encoded(Image.fromarray(noise(100, 100)), "PNG"), "other.png").json()
        self.keep(0, own=[self.own(other["id"], largest=32), self.own(largest=48)])
        self.send(encoded(Image.fromarray(noise(200, 200)), "PNG"), "larger.png", f"artwork/{other['id']}/replacement")
        recipe = self.site.drafts.get().recipe
        sides = [recipe["framing"]["frame"]["side_px"], *(own["framing"]["frame"]["side_px"] for own in recipe["own"])]
        self.assertEqual(sides, [300, 80, 40])

    def test_credits_of_every_artwork_travel(self):
        anchor = self.ask("POST", "drawings", {"drawing": {"kind": "symbol", "name": "anchor"}}).json()
        details = {"title": "Base", "licence": "CC-BY-4.0", "credit": "A. Member"}
        self.ask("PUT", f"artwork/{self.artwork['id']}", details)
        self.keep(0, own=[self.own(anchor["id"], largest=32)])
        self.order_build()
        credit = self.site.builds.get().credit.splitlines()
        self.assertEqual(credit[0], "Base: A. Member (CC BY 4.0)")
        self.assertIn("ISC", credit[1])


class CutOffTests(BenchTestCase):
    def cut_off(self, artwork: dict, side: int) -> dict:
        frame = {"x": 0, "y": 0, "side": side}
        return self.ask("POST", f"artwork/{artwork['id']}/cut-off", frame).json()

    def test_a_solid_ground_is_no_ink(self):
        image = Image.new("RGB", (200, 200), "white")
        image.paste("#224466", (80, 80, 120, 120))
        marked = self.send(encoded(image, "PNG"), "marked.png").json()
        self.assertEqual(self.cut_off(marked, 200), {"outside_circle": 0, "outside_rounded": 0})
        busy = self.send(encoded(Image.fromarray(noise(200, 200)[..., :3]), "PNG"), "busy.png").json()
        self.assertAlmostEqual(self.cut_off(busy, 200)["outside_circle"], 1 - np.pi * 0.16, places=2)

    def test_finish_is_kept_and_checked(self):
        kept = self.keep(0, finish={"sharpen": 2, "outline": 6, "outline_colour": "#ffffff"}).json()
        self.assertEqual(kept["recipe"]["framing"]["finish"]["outline"], 6)
        self.problem(self.keep(1, finish={"sharpen": 9}), 422, "bad-finish")


class SeveralDraftsTests(BenchTestCase):
    def copy(self, draft: dict, name: str):
        now = self.ask("GET", f"drafts/{draft['id']}").json()
        return self.ask("POST", f"drafts/{draft['id']}/duplicate", {"name": name, "revision": now["revision"]})

    def test_each_window_goes_on_with_its_own_draft(self):
        first = self.keep(0, ground="#111111").json()
        copy = self.copy(first, "Lighter").json()  # on the bench from now on, in another window
        recipe = {"framing": {**self.recipe["framing"], "ground": "#222222"}}
        change = {"artwork_id": self.artwork["id"], "recipe": recipe, "revision": first["revision"]}
        kept = self.ask("PUT", f"drafts/{first['id']}", change).json()
        self.assertEqual((kept["recipe"]["framing"]["ground"], kept["name"]), ("#222222", "First draft"))
        self.assertEqual(self.ask("GET", f"drafts/{copy['id']}").json()["recipe"], copy["recipe"])
        order = {"draft_id": first["id"], "revision": kept["revision"]}
        self.ask("POST", f"sites/{self.site.pk}/builds", order)
        self.assertEqual(self.site.builds.get().recipe["framing"]["ground"], "#222222")

    def test_build_copy_and_beginning_anew_are_refused_from_an_older_state(self):
        first = self.keep(0).json()
        self.keep(1, ground="#222222")
        order = {"draft_id": first["id"], "revision": 1}
        self.problem(self.ask("POST", f"sites/{self.site.pk}/builds", order), 409, "draft-changed-elsewhere")
        copy = {"name": "Copy", "revision": 1}
        self.problem(self.ask("POST", f"drafts/{first['id']}/duplicate", copy), 409, "draft-changed-elsewhere")
        anew = {"artwork_id": self.artwork["id"], "recipe": self.recipe}
        self.problem(self.ask("POST", f"sites/{self.site.pk}/drafts", anew), 409, "draft-changed-elsewhere")
        other = Site.objects.create(name="Other")
        order["revision"] = 2
        self.problem(self.ask("POST", f"sites/{other.pk}/builds", order), 404, "not-found")

    def test_copy_choose_rename(self):
        first = self.keep(0, ground="#111111").json()
        copy = self.copy(first, "Lighter").json()
        self.assertEqual((copy["name"], copy["recipe"]), ("Lighter", first["recipe"]))
        self.keep(copy["revision"], ground="#eeeeee")
        drafts = self.ask("GET", f"sites/{self.site.pk}/drafts").json()
        self.assertEqual(
            [(draft["name"], draft["recipe"]["framing"]["ground"]) for draft in drafts],
            [("Lighter", "#eeeeee"), ("First draft", "#111111")],
        )
        self.order_build()
        self.assertEqual(self.site.builds.get().recipe["framing"]["ground"], "#eeeeee")
        self.ask("POST", f"drafts/{first['id']}/choose")
        self.assertEqual(self.ask("GET", f"sites/{self.site.pk}/draft").json()["name"], "First draft")
        self.assertEqual(self.ask("GET", f"sites/{self.site.pk}").json()["state"], "draft")
        self.problem(self.ask("PUT", f"drafts/{first['id']}/name", {"name": "Lighter"}), 409, "name-taken")
        self.problem(self.copy(first, "Lighter"), 409, "name-taken")
        self.problem(self.ask("PUT", f"drafts/{first['id']}/name", {"name": " "}), 422, "invalid-request")
        self.assertEqual(self.ask("PUT", f"drafts/{first['id']}/name", {"name": "Darker"}).json()["name"], "Darker")

    def test_histories_are_apart(self):
        first = self.keep(0, ground="#111111").json()
        self.keep(1, ground="#222222")
        copy = self.copy(first, "Copy").json()
        self.assertFalse(copy["can_undo"])
        back = self.ask("POST", f"drafts/{first['id']}/choose").json()
        self.assertTrue(back["can_undo"])

    def test_an_artwork_on_several_drafts_has_one_user(self):
        first = self.keep(0).json()
        self.copy(first, "Copy")
        self.assertEqual(
            [user["name"] for user in self.ask("GET", f"artwork/{self.artwork['id']}").json()["used_by"]], ["Ferry"]
        )
