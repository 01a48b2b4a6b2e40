from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('builds', '0008_incident_by_name'),
    ]

    operations = [
        migrations.AddField(
            model_name='setup',
            name='completed',
            field=models.JSONField(default=None, null=True),
        ),
        migrations.AddField(
            model_name='tick',
            name='excused',
            field=models.BooleanField(default=False),
        ),
    ]
