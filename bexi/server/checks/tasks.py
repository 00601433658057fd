"""What is done in the background."""

from django_tasks import task

from bexi.server.checks import services
from bexi.server.checks.models import Check


@task()
def run_check(check_id: int) -> None:
    """Look at one site."""
    check = Check.objects.filter(pk=check_id).first()
    if check:
        services.carry_out(check)
