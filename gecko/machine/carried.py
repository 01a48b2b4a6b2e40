"""What the parts that are exchanged weigh: motors, controller, wire and switches, entered or usual."""

from __future__ import annotations

from gecko.common.documents import Document
from gecko.common.figures import Number
from gecko.document.parts.controller import Controller, usual_limit_a
from gecko.document.parts.motor import Motor
from gecko.document.parts.wire import Lead
from gecko.document.setup import Setup
from gecko.physics.electric.motor import default_mass_kg
from gecko.reference.tables import FamilyDefaults, families

CONDUCTOR_KG_M3 = {"copper": 8960.0, "copper-clad aluminium": 3630.0}
"""Density of a conductor. [kg/m³] Source: copper 8.96 g/cm³; ASTM B566 class 10A, 3.63 g/cm³."""
INSULATED = 1.4
"""An insulated wire weighs so many times its conductor. [1] Source: this project's planning value."""
CONTROLLER_KG, CONTROLLER_KG_PER_A = 0.15, 0.02
"""A controller weighs so much, and so much more an amp of its bank-side limit. [kg], [kg/A] Source: this project's planning values."""
SMALL_KG = 0.1
"""A switch, a fuse with its holder, or a guard. [kg] Source: this project's planning value."""
CONTACTOR_KG = 0.4
"""A contactor. [kg] Source: this project's planning value."""


def motors_kg(motor: Motor | None, family: FamilyDefaults | None) -> float:
    """All motors together: entered, else from kind and watts. [kg]

    >>> motors_kg(Motor.model_validate({"kind": "brushed", "count": 2, "power_w": {"value": 300, "basis": "nameplate"}}), None)
    4.0
    """
    if motor is None:
        return 0.0
    if motor.mass_kg is not None:
        return float(motor.count * motor.mass_kg.value)
    power = motor.power_w.value if motor.power_w is not None else family.power_w if family is not None else 0.0
    return float(motor.count * default_mass_kg(motor.kind, power))


def controller_kg(control: Controller | None, motor: Motor | None, family: FamilyDefaults | None) -> float:
    """The controller, from its bank-side limit; one whose limit nobody stated is as is usual for its motors. [kg]"""
    if control is None or control.kind == "none":
        return 0.0
    if control.battery_limit_a is not None:
        limit = control.battery_limit_a.value
    elif motor is not None and motor.power_w is not None and motor.volts_v is not None:
        limit = usual_limit_a(motor.count * motor.power_w.value, motor.volts_v.value)
    else:
        limit = usual_limit_a(family.motors * family.power_w, family.volts_v) if family is not None else 0.0
    return CONTROLLER_KG + CONTROLLER_KG_PER_A * float(limit)


def lead_kg(lead: Lead | None) -> float:
    """A lead, out and back. [kg]

    >>> round(lead_kg(Lead.model_validate({"mm2": 10.0, "length_m": {"value": 1.5, "basis": "measured"}})), 3)
    0.376
    """
    return 0.0 if lead is None else 2.0 * lead.length_m.value * lead.area_m2 * CONDUCTOR_KG_M3[lead.material] * INSULATED


def drive_kg(setup: Setup) -> float:
    """Motors, controller, leads, switches, fuses and guard of a setup together; not its packs. [kg]"""
    family = families()[setup.vehicle.family] if setup.vehicle is not None else None
    rows = setup.bank.rows if setup.bank is not None else []
    leads = [setup.main_lead, setup.controller_lead, setup.motor_lead, *(lead for row in rows for lead in (row.lead, row.link))]
    small = [setup.main_fuse, setup.cut_off, setup.pedal_switch, setup.key_switch, setup.guard, *(row.fuse for row in rows)]
    return (
        motors_kg(setup.motor, family)
        + controller_kg(setup.controller, setup.motor, family)
        + sum(lead_kg(lead) for lead in leads)
        + SMALL_KG * sum(part is not None for part in small)
        + CONTACTOR_KG * (setup.contactor is not None)
    )


def note_masses(document: Document, found: Setup) -> None:
    """Note in a document what packs and drive weigh [kg] that are in its machine's mass, where that is not known yet, so that what other
    ones weigh more or less counts. found: the setup the machine was weighed with."""
    stock = document["stock"] = dict(document.get("stock") or {})
    weighed = {"packs_kg": found.bank.weighs_kg if found.bank is not None else None, "drive_kg": drive_kg(found) if found.motor is not None else None}
    for name, kg in weighed.items():
        if stock.get(name) is None and kg:
            stock[name] = {"value": round(kg, 3), "basis": "assumed"}


def exchanged_kg(setup: Setup, packs_kg: Number | None, drive_kg_found: float | None) -> Number:
    """What packs and drive of a setup weigh more than those in its machine's mass; less is negative. [kg]

    packs_kg, drive_kg_found: what those weigh; None: the machine was weighed with the ones of this setup.
    """
    packs = setup.bank.weighs_kg - packs_kg if packs_kg is not None and setup.bank is not None else 0.0
    return packs + (drive_kg(setup) - drive_kg_found if drive_kg_found is not None and setup.motor is not None else 0.0)
