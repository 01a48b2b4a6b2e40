"""Checks of the hookup: what was opened, what the old part also did, and settings changed inside a controller."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis.whole import Analysis
from gecko.document.setup import Setup
from gecko.rules.edits import put
from gecko.rules.registry import Edit, Trip, rule, setup_rule


@setup_rule("seal.water", station="controller", stage="hookup", principle="Water finds what was opened.")
def seals(setup: Setup) -> Iterator[Trip]:
    for i, opening in enumerate(setup.openings):
        if opening.closed or opening.kind == "cover":
            continue
        entry = opening.kind == "cable entry"
        yield Trip(
            "note",
            f"Not closed yet: {opening.label}",
            f"{'A new cable entry' if entry else 'An opened seal'} lets water in to plugs and boards.",
            "Fit a gland or grommet, let the cable hang in a loop below it, seal it last."
            if entry
            else "Put the gasket back clean, tighten evenly by hand, seal it last.",
            f"/openings/{i}/closed",
            (Edit("It is closed", put(f"openings/{i}/closed", True)),),
        )


@rule("ctl.lost", station="controller", stage="hookup", principle="A part that goes takes all it did with it.", needs="document")
def lost(a: Analysis) -> Iterator[Trip]:
    if a.context.is_baseline:
        return
    missing = [one for one in a.setup.stock.also_did if one not in a.setup.does_now]
    if missing:
        yield Trip(
            "note",
            f"Nobody does this any more: {', '.join(missing)}",
            "The part that was replaced did more than its name says, and nothing in this setup does it now.",
            "Add a single part for it, such as a voltmeter or a lamp of its own, or ride without.",
            "/does_now",
            tuple(Edit(f"Something else does it: {one}", put("does_now", [*a.setup.does_now, one])) for one in missing[:2]),
        )


@setup_rule("ctl.firmware", station="controller", stage="hookup", principle="What was changed inside must be able to go back.")
def firmware(setup: Setup) -> Iterator[Trip]:
    control = setup.controller
    inside = control.firmware if control is not None else None
    if inside is None or not inside.changed:
        return
    missing = [
        words
        for words, known in (("the version before", bool(inside.version_before)), ("the settings before", inside.settings_noted), ("a way back", inside.way_back))
        if not known
    ]
    if missing:
        yield Trip(
            "caution",
            "Settings changed without a way back",
            f"Firmware or settings of the controller were changed, and {_and(missing)} {'is' if len(missing) == 1 else 'are'} not noted.",
            "Read out and note version and settings, keep the old file, enter the limits of this plan, and try it with the wheels off the ground.",
            "/controller/firmware",
        )


def _and(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
