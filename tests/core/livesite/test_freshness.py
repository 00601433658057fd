import json
import os
import random
import subprocess
import time
from email.utils import formatdate, parsedate_to_datetime
from pathlib import Path
from unittest import TestCase

from django.conf import settings

from bexi.core.livesite.freshness import freshness

NOW = 1_790_000_000.0
SCRIPT = Path(__file__).parents[2] / "frontend" / "freshness.mjs"


def cases(dice: random.Random, count: int) -> list[tuple[int, dict[str, str], float]]:
    return [(dice.choice((200, 200, 200, 404, 301, 302)), _headers(dice), NOW) for _ in range(count)]


def _headers(dice: random.Random) -> dict[str, str]:
    def moment() -> str:
        return formatdate(NOW + dice.choice((-1, 1)) * dice.randint(0, 40 * 86400), usegmt=True)

    lifetimes = ["max-age=3600", "max-age=0", "max-age=31536000", 'max-age="600"']
    directives = ["public", "private", "no-cache", "no-store", "must-revalidate", "immutable", "s-maxage=9"]
    directives += [dice.choice(lifetimes), "stale-while-revalidate=60"]
    headers: dict[str, str] = {}
    if dice.random() < 0.7:
        headers["cache-control"] = ", ".join(dice.sample(directives, dice.randint(1, 3)))
    if dice.random() < 0.8:
        headers["date"] = formatdate(NOW - dice.choice((0, 0, 5, 4000)), usegmt=True)
    for name, made, share in (
        ("expires", lambda: dice.choice((moment(), moment(), "0", "soon")), 0.3),
        ("last-modified", lambda: formatdate(NOW - dice.randint(0, 400 * 86400), usegmt=True), 0.6),
        ("age", lambda: str(dice.randint(0, 9000)), 0.2),
        ("etag", lambda: '"a"', 0.3),
        ("pragma", lambda: "no-cache", 0.05),
        ("vary", lambda: dice.choice(("*", "Accept-Encoding")), 0.1),
    ):
        if dice.random() < share:
            headers[name] = made()
    return headers


class FreshnessTests(TestCase):
    def test_as_another_implementation_of_the_standard(self):
        """npm's http-cache-semantics, as a private cache; 1,000 answers."""
        asked = [case for case in cases(random.Random(9), 1000) if not _differs_on_purpose(*case)]
        self.assertGreater(len(asked), 450)
        command = ["node", str(SCRIPT), str(settings.REPOSITORY / "frontend")]
        told = subprocess.run(command, input=json.dumps(asked), capture_output=True, text=True, check=True)
        for (status, headers, received), theirs in zip(asked, json.loads(told.stdout), strict=True):
            ours = freshness(status, headers, received).seconds
            self.assertAlmostEqual(ours, theirs["fresh"], delta=1, msg=f"{status} {headers}")

    def test_worked_cases(self):
        """RFC 9111 §4.2.1 to 4.2.3 and RFC 8246, worked out by hand."""
        date = formatdate(NOW, usegmt=True)
        for headers, seconds in (
            ({"cache-control": "max-age=600"}, 600),
            ({"cache-control": "max-age=600", "age": "100"}, 500),
            ({"cache-control": "max-age=600", "date": formatdate(NOW - 50, usegmt=True)}, 550),
            ({"cache-control": "max-age=5, max-age=600"}, 5),
            ({"cache-control": "max-age=soon"}, 0),
            ({"cache-control": "max-age=99999999999999"}, 2**31),
            ({"cache-control": "no-cache, max-age=600"}, 0),
            ({"cache-control": "no-store"}, 0),
            ({"cache-control": "s-maxage=600", "etag": '"a"'}, 0),
            ({"date": date, "expires": formatdate(NOW + 300, usegmt=True)}, 300),
            ({"date": date, "expires": "0"}, 0),
            ({"date": date, "last-modified": formatdate(NOW - 864_000, usegmt=True)}, 86_400),
            ({}, 0),
        ):
            self.assertEqual(freshness(200, headers, NOW).seconds, seconds, headers)
        self.assertIn("immutable", freshness(200, {"cache-control": "max-age=60, immutable"}, NOW).why)
        self.assertFalse(freshness(200, {"cache-control": "no-store"}, NOW).kept)

    def test_a_date_without_a_zone_is_gmt_wherever_bexi_runs(self):
        """RFC 9110 §5.6.7: every date of HTTP is in GMT."""
        headers = {"date": "Fri, 20 Nov 2026 10:00:00 GMT", "expires": "Fri, 20 Nov 2026 11:00:00"}
        received = parsedate_to_datetime(headers["date"]).timestamp()
        before = os.environ.get("TZ")
        try:
            for zone in ("UTC", "Pacific/Auckland", "America/New_York"):
                os.environ["TZ"] = zone
                time.tzset()
                self.assertEqual(freshness(200, headers, received).seconds, 3600, zone)
        finally:
            os.environ.pop("TZ") if before is None else os.environ.update(TZ=before)
            time.tzset()


def _differs_on_purpose(status: int, headers: dict[str, str], received: float) -> bool:
    """What that library does in its own way.

    It keeps a 302 only when told to, does not count the time since an answer's Date as its age (RFC 9111 §4.2.3), and
    serves stale ones for a while when that is allowed.
    """
    dated = parsedate_to_datetime(headers["date"]).timestamp() if "date" in headers else received
    is_old = received - dated > float(headers.get("age", 0))
    return status == 302 or is_old or "stale-while-revalidate" in headers.get("cache-control", "")
