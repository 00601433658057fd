"""What is done in the background."""

from django_tasks import task

from bexi.server.installs import planning
from bexi.server.installs.models import Install, Planning
from bexi.server.installs.services import run


@task()
def run_install(install_id: int) -> None:
    """Carry out one installation or undoing."""
    journal = Install.objects.filter(pk=install_id).first()
    if journal:
        run(journal)


@task()
def run_planning(planning_id: int) -> None:
    """Make one plan, unless it is no longer wanted."""
    ordered = Planning.objects.filter(pk=planning_id).first()
    if ordered and not ordered.is_over:
        planning.carry_out(ordered)
