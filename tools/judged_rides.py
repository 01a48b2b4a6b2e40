"""Judges rides: random machines on random courses, realistic ones on shipped courses and on a track of 2 000 points, beside the slow march.

Prints how far run times are off, what ends otherwise, and each ride that is far off. It judges nothing by exit code.
"""

from __future__ import annotations

import math
import multiprocessing
import os
import random
import sys
import time
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from gecko.document.parts.course import Course  # noqa: E402
from gecko.document.tracks import read_course  # noqa: E402
from gecko.physics.ride.moves import COARSE, FINE  # noqa: E402
from gecko.physics.ride.rides import ride  # noqa: E402
from gecko.tests.judged import LONG_S, SHORT_S, Compared, judged, on_an_edge, random_ride, realistic_ride  # noqa: E402

RANDOM, REALISTIC, ON_THE_TRACK, LONG = 200, 100, 20, 30


def track() -> Course:
    """Two thousand points of hills within hills, every 2 m."""
    chance, noise, lines = random.Random(1), 0.0, []
    for k in range(2000):
        noise = 0.97 * noise + chance.gauss(0, 0.08)
        lines.append(f"{2 * k},{9 * math.sin(k / 170) + 2 * math.sin(k / 31) + noise:.3f}")
    return read_course("\n".join(lines), "Track of 2000 points").course


def one(asked: tuple[str, int]) -> tuple[str, int, Compared, bool]:
    """One ride beside its judge, and whether one per cent at a threshold ends it otherwise."""
    kind, seed = asked
    lasts_s = LONG_S if kind.endswith("for hours") else SHORT_S
    rode = random_ride(seed, lasts_s) if kind.startswith("random") else realistic_ride(seed, track() if kind == "track" else None, lasts_s)
    found = judged(rode)
    return kind, seed, found, (abs(found.off) > 0.02 or not found.same_end) and on_an_edge(rode, found)


def left_out() -> None:
    """Rides in the coarse steps of samples, with rounds left out, beside those of fine steps with every round ridden."""
    for kind, make, count in (("random", random_ride, RANDOM), ("realistic", realistic_ride, REALISTIC)):
        pairs = [(ride(*rode, COARSE), ride(*rode, FINE._replace(left_out=0.0))) for rode in map(make, range(count))]
        off = [abs(float(ours.run_time_s) - float(theirs.run_time_s)) / max(float(theirs.run_time_s), 1e-9) for ours, theirs in pairs]
        others = sum(ours.ends != theirs.ends for ours, theirs in pairs)
        print(
            f"  {kind:<20} {count:4d} with rounds left out: run time off by {100 * np.median(off):.2f} % in the middle, "
            f"{100 * np.quantile(off, 0.95):.2f} % at the 95th (2.5), {100 * np.max(off):.2f} % at worst; {others} end otherwise"
        )


def main() -> None:
    """Judge them all, on all cores."""
    began = time.perf_counter()
    # The longest first: nobody waits for them at the end.
    work = [(kind, seed) for kind in ("random, for hours", "realistic, for hours") for seed in range(LONG)]
    work += [("random", seed) for seed in range(RANDOM)] + [("realistic", seed) for seed in range(REALISTIC)] + [("track", seed) for seed in range(ON_THE_TRACK)]
    found: list[tuple[str, int, Compared, bool]] = []
    with multiprocessing.get_context("spawn").Pool(os.cpu_count()) as pool:
        for done in pool.imap_unordered(one, work):
            found.append(done)
            print(f"\r{len(found)} of {len(work)} judged", end="", file=sys.stderr, flush=True)
    print(file=sys.stderr)
    print(f"{len(found)} rides judged in {(time.perf_counter() - began) / 60:.1f} min; the track has {len(track().segments)} stretches")
    for kind in ("random", "random, for hours", "realistic", "realistic, for hours", "track"):
        own = [(seed, compared, edge) for name, seed, compared, edge in found if name == kind]
        off = np.abs([compared.off for _, compared, edge in own if not edge])
        ends = [seed for seed, compared, edge in own if not compared.same_end and not edge]
        edges = [seed for seed, _, edge in own if edge]
        print(
            f"  {kind:<20} {len(own):4d}: run time off by {100 * np.median(off):.2f} % in the middle, {100 * np.quantile(off, 0.95):.2f} % at the 95th (2), "
            f"{100 * off.max():.2f} % at worst (5); ends otherwise {ends}, on an edge {edges} (3 %)"
        )
        for seed, compared, _ in own:
            if abs(compared.off) > 0.01 or not compared.same_end:
                print(f"    {kind} {seed}: {100 * compared.off:+.2f} %, {compared.ends_by} after {compared.run_time_s:.1f} s; judge {compared.judge_ends}")
    left_out()


if __name__ == "__main__":
    main()
