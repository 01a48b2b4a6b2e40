"""Opening and closing: covers, seals, cable entries; and what comes off first."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.document.setup import Setup
from gecko.hookup.shape import Step


def opening_steps(setup: Setup) -> Iterator[Step]:
    """A step for each cover and seal that comes off, and each hole for a cable."""
    for i, opening in enumerate(setup.openings):
        if opening.kind == "cable entry":
            yield Step(
                id=f"open{i}",
                title=f"Cable entry: {opening.label}",
                what="Look what lies behind before you drill. Deburr the hole, fit a gland or grommet.",
                tools=["drill", "deburrer or round file", "gland or grommet"],
                care="A loop of cable below it, so that water drips off, and a free loop at fork and shock.",
            )
            continue
        screws = f"{opening.fasteners} screws or clips" if opening.fasteners else "Screws or clips"
        unclip = f" Unclip: {opening.unclip}; by the housings, never by the wires." if opening.unclip else " Unclip plugs by their housings, never by the wires."
        kept = f"into {opening.kept}" if opening.kept else "into a labelled cup"
        yield Step(
            id=f"open{i}",
            title=f"Open: {opening.label}",
            what=f"{screws} out, {kept}. Take a photo of the wires first, with something for scale.{unclip}",
            tools=[opening.drive or "what turns its screws", "phone for the photo"],
        )


def closing_steps(setup: Setup) -> Iterator[Step]:
    """The same the other way round, seals last."""
    ordered = sorted(enumerate(setup.openings), key=lambda one: one[1].kind != "cover")
    for i, opening in ordered:
        if opening.kind == "cover":
            photo = f" Compare with the photo ({opening.photo})." if opening.photo else ""
            joined = f" On again: {opening.unclip}." if opening.unclip else ""
            what = f"Tuck the wires in without pulling a plug, no wire over an edge.{joined}{photo} Screws by hand torque."
            care = "Medium thread lock at most, none near plastic: it cracks."
        else:
            what = "Seal it last. Then look once more that no plug has come off inside."
            care = "Gasket clean and flat, screws tightened crosswise by hand." if opening.kind == "seal" else "Gland tight around the cable, loop hanging."
        yield Step(id=f"close{i}", title=f"Close: {opening.label}", what=what, tools=[opening.drive] if opening.drive else [], care=care)


def old_leads(setup: Setup, baseline: Setup | None) -> Iterator[Step]:
    """Taking the old packs off, where this setup has others than the machine came with."""
    if baseline is None or baseline.bank is None or setup.bank is None:
        return
    old, new = ([unit.label for row in bank.rows for unit in row.units] for bank in (baseline.bank, setup.bank))
    if old == new and baseline.main_lead == setup.main_lead:
        return
    yield Step(
        id="old",
        title="Old battery leads off, one at a time",
        what="Pack out first. Unplug where there is a plug. Where you must cut: one lead, cover its end, then the other. Label both plus or minus.",
        caution="A cutter across both leads at once is a short; with the pack out the capacitors still hold a charge for a minute.",
        tools=["side cutter", "tape", "labels"],
        care="Leave enough of the old lead for a plug: that is the way back.",
    )
