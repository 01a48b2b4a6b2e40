"""What throttle, lever, key and switches do at the controller and how that shows, and what to do with the plugs nothing hangs on."""

from __future__ import annotations

from typing import Literal

from gecko.answers.evaluation import Out
from gecko.document.parts.hookup import HarnessPlug
from gecko.document.setup import Setup
from gecko.hookup.readings import FULL_SIGNAL_V, IDLE_SIGNAL_V


class Acting(Out):
    """A control: what it does at the controller, and how it shows when it does not."""

    control: str
    does: str
    shows: str


class Unused(Out):
    """A plug of the controller nothing hangs on."""

    plug: str
    do: Literal["insulate", "join", "leave"]
    why: str

    @property
    def said(self) -> str:
        """What to do with it, in a sentence or two."""
        return f"{_DO[self.do]}. {self.why}"


def acting(setup: Setup) -> list[Acting]:
    """The logic of every control of a setup, by the kind of its controller."""
    control, throttle, controls, motor = setup.controller, setup.throttle, setup.controls, setup.motor
    if control is None or not control.reads_throttle:
        module = control is not None and control.before_pedal
        pedal = Acting(
            control="Pedal switch",
            does="Pressed it joins the module to the motors; the module then starts softly, up to its knob's mark. Released it parts them."
            if module
            else "Pressed it joins the packs to the motor, all at once; released it parts them. Nothing else holds the amps down.",
            shows="Across it: OL released, near 0 Ω pressed. Full volts across it released, almost none pressed.",
        )
        return [pedal, *_direction(setup)]
    brushless = control.kind == "brushless"
    kind = throttle.kind if throttle is not None else "unknown"
    found = [
        Acting(
            control="Throttle",
            does={
                "switch": "On or off: the controller ramps up by itself.",
                "potentiometer": "A resistor with a slider: its share of 5 V is what the controller follows. A broken wire can read as full.",
            }.get(kind, f"A Hall sensor: {IDLE_SIGNAL_V:g} V at rest, about {FULL_SIGNAL_V:g} V fully open. Outside that many controllers stop and say so."),
            shows="Signal against ground, alive and wheels up: low at rest, climbing without a jump."
            if kind != "switch"
            else "Its two wires: OL released, near 0 Ω pressed.",
        )
    ]
    if throttle is not None and throttle.brake_cut_off_wired:
        found.append(
            Acting(
                control="Brake lever",
                does="Pulled it closes signal to ground: the controller lets go of the motor, whatever the throttle says."
                + (" With regeneration set it also brakes." if brushless and control.regen_a else ""),
                shows="Signal against ground: about 5 V released, near 0 V pulled. The other way round: a lever that opens, made for the other kind of input.",
            )
        )
    if controls.key:
        found.append(
            Acting(
                control="Key",
                does="Takes battery plus to the lock wire: the controller's small supply. It carries next to no amps; the cut-off still isolates the packs.",
                shows="Lock wire against battery minus: 0 V off, full volts on. Controller dead with the key on: measure here first.",
            )
        )
    if throttle is not None and throttle.foot_switch_wired:
        found.append(Acting(control="Foot switch", does="Open, the throttle does nothing: who falls off stops it.", shows="Its two wires: near 0 Ω stood on, OL else."))
    if controls.speed_switch:
        modes = ", ".join(mode.name for mode in control.modes) or "its modes"
        found.append(Acting(control="Speed switch", does=f"Chooses among {modes}, by which wire goes to ground.", shows="Wheel free: each position has its own top rpm."))
    if controls.indicator:
        found.append(
            Acting(
                control="Display",
                does="Shows volts and speed; in some controllers it also wakes them and holds their settings.",
                shows="Dark with the key on: its plus is missing.",
            )
        )
    found += _direction(setup)
    if controls.reverse and controls.direction == "none":
        found.append(
            Acting(
                control="Reverse switch",
                does="Closed to ground the motor turns backward. "
                + (
                    "A controller that locks it waits until the machine stands."
                    if control.reverse_locked
                    else "This one is not known to wait until the machine stands: press it only then."
                ),
                shows="Wheel free, standing: closed and a touch of throttle, it turns backward.",
            )
        )
    if brushless and motor is not None and motor.brushless:
        found.append(
            Acting(
                control="Direction of the motor",
                does="Two phases change over together with the two Halls that belong to them"
                + (", or the learning plug is joined once more." if controls.learns else "."),
                shows="Phases alone: it growls and draws many amps.",
            )
        )
    elif motor is not None and not motor.brushless:
        found.append(Acting(control="Direction of the motor", does="The two motor leads change over.", shows="Wheel free: it turns the other way."))
    return found


def _direction(setup: Setup) -> list[Acting]:
    where = setup.controls.direction
    if where == "none" or (where == "in the motor leads" and setup.motor is not None and setup.motor.brushless):
        return []
    if where == "at the controller":
        does = "Forward or reverse goes to ground, neutral joins neither: the throttle then does nothing."
        return [Acting(control="Forward, neutral, reverse", does=does, shows="Each wire against ground: near 0 V in its own position, about 5 V in the others.")]
    does = "It carries the motor's amps and changes its two leads over. Thrown while rolling, the motor pushes against the packs."
    return [Acting(control="Forward, neutral, reverse", does=does, shows="Volts at the motor: plus in forward, a minus sign in reverse, none in neutral.")]


_UNUSED: dict[HarnessPlug, tuple[Literal["insulate", "join", "leave"], str]] = {
    "key": ("join", "Battery plus to the lock wire, through a 1 to 2 A fuse: without it the controller stays off. Then the cut-off is its only switch."),
    "brake, low level": ("leave", "Open means not braking. Better: a lever with a switch."),
    "brake, high level": ("insulate", "It wants battery plus for braking; touching plus it stops the motor for no reason."),
    "foot switch": ("join", "Some stay off while it is open: join its two wires only where nobody can fall off a standing board."),
    "speed switch": ("leave", "Open is one of its modes: see which with the wheel off the ground, before somebody rides."),
    "reverse": ("insulate", "Touching ground it turns backward."),
    "forward and reverse": ("join", "Forward to ground for good, reverse insulated: open is neutral and nothing turns."),
    "display": ("leave", "Covered. Where the controller wakes through it, its plus and lock wires have to be joined as its maker says."),
    "learning": ("leave", "Apart, each half covered: joined, the wheel starts by itself."),
    "cruise hold": ("insulate", "A throttle that holds itself is nothing for a child."),
    "anti-theft": ("insulate", "Each wire by itself; some carry battery plus."),
    "speed limit": ("leave", "As you found it: joined or parted it changes the top speed, which way differs. Try it with the wheel off the ground."),
    "pedal sensor": ("insulate", "Nothing pedals here; its 5 V must not touch anything."),
    "indicator lamp": ("insulate", "Some give battery volts, some 6 V: not for a lamp one happens to have."),
    "charge": ("insulate", "Live whenever a pack is in: each pole by itself, out of reach."),
}


_DO = {"insulate": "Insulate it", "join": "Join it", "leave": "Leave it"}


def what_to_do(plug: HarnessPlug) -> str:
    """What to do with a plug or wire nobody uses, in a sentence or two."""
    do, why = _UNUSED[plug]
    return f"{_DO[do]}. {why}"


def unused(setup: Setup) -> list[Unused]:
    """Plugs of the controller's harness nothing hangs on."""
    control, throttle, controls = setup.controller, setup.throttle, setup.controls
    if control is None or not control.reads_throttle:
        return []
    used: dict[HarnessPlug, bool] = {
        "key": controls.key,
        "brake, low level": bool(throttle and throttle.brake_cut_off_wired),
        "brake, high level": False,
        "foot switch": bool(throttle and throttle.foot_switch_wired),
        "speed switch": controls.speed_switch,
        "reverse": controls.reverse and controls.direction == "none",
        "forward and reverse": controls.direction == "at the controller",
        "display": controls.indicator,
        "learning": False,
        "charge": controls.charge_socket,
    }
    learning: list[HarnessPlug] = ["learning"] if controls.learns else []
    has = list(dict.fromkeys([*controls.harness, *learning]))
    found = [Unused(plug=plug, do=_UNUSED[plug][0], why=_UNUSED[plug][1]) for plug in has if not used.get(plug, False)]
    if control.brake_cut_off_input and throttle is not None and not throttle.brake_cut_off_wired and "brake, low level" not in has:
        found.insert(0, Unused(plug="brake, low level", do="leave", why=_UNUSED["brake, low level"][1]))
    motor = setup.motor
    if motor is not None and motor.brushless and not motor.has_halls and control.kind == "brushless":
        found.append(Unused(plug="Halls", do="insulate", why="This motor has none: the controller starts it by trying, with a jerk."))
    return found
