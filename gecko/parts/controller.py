"""The motor controller, or none: pedal straight to motor."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Part, positive

ControllerKind = Literal["none", "brushed", "brushless"]
ThrottleKind = Literal["hall", "potentiometer", "switch", "unknown"]


class Controller(Part):
    """What meters the current to the motor."""

    kind: ControllerKind = "brushed"
    """None (a switch only), brushed, or brushless."""
    nominal_v: positive(120) | None = None  # type: ignore[valid-type]
    """Volts on its label."""
    max_v: positive(200) | None = None  # type: ignore[valid-type]
    """Most volts it stands. Empty: 1.25 × the label, assumed."""
    undervoltage_v: positive(120) | None = None  # type: ignore[valid-type]
    """Volts below which it holds back. Empty: 0.85 × the label, assumed."""
    battery_limit_a: positive(1000) | None = None  # type: ignore[valid-type]
    """Most amps it draws from the bank. Watts on its label are not this limit."""
    phase_limit_a: positive(2000) | None = None  # type: ignore[valid-type]
    """Most amps it sends to the motor. Empty: 1.5 × the bank-side limit, assumed."""
    efficiency: positive(1) | None = None  # type: ignore[valid-type]
    """Share of power that comes through. Empty: 0.97 brushed, 0.95 brushless."""
    idle_a: positive(5) | None = None  # type: ignore[valid-type]
    """Amps it draws doing nothing. Empty: 0.05 A."""
    needs_halls: bool = False
    """Brushless only: it works only with a motor that has Hall sensors."""
    throttle: ThrottleKind = "unknown"
    """Kind of throttle it reads."""
    brake_cut_off_input: bool = True
    """It has an input for the brake lever."""
    precharge: bool = False
    """There is a pre-charge path for its capacitors."""
    capacitance_f: positive(0.1) | None = None  # type: ignore[valid-type]
    """Its input capacitors together, in farad. Empty: 1 000 µF for each 20 A of its limit, assumed."""


class Throttle(Part):
    """The pedal, thumb or twist throttle, with the levers and switches that belong to it."""

    kind: ThrottleKind = "unknown"
    """Three-wire Hall, potentiometer, plain switch, or not known."""
    brake_cut_off_present: bool = False
    """The brake lever has a sensor."""
    brake_cut_off_wired: bool = False
    """The brake lever's signal is wired, so that braking stops the motor."""
    foot_switch_wired: bool | None = None
    """Quads: the foot safety switch is wired."""
    limiter_mark: float | None = Field(default=None, ge=0, le=1)
    """Share of full duty the speed limiter or knob is set to. Empty: no limiter."""
    limiter_reachable: bool = False
    """The rider can reach the limiter."""
