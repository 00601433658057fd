"""What is done in the background."""

from django_tasks import task

from bexi.server.checks import services, watching
from bexi.server.checks.models import Check


@task()
def run_check(check_id: int) -> None:
    """Look at one site, and tell whoever wants to know when it is worse than before."""
    check = Check.objects.filter(pk=check_id).first()
    if check and not check.is_over:
        services.carry_out(check)
        check.refresh_from_db()
        watching.tell(check)
