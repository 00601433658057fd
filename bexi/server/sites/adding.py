"""Adding sites, once for each request, however often it is sent."""

from typing import Annotated, Any

from django.db import IntegrityError, transaction
from ninja import Header

from bexi.server.sites.models import Site

RequestKey = Annotated[str | None, Header(alias="Idempotency-Key", min_length=16, max_length=64)]
"""Made by whoever asks, new for each thing to be added. IETF draft "The Idempotency-Key HTTP Header Field"."""


def add(key: str | None, **values: Any) -> Site:
    """Add a site, or find the one that the same request added before its answer was lost."""
    known = added_by(key)
    if known:
        return known
    try:
        with transaction.atomic():
            return Site.objects.create(asked_by=key, **values)
    except IntegrityError:  # the same request, at the same moment
        return Site.everything.get(asked_by=key)


def added_by(key: str | None) -> Site | None:
    """The site that a request added, if it did."""
    return Site.everything.filter(asked_by=key).first() if key else None
