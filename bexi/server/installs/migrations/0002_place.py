from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("installs", "0001_initial")]
    operations = [migrations.RenameField("install", "folder", "place")]
