"""Checking what a live site serves, in the background, and keeping what was seen."""

import time
from collections.abc import Iterator, Mapping

from bexi.core.livesite.comparison import news_since
from bexi.core.livesite.findings import Action, Finding
from bexi.core.livesite.history import Past, SiteChange
from bexi.core.livesite.inspect import MOST_PAGES, Once, Report, inspect, sha256
from bexi.core.livesite.report import every_body, report_json, time_line_json, visitors_json
from bexi.core.livesite.served import Fetch, Served
from bexi.core.livesite.server_lines import RULES_FILE
from bexi.core.livesite.visitor import Reading, Shown, remembering
from bexi.installing.plan import is_page
from bexi.sandbox.icons import look_apart
from bexi.sandbox.pages import read_page_apart
from bexi.server import blobs
from bexi.server.checks import watching
from bexi.server.checks.models import Check, CheckState
from bexi.server.installs.models import Install, InstallState, InstallStep
from bexi.server.machines.work import take
from bexi.server.sites.models import Site
from bexi.web.visiting import visiting

MOST_SECONDS = 120
_TOLD_EVERY_SECONDS = 0.25
_MOST_CHANGES = 6
_KEPT = 60
_MOST_USUAL = "blink"


class CheckStopped(Exception):
    """The person asked to stop."""


def carry_out(check: Check) -> None:
    """Look at the site and note how that ended."""
    take(check, lambda check, held: _carry_out(check))


def _carry_out(check: Check) -> None:
    told = _Told(check)
    ended: dict[str, object] = {"state": CheckState.FAILED}
    try:
        check.note(CheckState.WAITING, state=CheckState.LOOKING)
        told(0, MOST_PAGES)
        ended = {"state": CheckState.DONE, **_looked_at(check, told)}
    except CheckStopped:
        ended = {"state": CheckState.STOPPED}
    except Exception:
        ended["problem"] = "Something went wrong while checking; see the log. Check again."
        raise
    finally:
        check.note(CheckState.LOOKING, **ended)
        _forget_old(check.site)
    check.refresh_from_db()
    watching.tell(check)


def _looked_at(check: Check, told: "_Told") -> dict[str, object]:
    """What is kept of a check."""
    site = check.site
    reading = remembering(Reading(read_page_apart, look_apart))
    with visiting(MOST_SECONDS, site.address) as fetch:
        once = Once(told.between(fetch), reading)
        report = inspect(site.address, once, installed_files(site), _edited_pages(site), told=told)
        if not report.pages:
            return _kept(check, report, report_json(report), [])
        past = Past(site.address, once.get, _changes(site))
        now = time.time()
        said = report_json(report) | visitors_json(past, reading, now, report.files)
        line, seen = time_line_json(past, reading, now)
    return _kept(check, report, said | {"time_line": line}, seen)


def _kept(check: Check, report: Report, said: dict[str, object], seen: list[Mapping[str, Shown]]) -> dict[str, object]:
    pictures = sorted({blobs.put(body) for body in every_body(report, seen)})
    shown = seen[0][_MOST_USUAL].served if seen else None
    before = check.site.checks.filter(state=CheckState.DONE, pk__lt=check.pk).first()
    news = news_since(findings_of(before), report.findings) if before else []
    return {
        "report": said,
        "pictures": pictures,
        "problem_count": report.wrong,
        "icon": sha256(shown.body) if shown else "",
        "news": [one.told for one in news if not one.better],
    }


def findings_of(check: Check) -> list[Finding]:
    """What was found, as values."""
    told = check.report["findings"] if check.report else []
    return [Finding(**{**one, "action": Action(one["action"]), "where": tuple(one["where"])}) for one in told]


class _Told:
    """Notes how many pages are looked at, now and then, and finds out whether to go on."""

    def __init__(self, check: Check) -> None:
        self._check = check
        self._last = 0.0
        self._counts = 0, 0

    def __call__(self, done: int, total: int) -> None:
        self._counts = done, total
        if done < total and time.monotonic() - self._last < _TOLD_EVERY_SECONDS:
            return
        self._last = time.monotonic()
        check = self._check
        is_stopped = Check.objects.filter(pk=check.pk, stop_asked=True).exists()
        if is_stopped or not check.note(CheckState.LOOKING, done=done, total=total):
            raise CheckStopped

    def between(self, fetch: Fetch) -> Fetch:
        """The same fetching, which can be stopped before each address."""

        def watched(url: str) -> Served:
            self(*self._counts)
            return fetch(url)

        return watched


def _forget_old(site: Site) -> None:
    """Keep the latest checks of a site."""
    kept = list(site.checks.values_list("pk", flat=True)[:_KEPT])
    site.checks.exclude(pk__in=kept).delete()


def installed_files(site: Site) -> dict[str, bytes]:
    """The written files, with their bytes by path, of the installation that stands."""
    install = _standing(site)
    if install is None:
        return {}
    written = install.steps.exclude(kind="edit")
    return {step.path: blobs.get(step.after_sha256) for step in written.exclude(path=RULES_FILE) if step.after_sha256}


def _edited_pages(site: Site) -> list[str]:
    """The pages edited by the installation that stands, which visitors reach by their paths."""
    install = _standing(site)
    edited = install.steps.filter(kind="edit").values_list("path", flat=True) if install else ()
    return [path for path in edited if is_page(path) and path.endswith((".html", ".htm"))]


def _standing(site: Site) -> Install | None:
    return site.installs.filter(state=InstallState.DONE, undoes=None).first()


def _changes(site: Site) -> list[SiteChange]:
    """What installing and undoing changed, the latest first, with what was there before."""
    done = site.installs.filter(state__in=(InstallState.DONE, InstallState.UNDONE))[:_MOST_CHANGES]
    return [
        SiteChange(
            (install.changed if install.state == InstallState.DONE else install.created).timestamp(),
            {step.path: blobs.get(step.before_sha256) if step.before_sha256 else None for step in _steps(install)},
        )
        for install in done
    ]


def _steps(install: Install) -> Iterator[InstallStep]:
    """The steps whose earlier bytes tell what visitors saw: the icons, and the home page."""
    for step in install.steps.all():
        if step.kind != "edit" or step.path == "index.html":
            yield step
