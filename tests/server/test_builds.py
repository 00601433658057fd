import base64
import io
import tempfile
import zipfile
from datetime import timedelta
from pathlib import Path
from unittest import mock

from django.core.management import call_command
from django.test import TransactionTestCase, override_settings
from django.utils import timezone
from PIL import Image
from typer.testing import CliRunner

from bexi.cli import app
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.plan import READY_MADE
from bexi.server.artwork.services import add_artwork
from bexi.server.builds import services, starting
from bexi.server.builds.models import BuildRun, RunState
from bexi.server.drafts.services import save_draft
from bexi.server.machines import worker
from bexi.server.machines.models import WorkerSeen
from bexi.server.sites.models import Site
from tests.pictures import BLUE_DISC, decoded
from tests.server.case import BenchTestCase


class PlanTests(BenchTestCase):
    def plan(self) -> dict:
        return self.ask("GET", f"sites/{self.site.pk}/plan").json()

    def change(self, **part: object):
        return self.ask("PUT", f"sites/{self.site.pk}/plan", {**self.plan()["plan"], **part})

    def test_a_site_takes_the_recommended_plan_until_it_has_its_own(self):
        self.assertEqual(self.plan()["ready"], "balanced")
        told = self.change(files=["favicon.ico", "icon-32.png"], extra=[64], addresses={"stamped": True}).json()
        self.assertEqual((told["ready"], told["plan"]["addresses"]["stamped"]), (None, True))
        self.assertEqual([file["name"] for file in told["files"]], ["favicon.ico", "icon-32.png", "icon-64.png"])
        self.assertEqual([one["size"] for one in told["pictures"]], [16, 32, 48, 64])
        self.keep(0)
        build = self.build()
        self.assertEqual([file["name"] for file in build["files"]], ["favicon.ico", "icon-32.png", "icon-64.png"])
        self.assertRegex(build["head"][0], r'href="/favicon\.ico\?v=[0-9a-f]{8}"')

    def test_what_the_manifest_says_of_the_app_is_kept_and_built(self):
        self.assertFalse(any(self.plan()["plan"]["app"].values()))
        app = {"short_name": "Crew", "display": "standalone", "background": "#16302a"}
        told = self.change(app=app).json()
        self.assertEqual({name: value for name, value in told["plan"]["app"].items() if value}, app)
        self.keep(0)
        build = self.build()
        manifest = self.client.get(f"/api/builds/{build['id']}/files/site.webmanifest").json()
        told = [manifest[name] for name in ("short_name", "display", "background_color")]
        self.assertEqual(told, list(app.values()))
        self.problem(self.change(app={"start": "https://elsewhere.example/"}), 422, "unknown-app")
        self.problem(self.change(app={"short_name": " Crew"}), 422, "unknown-app")
        self.assertEqual(self.plan()["plan"]["app"]["short_name"], "Crew")

    def test_a_changed_plan_puts_the_draft_ahead_of_its_build(self):
        self.keep(0)
        self.assertTrue(self.build()["current"])
        self.change(addresses={"stamped": False})
        self.assertFalse(self.ask("GET", f"sites/{self.site.pk}/builds").json()[0]["current"])

    def test_a_build_made_before_plans_said_anything_of_apps_is_still_current(self):
        self.keep(0)
        self.build()
        built = self.site.builds.get()
        built.plan = {name: value for name, value in built.plan.items() if name != "app"} | {"version": 1}
        built.save()
        self.assertTrue(self.ask("GET", f"sites/{self.site.pk}/builds").json()[0]["current"])

    def test_bad_plans_are_refused_and_the_old_one_stays(self):
        for part, code in (
            ({"files": []}, "empty-plan"),
            ({"files": ["icon-512.png"]}, "unnamed-files"),
            ({"addresses": {"base": "icons"}}, "unknown-address"),
            ({"extra": [9999]}, "unknown-sizes"),
            ({"dark": "grey"}, "unknown-colour"),
        ):
            self.problem(self.change(**part), 422, code)
        self.assertEqual(self.plan()["ready"], "balanced")

    def test_costs_are_the_bytes_that_are_then_built(self):
        self.problem(self.ask("GET", f"sites/{self.site.pk}/costs"), 422, "no-draft")
        self.keep(0)
        costs = {one["name"]: one for one in self.ask("GET", f"sites/{self.site.pk}/costs").json()}
        self.assertEqual(set(costs), set(READY_MADE["whole"].files))
        self.assertIn("made of pixels", costs["icon.svg"]["reason"])
        for file in self.build()["files"]:
            self.assertEqual(costs[file["name"]]["bytes"], file["size"], file["name"])


class RunTests(BenchTestCase):
    def test_a_run_tells_how_far_it_is(self):
        self.assertIsNone(self.ask("GET", f"sites/{self.site.pk}/build-run").json())
        self.keep(0)
        run = self.order_build().json()
        self.assertEqual((run["state"], run["done"], run["total"]), ("done", 10, 10))
        self.assertEqual(self.ask("GET", f"sites/{self.site.pk}/build-run").json(), run)

    def waiting(self) -> BuildRun:
        self.keep(0)
        with mock.patch("bexi.server.machines.work.Work.offer"):
            return starting.start(self.site)

    def test_a_stopped_run_keeps_nothing(self):
        run = self.waiting()
        self.assertEqual(starting.start(self.site), run)  # it is in line already
        self.assertEqual(self.ask("POST", f"build-runs/{run.pk}/stop").status_code, 202)
        services.carry_out(run)
        run.refresh_from_db()
        self.assertEqual((run.state, run.done, self.site.builds.count()), (RunState.STOPPED, 0, 0))

    def test_a_run_without_a_worker_is_told(self):
        run = self.waiting()
        BuildRun.objects.update(changed=timezone.now() - timedelta(minutes=5))
        told = self.ask("GET", f"sites/{self.site.pk}/build-run").json()
        self.assertEqual((told["id"], told["state"], told["has_no_worker"]), (run.pk, "waiting", True))
        BuildRun.objects.update(state=RunState.RUNNING)
        told = self.ask("GET", f"sites/{self.site.pk}/build-run").json()
        self.assertEqual((told["id"], told["state"]), (run.pk, "failed"))
        self.assertIn("Start Bexi again", told["problem"])
        run.refresh_from_db()
        self.assertEqual(run.state, RunState.RUNNING)  # looking changes nothing
        with mock.patch("bexi.server.machines.work.Work.offer"):
            self.assertNotEqual(starting.start(self.site), run)
        run.refresh_from_db()
        self.assertEqual(run.state, RunState.FAILED)

    def test_what_is_built_was_frozen_when_it_was_ordered(self):
        run = self.waiting()
        self.keep(1, ground="#ff0000")
        services.carry_out(run)
        run.refresh_from_db()
        self.assertEqual(run.build.recipe["framing"]["ground"], "clear")

    def test_a_failed_run_tells_why(self):
        run = self.waiting()
        run.recipe["framing"]["frame"] = {"x_px": 9000, "y_px": 0, "side_px": 10}
        run.save()
        services.carry_out(run)
        run.refresh_from_db()
        self.assertEqual(run.state, RunState.FAILED)
        self.assertIn("lies beside the artwork", run.problem)


class WorkerTests(TransactionTestCase):
    """The database backend of django-tasks with its own worker, as the demo runs it."""

    def test_a_worker_builds_what_is_in_line(self):
        with tempfile.TemporaryDirectory() as folder, override_settings(BLOB_FOLDER=Path(folder)):
            site = Site.objects.create(name="Ferry")
            save_draft(site, add_artwork("disc.svg", BLUE_DISC), Recipe.of(Frame(0, 0, 512)), 0)
            run = starting.start(site)
            self.assertEqual(run.state, RunState.WAITING)
            call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0)
            run.refresh_from_db()
            self.assertEqual((run.state, site.builds.count()), (RunState.DONE, 1))

    def test_work_may_wait_as_long_as_a_worker_is_alive(self):
        waiting = BuildRun(changed=timezone.now() - timedelta(minutes=5))
        self.assertTrue(waiting.is_lost)
        self.assertFalse(BuildRun(changed=timezone.now()).is_lost)
        self.assertFalse(BuildRun(changed=waiting.changed, state=RunState.DONE).is_lost)
        self.assertTrue(waiting.has_no_worker)
        with mock.patch("threading.Thread"):
            worker.keep_beating()
        self.assertFalse(waiting.is_lost)
        self.assertFalse(waiting.has_no_worker)
        WorkerSeen.objects.update(at=timezone.now() - timedelta(seconds=3))
        self.assertTrue(waiting.has_no_worker)  # said before it counts as lost
        self.assertFalse(waiting.is_lost)
        WorkerSeen.objects.update(at=timezone.now() - timedelta(minutes=1))
        self.assertTrue(waiting.is_lost)


class HandingOutTests(BenchTestCase):
    def test_builds_are_compared_and_made_again(self):
        self.keep(0)
        first = self.build()
        self.keep(1, ground="#102030")
        second = self.build()
        address = f"builds/{second['id']}/compared-with/{first['id']}"
        told = {one["name"]: one for one in self.ask("GET", address).json()}
        self.assertEqual(told["site.webmanifest"]["change"], "changed")  # it names other addresses
        self.assertEqual(told["favicon.ico"]["change"], "changed")
        image = self.client.get(f"/api/{address}/favicon.ico/2")
        self.assertEqual(decoded(image.content).shape, (48, 48, 4))
        self.assertEqual(self.client.get(f"/api/{address}/favicon.ico/7").status_code, 404)
        for build in (first, second):
            again = self.ask("POST", f"builds/{build['id']}/again").json()
            self.assertEqual({one["change"] for one in again}, {"same"})

    def test_a_build_of_another_engine_is_not_made_again(self):
        self.keep(0)
        build = self.build()
        self.site.builds.update(engine="0")
        self.problem(self.ask("POST", f"builds/{build['id']}/again"), 409, "other-engine")

    def test_the_recipe_file_gives_the_same_bytes_on_the_command_line(self):
        letter = self.send(BLUE_DISC, "letter.svg").json()
        frame = {"x": 0, "y": 0, "side": 512}
        self.keep(0, own=[{"framing": {"frame": frame, "artwork": str(letter["id"])}, "largest": 32}])
        build = self.build()
        packed = zipfile.ZipFile(io.BytesIO(self.client.get(f"/api/builds/{build['id']}/recipe.zip").content))
        source, out = self.folder / "source", self.folder / "out"
        packed.extractall(source)
        result = CliRunner().invoke(app, ["build", str(source / "recipe.json"), "--out", str(out)])
        self.assertEqual(result.exit_code, 0, result.output)
        for file in build["files"]:
            served = self.client.get(f"/api/builds/{build['id']}/files/{file['name']}").content
            self.assertEqual((out / file["name"]).read_bytes(), served, file["name"])
        next(source.glob("1-*")).write_bytes(BLUE_DISC)
        refused = CliRunner().invoke(app, ["build", str(source / "recipe.json"), "--out", str(out)])
        self.assertEqual(refused.exit_code, 2)
        self.assertIn("is not the file that this recipe was made for", refused.stderr)

    def test_drawings_are_served_so_that_nothing_in_them_can_run(self):
        letter = self.send(BLUE_DISC, "letter.svg").json()
        self.put(
            {
                "artwork_id": letter["id"],
                "recipe": {"framing": {"frame": letter["framings"]["whole"]}},
                "revision": 0,
            }
        )
        served = self.client.get(f"/api/builds/{self.build()['id']}/files/icon.svg")
        self.assertEqual(served.headers["Content-Type"], "image/svg+xml")
        self.assertIn("sandbox", served.headers["Content-Security-Policy"])


class FieldTests(BenchTestCase):
    def test_one_file_for_an_upload_field(self):
        self.keep(0)
        wanted = {"format": "jpeg", "size": 200, "most_kb": 30}
        made = self.ask("POST", f"sites/{self.site.pk}/fit", wanted).json()
        image = Image.open(io.BytesIO(base64.b64decode(made["data"])))
        self.assertEqual((image.format, image.size, made["media_type"]), ("JPEG", (200, 200), "image/jpeg"))
        self.problem(
            self.ask("POST", f"sites/{self.site.pk}/fit", {**wanted, "most_kb": 0.1}), 422, "too-small-a-limit"
        )

    def test_requirements_are_kept_under_a_name(self):
        field = {"format": "png", "size": 32, "ground": "opaque"}
        wanted = {"name": "Shop builder", "requirement": field}
        kept = self.ask("POST", "requirements", wanted).json()
        self.problem(self.ask("POST", "requirements", wanted), 422, "name-taken")
        self.problem(
            self.ask("POST", "requirements", {"name": "b", "requirement": {**field, "size": 0}}), 422, "unknown-size"
        )
        self.assertEqual(self.ask("GET", "requirements").json(), [kept])
        self.assertEqual(self.ask("DELETE", f"requirements/{kept['id']}").status_code, 204)
        self.assertEqual(self.ask("GET", "requirements").json(), [])
