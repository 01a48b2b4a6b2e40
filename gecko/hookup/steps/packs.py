"""Packs: each row measured, compared and joined."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.document.parts.pack import charge_limit_a, resistance_figure, same_cells
from gecko.hookup.joined import MINUS_BAR, PLUS_BAR, Joined
from gecko.hookup.netlist import letter
from gecko.hookup.readings import State
from gecko.hookup.shape import Reading, Step, volts
from gecko.hookup.steps.joints import joint, tools
from gecko.hookup.wiring import words

PADDED = "Nothing sharp at the pack, leads tied so that no plug carries its weight."


def pack_steps(net: Joined) -> Iterator[Step]:
    """Each row alone, then against the bar, then joined with its fuse."""
    rows = len(net.row_volts)
    fused = frozenset(r for r in range(rows) if net.wiring.has(f"row_fuse{r}"))
    joined: frozenset[int] = frozenset()
    for r in range(rows):
        name = letter(r)
        assert net.setup.bank is not None
        row = net.setup.bank.rows[r]
        units = row.units
        word = "Row" if len(units) > 1 else "Pack"
        alone = State(packs=frozenset({r}))
        if len(units) > 1:
            yield _links(net, r, name)
        yield Step(
            id=f"pack{r}",
            title=f"Measure {word.lower()} {name} before it is joined",
            what="On its own terminals, nothing joined yet.",
            blocks=[f"row{r}"],
            reading=volts(net, alone, (net.row_plus(r), net.row_minus(r)), "A minus sign means the tips or the pack are reversed."),
            tools=["meter on volts"],
            safety=True,
        )
        if r > 0:
            yield _join_check(net, r, name)
        joined |= {r}
        state = State(packs=joined, row_fuses=frozenset(joined & fused))
        fuse = f" and fit its {row.fuse.rating_a:g} A fuse" if row.fuse is not None else ""
        yield Step(
            id=f"join{r}",
            title=f"Join {word.lower()} {name}{fuse}",
            what="Minus first, then plus. From here on the plus bar is live.",
            blocks=[f"row{r}", f"row_fuse{r}"] if r in fused else [f"row{r}"],
            reading=volts(net, state, (PLUS_BAR, MINUS_BAR)),
            caution="Live: one hand, insulated tools." if r == 0 else "",
            tools=[*tools(row.lead), "insulated screwdriver", "meter on volts"],
            joint=joint(row.lead, row.plugs),
            care=PADDED,
        )


def _links(net: Joined, r: int, name: str) -> Step:
    """The packs of a row one after the other."""
    assert net.setup.bank is not None
    row = net.setup.bank.rows[r]
    alike = same_cells(row.units)
    each = "Measure each alone: all equally full, or charge them first" if alike else "Measure each alone, by its own volts"
    return Step(
        id=f"link{r}",
        title=f"Link the packs of row {name}",
        what=f"{each}. Then plus of one to minus of the next, the row's two ends covered.",
        blocks=[f"row{r}"],
        reading=volts(net, State(packs=frozenset({r})), (f"pack{r}_0.+", f"pack{r}_0.−"), "The first pack of the row; the others the same way."),
        caution="Each link adds volts: never a link across a pack's own two poles.",
        tools=[*tools(row.link), "insulated screwdriver", "meter on volts"],
        joint=joint(row.link),
        care=PADDED,
        safety=True,
    )


def _join_check(net: Joined, r: int, name: str) -> Step:
    bank = net.setup.bank
    assert bank is not None
    units = bank.rows[r].units
    ohm = net.row_ohm[r] + net.row_ohm[0]
    allowed = min(charge_limit_a(u) for u in units) * ohm
    limit = round(max(min(allowed, 0.5 * len(units)), 0.05), 2)
    share = sum(resistance_figure(u).value for u in units)
    return Step(
        id=f"match{r}",
        title=f"Compare {name} with the plus bar",
        what=f"Only join when they nearly agree: {share * 1000:.0f} mΩ inside let a small difference push many amps.",
        blocks=[f"row{r}"],
        reading=Reading(
            kind="volts",
            red=net.row_plus(r),
            black=PLUS_BAR,
            red_on=words(net.wiring, net.row_plus(r)),
            black_on=words(net.wiring, PLUS_BAR),
            low=-limit,
            high=limit,
            expected=0.0,
            unit="V",
            note="More than that: charge both to the same volts first.",
        ),
        safety=True,
    )
