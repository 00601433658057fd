"""Checks run in the background, and sites can be watched. What was found before is kept."""

import django.db.models.deletion
import django.utils.timezone
from django.db import migrations, models


def keep_findings(apps, schema_editor):
    """Turn the findings of earlier checks into reports of today's form."""
    for check in apps.get_model("checks", "Check").objects.all():
        check.state = "done"
        check.report = {
            "address": check.site.address,
            "pages": [],
            "files": [],
            "findings": [
                {
                    "what": one["what"],
                    "wrong": True,
                    "where": [one["where"]],
                    "evidence": one["evidence"],
                    "why": one.get("why", ""),
                    "remedy": one.get("remedy", ""),
                    "action": "install",
                }
                for one in check.findings
                if not one["ok"]
            ],
            "not_looked_at": {"pages": 0, "files": 0, "examples": []},
        }
        check.save(update_fields=["state", "report"])


class Migration(migrations.Migration):
    dependencies = [("checks", "0001_initial")]

    operations = [
        migrations.AddField("check", "state", models.CharField(choices=[("waiting", "Waiting"), ("looking", "Looking"), ("done", "Done"), ("stopped", "Stopped"), ("failed", "Failed")], default="waiting", max_length=10)),
        migrations.AddField("check", "stop_asked", models.BooleanField(default=False)),
        migrations.AddField("check", "problem", models.TextField(blank=True, default=""), preserve_default=False),
        migrations.AddField("check", "changed", models.DateTimeField(auto_now=True, default=django.utils.timezone.now), preserve_default=False),
        migrations.AddField("check", "done", models.PositiveIntegerField(default=0)),
        migrations.AddField("check", "total", models.PositiveIntegerField(default=0)),
        migrations.AddField("check", "report", models.JSONField(null=True)),
        migrations.AddField("check", "pictures", models.JSONField(default=list)),
        migrations.AddField("check", "icon", models.CharField(blank=True, default="", max_length=64), preserve_default=False),
        migrations.AddField("check", "news", models.JSONField(default=list)),
        migrations.AlterField("check", "problem_count", models.PositiveIntegerField(default=0)),
        migrations.RunPython(keep_findings, migrations.RunPython.noop),
        migrations.RemoveField("check", "findings"),
        migrations.CreateModel(
            name="Watch",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("every", models.CharField(choices=[("day", "Day"), ("week", "Week")], max_length=5)),
                ("webhook", models.URLField(blank=True, max_length=500)),
                ("mail", models.EmailField(blank=True, max_length=254)),
                ("troubled", models.TextField(blank=True)),
                ("site", models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name="watch", to="sites.site")),
            ],
        ),
    ]
