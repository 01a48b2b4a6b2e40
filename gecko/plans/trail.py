"""The trail: the way of the current from bank to ground, what each station is asked and what it stands."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Finding, HeldBack, Stage, State, Station
from gecko.common.words import q, volts
from gecko.document.parts.controller import Controller, Throttle
from gecko.document.parts.pack import Pack
from gecko.document.parts.plug import Guard, Switch
from gecko.machine.contacts import plug_stands_a
from gecko.physics.heat.motor import WINDING_STOP_C
from gecko.physics.protection.fuse import continuous_limit_a
from gecko.physics.road.chain import ALLOWABLE_SHARE, sprocket_radius_m
from gecko.physics.road.forces import grip_limited_acceleration, resistance_n
from gecko.reference.tables import chain_size
from gecko.rules.drive import stock_stall_nm
from gecko.rules.path import asked_plugs

CLOSE_FROM = 0.85
"""A station is close from this share of what it stands, over above 1."""

_RANK = {"stop": 0, "caution": 1, "note": 2}


@dataclass(frozen=True)
class _Pair:
    id: str
    name: str
    stage: Stage
    path: str
    asks: float | None
    stands: float | None
    unit: str
    detail: str


def _pairs(a: Analysis) -> Iterator[_Pair]:
    setup, known = a.setup, a.machine is not None
    rms = a.rms_a if known else None
    peak = float(a.peak_a) if known else None
    bank = setup.bank
    if bank is not None:
        yield _packs(a)
        fused = [(row.fuse, a.row_worst[1][r] if known else None) for r, row in enumerate(bank.rows) if row.fuse is not None]
        if fused:
            fuse, asked = max(fused, key=lambda pair: (pair[1] or 1.0) / pair[0].rating_a)
            yield _Pair(
                "row_fuses",
                "Row fuses",
                "protect",
                "/bank/rows/0/fuse",
                asked,
                continuous_limit_a(fuse.rating_a, setup.ground.ambient_c),
                "A",
                f"{fuse.rating_a:g} A, {len(fused)} of {len(bank.rows)} rows",
            )
    if setup.main_fuse is not None:
        fuse = setup.main_fuse
        yield _Pair(
            "main_fuse",
            "Main fuse",
            "protect",
            "/main_fuse",
            rms,
            continuous_limit_a(fuse.rating_a, setup.ground.ambient_c),
            "A",
            f"{fuse.rating_a:g} A {fuse.kind}, {fuse.dc_volts_v:g} V",
        )
    yield from _switches(a.setup.cut_off, a.setup.guard, rms, peak)
    plugs = list(asked_plugs(a))
    if plugs:
        _, _, worst, asked = max(plugs, key=lambda entry: (entry[3] or 1.0) / plug_stands_a(entry[2]))
        yield _Pair("plugs", "Plugs", "protect", "/plugs", asked if known else None, plug_stands_a(worst), "A", worst.kind)
    if setup.main_lead is not None:
        worst_run = max(a.runs, key=lambda run: run.amps_a / max(a.lead_stands_a(run.lead), 1e-9), default=None)
        lead = worst_run.lead if worst_run else setup.main_lead
        whose = "" if worst_run is None or worst_run.kind == "main" else f"{worst_run.name} · "
        yield _Pair(
            "leads",
            "Leads",
            "protect",
            "/main_lead",
            worst_run.amps_a if worst_run else None,
            a.lead_stands_a(lead),
            "A",
            f"{whose}{lead.words}",
        )
    control = setup.controller
    if control is not None and control.kind != "none":
        figure = a.resolved.figures.get("/controller/max_v")
        limit = f" · {control.battery_limit_a.value:g} A" if control.battery_limit_a else ""
        yield _Pair("controller", "Controller", "drive", "/controller", a.full_v, figure.value if figure else None, "V", f"{control.kind}{limit}")
    if control is not None and (control.kind == "none" or control.before_pedal):
        switch = setup.pedal_switch
        stall = float(a.stall_point.motor_a) if known else None
        stands = switch.rating_a.value if switch and switch.rating_a else None
        yield _Pair("switch", "Pedal switch", "drive", "/pedal_switch", stall, stands, "A", "blocked wheels")
    if setup.motor is not None:
        rise = float(np.asarray(a.course_heat.winding_c[-1])) - setup.ground.ambient_c if known else None
        yield _Pair(
            "motors",
            "Motors" if setup.motor.count > 1 else "Motor",
            "drive",
            "/motor",
            rise,
            WINDING_STOP_C - setup.ground.ambient_c,
            "K",
            setup.motor.kind if setup.motor.count == 1 else f"two, in {setup.motor.wiring}",
        )
    if setup.drivetrain is not None and setup.drivetrain.kind != "hub":
        yield _gearing(a, known)
    if setup.vehicle is not None:
        yield _wheels(a, known)
        yield _Pair(
            "rider",
            "Rider & ground",
            "drive",
            "/rider",
            float(a.top) if known else None,
            a.resolved.cap_m_s,
            "m/s",
            f"{setup.rider.name or 'rider' if setup.rider else 'rider not known'} · {setup.ground.surface}",
        )


def _switches(switch: Switch | None, guard: Guard | None, rms: float | None, peak: float | None) -> Iterator[_Pair]:
    """Cut-off and low-volt guard share one station, which shows the worse of the two."""
    pairs = []
    if switch is not None:
        stands = switch.rating_a.value if switch.rating_a else None
        pairs.append(_Pair("cut_off", "Cut-off", "protect", "/cut_off", rms, stands, "A", switch.kind))
    if guard is not None and guard.kind == "module":
        stands = guard.rating_a.value if guard.rating_a else None
        words = f"guard {volts(guard.volts_v.value)}"
        pairs.append(_Pair("cut_off", "Cut-off & guard" if pairs else "Low-volt guard", "protect", "/guard", peak, stands, "A", words))
    known = [pair for pair in pairs if pair.asks is not None and pair.stands]
    if pairs:
        worst = max(known, key=lambda pair: (pair.asks or 0.0) / (pair.stands or 1.0)) if known else pairs[-1]
        yield replace(worst, name=pairs[-1].name)


def _packs(a: Analysis) -> _Pair:
    bank = a.setup.bank
    assert bank is not None
    rows, units = len(bank.rows), len(bank.rows[0].units)
    wide = f" · {rows} rows" if rows > 1 else ""
    long = f" · {units} in series" if units > 1 else ""
    detail = f"{a.nominal_v or 0:.3g} V · {bank.holds_ah:.3g} Ah{wide}{long}"
    unknown: list[tuple[int, Pack, float | None, float | None]] = [(0, pack, None, None) for _, pack in a.packs]
    loads = a.pack_loads if a.machine is not None else unknown
    choices = []
    for _, pack, peak, rms in loads:
        choices += [(asked, limit.value) for asked, limit in ((peak, pack.peak_10s_a), (rms, pack.continuous_a)) if limit is not None]
    if not choices:
        return _Pair("packs", "Packs", "power", "/bank", max((p for _, _, p, _ in loads if p is not None), default=None), None, "A", detail)
    asks, stands = max(choices, key=lambda pair: (pair[0] or 0.0) / pair[1])
    return _Pair("packs", "Packs", "power", "/bank", asks, stands, "A", detail)


def _gearing(a: Analysis, known: bool) -> _Pair:
    drive = a.setup.drivetrain
    assert drive is not None
    stands = drive.load_limit_nm.value if drive.load_limit_nm else None
    stock = stock_stall_nm(a) if known else None
    if stands is None and drive.kind == "plastic gearbox" and stock is not None:
        stands = 2.5 * stock
    chain = chain_size(drive.chain_pitch) if drive.kind == "chain" else None
    if stands is None and chain is not None and drive.wheel_teeth:
        stands = ALLOWABLE_SHARE * chain.tensile_n * sprocket_radius_m(drive.wheel_teeth, chain.pitch_m)
    ratio = f"{float(np.mean(a.m.vehicle.gear_ratio)):.4g}:1" if known else ""
    teeth = f"{drive.motor_teeth}:{drive.wheel_teeth} teeth" if drive.motor_teeth and drive.wheel_teeth else ratio
    return _Pair(
        "gearing",
        "Gearing",
        "drive",
        "/drivetrain",
        float(a.stall_wheel_nm) if known else None,
        stands,
        "N·m",
        f"{drive.kind.removeprefix('plastic ')} · {teeth}",
    )


def _wheels(a: Analysis, known: bool) -> _Pair:
    asks = stands = None
    size = a.resolved.figures.get("/wheel/diameter_m")
    if known:
        push = float(a.stall_wheel_nm / a.m.vehicle.wheel_radius_m)
        _, load = grip_limited_acceleration(a.m.vehicle, resistance_n(a.m.vehicle, 0.0))
        asks, stands = push, float(a.m.vehicle.friction * load)
    tyre = a.setup.wheel.tyre if a.setup.wheel else (a.resolved.family.tyre if a.resolved.family else "")
    detail = f"{q(size.value, 'length') if size else ''} {tyre.removesuffix(' plastic')}".strip()
    return _Pair("wheels", "Wheels", "drive", "/wheel", asks, stands, "N", detail)


def build_trail(a: Analysis, findings: list[Finding]) -> tuple[list[Station], str | None]:
    """Stations in the order of the current, and the id of the weak link (least headroom among the known ones).

    The wheels spinning at launch is a matter of grip, not of strength: it is shown, but is the weak link only when a
    finding says so.
    """
    worst: dict[str, str] = {}
    for finding in findings:
        # A stop that only asks to look at something does not make a part too weak.
        severity = "caution" if finding.severity == "stop" and finding.gate != "plan" else finding.severity
        if finding.station not in worst or _RANK[severity] < _RANK[worst[finding.station]]:
            worst[finding.station] = severity
    pairs = list(_pairs(a))
    shares = {p.id: p.asks / p.stands for p in pairs if p.asks is not None and p.stands}
    ranked = {key: share for key, share in shares.items() if key != "wheels"}
    weak = max(ranked, key=lambda key: ranked[key]) if ranked else None
    stations = []
    for pair in pairs:
        share = shares.get(pair.id)
        stations.append(
            Station(
                id=pair.id,
                name=pair.name,
                stage=pair.stage,
                path=pair.path,
                asks=pair.asks,
                stands=pair.stands,
                unit=pair.unit,
                share=share,
                state=_state(share, worst.get(pair.id)),
                weak=pair.id == weak,
                detail=pair.detail,
                severity=worst.get(pair.id),
            )
        )
    return stations, weak


def _state(share: float | None, severity: str | None) -> State:
    """A station is over only where a plan stop is. A share above 1 that no rule stops, such as wheels that spin or an adult over the advised speed,
    is close."""
    if severity == "stop":
        return "over"
    if (share or 0.0) >= CLOSE_FROM or severity == "caution":
        return "close"
    return "unknown" if share is None else "fine"


_LIMIT_WORDS = {
    "volts": ("Volts", "At top speed the motor's own voltage meets the bank's: more volts or longer gearing goes faster, more amps do not."),
    "source": ("Sag", "The bank sags so deeply that more throttle brings less: lower its resistance with one more row."),
    "phase": ("Motor amps", "The controller's motor-side limit holds: its amps, not its watts, end the speed here."),
    "battery": ("Controller amps", "The controller's bank-side amp limit holds: its amps, not its watts, end the speed here."),
    "undervoltage": ("Low cut-off", "The controller folds back at its low cut-off: the bank sags to it."),
}


def _limiter_words(control: Controller | None, throttle: Throttle | None) -> str:
    mode = f"Mode {control.mode}" if control is not None and control.mode else ""
    mark = f"the limiter at mark {10 * throttle.limiter_mark:.1f} of 10" if throttle is not None and throttle.limiter_mark is not None else ""
    both = " and ".join(part for part in (mode, mark) if part)
    return f"{both[0].upper()}{both[1:]} hold{'s' if not (mode and mark) else ''} it, as set."


def as_set(a: Analysis) -> HeldBack | None:
    """The limiter or the mode, where it is what holds the top speed: somebody chose that, so no part is to blame."""
    if a.top_point.limit_name() != "volts" or a.m.control.kind == "none" or float(a.m.control.duty_max) >= 0.999:
        return None
    return HeldBack(station="rider", limit="limiter", title="Limiter", sentence=_limiter_words(a.setup.controller, a.setup.throttle), state="fine")


def held_back(a: Analysis, stations: list[Station]) -> HeldBack | None:
    """The worst station if it is over, else the limit that binds at top speed, in plain words."""
    if a.machine is None:
        return None
    over = [s for s in stations if s.share is not None and s.share > 1.0 and s.state == "over"]
    if over:
        worst = max(over, key=lambda s: s.share or 0.0)
        percent = f"{100 * (worst.share or 0):.0f} %"
        if worst.id == "rider":
            sentence = f"Top speed is {percent} of this rider's cap of {q(worst.stands or 0, 'speed')}."
        else:
            verb = "are" if worst.name.endswith("s") else "is"
            sentence = f"{worst.name} {verb} asked for {percent} of what {'they stand' if verb == 'are' else 'it stands'}."
        return HeldBack(station=worst.id, limit=None, title=worst.name, state="over", sentence=sentence)
    chosen = as_set(a)
    if chosen is not None:
        return chosen
    name = a.top_point.limit_name()
    title, sentence = _LIMIT_WORDS[name]
    close = any(s.state == "close" for s in stations)
    return HeldBack(station=None, limit=name, title=title, sentence=sentence, state="close" if close else "fine")
