"""The one honest state of a site, from what is recorded about it."""

from enum import StrEnum

from bexi.server.sites.models import Site


class SiteState(StrEnum):
    """How far the icons of a site have come."""

    EMPTY = "empty"
    DRAFT = "draft"
    BUILT = "built"
    INSTALLED = "installed"
    VERIFIED = "verified"
    PROBLEMS = "problems"


def state_of(site: Site) -> SiteState:
    """The state of a site. Problems count when they were found after the last change to the site."""
    draft = site.drafts.select_related("artwork").first()
    build = site.builds.first()
    install = site.installs.filter(undoes=None).exclude(state="put-back").first()
    check = site.checks.first()
    if check and (install is None or check.created > install.changed) and check.problem_count:
        return SiteState.PROBLEMS
    if draft is None and build is None:
        return SiteState.EMPTY
    if build is None or (draft is not None and draft.differs_from(build)):
        return SiteState.DRAFT
    if install is None or install.state != "done" or install.build_id != build.id:
        return SiteState.BUILT
    return SiteState.VERIFIED if check and check.created > install.changed else SiteState.INSTALLED
