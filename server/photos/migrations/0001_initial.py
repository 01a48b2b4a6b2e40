
import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('builds', '0010_new_price'),
        ('garage', '0007_part_log'),
        ('logbook', '0003_bin'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Photo',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('binned', models.DateTimeField(db_index=True, default=None, null=True)),
                ('sha', models.CharField(db_index=True, max_length=64)),
                ('width', models.PositiveIntegerField()),
                ('height', models.PositiveIntegerField()),
                ('place', models.CharField(blank=True, default='', max_length=40)),
                ('caption', models.CharField(blank=True, default='', max_length=120)),
                ('when', models.DateTimeField(default=django.utils.timezone.now)),
                ('by_name', models.CharField(blank=True, default='', max_length=150)),
                ('binned_by', models.ForeignKey(default=None, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('entry', models.ForeignKey(default=None, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='logbook.journalentry')),
                ('garage', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='garage.garage')),
                ('part', models.ForeignKey(default=None, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='garage.rackpart')),
                ('setup', models.ForeignKey(default=None, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='builds.setup')),
                ('trial', models.ForeignKey(default=None, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='logbook.trial')),
            ],
            options={
                'ordering': ['when', 'pk'],
            },
        ),
    ]
