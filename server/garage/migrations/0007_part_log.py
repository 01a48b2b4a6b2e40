
import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('garage', '0006_parts_as_things'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='PartEntry',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('binned', models.DateTimeField(db_index=True, default=None, null=True)),
                ('when', models.DateTimeField(default=django.utils.timezone.now)),
                ('kind', models.CharField(max_length=12)),
                ('value', models.FloatField(null=True)),
                ('half', models.FloatField(null=True)),
                ('text', models.CharField(blank=True, max_length=300)),
                ('source', models.CharField(default='by hand', max_length=12)),
                ('by_name', models.CharField(blank=True, default='', max_length=150)),
                ('binned_by', models.ForeignKey(default=None, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('part', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='log', to='garage.rackpart')),
            ],
            options={
                'ordering': ['-when', '-pk'],
            },
        ),
    ]
