"""The one honest state of a site, from what is recorded about it."""

from enum import StrEnum

from bexi.server.sites.models import Site


class State(StrEnum):
    """How far the icons of a site have come."""

    EMPTY = "empty"
    DRAFT = "draft"
    BUILT = "built"
    INSTALLED = "installed"
    VERIFIED = "verified"
    PROBLEMS = "problems"


def state_of(site: Site) -> State:
    """The state of a site. Problems count when they were found after the last change to the site."""
    draft = site.drafts.first()
    build = site.builds.first()
    install = site.installs.exclude(state="put-back").first()
    check = site.checks.first()
    if check and (install is None or check.created > install.changed) and check.problem_count:
        return State.PROBLEMS
    if draft is None and build is None:
        return State.EMPTY
    if build is None or (draft is not None and draft.differs_from(build)):
        return State.DRAFT
    if install is None or install.state != "done" or install.build_id != build.id:
        return State.BUILT
    return State.VERIFIED if check and check.created > install.changed else State.INSTALLED
