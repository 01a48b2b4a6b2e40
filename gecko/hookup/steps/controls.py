"""Throttle, levers, key, switches and display: their plugs, by function, each measured before it is joined."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.document.parts.hookup import PlugPlace, Side
from gecko.document.setup import Setup
from gecko.hookup.crosswalk import crosswalk
from gecko.hookup.joined import Joined
from gecko.hookup.readings import State
from gecko.hookup.shape import Step, not_a_short, ohms, opened, volts
from gecko.hookup.steps.joints import PINS, TIED


def colours(setup: Setup, place: PlugPlace, side: Side | None = None) -> str:
    """Which colour goes to which at a plug, of one side's motor where there are two, as far as it is known."""
    pairs = [pair for pair in setup.plug_pairs if pair.place == place and side in (None, pair.side)]
    found = [f"{join.sentence} ({join.function})" for pair in pairs for join in crosswalk(pair).joins]
    text = ", ".join(found)
    return f"{text[:1].upper()}{text[1:]}." if text else ""


def sentences(*parts: str) -> str:
    """Sentences one after the other, empty ones left out."""
    return " ".join(part for part in parts if part)


_SMALL: tuple[tuple[str, PlugPlace, str, str, str], ...] = (
    (
        "brake",
        "brake",
        "Brake cut-off",
        "The lever must stop the motor whatever the throttle says.",
        "Released: OL. Pulled: near 0 Ω. A lever of the other sense is the reverse.",
    ),
    ("key", "key", "Key", "Its two wires carry battery plus: keep them apart from the 5 V ones.", "Key off: OL. On: near 0 Ω."),
    ("foot_switch", "foot switch", "Foot switch", "It must open when nobody stands on it.", "Nobody on it: OL. Stood on: near 0 Ω."),
    ("speed_switch", "speed switch", "Speed switch", "Through each position in turn.", "One position open, the other near 0 Ω."),
    ("reverse_switch", "reverse switch", "Reverse switch", "For standing only.", "Forward: OL. Reverse: near 0 Ω."),
)


def control_steps(net: Joined) -> Iterator[Step]:
    """A step for each plug of small wires at the controller; none without a controller."""
    wiring, setup = net.wiring, net.setup
    made = {"tools": ["meter on ohms", "pin release tool"], "joint": PINS, "care": TIED}
    if wiring.has("throttle"):
        three = "throttle.signal" in wiring.terminals()
        yield Step(
            id="throttle",
            title="Throttle plug",
            what=sentences("5 V, ground and signal by function, not by colour." if three else "Two wires, either way round.", colours(setup, "throttle")),
            blocks=["throttle"],
            reading=not_a_short(net, ("throttle.5 V", "throttle.ground")) if three else opened(net, ("throttle.1", "throttle.2"), "Released: OL. Pressed: near 0 Ω."),
            **made,
        )
    for part, place, title, what, note in _SMALL:
        if wiring.has(part):
            yield Step(
                id=part,
                title=f"{title} plug",
                what=sentences(what, colours(setup, place)),
                blocks=[part],
                reading=opened(net, (f"{part}.1", f"{part}.2"), note),
                safety=part in ("brake", "key", "foot_switch"),
                **made,
            )
    if wiring.has("direction") and "direction.ground" in wiring.terminals():
        yield Step(
            id="direction",
            title="Forward, neutral and reverse plug",
            what=sentences("Three wires: forward, reverse, and the ground both share. Only one way may be closed at a time.", colours(setup, "direction switch")),
            blocks=["direction"],
            reading=opened(net, ("direction.forward", "direction.reverse"), "In all three positions OL. Each to ground: near 0 Ω in its own position alone."),
            caution="For standing only.",
            **made,
        )
    if wiring.has("display"):
        yield Step(
            id="display",
            title="Display plug",
            what=sentences("Plus, ground and signal. A display of another maker may speak another language: it stays dark and does no harm.", colours(setup, "display")),
            blocks=["display"],
            reading=not_a_short(net, ("display.plus", "display.ground")),
            **made,
        )
    if wiring.has("learning_plug"):
        yield Step(
            id="learning_plug",
            title="Learning plug stays apart",
            what="Find its two halves, cover both, tie them where nobody joins them by chance.",
            blocks=["learning_plug"],
            reading=opened(net, ("learning_plug.1", "learning_plug.2"), "Apart: OL."),
            caution="Joined, the wheel starts at once, without throttle.",
            care="A cap or sleeve over each half; out of a child's reach.",
        )


def live_controls(net: Joined, state: State) -> Iterator[Step]:
    """The throttle measured alive, in the first power through lamps; none where there is no signal to read."""
    if "throttle.signal" not in net.wiring.terminals():
        return
    yield Step(
        id="throttle_live",
        title="Throttle at rest, alive",
        what="Tips into the back of its plug. Released it must stand low; opened by hand it must climb smoothly to about 4 V and fall back at once.",
        blocks=["throttle"],
        reading=volts(
            net,
            state,
            ("throttle.signal", "throttle.ground"),
            "A potentiometer may end elsewhere: what counts is low at rest, without a jump.",
            spread=0.25,
            low=("No 5 V at the plug: key off, lock wire open, or the supply shorted somewhere", "The signal wire is open or on ground", "The throttle's sensor is dead"),
            high=("Signal and 5 V are changed over", "The ground wire is open: the signal floats up to 5 V", "The throttle sticks, or its magnet has moved"),
        ),
        caution="Wheels off the ground, hands clear: the motor may turn.",
        tools=["meter on volts", "thin probe tips"],
        safety=True,
        gate="power",
    )


def coil_step(net: Joined) -> Iterator[Step]:
    """The coil of a brake that power holds open."""
    if net.wiring.has("brake_coil"):
        yield Step(
            id="brake_coil",
            title="Coil of the electric brake",
            what="It lets go while powered and grips without: leave it wired, behind the cut-off.",
            blocks=["brake_coil"],
            reading=ohms(net, ("brake_coil.+", "brake_coil.−"), note="Its coil, tens of ohms; OL is a broken coil, and a brake that never lets go.", spread=2.0),
            care=TIED,
        )
