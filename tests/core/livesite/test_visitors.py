from dataclasses import replace
from unittest import TestCase

from bexi.core.livesite.history import DAY, HOUR, WEEK, Past, SiteChange, certain_from, seen_by
from bexi.core.livesite.report import CAME, RETURNS, time_line_json, visitors_json
from bexi.core.livesite.visitor import ICON_STORE_SECONDS, IN_BROWSER, Visitor
from tests.core.livesite.site import HOME, READING, FakeSite, html
from tests.pictures import plain_png

OLD, NEW = plain_png(32, 32, "#aa0000"), plain_png(32, 32, "#0000aa")
OLD_PAGE = html('<link rel="icon" sizes="32x32" href="/old.png">')
INSTALLED = 1_790_000_000.0
SAME = html('<link rel="icon" sizes="32x32" href="/icon.png">')


def site(page: bytes = SAME, cache: str = "max-age=3600", page_cache: str = "no-cache", **files: bytes) -> FakeSite:
    served = {"": page, "icon.png": NEW, **files}
    headers = {
        "": {"cache-control": page_cache},
        "icon.png": {"cache-control": cache},
        "old.png": {"cache-control": cache},
    }
    return FakeSite(served, headers)


def past(now: FakeSite, before: dict[str, bytes | None]) -> Past:
    return Past(HOME, now, [SiteChange(INSTALLED, before)])


def shown(history: Past, now: float, ago: float | None, kind: str = "blink") -> bytes | None:
    return seen_by(history, READING, now, ago)[kind].body


class ReturningTests(TestCase):
    def test_under_the_same_address_the_old_one_stays_in_the_icon_store_for_a_week(self):
        history = past(site(), {"icon.png": OLD})
        for now, ago, expected in (
            (INSTALLED + 60, None, NEW),
            (INSTALLED + 60, HOUR, OLD),
            (INSTALLED + DAY, DAY + HOUR, OLD),
            (INSTALLED + WEEK - HOUR, WEEK - HOUR + 60, OLD),
            (INSTALLED + WEEK, WEEK + 60, NEW),
            (INSTALLED + DAY, HOUR, NEW),
        ):
            self.assertEqual(shown(history, now, ago), expected, (now - INSTALLED, ago))
        self.assertEqual(certain_from(history, READING, INSTALLED), INSTALLED - 1 + ICON_STORE_SECONDS)

    def test_a_year_of_caching_outlasts_the_store(self):
        history = past(site(cache="max-age=31536000"), {"icon.png": OLD})
        self.assertEqual(shown(history, INSTALLED + 30 * DAY, 31 * DAY), OLD)
        self.assertEqual(certain_from(history, READING, INSTALLED), INSTALLED - 1 + 31_536_000)

    def test_a_new_address_is_seen_as_soon_as_the_page_is_asked_for(self):
        stamped = html('<link rel="icon" sizes="32x32" href="/icon.png?v=2">')
        for page_cache, wait in (("no-cache", 0.0), ("max-age=600", 599.0)):
            now = site(stamped, "max-age=31536000", page_cache, **{"icon.png?v=2": NEW})
            history = past(now, {"index.html": OLD_PAGE, "old.png": OLD})
            self.assertEqual(certain_from(history, READING, INSTALLED), INSTALLED + wait)
            self.assertEqual(shown(history, INSTALLED + 700, DAY), NEW)
            self.assertEqual(shown(history, INSTALLED + 60, 120), NEW if not wait else OLD)

    def test_what_is_not_stored_is_asked_for_but_the_icon_store_still_holds_it(self):
        history = past(site(cache="no-store"), {"icon.png": OLD})
        self.assertEqual(shown(history, INSTALLED + 60, 120), OLD)

    def test_who_saw_none_sees_the_new_one_at_once(self):
        history = past(site(), {"icon.png": None, "index.html": html()})
        self.assertEqual(shown(history, INSTALLED + 60, 120), NEW)
        self.assertEqual(certain_from(history, READING, INSTALLED), INSTALLED)

    def test_a_home_screen_keeps_the_icon_it_was_given(self):
        touch = html('<link rel="apple-touch-icon" href="/icon.png">')
        history = past(site(touch), {"icon.png": OLD})
        self.assertEqual(shown(history, INSTALLED + 400 * DAY, 401 * DAY, "home-screen"), OLD)
        self.assertEqual(shown(history, INSTALLED + 400 * DAY, DAY, "home-screen"), NEW)
        self.assertEqual(shown(history, INSTALLED + 2 * DAY, 3 * DAY, "search"), OLD)

    def test_the_change_before_the_last_one_is_known_too(self):
        older = plain_png(32, 32, "#00aa00")
        changes = [SiteChange(INSTALLED, {"icon.png": OLD}), SiteChange(INSTALLED - DAY, {"icon.png": older})]
        history = replace(past(site(), {}), changes=changes)
        self.assertEqual(shown(history, INSTALLED + 60, DAY + 120), older)
        self.assertEqual(shown(history, INSTALLED + 60, HOUR), OLD)

    def test_without_a_journal_the_servers_word_on_the_last_change_is_taken(self):
        now = site()
        now.headers["icon.png"]["last-modified"] = "Sun, 20 Sep 2026 12:00:00 GMT"
        changed = 1_789_905_600.0
        history = Past(HOME, now)
        seen = seen_by(history, READING, changed + HOUR, DAY)["blink"]
        self.assertFalse(seen.served.known)
        said = visitors_json(history, READING, changed + HOUR, [])
        self.assertEqual(said["seen"]["day"]["blink"]["state"], "earlier")
        self.assertEqual(said["seen"]["first-visit"]["blink"]["state"], "new")
        self.assertIsNone(said["certain_from"])  # no file was looked at that tells

    def test_a_private_window_is_a_first_visit_and_a_visit_is_kept_only_by_its_visitor(self):
        one, other = Visitor(READING), Visitor(READING)
        history = past(site(), {"icon.png": OLD})
        one.visit(HOME, history.at(INSTALLED - 60), INSTALLED - 60)
        self.assertEqual(one.visit(HOME, history.at(INSTALLED), INSTALLED)["blink"].body, OLD)
        self.assertEqual(other.visit(HOME, history.at(INSTALLED), INSTALLED)["blink"].body, NEW)

    def test_a_page_that_does_not_come_shows_nothing(self):
        seen = Visitor(READING).visit(f"{HOME}gone", site(), INSTALLED)
        self.assertTrue(all(one.body is None and "does not load" in one.taken.why for one in seen.values()))

    def test_the_time_line_says_for_each_stop_what_a_visitor_sees(self):
        history = past(site(), {"icon.png": OLD})
        line, seen = time_line_json(history, READING, INSTALLED + 2 * HOUR)
        self.assertEqual((len(line["seen"]), len(line["seen"][0])), (len(CAME), len(RETURNS)))
        states = [[line["distinct"][number]["gecko"]["state"] for number in row] for row in line["seen"]]
        came, returns = list(CAME), list(RETURNS)
        self.assertEqual(set(states[came.index("never before")]), {"new"})
        hour_ago, day_ago = states[came.index("an hour ago")], states[came.index("a day ago")]
        self.assertEqual(set(hour_ago), {"new"})
        self.assertEqual(
            day_ago, ["old"] * returns.index("in a week") + ["new"] * (len(returns) - returns.index("in a week"))
        )
        self.assertEqual(len(seen), len(CAME) * len(RETURNS))

    def test_no_returning_browser_shows_the_old_one_after_the_certain_moment(self):
        for cache in ("max-age=60", "max-age=3000000", "no-cache"):
            for page_cache in ("no-cache", "max-age=1000000"):
                history = past(site(SAME, cache, page_cache), {"icon.png": OLD})
                certain = certain_from(history, READING, INSTALLED)
                for came in (1, HOUR, 3 * DAY):
                    seen = seen_by(history, READING, certain, certain - INSTALLED + came)
                    self.assertTrue(all(seen[kind].body == NEW for kind in IN_BROWSER), (cache, page_cache, came))
                before = seen_by(history, READING, certain - 2, certain - INSTALLED - 1)
                self.assertTrue(any(before[kind].body == OLD for kind in IN_BROWSER), (cache, page_cache))
