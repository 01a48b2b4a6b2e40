"""The motor controller, or none: pedal straight to motor."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Figure, Part
from gecko.document.parts.bounds import Within
from gecko.document.parts.held import Held
from gecko.document.parts.hookup import SideJob

ControllerKind = Literal["none", "brushed", "brushless", "knob module"]
ThrottleKind = Literal["hall", "potentiometer", "switch", "unknown"]


AMPS_PER_AMP = 1.6
"""A controller is sold for so many times its motor's plate amps. [1] Source: this project's planning value, from 60 W to 15 kW."""
MOTOR_SIDE_RATIO: dict[str, float] = {"brushed": 1.5, "brushless": 2.2, "knob module": 1.3}
"""Motor-side over bank-side limit of a controller of which only the latter is known. [1] Source: this project's planning value."""
MOTOR_SIDE_SPREAD = 0.35
"""How well that is known, one standard deviation. [1]"""


IDLE_A = 0.05
"""What a controller draws doing nothing, where that is not known. [A] Source: this project's planning value."""


def usual_limit_a(watts_w: float, volts_v: float) -> float:
    """Bank-side limit of the controller usually sold with motors of so many watts together [W] at their volts [V]. [A]

    >>> round(usual_limit_a(350.0, 36.0), 2)
    15.56
    """
    return AMPS_PER_AMP * watts_w / volts_v


class SpeedMode(Part):
    """One position of the speed switch: a cap on duty, on current, or on both."""

    name: str = Field(min_length=1, max_length=30)
    """What the switch says: low, 2, eco."""
    duty: Annotated[float, Within("mode.duty")] = 1.0
    """Share of full duty it allows: what caps the speed."""
    current: Annotated[float, Within("mode.current")] = 1.0
    """Share of the amp limits it allows: what caps the push."""


class Firmware(Part):
    """Settings inside a controller, changed by an app, a cable or a display."""

    changed: bool = False
    """Firmware or settings are changed from what it came with."""
    version_before: str = Field(default="", max_length=60)
    """The version before."""
    settings_noted: bool = False
    """The settings before are noted."""
    way_back: bool = False
    """The old file and what loads it are kept."""


class Controller(Held):
    """What meters the current to the motor."""

    kind: ControllerKind = "brushed"
    """None (a switch only), brushed, brushless, or a module with a knob that chops the battery's volts before the stock pedal, gear and reverse
    wiring, which stays."""
    nominal_v: Annotated[Figure, Within("controller.nominal_v")] | None = None
    """Volts on its label."""
    max_v: Annotated[Figure, Within("controller.max_v")] | None = None
    """Most volts it stands. Empty: 1.25 × the label, assumed."""
    undervoltage_v: Annotated[Figure, Within("controller.undervoltage_v")] | None = None
    """Volts below which it holds back. Empty: 0.85 × the label, assumed."""
    battery_limit_a: Annotated[Figure, Within("controller.battery_limit_a")] | None = None
    """Most amps it draws from the bank. Watts on its label are not this limit."""
    phase_limit_a: Annotated[Figure, Within("controller.phase_limit_a")] | None = None
    """Most amps it sends to the motor. Empty: 1.5 × the bank-side limit where it is brushed, 2.2 × where it is brushless, assumed."""
    efficiency: Annotated[Figure, Within("controller.efficiency")] | None = None
    """Share of power that comes through. Empty: 0.97 brushed, 0.95 brushless."""
    extra_speed: Annotated[Figure, Within("controller.extra_speed")] | None = None
    """How much faster than the packs' volts alone it turns the motor, by field weakening or a boost mode, as a share: 0.25 is a quarter more. Empty: none."""
    idle_a: Annotated[Figure, Within("controller.idle_a")] | None = None
    """Amps it draws doing nothing. Empty: 0.05 A."""
    needs_halls: bool = False
    """Brushless only: it works only with a motor that has Hall sensors."""
    throttle: ThrottleKind = "unknown"
    """Kind of throttle it reads."""
    brake_cut_off_input: bool = True
    """It has an input for the brake lever."""
    precharge: bool = False
    """There is a pre-charge path for its capacitors."""
    does: list[SideJob] = Field(default=[], max_length=7)
    """What it does beside driving the motor, such as lighting a gauge or holding the speed."""
    modes: list[SpeedMode] = Field(default=[], max_length=6)
    """Its speed modes."""
    mode: str | None = Field(default=None, max_length=30)
    """The speed mode in use. Empty: no cap."""
    modes_locked: bool | None = None
    """The rider cannot change the mode. Empty: not looked at."""
    ramp_s: Annotated[Figure, Within("controller.ramp_s")] | None = None
    """Soft start: seconds from nothing to full current. Empty: at once."""
    reverse_duty: Annotated[float, Within("controller.reverse_duty")] = 1.0
    """Share of full duty it allows in reverse."""
    reverse_locked: bool = False
    """It refuses to reverse while rolling."""
    regen_a: Annotated[Figure, Within("controller.regen_a")] | None = None
    """Amps it pushes back into the bank when the throttle is released. Empty: it rolls freely."""
    enclosed: bool | None = None
    """It sits closed in, without air moving past. Empty: not stated."""
    mounting: Literal["screwed", "ties only"] | None = None
    """How it is held. Empty: not stated."""
    in_spray: bool | None = None
    """Water or dirt from the wheels reaches it. Empty: not stated."""
    length_m: Annotated[Figure, Within("controller.length_m")] | None = None
    """Its length, plugs included."""
    width_m: Annotated[Figure, Within("controller.width_m")] | None = None
    """Its width."""
    height_m: Annotated[Figure, Within("controller.height_m")] | None = None
    """Its height."""
    firmware: Firmware | None = None
    """What was changed inside it. Empty: nothing."""
    capacitance_f: Annotated[Figure, Within("controller.capacitance_f")] | None = None
    """Its input capacitors together, in farad. Empty: 1 000 µF for each 20 A of its limit, assumed."""

    @property
    def waits_a(self) -> float:
        """Amps it draws while it waits: entered, else what such ones usually do. [A]"""
        return float(self.idle_a.value) if self.idle_a else IDLE_A

    @property
    def before_pedal(self) -> bool:
        """It sits before the stock pedal switch, which goes on switching the motors' current."""
        return self.kind == "knob module"

    @property
    def reads_throttle(self) -> bool:
        """It follows a throttle of its own, by small wires."""
        return self.kind in ("brushed", "brushless")


class KnobMark(Part):
    """A measured point of the knob: at this mark, full throttle, on the level, it went this fast."""

    mark: Annotated[float, Within("knob.mark")]
    """Where the knob stood: 0.5 is mark 5 of 10."""
    speed_m_s: Annotated[Figure, Within("knob.speed_m_s")]
    """Speed it went."""


class Throttle(Held):
    """The pedal, thumb or twist throttle, with the levers and switches that belong to it."""

    kind: ThrottleKind = "unknown"
    """Three-wire Hall, potentiometer, plain switch, or not known."""
    does: list[SideJob] = Field(default=[], max_length=7)
    """What it does beside: a gauge, lamps or a switch in the same housing."""
    levers: bool | None = None
    """The machine has brake levers or a brake pedal. Empty: as its kind of machine usually has."""
    brake_cut_off_present: bool | None = None
    """The brake lever has a sensor. Empty: not looked at."""
    brake_cut_off_wired: bool | None = None
    """The brake lever's signal is wired, so that braking stops the motor. Empty: not looked at."""
    returns: bool | None = None
    """Let go, it snaps back by itself from every position, also with the bars turned. Empty: not tried."""
    foot_switch_wired: bool | None = None
    """Quads: the foot safety switch is wired. Empty: not looked at."""
    limiter_mark: Annotated[float, Within("throttle.limiter_mark")] | None = None
    """Where the speed limiter or knob stands: 0.5 is mark 5 of 10. Empty: no limiter."""
    knob: list[KnobMark] = Field(default=[], max_length=12)
    """Speeds measured at marks of the knob. Its scale is not percent: with two or more the marks are fitted to them."""
    limiter_reachable: bool | None = None
    """The rider can reach the limiter. Empty: not looked at."""
