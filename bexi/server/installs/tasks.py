"""What is done in the background."""

from django_tasks import task

from bexi.server.installs.models import Install
from bexi.server.installs.services import run


@task()
def run_install(install_id: int) -> None:
    """Carry out one installation or undoing."""
    journal = Install.objects.filter(pk=install_id).first()
    if journal:
        run(journal)
