"""Having builds made in the background."""

from django.db import transaction

from bexi.server.builds.models import BuildRun
from bexi.server.builds.services import draft_on_bench, order_of
from bexi.server.drafts.models import Draft
from bexi.server.sites.models import Site


def start(site: Site, draft: Draft | None = None) -> BuildRun:
    """Put a build of a draft in line, without one of that on the bench; the run under way already, if there is one.

    Raises FramingRefused when there is no draft.
    """
    with transaction.atomic():  # asked several times at once, it is begun once
        Site.objects.select_for_update().get(pk=site.pk)
        under_way = site.build_runs.first()
        if under_way:
            under_way.see_to()  # whoever worked on it may be gone
            under_way.refresh_from_db()
            if not under_way.is_over:
                return under_way
        run = BuildRun.objects.create(site=site, **order_of(draft or draft_on_bench(site)))
    run.offer()
    run.refresh_from_db()
    return run
