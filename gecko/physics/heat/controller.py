"""Heat of a controller: one node, from what it loses at its limits."""

from __future__ import annotations

import math
from dataclasses import dataclass

from gecko.physics.electric.operating_point import ControllerModel

RISE_AT_LIMIT_K = 60.0
ENCLOSED_FACTOR = 1.5
TIME_CONSTANT_S = 900.0
"""A controller settles this far above moving air at its amp limit [K], so much more closed in [1], with this time constant [s].
This project's assumption: makers rate amps for an aluminium case that may reach about 85 °C on a 25 °C day."""


@dataclass(frozen=True)
class ControllerThermal:
    """One node: case to air [K/W] and its time constant [s]."""

    to_air_k_per_w: float
    time_constant_s: float = TIME_CONSTANT_S

    def settles_k(self, losses_w: float) -> float:
        """Rise above the air under constant losses [W]. [K]

        Source: Newton's law of cooling.
        """
        return losses_w * self.to_air_k_per_w

    def rise_k(self, losses_w: float, seconds_s: float) -> float:
        """Rise after some seconds of constant losses [W], from cold. [K]

        >>> round(ControllerThermal(4.0).rise_k(15.0, 900.0), 1)
        37.9

        Source: Newton's law of cooling, one node.
        """
        return self.settles_k(losses_w) * (1.0 - math.exp(-seconds_s / self.time_constant_s))

    def seconds_to(self, losses_w: float, rise_k: float) -> float | None:
        """Seconds of constant losses [W] until a rise [K], from cold; None when it settles below. [s]

        Derived here: the inverse of `rise_k`.

        >>> node = ControllerThermal(4.0)
        >>> round(node.rise_k(15.0, node.seconds_to(15.0, 30.0)), 6)
        30.0
        """
        settles = self.settles_k(losses_w)
        if rise_k <= 0.0:
            return 0.0
        return -self.time_constant_s * math.log(1.0 - rise_k / settles) if settles > rise_k else None


def controller_losses_w(control: ControllerModel, pack_a: float, volts_v: float) -> float:
    """What stays in a controller of all that comes from the bank, `(1 − η)·V·I` plus what it idles on. [W]

    Source: the definition of efficiency.

    >>> from gecko.physics.electric.operating_point import ControllerModel
    >>> round(controller_losses_w(ControllerModel(kind="brushed", efficiency=0.9, idle_a=1.0), 11.0, 40.0), 6)
    80.0
    """
    drawn = max(pack_a - float(control.idle_a), 0.0)
    return (1.0 - float(control.efficiency)) * volts_v * drawn + float(control.idle_a) * volts_v


def thermal_of(control: ControllerModel, limit_a: float, nominal_v: float, enclosed: bool) -> ControllerThermal:
    """A controller's node from its amp limit [A] and the bank's nominal volts [V]: it settles at `RISE_AT_LIMIT_K` there. [K/W]

    Source: this project's planning value: what is sold with a limit stands it in air.
    """
    full_w = controller_losses_w(control, limit_a, nominal_v)
    return ControllerThermal(RISE_AT_LIMIT_K * (ENCLOSED_FACTOR if enclosed else 1.0) / max(full_w, 1e-6))
