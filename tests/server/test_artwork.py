import os
import pickle
import resource
import subprocess
import sys
import threading
import time
from contextlib import ExitStack
from unittest import mock

import numpy as np
from PIL import Image

from bexi.core.artwork.limits import Limits
from bexi.core.errors import ArtworkRefused
from bexi.sandbox import children as sandbox
from bexi.server import locks
from bexi.server.artwork import reading
from bexi.server.artwork.models import Artwork
from bexi.server.sites.models import Site
from bexi.standin.host import PORTS, running
from bexi.standin.sites import reset
from tests.pictures import BLUE_DISC, decoded, encoded, noise, plain_png
from tests.ports import free_port_range
from tests.server import hostile_work
from tests.server.case import ApiTestCase, BenchTestCase


class ArtworkApiTests(ApiTestCase):
    def test_upload_is_measured_and_stored_once(self):
        first = self.send(BLUE_DISC, "disc.svg")
        self.assertEqual(first.status_code, 201)
        self.assertEqual(first.json()["facts"]["format"], "SVG")
        self.assertEqual(first.json()["framings"]["whole"], {"x": 0, "y": -256, "side": 1024})
        self.assertEqual(self.send(BLUE_DISC, "again.svg").json()["id"], first.json()["id"])
        self.assertEqual(self.ask("GET", "artwork").json()["total"], 1)

    def test_refused_files_leave_nothing_behind(self):
        bomb = b'<!DOCTYPE svg [<!ENTITY a "x"><!ENTITY b "&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg">&b;</svg>'
        outside = b'<svg xmlns="http://www.w3.org/2000/svg"><image href="http://merrowmouth.example/a.png"/></svg>'
        for data, code in (
            (b"words", "not-a-picture"),
            (plain_png()[:40], "broken-picture"),
            (bomb, "svg-entities"),
            (outside, "svg-external-reference"),
        ):
            self.problem(self.send(data), 422, code)
        self.assertEqual(self.send(b"").status_code, 422)
        self.assertFalse(Artwork.objects.exists())
        self.assertFalse((self.folder / "blobs").exists())

    def test_pictures_that_cannot_be_framed_are_refused_before_anything_is_kept(self):
        long = encoded(Image.new("1", (120_000, 1)), "PNG")
        self.problem(self.send(long), 422, "too-long")
        self.problem(self.send(BLUE_DISC.replace(b'width="200"', b'width="1e400"')), 422, "too-many-pixels")
        self.assertFalse(Artwork.objects.exists())
        self.assertEqual(self.ask("GET", "artwork").status_code, 200)

    def test_what_was_left_out_of_a_drawing_is_told(self):
        told = self.send(BLUE_DISC.replace(b"<circle", b"<script>1</script><circle onclick='1'"), "a.svg").json()
        self.assertEqual(told["facts"]["left_out"], ["scripts", "event handlers"])
        self.assertIn("Left out: scripts, event handlers.", told["notes"][0]["sentence"])

    def test_too_large_bodies_are_refused_unread(self):
        response = self.client.generic(
            "POST", "/api/artwork", b"", "multipart/form-data", CONTENT_LENGTH=str(10**9), headers=self.token
        )
        self.problem(response, 413, "file-too-large")

    def test_pictures_are_served_re_encoded(self):
        artwork = self.send(BLUE_DISC, "disc.svg").json()
        response = self.client.get(f"/api/artwork/{artwork['id']}/picture?longest=64")
        self.assertEqual(
            (response.headers["Content-Type"], response.headers["X-Content-Type-Options"]), ("image/png", "nosniff")
        )
        self.assertEqual(decoded(response.content).shape, (32, 64, 4))

    def test_hostile_names_stay_names(self):
        self.assertEqual(self.send(plain_png(), "../../etc/<b>.png").json()["file_name"], "<b>.png")


class ShelfApiTests(ApiTestCase):
    def test_pages_search_and_kinds(self):
        self.send(BLUE_DISC, "disc.svg")
        for number in range(3):
            self.send(plain_png(10 + number), f"plain-{number}.png")
        with mock.patch("bexi.server.artwork.api.PAGE_SIZE", 2):
            pages = [self.ask("GET", f"artwork?page={page}").json() for page in (1, 2, 3)]
        self.assertEqual([len(page["pieces"]) for page in pages], [2, 2, 0])
        self.assertEqual(pages[0]["total"], 4)
        for query, titles in (
            ("search=disc", ["disc"]),
            ("search=plain 1", ["plain-1"]),
            ("search=svg", ["disc"]),
            ("kind=shapes", ["disc"]),
            ("kind=pixels", ["plain-2", "plain-1", "plain-0"]),
            ("kind=drawn", []),
        ):
            pieces = self.ask("GET", f"artwork?{query}").json()["pieces"]
            self.assertEqual([piece["title"] for piece in pieces], titles, query)

    def test_details_are_kept_and_checked(self):
        artwork = self.send(BLUE_DISC, "disc.svg").json()
        details = {"title": "Disc", "alt": "A disc", "credit": "A. Member", "licence": "CC-BY-4.0", "permission": True}
        changed = self.ask("PUT", f"artwork/{artwork['id']}", details).json()
        self.assertEqual({key: changed[key] for key in details}, details)
        self.problem(self.ask("PUT", f"artwork/{artwork['id']}", {"title": " "}), 422, "invalid-request")
        bad = {**details, "licence": "none-of-these"}
        self.problem(self.ask("PUT", f"artwork/{artwork['id']}", bad), 422, "unknown-licence")

    def test_removed_is_off_the_shelf_and_comes_back(self):
        artwork = self.send(BLUE_DISC, "disc.svg").json()
        self.assertEqual(self.ask("DELETE", f"artwork/{artwork['id']}").status_code, 204)
        self.assertEqual(self.ask("GET", "artwork").json()["total"], 0)
        self.ask("POST", f"artwork/{artwork['id']}/restore")
        self.assertEqual(self.ask("GET", "artwork").json()["total"], 1)
        self.ask("DELETE", f"artwork/{artwork['id']}")
        self.assertEqual(self.send(BLUE_DISC, "disc.svg").json()["id"], artwork["id"])
        self.assertEqual(self.ask("GET", "artwork").json()["total"], 1)


class TreatmentApiTests(ApiTestCase):
    def test_treatment_is_measured_shown_and_taken_back(self):
        image = Image.new("RGB", (60, 60), "white")
        image.paste("#224466", (20, 20, 40, 40))
        artwork = self.send(encoded(image, "PNG")).json()
        address = f"artwork/{artwork['id']}"
        lifted = self.ask("PUT", f"{address}/treatment", {"lift": 0.1, "recolour": "#ff0000"}).json()
        self.assertEqual((lifted["facts"]["ground"], lifted["facts"]["colours"][0]["colour"]), ("clear", "#ff0000"))
        self.assertNotEqual(lifted["version"], artwork["version"])
        shown = decoded(self.client.get(f"/api/{address}/picture").content)
        self.assertEqual((shown[0, 0, 3], shown[30, 30].tolist()), (0, [255, 0, 0, 255]))
        back = self.ask("PUT", f"{address}/treatment", {}).json()
        self.assertEqual((back["facts"], back["version"]), (artwork["facts"], artwork["version"]))
        self.problem(self.ask("PUT", f"{address}/treatment", {"lift": 3}), 422, "bad-tolerance")
        self.problem(self.ask("PUT", f"{address}/treatment", {"frame": 5}), 422, "no-such-frame")

    def test_a_build_keeps_what_the_artwork_was(self):
        site = Site.objects.create(name="Ferry")
        artwork = self.send(BLUE_DISC, "disc.svg").json()
        frame = {"x": 0, "y": 0, "side": 512}
        body = {"artwork_id": artwork["id"], "recipe": {"framing": {"frame": frame}}}
        draft = self.ask("POST", f"sites/{site.pk}/drafts", body).json()
        self.ask("POST", f"sites/{site.pk}/builds", {"draft_id": draft["id"], "revision": draft["revision"]})
        self.assertTrue(self.ask("GET", f"sites/{site.pk}/builds").json()[0]["current"])
        self.ask("PUT", f"artwork/{artwork['id']}/treatment", {"recolour": "#ff0000"})
        self.assertFalse(self.ask("GET", f"sites/{site.pk}/builds").json()[0]["current"])


class ReplacementApiTests(BenchTestCase):
    def replace(self, width: int, height: int) -> list[int]:
        data = encoded(Image.fromarray(noise(width, height)), "PNG")
        self.assertEqual(self.send(data, "new.png", f"artwork/{self.artwork['id']}/replacement").status_code, 200)
        return [*self.site.drafts.get().recipe["framing"]["frame"].values()]

    def test_frames_stay_where_they_still_fit(self):
        self.keep(0, frame={"x": 30, "y": 20, "side": 100})
        self.assertEqual(self.replace(300, 200), [30, 20, 100])
        self.assertEqual(self.replace(600, 400), [60, 40, 200])
        self.assertEqual(self.replace(100, 400), [-150, 0, 400])

    def test_a_broken_or_known_version_changes_nothing(self):
        address = f"artwork/{self.artwork['id']}/replacement"
        self.problem(self.send(b"words", "new.png", address), 422, "not-a-picture")
        self.send(BLUE_DISC, "disc.svg")
        self.assertIn("“disc”", self.problem(self.send(BLUE_DISC, "disc.svg", address), 409, "known-elsewhere"))
        self.assertEqual(self.ask("GET", f"artwork/{self.artwork['id']}").json(), self.artwork)

    def test_what_is_on_a_bench_is_not_removed(self):
        self.keep(0)
        self.assertIn("Ferry", self.problem(self.ask("DELETE", f"artwork/{self.artwork['id']}"), 409, "artwork-in-use"))


class DrawingApiTests(ApiTestCase):
    letters = {"kind": "letters", "text": "M F", "face": "rubik", "weight": 700, "plate": {"shape": "disc"}}

    def test_letters_are_previewed_kept_and_changed(self):
        preview = self.ask("POST", "drawings/preview", {"drawing": self.letters}).json()
        self.assertEqual([picture["size"] for picture in preview["pictures"]], [16, 32, 48, 180])
        self.assertFalse(Artwork.objects.exists())
        artwork = self.ask("POST", "drawings", {"drawing": self.letters}).json()
        self.assertEqual(
            (artwork["title"], artwork["licence"], artwork["facts"]["vector"]), ("Letters MF", "own", True)
        )
        changed = {**self.letters, "text": "B"}
        again = self.ask("PUT", f"artwork/{artwork['id']}/drawing", {"drawing": changed}).json()
        self.assertEqual((again["id"], again["drawing"]["text"]), (artwork["id"], "B"))
        self.assertNotEqual(again["version"], artwork["version"])

    def test_symbols_are_found_and_carry_their_credit(self):
        found = self.ask("GET", "symbols?words=anchor").json()
        self.assertEqual(found[0]["name"], "anchor")
        artwork = self.ask("POST", "drawings", {"drawing": {"kind": "symbol", "name": "anchor"}}).json()
        self.assertEqual((artwork["licence"], bool(artwork["credit"])), ("ISC", True))

    def test_bad_drawings_are_refused(self):
        for change, code in (
            ({"text": "ABCD"}, "letter-count"),
            ({"text": "漢"}, "letter-missing"),
            ({"face": "none"}, "no-such-face"),
            ({"weight": 100}, "no-such-face"),
            ({"ink": "red"}, "unknown-colour"),
            ({"plate": {"margin": 99}}, "bad-plate"),
        ):
            self.problem(self.ask("POST", "drawings/preview", {"drawing": {**self.letters, **change}}), 422, code)
        unknown = {"kind": "symbol", "name": "nothing-like-it"}
        self.problem(self.ask("POST", "drawings", {"drawing": unknown}), 422, "symbol-missing")
        self.assertEqual(self.ask("PUT", "artwork/1/drawing", {"drawing": self.letters}).status_code, 404)


class OnSiteApiTests(ApiTestCase):
    def setUp(self):
        super().setUp()
        reset(self.folder)
        port = free_port_range(PORTS)
        standin = running(self.folder, port)
        standin.__enter__()
        self.addCleanup(standin.__exit__, None, None, None)
        self.site = Site.objects.create(
            name="Log", place=str(self.folder / "log"), address=f"http://127.0.0.1:{port + 3}/"
        )
        page = (self.folder / "log/index.html").read_bytes()
        self.elsewhere = f"http://127.0.0.1:{port + 1}/a.png"
        images = f'<IMG SRC="pics/flag.gif"><img src="/hidden.png?x=1"><img src="{self.elsewhere}">'
        (self.folder / "log/index.html").write_bytes(page + images.encode())

    def pictures(self) -> list[dict]:
        return self.ask("GET", f"sites/{self.site.pk}/pictures").json()

    def test_other_pages_are_looked_through_too(self):
        page = self.folder / "log/ships.html"
        page.write_bytes(page.read_bytes() + b'<img src="ship.png"><img src="ship.png">')
        places = [picture["place"] for picture in self.pictures()]
        self.assertEqual(places[-1], f"{self.site.address}ship.png")
        self.assertEqual(len(places), 4)

    def test_a_site_that_does_not_answer_still_has_its_folder(self):
        Site.objects.update(address="http://127.0.0.1:9/")
        self.assertEqual(len(self.pictures()), 2)

    def test_folder_and_home_page_are_looked_through_once(self):
        places = [(picture["source"], picture["place"]) for picture in self.pictures()]
        self.assertEqual(places[:2], [("folder", "favicon.ico"), ("folder", "pics/flag.gif")])
        self.assertEqual([place.rsplit("/", 1)[1] for _, place in places[2:]], ["hidden.png?x=1"])

    def test_a_picture_is_shown_and_taken_in_with_its_origin(self):
        query = "source=folder&place=favicon.ico"
        self.assertEqual(
            decoded(self.client.get(f"/api/sites/{self.site.pk}/pictures/thumbnail?{query}").content).shape[1], 300
        )
        taken = self.ask("POST", f"sites/{self.site.pk}/pictures", {"source": "folder", "place": "favicon.ico"}).json()
        self.assertEqual((taken["origin"], taken["facts"]["format"]), ("Log: favicon.ico", "JPEG"))
        self.assertEqual(taken["notes"][0]["fact"], "format")

    def test_places_outside_the_site_are_refused(self):
        for source, place, code in (
            ("folder", "../crew/apple-touch-icon.png", "path-outside"),
            ("folder", "gone.png", "no-such-file"),
            ("page", self.elsewhere, "address-outside"),
            ("page", f"{self.site.address}gone.png", "not-served"),
        ):
            body = {"source": source, "place": place}
            self.problem(self.ask("POST", f"sites/{self.site.pk}/pictures", body), 409, code)


class SandboxTests(ApiTestCase):
    def code_of(self, work) -> str:
        with self.assertRaises(ArtworkRefused) as caught:
            sandbox.in_sandbox(work)
        return caught.exception.code

    def test_results_and_refusals_come_through(self):
        self.assertEqual(sandbox.in_sandbox(divmod, 7, 2), (3, 1))
        self.assertEqual(self.code_of(hostile_work.refusing), "no")

    def test_hostile_work_is_ended_and_told(self):
        self.assertEqual(self.code_of(hostile_work.greedy), "too-demanding")
        self.assertEqual(self.code_of(hostile_work.crashing), "too-demanding")
        with mock.patch.object(sandbox, "SECONDS", 1):
            start = time.monotonic()
            self.assertEqual(self.code_of(hostile_work.endless), "took-too-long")
            self.assertLess(time.monotonic() - start, 10)

    def test_processor_time_counts_and_not_the_clock(self):
        with mock.patch.object(sandbox, "SECONDS", 1):
            self.assertEqual(sandbox.in_sandbox(hostile_work.waiting), "waited")
        with mock.patch.object(sandbox, "SECONDS", 0.2):  # hangs: six times as long by the clock
            self.assertEqual(self.code_of(hostile_work.waiting), "took-too-long")

    def test_what_a_child_says_brings_nothing_but_values_to_life(self):
        self.assertEqual(sandbox._read(pickle.dumps(Limits(pixels=5))), Limits(pixels=5))
        np.testing.assert_array_equal(sandbox._read(pickle.dumps(noise(3, 3))), noise(3, 3))

        class Acting:
            def __reduce__(self):
                return os.system, ("true",)

        memory_map = b"cnumpy\nmemmap\n(S'/tmp/x'\ntR."
        imported = b"cbexi.core.artwork.bitmap\nio.BytesIO\n(tR."
        for said in (pickle.dumps(Acting()), memory_map, imported, b"cbuiltins\neval\n(S'1'\ntR.", b"", b"\x80\x05"):
            with self.assertRaises(pickle.UnpicklingError):
                sandbox._read(said)

    def test_several_at_once(self):
        results = []
        threads = [
            threading.Thread(target=lambda n=n: results.append(sandbox.in_sandbox(divmod, n, 1))) for n in range(4)
        ]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(sorted(results), [(n, 0) for n in range(4)])
        self.assertEqual(resource.getrlimit(resource.RLIMIT_AS)[0], resource.RLIM_INFINITY)


class ManyLargeTests(ApiTestCase):
    """Pictures that take long are read a few at once; the others wait, and it is said."""

    def test_who_comes_later_waits_for_a_turn_and_is_told(self):
        seen, most, over = [], [], threading.Event()

        def slow(number: int) -> int:
            seen.append(number)
            most.append(len(seen))
            over.wait(10)
            seen.remove(number)
            return number

        results: list[int] = []
        threads = [threading.Thread(target=lambda n=n: results.append(reading.read_apart(slow, n))) for n in range(6)]
        with mock.patch("bexi.server.artwork.reading.in_sandbox", lambda work, number: work(number)):
            for thread in threads:
                thread.start()
            time.sleep(0.5)
            told = self.ask("GET", "reading").json()
            over.set()
            for thread in threads:
                thread.join()
        self.assertEqual(told, {"waiting": 6 - reading.AT_ONCE})
        self.assertEqual((sorted(results), max(most)), ([*range(6)], reading.AT_ONCE))

    def test_too_many_are_asked_to_come_again(self):
        with ExitStack() as others:
            for number in range(reading.MOST_WAITING):
                others.enter_context(locks.holding("waiting to read", number))
            self.problem(self.send(plain_png()), 429, "many-pictures")
        self.assertEqual(self.send(plain_png()).status_code, 201)

    def test_a_web_process_stays_small_while_it_shows_large_pictures(self):
        """A picture of 64 million px takes 256 MB decoded; the process that shows it never has it."""
        environment = {
            **os.environ,
            "BEXI_DATA": str(self.folder / "data"),
            "DJANGO_SETTINGS_MODULE": "bexi.server.settings",
        }
        command = [sys.executable, "-m", "tests.server.showing_large"]
        told = subprocess.run(command, env=environment, check=True, capture_output=True, text=True)
        self.assertLess(int(told.stdout), 300)
