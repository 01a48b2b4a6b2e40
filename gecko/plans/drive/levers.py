"""What one can change on a machine to make it go otherwise: each lever a ladder of ever larger steps, offered only where it exists."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Literal, NamedTuple

from gecko.analysis.whole import Analysis
from gecko.common.documents import Document
from gecko.common.figures import Figure
from gecko.common.words import amps, q, volts
from gecko.document.parts.controller import Controller, Throttle
from gecko.document.parts.drivetrain import Drivetrain
from gecko.document.setup import Setup
from gecko.machine.carried import note_masses
from gecko.physics.electric.operating_point import ControllerModel
from gecko.physics.road.forces import VehicleModel
from gecko.reference.tables import FamilyDefaults
from gecko.rules.edits import one_more
from gecko.rules.together import row_beside

Lever = Literal["volts", "rows", "controller amps", "motor", "teeth", "wheel", "mass", "limiter"]

MOST_FULL_V = 100.0
"""More volts than this are not proposed as a change to try. [V]"""
MOST_PACKS, MOST_ROWS = 10, 8
"""Packs a row holds, and rows a bank has, at most. [1]"""
STEPS = 4
"""So many steps a ladder has at most. [1]"""


class Rung(NamedTuple):
    """A change: the lever, what it is called, in numbers, and how it changes a document."""

    lever: Lever
    label: str
    detail: str
    change: Callable[[Document], None]


def ladders(a: Analysis) -> Iterator[list[Rung]]:
    """Every lever this machine has, each with its steps, the smallest first."""
    control, part = a.m.control, a.setup.controller
    yield list(_series(a.setup, a.full_v))
    yield list(_rows(a))
    if control.kind != "none" and control.battery_limit_a is not None and control.phase_limit_a is not None:
        limit = float(control.battery_limit_a)
        named = (
            (1.25, "A quarter more controller amps"),
            (1.5, "Half as many controller amps again"),
            (2.0, "Twice the controller amps"),
            (3.0, "Three times the controller amps"),
        )
        yield [Rung("controller amps", words, f"{amps(factor * limit)} instead of {amps(limit)}", _amps(control, part, factor)) for factor, words in named]
    motors = (
        (1.5, "The next larger motor", "half as many watts again"),
        (2.0, "A motor of twice the watts", "twice the watts"),
        (3.0, "A motor of three times the watts", "three times the watts"),
    )
    yield [Rung("motor", words, f"{more}, for the same volts and speed", _larger_motor(a.setup, a.resolved.figures, factor)) for factor, words, more in motors]
    yield list(_gearing(a.setup.drivetrain, a.resolved.family, a.m.vehicle, up=True))
    yield list(_wheel(a.setup, a.resolved.figures))
    yield list(_lighter(a.resolved.figures))
    yield list(_unlimited(a.setup.throttle))


def shorter(drive: Drivetrain | None, family: FamilyDefaults | None, vehicle: VehicleModel) -> list[Rung]:
    """Gearing for more pull, where there is any."""
    return list(_gearing(drive, family, vehicle, up=False))


def limited(control: ControllerModel, throttle: Throttle | None) -> list[Rung]:
    """Lower marks of the limiter, for a longer ride."""
    if control.kind == "none":
        return []
    now = 1.0 if throttle is None or throttle.limiter_mark is None else throttle.limiter_mark

    def at(mark: float) -> Callable[[Document], None]:
        return lambda d: d.update(throttle={**(d.get("throttle") or {"kind": "unknown"}), "limiter_mark": mark})

    marks = [round(now * share, 2) for share in (0.9, 0.8, 0.7, 0.6)]
    return [Rung("limiter", f"Limiter at mark {10 * mark:.1f} of 10", f"instead of {10 * now:.1f}", at(mark)) for mark in marks]


def _series(setup: Setup, full_v: float | None) -> Iterator[Rung]:
    bank = setup.bank
    assert bank is not None
    full, step, longest = full_v or 0.0, bank.rows[0].units[-1].full_v, max(len(row.units) for row in bank.rows)

    def more(count: int) -> Callable[[Document], None]:
        def change(document: Document) -> None:
            note_masses(document, setup)
            for row in document["bank"]["rows"]:
                row["units"] += [one_more(row["units"][-1]) for _ in range(count)]

        return change

    for count in range(1, STEPS):
        if full + count * step > MOST_FULL_V or longest + count > MOST_PACKS:
            return
        words = "One more pack in series" if count == 1 else f"{count} more packs in series"
        yield Rung("volts", words, f"{volts(full + count * step)} full instead of {volts(full)}", more(count))


def _rows(a: Analysis) -> Iterator[Rung]:
    bank = a.setup.bank
    assert bank is not None
    beside = row_beside(a).change

    def more(count: int) -> Callable[[Document], None]:
        def change(document: Document) -> None:
            note_masses(document, a.setup)
            for _ in range(count):
                beside(document)

        return change

    for count in range(1, min(STEPS, MOST_ROWS - len(bank.rows) + 1)):
        words = "One more row beside" if count == 1 else f"{count} more rows beside"
        yield Rung("rows", words, f"{len(bank.rows) + count} rows instead of {len(bank.rows)}", more(count))


def _amps(control: ControllerModel, part: Controller | None, factor: float) -> Callable[[Document], None]:
    share = next((mode.current for mode in part.modes if mode.name == part.mode), 1.0) if part is not None else 1.0
    limits = {"battery_limit_a": float(control.battery_limit_a or 0.0), "phase_limit_a": float(control.phase_limit_a or 0.0)}

    def change(document: Document) -> None:
        for name, limit in limits.items():
            document["controller"][name] = {"value": round(limit / share * factor, 1), "basis": "nameplate"}

    return change


def _larger_motor(setup: Setup, figures: dict[str, Figure], factor: float) -> Callable[[Document], None]:
    power = figures["/motor/power_w"].value

    def change(document: Document) -> None:
        note_masses(document, setup)
        # What was measured on the old motor does not hold for the new one.
        document["motor"].update(power_w={"value": round(factor * power), "basis": "assumed"}, resistance_ohm=None, stall_a=None, no_load_a=None, mass_kg=None)

    return change


def _gearing(drive: Drivetrain | None, family: FamilyDefaults | None, vehicle: VehicleModel, *, up: bool) -> Iterator[Rung]:
    """Taller (up) or shorter gearing: tooth by tooth at the motor where the teeth are known, else a tenth of the ratio a step; a hub has none."""
    kind = drive.kind if drive is not None else family.drive if family is not None else "hub"
    if kind == "hub":
        return
    if drive is not None and drive.motor_teeth and drive.wheel_teeth and drive.ratio is None:
        for count in range(1, STEPS + 2):
            teeth = drive.motor_teeth + (count if up else -count)
            if teeth < 7:
                return
            words = f"{'One tooth' if count == 1 else f'{count} teeth'} {'more' if up else 'fewer'} at the motor"

            def toothed(document: Document, teeth: int = teeth) -> None:
                document["drivetrain"].update(motor_teeth=teeth)

            yield Rung("teeth", words, f"{teeth}:{drive.wheel_teeth}", toothed)
        return
    for count in range(1, STEPS + 1):
        ratio = float(vehicle.gear_ratio) * (1.1**-count if up else 1.1**count)
        words = ("Gearing one tenth taller", "Gearing one tenth shorter")[not up] if count == 1 else f"Gearing {1.1**count - 1.0:.0%} {'taller' if up else 'shorter'}"

        def geared(document: Document, ratio: float = ratio) -> None:
            have = document.get("drivetrain") or {"kind": kind}
            document["drivetrain"] = {**have, "ratio": {"value": round(ratio, 3), "basis": "assumed"}, "motor_teeth": None, "wheel_teeth": None}

        yield Rung("teeth", words, f"{ratio:.3g}:1", geared)


def _wheel(setup: Setup, figures: dict[str, Figure]) -> Iterator[Rung]:
    """A larger wheel; a hub's is one with its motor."""
    size, drive = figures.get("/wheel/diameter_m"), setup.drivetrain
    if setup.wheel is None or size is None or (drive is not None and drive.kind == "hub"):
        return
    across = size.value
    yield Rung("wheel", "A wheel one tenth larger", f"{q(1.1 * across, 'length')} across", lambda d: d["wheel"]["diameter_m"].update(value=round(1.1 * across, 4)))


def _lighter(figures: dict[str, Figure]) -> Iterator[Rung]:
    mass = figures.get("/vehicle/mass_kg")
    if mass is not None:
        less, value, basis = min(5.0, 0.15 * mass.value), mass.value, mass.basis
        yield Rung("mass", f"{q(less, 'mass')} less", "off machine or packs", lambda d: d["vehicle"].update(mass_kg={"value": value - less, "basis": basis}))


def _unlimited(throttle: Throttle | None) -> Iterator[Rung]:
    if throttle is not None and throttle.limiter_mark is not None and throttle.limiter_mark < 0.999:
        yield Rung("limiter", "No limiter", f"instead of mark {10 * throttle.limiter_mark:.1f} of 10", lambda d: d["throttle"].update(limiter_mark=None))
