"""What is done in the background."""

from django_tasks import task

from bexi.server.builds.models import BuildRun
from bexi.server.builds.services import carry_out


@task()
def run_build(run_id: int) -> None:
    """Carry out one run."""
    run = BuildRun.objects.filter(pk=run_id).first()  # the site may be gone by now
    if run:
        carry_out(run)
