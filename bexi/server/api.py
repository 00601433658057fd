"""The API: one router for each app."""

from ninja import NinjaAPI

from bexi.server.artwork.api import router as artwork
from bexi.server.artwork.drawings_api import router as drawings
from bexi.server.builds.api import router as builds
from bexi.server.builds.plans_api import router as plans
from bexi.server.checks.activity_api import router as activity
from bexi.server.checks.api import router as checks
from bexi.server.drafts.api import router as drafts
from bexi.server.drafts.beginnings_api import router as beginnings
from bexi.server.drafts.judging_api import router as judging
from bexi.server.installs.api import router as installs
from bexi.server.machines.api import router as machines
from bexi.server.people.api import router as people
from bexi.server.people.asking import Needs
from bexi.server.problems import answer_problems
from bexi.server.sites.api import router as sites
from bexi.server.visitors.api import router as visitors

api = NinjaAPI(title="Bexi", version="1", docs_url=None, openapi_url=None, auth=Needs())
answer_problems(api)
_OF_SITES = (sites, artwork, drawings, drafts, beginnings, judging, plans, builds, installs, checks, visitors, activity)
for router in (people, machines, *_OF_SITES):
    api.add_router("", router)
