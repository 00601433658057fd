from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("sites", "0001_initial")]
    operations = [migrations.RenameField("site", "folder", "place")]
