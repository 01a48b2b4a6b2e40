"""Command line: `python -m gecko evaluate|case|schema|parts|warm`. Needs no server and no Django."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

from pydantic import ValidationError

from gecko.analysis.riding import ride_every_way
from gecko.answers.evaluation import Evaluation
from gecko.cases.solve import solve_case
from gecko.common.documents import Document
from gecko.common.errors import GeckoError, field_problems
from gecko.common.units import to_mph
from gecko.common.words import plain, seconds
from gecko.document.catalogue import catalogue
from gecko.document.setup import json_schema, load_setup
from gecko.plans.arrangements import typical_setup
from gecko.plans.evaluate import evaluate
from gecko.plans.fixes import fixes
from gecko.plans.ranges import ranges


def _read(path: str) -> Document:
    text = sys.stdin.read() if path == "-" else Path(path).read_text(encoding="utf-8")
    document = json.loads(text)
    if not isinstance(document, dict):
        raise GeckoError("This file holds no JSON object. A setup and a case are one.")
    return document


def _print_json(value: object) -> None:
    json.dump(value, sys.stdout, indent=1, ensure_ascii=False)
    sys.stdout.write("\n")


def _evaluate(args: argparse.Namespace) -> int:
    document = _read(args.file)
    try:
        setup = load_setup(document)
    except ValidationError as error:
        for problem in field_problems(error):
            print(f"{problem['path']}: {problem['message']}", file=sys.stderr)
        return 2
    found = evaluate(setup)
    if args.json:
        _print_json(
            {
                "evaluation": found.model_dump(mode="json"),
                "ranges": ranges(setup).model_dump(mode="json"),
                "fixes": [f.model_dump(mode="json") for f in fixes(setup)],
            }
        )
        return 0
    _report(found)
    return 0


def _report(found: Evaluation) -> None:
    for gap in found.gaps:
        if gap.kind == "missing":
            print(f"missing   {gap.path}: {gap.message}")
    if found.outcome is not None:
        o = found.outcome
        print(f"top speed {to_mph(o.top_speed_m_s):.1f} mph full, {to_mph(o.top_speed_half_m_s):.1f} half, {to_mph(o.top_speed_low_m_s):.1f} at 20 %")
        print(f"run time  {seconds(o.run_time_s)} at {to_mph(o.aimed_speed_m_s):.1f} mph, ends by {o.ends_by}")
        print(f"peak      {o.peak_a:.1f} A, lowest {o.lowest_v:.1f} V; steepest hill {100 * o.hill_grade:.0f} % ({o.hill_ends_by})")
    for station in found.trail:
        share = "  ?  " if station.share is None else f"{100 * station.share:4.0f}%"
        print(f"{share} {station.name:<15} {plain(station.detail)}{'   <- weak link' if station.weak else ''}")
    for finding in found.findings:
        print(f"{finding.severity:<8} {finding.title}: {plain(finding.because)} {plain(finding.instruction)}")


def main(argv: list[str] | None = None) -> int:
    """Run the command line; returns the exit code (0 fine, 2 bad input)."""
    parser = argparse.ArgumentParser(prog="python -m gecko", description=__doc__)
    commands = parser.add_subparsers(dest="command", required=True)
    one = commands.add_parser("evaluate", help="evaluate a Setup document")
    one.add_argument("file", help="JSON file, or - for standard input")
    one.add_argument("--json", action="store_true", help="print everything as JSON")
    case = commands.add_parser("case", help="solve a machine in the solved-machine format")
    case.add_argument("file")
    commands.add_parser("schema", help="print the JSON Schema of the Setup document")
    commands.add_parser("parts", help="print the ship-with parts")
    commands.add_parser("warm", help="compile what rides are marched with, and keep it")
    args = parser.parse_args(argv)
    try:
        if args.command == "evaluate":
            return _evaluate(args)
        if args.command == "case":
            _print_json(solve_case(_read(args.file)))
        elif args.command == "schema":
            _print_json(json_schema())
        elif args.command == "warm":
            print("Compiling what rides are marched with: half a minute or so once, then none.", flush=True)
            ride_every_way(load_setup(typical_setup("ride-on car")))
        else:
            _print_json(catalogue())
    except (OSError, json.JSONDecodeError, GeckoError) as error:
        print(f"Cannot read {getattr(args, 'file', 'the input')}: {error}", file=sys.stderr)
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
