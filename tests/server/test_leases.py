"""One at a time works on something, also when processes end as they please."""

import threading
import time
from datetime import timedelta
from unittest import mock

from django.db import connection
from django.test import TestCase, TransactionTestCase
from django.utils import timezone

from bexi.server import locks
from bexi.server.machines import leases
from bexi.server.machines.models import Lease


class LeaseTests(TestCase):
    def test_one_at_a_time_and_each_thing_by_itself(self):
        with leases.holding("place", "a"):
            self.assertTrue(leases.is_held("place", "a"))
            self.assertFalse(leases.is_held("place", "b"))
            with self.assertRaises(leases.LeaseHeld), leases.holding("place", "a"):
                self.fail("two hold it")
        self.assertFalse(leases.is_held("place", "a"))
        self.assertFalse(Lease.objects.exists())

    def test_it_ends_by_itself_and_whoever_held_it_is_told(self):
        with leases.holding("place") as held:
            Lease.objects.update(until=timezone.now() - timedelta(seconds=1))
            self.assertFalse(leases.is_held("place"))
            with leases.holding("place"):
                with self.assertRaises(leases.Lost):
                    held.put_off()
                self.assertTrue(leases.is_held("place"))
        self.assertFalse(leases.is_held("place"))

    def test_it_is_put_off_as_long_as_the_work_goes_on(self):
        with leases.holding("place") as held:
            soon = timezone.now() + timedelta(seconds=1)
            Lease.objects.update(until=soon)
            held.put_off()
            self.assertGreater(Lease.objects.get().until, soon)

    def test_a_process_of_this_machine_that_is_gone_is_not_waited_for(self):
        end = timezone.now() + timedelta(minutes=1)
        name = leases._name(("place",))
        lease = Lease.objects.create(name=name, holder="elsewhere/1", until=end)
        self.assertTrue(leases.is_held("place"))  # it may live, on another machine
        with locks.holding("process", "gone"):
            Lease.objects.update(holder="gone/1")
            self.assertTrue(leases.is_held("place"))
        self.assertFalse(leases.is_held("place"))
        with leases.holding("place"):
            lease.refresh_from_db()
            self.assertNotEqual(lease.holder, "gone/1")


class AtOnceTests(TransactionTestCase):
    def test_of_many_who_want_it_each_has_it_alone(self):
        inside, most = [], []

        def work() -> None:
            try:
                with leases.holding("place", wait=True):
                    inside.append(1)
                    most.append(len(inside))
                    time.sleep(0.02)
                    inside.pop()
            finally:
                connection.close()

        with mock.patch("bexi.server.machines.leases._ASKED_EVERY", 0.01):
            threads = [threading.Thread(target=work) for _ in range(6)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join(30)
        self.assertEqual(most, [1] * 6)
