from django.db import migrations, models


def names_of_accounts(apps, schema_editor):
    """Whoever wrote an incident down until now is known by the account; the name stays when the account goes."""
    rows = apps.get_model("builds", "Incident").objects
    for key, username in set(rows.exclude(by=None).values_list("by", "by__username")):
        rows.filter(by=key).update(by_name=username)


class Migration(migrations.Migration):

    dependencies = [
        ('builds', '0007_names'),
    ]

    operations = [
        migrations.AddField(
            model_name='incident',
            name='by_name',
            field=models.CharField(blank=True, default='', max_length=150),
        ),
        migrations.RunPython(names_of_accounts, migrations.RunPython.noop),
    ]
