"""The rack of Tideline Shed: packs with their stickers and a past, a part on its way, one out of a donor, and what lies around."""

from __future__ import annotations

from copy import deepcopy
from datetime import timedelta
from typing import Any

from django.utils import timezone

from gecko.document.catalogue import catalogue
from gecko.document.parts.held import OnRack
from server.demo import machines
from server.garage.models import Garage, PartEntry, RackPart
from server.garage.rack import Told, add_parts, pair

_MARKET = "flea market at the harbour"


def _days_ago(days: int) -> str:
    return (timezone.now() - timedelta(days=days)).date().isoformat()


def _paid(amount: float, days: int, where: str = "") -> dict[str, Any]:
    return {"price": {"amount": amount, "currency": "USD", "when": _days_ago(days), "where": where}, "bought": _days_ago(days)}


def fill_rack(garage: Garage) -> None:
    """Put everything on the rack."""
    parts = catalogue()

    def shipped(kind: str, part_id: str, count: int = 1, *, label: str = "", **about: Any) -> list[RackPart]:
        found = next(p for p in parts[kind] if p["id"] == part_id)
        return add_parts(garage, Told(kind=kind, label=label or found["label"], document=found["part"], quantity=count, about=about))

    garden = shipped("packs", "pack-7s-4", 3, label="7-cell garden pack, 4 Ah", **_paid(62, 600))
    pair(garden[0], garden[1].key)
    (old,) = shipped("packs", "pack-7s-4", label="7-cell garden pack, 4 Ah, old", state="worn", **_paid(20, 400, _MARKET))
    old.about |= {"happened": [{"what": "dropped", "when": _days_ago(3)}]}
    old.save(update_fields=["about"])
    shipped("packs", "pack-5s-5", 2, state="fine")
    shipped("packs", "pack-13s-10", 2, label="13-cell pack, 10 Ah", **_paid(185, 300))
    shipped("packs", "pack-8s-lfp-10", **_paid(140, 60))
    shipped("chargers", "chg-7s", 2, **_paid(24, 600))
    shipped("controllers", "ctl-24-30", state="fine")
    shipped("controllers", "ctl-36-50", status="ordered", expected=(timezone.now() + timedelta(days=6)).date().isoformat(), **_paid(48, 4))
    donor = {"kind": "brushed", "volts_v": machines.plate(24), "power_w": machines.plate(350), "speed_rpm": machines.plate(2750)}
    about = {"had": "from a donor", "notes": "Out of the scooter that was run over. Shaft straight, brushes at 9 mm."}
    add_parts(garage, Told(kind="motors", label="350 W motor from the bent scooter", document=donor, about=about))
    add_parts(garage, Told(kind="kits", label="36 V bike kit in its box", document=_kit(), about=_paid(119, 8, _MARKET)))
    add_parts(garage, Told(kind="kits", label="Bent scooter, to take apart", document=_donor(), about={"notes": "Stem cracked. Motor and lever are good."}))
    for kind, part_id, count in (("fuses", "fuse-blade-32-30", 3), ("fuses", "fuse-blade-58-30", 2), ("fuses", "fuse-blade-58-40", 1), ("plugs", "plug-two-pole-60", 6)):
        shipped(kind, part_id, count)
    for awg, colour, metres in ((10, "red", 6.5), (10, "black", 5.0), (12, "red", 9.0), (14, "blue", 8.0)):
        add_parts(garage, Told(kind="wires", label=f"{awg} AWG, {colour}", document={"awg": awg, "colour": colour, "metres": metres}))
    guard = {"kind": "module", "volts_v": machines.plate(21.6), "rating_a": machines.plate(60)}
    add_parts(garage, Told(kind="guards", label="Low-volt guard, 60 A, adjustable", document=guard))
    add_parts(garage, Told(kind="hardware", label="Sprocket, 11 teeth", document={"what": "sprocket", "teeth": 11, "pitch": "25", "fits": "8 mm with flat"}))
    switch = {"kind": "switch", "rating_a": machines.plate(60), "dc_volts_v": machines.plate(60)}
    wanted = {"status": "wanted", "price": {"amount": 14, "currency": "USD", "when": _days_ago(9), "where": _MARKET}}
    add_parts(garage, Told(kind="switches", label="Cut-off switch, 60 A, red handle", document=switch, about=wanted))
    add_parts(garage, Told(kind="plug colours", label=str(machines.THROTTLE_PLUG["label"]), document=machines.THROTTLE_PLUG))
    _past(garden, old)


def _kit() -> dict[str, Any]:
    """A conversion kit as it comes: with what is printed on its box."""
    plate = machines.plate
    contents = [
        ("motors", "500 W brushed motor", {"kind": "brushed", "volts_v": plate(36), "power_w": plate(500), "speed_rpm": plate(2600)}),
        ("controllers", "36 V controller, 25 A", {"kind": "brushed", "nominal_v": plate(36), "max_v": plate(45), "battery_limit_a": plate(25), "throttle": "hall"}),
        ("throttles", "Twist throttle with key and three lamps", {"kind": "hall"}),
        ("hardware", "Key switch", {"what": "key"}),
        ("hardware", "Brake lever with its switch", {"what": "lever"}),
        ("hardware", "Sprocket, 11 teeth", {"what": "sprocket", "teeth": 11, "pitch": "25"}),
    ]
    return {
        "contents": [{"kind": kind, "label": label, "document": document} for kind, label, document in contents],
        "leads": ["key", "brake, low level", "charge", "indicator lamp", "speed limit"],
        "claims": {"speed_m_s": 11.2, "distance_m": 25000, "power_w": 500},
    }


def _donor() -> dict[str, Any]:
    """What is left of a scooter."""
    plate = machines.plate
    contents = [
        ("wheels", "Front wheel, 8 in", {"diameter_m": plate(0.2), "tyre": "pneumatic"}),
        ("hardware", "Brake lever with its switch", {"what": "lever"}),
        ("switches", "Key switch, 20 A", {"kind": "switch", "rating_a": plate(20)}),
    ]
    return {"donor": True, "contents": [{"kind": kind, "label": label, "document": document} for kind, label, document in contents]}


# Days ago, amp-hours of the first pack and of the third; half of the 95 % interval.
_CAPACITY = ((598, 3.95, 3.97, 0.12), (430, 3.87, 3.90, 0.11), (290, 3.74, 3.86, 0.11), (170, 3.62, 3.84, 0.10), (46, 3.51, 3.80, 0.09))
_RESISTANCE = ((590, 0.096, 0.006), (290, 0.106, 0.006), (46, 0.119, 0.006))


def _past(garden: list[RackPart], old: RackPart) -> None:
    now = timezone.now()
    lines = []
    for days, first, third, half in _CAPACITY:
        for part, value in ((garden[0], first), (garden[2], third)):
            lines.append(PartEntry(part=part, when=now - timedelta(days=days), kind="capacity", value=value, half=half, by_name="demo", text="full to the guard"))
    for days, ohm, half in _RESISTANCE:
        lines.append(PartEntry(part=garden[0], when=now - timedelta(days=days), kind="resistance", value=ohm, half=half, source="Power", by_name="demo"))
    lines.append(PartEntry(part=garden[0], when=now - timedelta(days=10), kind="charged", value=3.4, by_name="demo", text="after the beach"))
    lines.append(PartEntry(part=old, when=now - timedelta(days=200), kind="capacity", value=2.9, half=0.1, by_name="demo"))
    lines.append(PartEntry(part=old, when=now - timedelta(days=3), kind="note", text="Off the bench onto paving. Put outside for a day.", by_name="demo"))
    PartEntry.objects.bulk_create(lines)


def of_the_rack(garage: Garage, document: dict[str, Any]) -> dict[str, Any]:
    """A setup whose packs are those of the rack that are called the same, in the order of their stickers."""
    left: dict[str, list[RackPart]] = {}
    for part in garage.rack.filter(kind="packs").order_by("pk"):
        left.setdefault(part.label, []).append(part)
    named = deepcopy(document)
    for row in named["bank"]["rows"]:
        for unit in row["units"]:
            if left.get(unit["label"]):
                part = left[unit["label"]].pop(0)
                unit["rack"] = OnRack(key=part.key, label=part.label, letter=part.letter).model_dump()
    return named
