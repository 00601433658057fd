from dataclasses import replace

from bexi.core.iconset.addresses import Addresses
from bexi.hosts.careful import CarefulHost
from bexi.installing.plan import plan_install
from bexi.installing.step import StepKind
from tests.installing.places import MemoryStorage
from tests.installing.test_installing import InstallingTestCase

RULES = b"# the site's own\r\nOptions -Indexes\r\n"


class RulesTests(InstallingTestCase):
    """Lines for the server in a rules file that is there; what they do is tried on Apache by `make servers`."""

    def plan_with(self, rules: bytes | None, stamped: bool = False):
        self.storage = MemoryStorage({"index.html": b"<title>a</title>", **({".htaccess": rules} if rules else {})})
        icons = replace(self.icons, addresses=Addresses("/", stamped))
        return plan_install(CarefulHost(self.storage), icons, rules=True)

    def test_they_are_planned_put_in_place_and_taken_back_to_the_byte(self):
        plan = self.plan_with(RULES)
        step = next(step for step in plan.steps if step.path == ".htaccess")
        self.assertEqual((step.kind, "500" in step.notes[0]), (StepKind.REPLACE, True))
        before = dict(self.storage.contents)
        self.install(plan)
        after = self.storage.contents[".htaccess"]
        self.assertTrue(after.startswith(RULES))
        self.assertIn(b"\r\n  AddType image/svg+xml .svg\r\n", after)
        self.assertIn(rb"favicon\.ico|", after)
        again = plan_install(CarefulHost(self.storage), plan.icons, rules=True)
        self.assertEqual([step.path for step in again.changes], [])
        self.put_back(plan)
        self.assertEqual(self.storage.contents, before)

    def test_nothing_is_added_where_there_is_none_or_nobody_asked(self):
        self.assertNotIn(".htaccess", [step.path for step in self.plan_with(None).steps])
        self.plan_with(RULES)
        plan = plan_install(CarefulHost(self.storage), self.icons)
        self.assertNotIn(".htaccess", [step.path for step in plan.steps])

    def test_addresses_with_a_stamp_may_be_kept_for_ever(self):
        for stamped in (False, True):
            plan = self.plan_with(RULES, stamped)
            self.assertEqual(b"immutable" in plan.files[".htaccess"], stamped)

    def test_a_leftover_mark_is_told_and_the_file_left_alone(self):
        plan = self.plan_with(b"# end of icons\n")
        self.assertIn(".htaccess", [page.path for page in plan.left_alone])
        self.assertNotIn(".htaccess", plan.files)
