"""The wiring as blocks in layers from the packs down to the motors, for the drawing."""

from __future__ import annotations

from gecko.evaluation import Out
from gecko.hookup.netlist import letter
from gecko.hookup.wiring import Component, Wiring

_LAYERS = {"fuse": 2, "switch": 3, "guard": 4, "controller": 5, "pedal switch": 5, "throttle": 5, "lever": 5, "motor": 6}
_IN_LAYER = {"throttle": 1, "lever": 2}


class BlockOut(Out):
    """A block of the drawing."""

    id: str
    kind: str
    label: str
    detail: str
    layer: int
    column: int


class WireOut(Out):
    """A wire of the drawing."""

    start: str
    end: str
    polarity: str
    label: str


def blocks_of(wiring: Wiring) -> list[BlockOut]:
    """Blocks: a row of packs is one, everything in the main path and at the controller is its own."""
    rows: dict[int, list[Component]] = {}
    for part in wiring.parts:
        if part.kind == "pack" and part.row is not None:
            rows.setdefault(part.row, []).append(part)
    found = [
        BlockOut(
            id=f"row{r}",
            kind="pack",
            label=f"{'Row' if len(packs) > 1 else 'Pack'} {letter(r)}",
            detail=f"{len(packs)} × {packs[0].detail}" if len(packs) > 1 else packs[0].detail,
            layer=0,
            column=r,
        )
        for r, packs in rows.items()
    ]
    for part in wiring.parts:
        if part.kind not in _LAYERS or part.id.startswith("aux_"):
            continue
        layer, column = _LAYERS[part.kind], _IN_LAYER.get(part.kind, 0)
        if part.row is not None:
            layer, column = 1, part.row
        if part.kind == "motor":
            column = int(part.id.removeprefix("motor"))
        kind = "brake" if part.kind == "lever" else part.kind
        found.append(BlockOut(id=part.id, kind=kind, label=part.label, detail=part.detail, layer=layer, column=column))
    return found


def wires_of(wiring: Wiring) -> list[WireOut]:
    """Wires between terminals, each with its gauge and whether it is plus, minus, the motor's or a signal."""
    found = []
    for wire in wiring.wires:
        functions = {wiring.terminal(wire.a).function, wiring.terminal(wire.b).function}
        kind = "motor" if functions & {"motor", "phase"} else "plus" if functions & {"plus", "link plus"} else "minus" if "minus" in functions else "signal"
        found.append(WireOut(start=wire.a, end=wire.b, polarity=kind, label=wire.gauge))
    return found
