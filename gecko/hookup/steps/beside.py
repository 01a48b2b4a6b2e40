"""What hangs on the bank beside the drive: voltmeter, charge socket, accessories with their fuse, converter and switch."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.hookup.joined import Joined
from gecko.hookup.readings import NOT_A_SHORT_OHM, State
from gecko.hookup.shape import Reading, Step, not_a_short, volts
from gecko.hookup.steps.drive import SLEEVED
from gecko.hookup.steps.joints import TIED, joint, tools

COLD = 0.05
"""A filament measured cold shows about a tenth of its ohms when lit; half of that again for the spread of lamps [1].
Source: this project's planning value."""


def beside_steps(net: Joined) -> Iterator[Step]:
    """A step for each of them, packs out, its own fuse out."""
    wiring = net.wiring
    thin = {"tools": [*tools(None), "meter on ohms"], "care": TIED}
    if wiring.has("voltmeter"):
        yield Step(
            id="voltmeter",
            title="Voltmeter",
            what="Behind the cut-off or the key: at the packs it would drain them week by week.",
            blocks=["voltmeter"],
            reading=not_a_short(net, ("voltmeter.+", "voltmeter.−"), "A voltmeter takes next to nothing: hundreds of kΩ, or OL."),
            **thin,
        )
    if wiring.has("charge_socket"):
        yield Step(
            id="charge_socket",
            title="Charge socket",
            what="A kind nobody takes for a mains plug, its centre plus unless the charger says otherwise. Label it with the full-charge volts.",
            blocks=["charge_socket"],
            reading=not_a_short(net, ("charge_socket.+", "charge_socket.−"), "Over 100 Ω, or OL."),
            caution="Find the charger's plus with the meter first.",
            tools=thin["tools"],
            care="A cap against water and coins: it is live whenever a pack is in.",
        )
    for i, branch in enumerate(net.setup.auxiliaries):
        parts = [part.id for part in wiring.parts if part.id in (f"aux_fuse{i}", f"aux_switch{i}", f"converter{i}", f"accessory{i}")]
        held = {"none": "", "switch": " Its switch sits in plus, behind the fuse.", "push button": " Its button sits in plus, behind the fuse."}[branch.switch]
        what = "Fuse first, close to the tap, and still out."
        if branch.converter is not None:
            what += " Converter next: in from the packs, out to the accessory, each with its own return wire."
        yield Step(
            id=f"aux{i}",
            title=f"{branch.label}: leads and empty fuse holder" if branch.fuse is not None else f"{branch.label}: leads",
            what=f"{what if branch.fuse is not None else 'It has no fuse of its own yet: give it one.'}{held} Never return through the frame.",
            blocks=parts,
            reading=_into(net, i),
            tools=[*tools(branch.lead), "meter on ohms"],
            joint=joint(branch.lead),
            care=SLEEVED,
        )


def _into(net: Joined, i: int) -> Reading:
    """Ohms into the branch from behind its fuse: the load's own where it can be known."""
    branch, wiring = net.setup.auxiliaries[i], net.wiring
    start = f"aux_fuse{i}.out" if wiring.has(f"aux_fuse{i}") else f"converter{i}.in +" if branch.converter is not None else f"accessory{i}.+"
    if branch.converter is not None:
        return not_a_short(net, (start, f"converter{i}.in −"))
    tips = start, f"accessory{i}.−"
    own = net.resistance(State(accessories=True), *tips)
    if branch.kind == "lamp" and own is not None:
        return not_a_short(net, tips, "Switched on. A cold filament shows a tenth of its hot ohms, a lamp of light diodes OL.", least=COLD * own)
    if branch.kind == "horn" and own is not None:
        return not_a_short(net, tips, "Button held. Its coil, a few ohms.", least=0.3 * own)
    return not_a_short(net, tips, "Switched on: not a short.", least=min(NOT_A_SHORT_OHM, 0.3 * own) if own is not None else NOT_A_SHORT_OHM)


def live_beside(net: Joined, packed: State, powered: State) -> Iterator[Step]:
    """The charge socket's and the converters' volts once there is something to measure."""
    wiring = net.wiring
    if wiring.has("charge_socket"):
        yield Step(
            id="charge_live",
            title="Charge socket: which pole is plus",
            what="Its pole for the charger's plus, and no minus sign.",
            blocks=["charge_socket"],
            reading=volts(
                net,
                packed,
                ("charge_socket.+", "charge_socket.−"),
                "A minus sign: changed over. A charger plugged in now would be ruined.",
                low=(
                    "Plus and minus are changed over at the socket, if the meter shows a minus sign",
                    "Its leads hang on the wrong side of a fuse or switch",
                    "A crimp is open",
                ),
            ),
            tools=["meter on volts"],
            safety=True,
            gate="power",
        )
    for i, branch in enumerate(net.setup.auxiliaries):
        if branch.converter is not None:
            yield Step(
                id=f"converter{i}",
                title=f"{branch.label}: converter's output",
                what="Its fuse in, the accessory still unplugged. Only then plug it in.",
                blocks=[f"converter{i}"],
                reading=volts(
                    net,
                    powered,
                    (f"converter{i}.out +", f"converter{i}.out −"),
                    low=(
                        "Its fuse is still out, or its input changed over",
                        "The packs are under what it needs to start",
                        "Its output is shorted: unplug what hangs on it",
                    ),
                    high=("It is set to other volts, or made for others: read its label", "In and out are changed over", "Its return wire is open"),
                ),
                tools=["meter on volts"],
                gate="power",
            )
