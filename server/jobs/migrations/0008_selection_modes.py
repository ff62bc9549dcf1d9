"""Renames a key in the requests of open runs."""

from django.db import migrations

OPEN = ("waiting", "running")


def rename(old: str, new: str):
    def change(apps, schema_editor):
        for run in apps.get_model("jobs", "Run").objects.filter(kind="revision", state__in=OPEN):
            if old in run.request:
                run.request[new] = run.request.pop(old)
                run.save(update_fields=["request"])

    return change


class Migration(migrations.Migration):
    dependencies = [("jobs", "0007_runs_asked_for")]

    operations = [
        migrations.RunPython(rename("settling", "selection_modes"), rename("selection_modes", "settling")),
    ]
