"""Sites that are looked at by themselves, and telling of a change for the worse."""

import json
import logging
from datetime import datetime, timedelta

import httpx
from django.core.mail import send_mail
from django.utils import timezone

from bexi.core.errors import HostRefused
from bexi.server.checks.models import Check, CheckState, Every, Watch
from bexi.web.telling import post

logger = logging.getLogger(__name__)
_APART = {Every.DAY: timedelta(days=1), Every.WEEK: timedelta(days=7)}


def due() -> list[Watch]:
    """The watches whose time has come: nothing is under way, and the latest check lies long enough ago."""
    now = timezone.now()
    watches = Watch.objects.select_related("site").filter(site__removed=None).exclude(site__address="")
    return [watch for watch in watches if _is_due(watch, watch.site.checks.first(), now - _APART[Every(watch.every)])]


def _is_due(watch: Watch, latest: Check | None, since: datetime) -> bool:
    return latest is None or ((latest.is_over or latest.is_lost) and latest.created <= since)


def tell(check: Check) -> None:
    """Send a change for the worse to whoever is named; what cannot be sent is noted and said where it is set up."""
    watch = Watch.objects.filter(site=check.site).first()
    if watch is None or check.state != CheckState.DONE or not check.news:
        return
    troubles = []
    if watch.webhook:
        troubles.append(_posted(watch, check))
    if watch.mail:
        troubles.append(_mailed(watch, check))
    watch.troubled = " ".join(filter(None, troubles))
    watch.save(update_fields=["troubled"])


def _posted(watch: Watch, check: Check) -> str:
    body = {
        "site": check.site.name,
        "address": check.site.address,
        "seen": check.created.isoformat(timespec="seconds"),
        "problems": check.problem_count,
        "news": check.news,
    }
    try:
        post(watch.webhook, json.dumps(body).encode())
    except (httpx.HTTPError, OSError, HostRefused) as error:
        logger.warning("The webhook of %s could not be told: %s", check.site, type(error).__name__)
        return "The webhook could not be reached. Check its address."
    return ""


def _mailed(watch: Watch, check: Check) -> str:
    lines = [f"Bexi looked at {check.site.address} and found it worse than before:", "", *check.news, ""]
    try:
        send_mail(f"{check.site.name}: its icon got worse", "\n".join(lines), None, [watch.mail])
    except OSError as error:
        logger.warning("The mail on %s could not be sent: %s", check.site, error)
        return "The mail could not be sent. Check BEXI_MAIL and the address."
    return ""
