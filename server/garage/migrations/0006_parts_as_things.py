import secrets

from django.db import migrations, models

import server.garage.models

ONE_BY_ONE = ("packs", "motors", "controllers", "chargers")


def _letter(number: int) -> str:
    """A, B … Z, AA, AB …"""
    text = ""
    while number >= 0:
        number, place = divmod(number, 26)
        text = chr(65 + place) + text
        number -= 1
    return text


def one_by_one(apps, schema_editor):
    """Every part gets its key; of what is a thing of its own each piece becomes one, with the next letter of its kind."""
    RackPart = apps.get_model("garage", "RackPart")
    used: dict[tuple[int, str], int] = {}
    for part in RackPart.objects.order_by("pk").iterator():
        part.key = secrets.token_hex(8)
        if part.kind not in ONE_BY_ONE:
            part.save(update_fields=["key"])
            continue
        number = used.get((part.garage_id, part.kind), 0)
        pieces = max(part.quantity, 1)
        if part.quantity == 0:
            part.about = {"status": "wanted"}
        part.quantity, part.letter = 1, _letter(number)
        part.save(update_fields=["key", "quantity", "letter", "about"])
        fields = {name: getattr(part, name) for name in ("garage_id", "kind", "label", "document", "binned", "binned_by_id")}
        RackPart.objects.bulk_create(
            RackPart(**fields, quantity=1, key=secrets.token_hex(8), letter=_letter(number + more)) for more in range(1, pieces)
        )
        used[part.garage_id, part.kind] = number + pieces


class Migration(migrations.Migration):

    dependencies = [
        ("garage", "0005_invitation"),
    ]

    operations = [
        migrations.AddField("rackpart", "key", models.CharField(default="", max_length=40)),
        migrations.AddField("rackpart", "letter", models.CharField(blank=True, default="", max_length=4)),
        migrations.AddField("rackpart", "about", models.JSONField(default=dict)),
        migrations.RunPython(one_by_one, migrations.RunPython.noop),
        migrations.AlterField("rackpart", "key", models.CharField(default=server.garage.models._new_key, max_length=40)),
        migrations.AddConstraint("rackpart", models.UniqueConstraint(fields=("garage", "key"), name="one_part_each_key")),
    ]
