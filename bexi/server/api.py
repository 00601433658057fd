"""The API: one router for each app."""

from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import NinjaAPI
from ninja.utils import check_csrf

from bexi.server.artwork.api import router as artwork
from bexi.server.artwork.drawings_api import router as drawings
from bexi.server.benches.api import router as benches
from bexi.server.benches.judging_api import router as judging
from bexi.server.builds.api import router as builds
from bexi.server.builds.plans_api import router as plans
from bexi.server.checks.api import router as checks
from bexi.server.installs.api import router as installs
from bexi.server.problems import Conflict, answer_problems
from bexi.server.sites.api import router as sites
from bexi.server.visitors.api import router as visitors


def from_our_own_page(request: HttpRequest) -> bool:
    """Let a request through when it carries the token our own page was given (no other site can read it)."""
    get_token(request)  # so that the page has its cookie even where another server hands it out, in development
    if check_csrf(request, from_our_own_page) is not None:
        raise Conflict("page-outdated", "This page was opened too long ago. Reload it and try again.")
    return True


api = NinjaAPI(title="Bexi", version="1", docs_url=None, auth=from_our_own_page)
answer_problems(api)
for router in (sites, artwork, drawings, benches, judging, plans, builds, installs, checks, visitors):
    api.add_router("", router)
