
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('builds', '0009_completed'),
    ]

    operations = [
        migrations.AddField(
            model_name='build',
            name='new_price',
            field=models.JSONField(default=None, null=True),
        ),
    ]
