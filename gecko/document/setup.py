"""The Setup document, version 1: what is bolted together.

One validated, versioned JSON document. A draft may lack any part; `gecko.plans.evaluate` says what is missing.
"""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from gecko.common.constants import REFUSED_VOLTS_V
from gecko.common.documents import Document
from gecko.common.figures import Part
from gecko.document.parts.auxiliary import Auxiliary
from gecko.document.parts.bay import Holding
from gecko.document.parts.charger import Charger
from gecko.document.parts.controller import Controller, Throttle
from gecko.document.parts.course import Course
from gecko.document.parts.drivetrain import Drivetrain, Wheel
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.hookup import Controls, Opening, OrderTrial, PlugPair, SideJob, SignalCable
from gecko.document.parts.motor import Motor
from gecko.document.parts.pack import Pack, capacity_figure
from gecko.document.parts.plug import Guard, Plug, Switch
from gecko.document.parts.rider import Ground, Rider
from gecko.document.parts.vehicle import Stock, Vehicle
from gecko.document.parts.wire import Lead

VERSION = 1


class Look(Part):
    """An answer to a question of the survey."""

    answer: Literal["yes", "no", "cannot tell"]
    """What was seen. "Cannot tell" counts as not there."""
    by: str = Field(default="", max_length=150)
    """Who looked."""
    when: str = Field(default="", max_length=32)
    """When, as a date and time (ISO 8601)."""


MOST_ROWS = 8
MOST_IN_SERIES = 10


class Row(Part):
    """Packs in series: volts add, amp-hours stay."""

    units: list[Pack] = Field(min_length=1, max_length=MOST_IN_SERIES)
    """The packs of this row, in series."""
    fuse: Fuse | None = None
    """The fuse of this row."""
    lead: Lead | None = None
    """The lead from this row to the joint."""
    link: Lead | None = None
    """The links between the packs of this row; its length is half that of all links together, as of a pair."""
    plugs: list[Plug] = Field(default=[], max_length=6)
    """Plugs of this row."""

    @property
    def full_v(self) -> float:
        """Full-charge volts of the row. [V]"""
        return sum(unit.full_v for unit in self.units)


class Bank(Part):
    """Rows in parallel: amp-hours and amps add, volts stay."""

    rows: list[Row] = Field(min_length=1, max_length=MOST_ROWS)
    """The rows, side by side."""
    occupancy: Literal["all", "one out", "any"] | None = None
    """Which slots may stay empty while riding: none, one row, or any as long as one row is in. Empty: not stated."""
    looked_sound: bool | None = None
    """Every pack was looked at: not swollen, dropped, wet or opened. Empty: not looked at."""
    home_pack: Pack | None = None
    """A small pack that alone brings it home, in place of all rows."""
    holding: Holding | None = None
    """How the packs are held and cushioned."""

    @model_validator(mode="after")
    def _refuse_high_volts(self) -> Bank:
        worst = max(row.full_v for row in self.rows)
        if worst > REFUSED_VOLTS_V:
            raise ValueError(f"This bank reaches {worst:.0f} V at full charge. Above {REFUSED_VOLTS_V:.0f} V this planner stops: put fewer packs in series.")
        return self

    @property
    def holds_ah(self) -> float:
        """Amp-hours of the rows together, each by its smallest pack, as old as they are. [Ah]"""
        return sum(min(capacity_figure(unit).value for unit in row.units) for row in self.rows)

    @property
    def weighs_kg(self) -> float:
        """Mass of all packs. [kg]"""
        return sum(unit.weighs_kg for row in self.rows for unit in row.units)


class Setup(Part):
    """One electrical and mechanical arrangement of a build."""

    version: Literal[1] = 1
    """Version of this document's form."""
    vehicle: Vehicle | None = None
    """The rolling machine."""
    stock: Stock = Stock()
    """The electrics as they left the factory."""
    bank: Bank | None = None
    """The packs and how they are joined."""
    main_fuse: Fuse | None = None
    """The main fuse, at the positive lead close to the packs."""
    main_lead: Lead | None = None
    """The lead from the packs to the controller, or to the cut-off where the controller's own lead is another."""
    controller_lead: Lead | None = None
    """The lead from cut-off or guard on to the controller, where it is of another kind."""
    motor_lead: Lead | None = None
    """The lead from controller or pedal switch to the motor."""
    plugs: list[Plug] = Field(default=[], max_length=12)
    """Plugs in the main path."""
    cut_off: Switch | None = None
    """The hand switch or pullable plug that isolates the bank."""
    guard: Guard | None = None
    """The low-volt guard."""
    pedal_switch: Switch | None = None
    """Without a controller: the pedal switch that carries the motor current."""
    key_switch: Switch | None = None
    """A key or lock that carries the machine's own current."""
    contactor: Switch | None = None
    """A relay or contactor in the main path."""
    controller: Controller | None = None
    """The controller, or kind none."""
    throttle: Throttle | None = None
    """Throttle, levers, limiter."""
    motor: Motor | None = None
    """The motor set."""
    drivetrain: Drivetrain | None = None
    """Gearing."""
    wheel: Wheel | None = None
    """The driven wheel."""
    rider: Rider | None = None
    """Who rides."""
    also: list[Rider] = Field(default=[], max_length=8)
    """Who else rides this machine."""
    passenger: Rider | None = None
    """Who rides along."""
    ground: Ground = Ground()
    """Where it is ridden."""
    course: Course | None = None
    """The course a ride goes round on. Empty: the standard ride, 60 m at 80 % of the top speed, a stop of 8 s, on its own ground and slope."""
    chargers: list[Charger] = Field(default=[], max_length=8)
    """Chargers used for these packs."""
    auxiliaries: list[Auxiliary] = Field(default=[], max_length=8)
    """Accessories beside the drive, each on its own branch."""
    controls: Controls = Controls()
    """Key, switches and small plugs at the controller."""
    plug_pairs: list[PlugPair] = Field(default=[], max_length=16)
    """Plugs with the colours of their wires on either half."""
    cables: list[SignalCable] = Field(default=[], max_length=6)
    """Cables that small wires share."""
    order_trials: list[OrderTrial] = Field(default=[], max_length=40)
    """Orders of phases and Halls tried so far."""
    does_now: list[SideJob] = Field(default=[], max_length=7)
    """Of what the replaced parts also did: what something in this setup does now."""
    looks: dict[str, Look] = Field(default={}, max_length=60)
    """What was looked at, by question: the answer, who gave it and when."""
    openings: list[Opening] = Field(default=[], max_length=20)
    """Covers, seals and cable entries the work opens."""


def load_setup(document: object) -> Setup:
    """Read a Setup document of any known version.

    Raises ValidationError (see `gecko.common.errors.field_problems`) naming every field that is wrong.
    """
    if isinstance(document, dict):
        document = upgrade(document)
    return Setup.model_validate(document)


def upgrade(document: Document) -> Document:
    """Bring a stored document to the present version, one small step a version.

    Version 1 is the first one, so only documents written before the version was stored need a step: they get the number.
    """
    return document if "version" in document else {"version": VERSION, **document}


def json_schema() -> Document:
    """JSON Schema of the Setup document, with the description of every field."""
    return Setup.model_json_schema(mode="validation")
