"""What is done in the background, in a line of its own, since places may be slow."""

from django_tasks import task

from bexi.server.installs import planning, services
from bexi.server.installs.models import Install, Planning
from bexi.server.machines.work import ELSEWHERE


@task(queue_name=ELSEWHERE)
def run_install(install_id: int) -> None:
    """Carry out one installation or undoing."""
    journal = Install.objects.filter(pk=install_id).first()
    if journal:
        services.run(journal)


@task(queue_name=ELSEWHERE)
def run_put_back(install_id: int) -> None:
    """Put back one installation that was interrupted."""
    journal = Install.objects.filter(pk=install_id).first()
    if journal:
        services.put_back_interrupted(journal)


@task(queue_name=ELSEWHERE)
def run_planning(planning_id: int) -> None:
    """Make one plan, unless it is no longer wanted."""
    ordered = Planning.objects.filter(pk=planning_id).first()
    if ordered:
        planning.carry_out(ordered)
