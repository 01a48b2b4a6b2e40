"""How each figure of a machine is measured with what a garage has; one wording for the checks, the ranges and the screens."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Measuring:
    """A figure's name inside a sentence, and what to do to know it better."""

    name: str
    how: str


_BY_PATH: dict[str, Measuring] = {
    "/stock/packs_kg": Measuring("mass of the packs it came with", "weigh them on a kitchen or bathroom scale"),
    "/vehicle/mass_kg": Measuring("machine's mass", "weigh it, one axle after the other on a bathroom scale"),
    "/rider/mass_kg": Measuring("rider's mass", "weigh the rider with helmet and clothes"),
    "/vehicle/drag_area_m2": Measuring("drag of rider and machine", "let it roll out twice, from a fast and from a slow speed"),
    "/vehicle/wheelbase_m": Measuring("wheelbase", "measure from axle to axle with a tape"),
    "/vehicle/com_ahead_of_rear_m": Measuring("place of the weight", "weigh the rear axle alone with the rider aboard"),
    "/vehicle/com_height_m": Measuring("height of the weight", "weigh the rear axle again with the front lifted by a known height"),
    "/vehicle/track_m": Measuring("track", "measure from wheel to wheel with a tape"),
    "/ground/rolling_resistance": Measuring("rolling resistance", "let it roll out from a known speed, or pull it with a luggage scale"),
    "/ground/friction": Measuring("grip", "pull it with the driven wheels blocked, with a luggage scale"),
    "/motor/power_w": Measuring("motor's watts", "read its plate"),
    "/motor/volts_v": Measuring("motor's volts", "read its plate; a tachometer on the stand, at known volts, makes it matter less"),
    "/motor/efficiency": Measuring("motor's efficiency", "compare amps and speed on the stand with its plate"),
    "/motor/mass_kg": Measuring("motor's mass", "weigh the motor, or look it up by its size"),
    "/motor/speed_rpm": Measuring("motor's speed", "hold a tachometer to the free wheel"),
    "/motor/no_load_rpm": Measuring("motor's speed", "hold a tachometer to the free wheel"),
    "/motor/kv_rpm_per_v": Measuring("motor's Kv", "hold a tachometer to the free wheel at known volts"),
    "/motor/stand_wheel_rpm": Measuring("speed on the stand", "repeat the reading with a fresh mark on the wheel"),
    "/motor/stand_v": Measuring("volts on the stand", "hold the meter to the packs while the wheel turns"),
    "/motor/resistance_ohm": Measuring("motor's resistance", "send a known small current through the blocked motor and read the volts at its leads"),
    "/motor/stall_a": Measuring("stall amps", "clamp the lead for a second at reduced volts with the wheel blocked"),
    "/motor/no_load_a": Measuring("no-load amps", "clamp the lead with the wheel off the ground"),
    "/drivetrain/ratio": Measuring("gear ratio", "count turns of the motor for one of the wheel"),
    "/drivetrain/efficiency": Measuring("gears' efficiency", "compare the roll-out with the chain on and off"),
    "/wheel/diameter_m": Measuring("wheel's diameter", "measure it with a tape"),
    "/controller/max_v": Measuring("controller's most volts", "read them off its label or its capacitors"),
    "/controller/battery_limit_a": Measuring("controller's amp limit", "clamp the pack's lead on a steep start"),
    "/controller/phase_limit_a": Measuring("controller's motor-side limit", "clamp a motor lead on a steep start"),
    "/controller/extra_speed": Measuring("controller's extra speed", "compare the wheel's speed on the stand with it switched on and off"),
    "/controller/efficiency": Measuring("controller's efficiency", "compare watts before and behind it on the stand"),
    "/controller/regen_a": Measuring("amps put back", "clamp the pack's lead while it slows"),
}
_BY_NAME: dict[str, Measuring] = {
    "protection_low_v": Measuring("board's low cut-off", "read its label, or note the volts at which it switches off"),
    "capacity_ah": Measuring("packs' amp-hours", "empty one through a known load by the clock, or read the charger's meter"),
    "resistance_ohm": Measuring("packs' resistance", "take two meter readings, at rest and under a known load"),
    "length_m": Measuring("lead's length", "measure it with a tape"),
}
_PLUG = Measuring("resistance of plugs and switches", "read the millivolts across them at known amps")


def measuring(path: str) -> Measuring:
    """How the figure at a place of the setup is called and measured.

    >>> measuring("/bank/rows/0/units/1/capacity_ah").name
    "packs' amp-hours"
    """
    found = _BY_PATH.get(path)
    if found is not None:
        return found
    last = path.rpartition("/")[2]
    if last == "resistance_ohm" and "/units/" not in path:
        return _PLUG
    return _BY_NAME.get(last, Measuring(last.replace("_", " "), "measure it where it is"))
