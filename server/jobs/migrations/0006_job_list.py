from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("jobs", "0005_layers_by_steps")]
    operations = [
        migrations.AddField("job", "deleted", models.DateTimeField(blank=True, db_index=True, null=True)),
        migrations.AddField("revision", "summary", models.JSONField(default=dict)),
        migrations.AlterField("job", "changed", models.DateTimeField(auto_now=True, db_index=True)),
    ]
