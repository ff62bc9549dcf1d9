"""What a step states of itself is called statistics, as in the core."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("jobs", "0008_selection_modes")]
    operations = [migrations.RenameField("Result", "figures", "statistics")]
