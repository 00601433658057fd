from contextlib import suppress

from cryptography.fernet import Fernet, InvalidToken
from django.conf import settings
from django.db import migrations


def seal_anew(apps, schema_editor):
    """Secrets were sealed for any place; now each is for one. What cannot be opened stays, and is asked for again."""
    from bexi.core.errors import HostRefused
    from bexi.hosts.place import Place
    from bexi.hosts.secret import Secret
    from bexi.server import vault

    rows = [(kept, kept.site.place) for kept in apps.get_model("installs", "KeptSecret").objects.select_related("site")]
    for name in ("Install", "Planning"):
        rows += [(row, row.place) for row in apps.get_model("installs", name).objects.exclude(sealed="")]
    for row, place in rows:
        with suppress(InvalidToken, HostRefused, ValueError):
            text = Fernet(settings.VAULT_KEY or vault.key_of_file()).decrypt(row.sealed.encode()).decode()
            row.sealed = vault.seal(Secret.of(Place.parse(place), text))
            row.save(update_fields=["sealed"])


class Migration(migrations.Migration):
    dependencies = [
        ("installs", "0008_attempts_and_recovery"),
        ("sites", "0005_site_labels_site_removed_alter_deed_kind"),
    ]

    operations = [migrations.RunPython(seal_anew, migrations.RunPython.noop)]
