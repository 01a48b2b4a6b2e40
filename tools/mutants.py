"""Do the tests notice? Small changes are made to the core, one at a time, and the tests that run through the changed line are run.

A seeded sample of changes: numbers, operators, conditions, calls, what is returned; no texts. A change that no test notices is told with
its place. What was looked at and cannot be noticed, because nothing follows from it, is kept in `equivalent_mutants.csv` with the reason.

    python tools/mutants.py [--count 600] [--seed 1] [--only gecko/rules] [--again FILE]

`--again` tries only those that an earlier run, whose output is in the file, told of.
"""

from __future__ import annotations

import argparse
import ast
import copy
import csv
import functools
import gc
import hashlib
import importlib
import inspect
import io
import itertools
import json
import os
import random
import resource
import signal
import sys
import time
import types
import unittest
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import coverage

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

ROOMS = (
    "gecko/rules",
    "gecko/physics/protection",
    "gecko/physics/electric/bank.py",
    "gecko/physics/electric/operating_point.py",
    "gecko/physics/electric/joining.py",
    "gecko/physics/electric/discharge.py",
    "gecko/physics/electric/shares.py",
    "gecko/document/parts/pack.py",
    "gecko/analysis",
    "gecko/plans/care",
    "gecko/plans/trials",
    "gecko/plans/parts_list.py",
)
"""What is changed: checks, protection, packs, operating point, care and trials."""

EQUIVALENT = Path(__file__).with_name("equivalent_mutants.csv")
JUDGES = ("test_course_rides", "test_rounds_left_out", "test_ranges_hold", "test_sane_and_unsafe", "test_roads", "test_held_sag")
"""Tests that ride for hours beside a judge of their own, and those that try machines by the hundred: too slow to run for each change."""
BROAD, FEW = "test_recorded", 6
"""Tests that hold every figure of some machines, and after how many others one of them is run."""
SLOWEST_S = 20.0
"""Tests that take longer, measured line by line, which takes several times as long, are not run for a change. [s]"""
PATIENCE_S = 45
"""So much processor time a change gets before it counts as not noticed: what else the machine does changes nothing. [s]"""
WAITS = 6
"""How many times as long by the clock: a change may also make a test wait for ever."""
WORKERS = 2

ARITHMETIC: dict[type[ast.operator], type[ast.operator]] = {
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
}
COMPARED: dict[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Lt: ast.LtE,
    ast.LtE: ast.Lt,
    ast.Gt: ast.GtE,
    ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
}
JOINED: dict[type[ast.boolop], type[ast.boolop]] = {
    ast.And: ast.Or,
    ast.Or: ast.And,
}
CALLS = {"min": "max", "max": "min", "any": "all", "all": "any", "minimum": "maximum", "maximum": "minimum"}


@dataclass(frozen=True)
class Mutant:
    """One change: the module, the line it is on, the function it is in (empty: at the top), the code before and after, and its new tree."""

    file: str
    line: int
    inside: str
    before: str
    after: str
    tree: ast.Module
    span: tuple[int, int]
    """First and last line of the function it is in."""

    @property
    def key(self) -> tuple[str, str, str, str]:
        """What tells it from others, whatever line it moves to."""
        return (self.file, self.inside, self.before, self.after)

    def __str__(self) -> str:
        return f"{self.file}:{self.line} in {self.inside or 'the module'}: {self.before}  →  {self.after}"


TINY = 1e-5
"""Numbers below stand against a division by zero or against rounding: nothing follows from a quarter more."""


def variants(node: ast.AST) -> Iterator[ast.AST]:
    """The node changed in every way that is tried."""
    if isinstance(node, ast.Constant) and isinstance(node.value, float) and 0.0 < abs(node.value) < TINY:
        return
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float) and not isinstance(node.value, bool):
        yield ast.Constant(node.value + 1 if isinstance(node.value, int) else node.value * 1.25 or 1.0)
    elif isinstance(node, ast.Constant) and isinstance(node.value, bool):
        yield ast.Constant(not node.value)
    elif isinstance(node, ast.BinOp) and type(node.op) in ARITHMETIC:
        yield ast.BinOp(node.left, ARITHMETIC[type(node.op)](), node.right)
    elif isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in COMPARED:
        yield ast.Compare(node.left, [COMPARED[type(node.ops[0])]()], node.comparators)
    elif isinstance(node, ast.BoolOp):
        yield ast.BoolOp(JOINED[type(node.op)](), node.values)
    elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        yield node.operand
    elif isinstance(node, ast.IfExp):
        yield ast.IfExp(ast.UnaryOp(ast.Not(), node.test), node.body, node.orelse)
    elif isinstance(node, ast.If):
        yield ast.If(ast.UnaryOp(ast.Not(), node.test), node.body, node.orelse)
    elif isinstance(node, ast.Return) and node.value is not None and not (isinstance(node.value, ast.Constant) and node.value.value is None):
        yield ast.Return(ast.Constant(None))
    elif isinstance(node, ast.Call):
        name = node.func.id if isinstance(node.func, ast.Name) else node.func.attr if isinstance(node.func, ast.Attribute) else ""
        if name in CALLS:
            other = copy.deepcopy(node)
            if isinstance(other.func, ast.Name):
                other.func.id = CALLS[name]
            elif isinstance(other.func, ast.Attribute):
                other.func.attr = CALLS[name]
            yield other
        elif name == "abs" and len(node.args) == 1:
            yield node.args[0]


def places(tree: ast.Module) -> Iterator[tuple[ast.AST, str]]:
    """Every node that may be changed with the function it stands in; not in texts, annotations, docstrings and what runs at import."""

    def walk(node: ast.AST, inside: str) -> Iterator[tuple[ast.AST, str]]:
        for name, value in ast.iter_fields(node):
            if name in ("annotation", "returns", "decorator_list", "args") and not isinstance(node, ast.Call):
                continue
            for child in value if isinstance(value, list) else [value]:
                # What `zip` would say of lists of unlike length tells of a mistake in this very code.
                if isinstance(child, ast.keyword) and child.arg == "strict":
                    continue
                if not isinstance(child, ast.AST) or (
                    isinstance(child, ast.JoinedStr | ast.Import | ast.ImportFrom | ast.ClassDef) and not isinstance(child, ast.ClassDef)
                ):
                    continue
                if isinstance(child, ast.FunctionDef):
                    yield from walk(child, f"{inside}.{child.name}" if inside else child.name)
                elif isinstance(child, ast.ClassDef):
                    # Fields and their defaults are set when the class is made; its functions are what can be changed afterwards.
                    for part in child.body:
                        if isinstance(part, ast.FunctionDef):
                            yield from walk(part, f"{child.name}.{part.name}")
                else:
                    if inside or constant(node):
                        yield child, inside
                    yield from walk(child, inside)

    def constant(node: ast.AST) -> bool:
        return isinstance(node, ast.Assign | ast.AnnAssign)

    yield from walk(tree, "")


@dataclass(frozen=True)
class Site:
    """Where a change may be made: the file, which of its places, and which way to change it."""

    file: Path
    place: int
    way: int


def sites(file: Path) -> list[Site]:
    """Every change of a file that may be tried."""
    tree = ast.parse(file.read_text(encoding="utf-8"))
    return [Site(file, n, way) for n, (node, _) in enumerate(places(tree)) for way, _ in enumerate(variants(node))]


def made(site: Site) -> Mutant:
    """A change with its code before and after."""
    text = site.file.read_text(encoding="utf-8")
    tree = ast.parse(text)
    node, inside = next(itertools.islice(places(tree), site.place, None))
    variant = next(itertools.islice(variants(node), site.way, None))
    shown = (node.test, variant.test) if isinstance(node, ast.If) and isinstance(variant, ast.If) else (node, variant)
    before, after = ast.unparse(shown[0]), ast.unparse(shown[1])

    class Put(ast.NodeTransformer):
        def visit(self, here: ast.AST) -> Any:
            return ast.copy_location(variant, here) if here is node else super().generic_visit(here)

    changed = ast.fix_missing_locations(Put().visit(tree))
    line = int(getattr(node, "lineno", 0))
    return Mutant(site.file.relative_to(ROOT).as_posix(), line, inside, before[:120], after[:120], changed, _span(tree, line))


def _span(tree: ast.Module, line: int) -> tuple[int, int]:
    """Lines of the innermost function around a line; the line itself where there is none."""
    around = [one for one in ast.walk(tree) if isinstance(one, ast.FunctionDef) and one.lineno <= line <= (one.end_lineno or line)]
    inner = max(around, key=lambda one: one.lineno, default=None)
    return (inner.lineno, inner.end_lineno or line) if inner is not None else (line, line)


# ---- which tests run through which line


def every_test() -> list[unittest.TestCase]:
    """Every test of the core."""

    def flat(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
        for one in suite:
            if isinstance(one, unittest.TestSuite):
                yield from flat(one)
            else:
                yield one

    found = flat(unittest.defaultTestLoader.discover(str(ROOT / "gecko" / "tests"), top_level_dir=str(ROOT)))
    return [test for test in found if not any(judge in test.id() for judge in JUDGES)]


class Covering(unittest.TestResult):
    """Switches the context of a measurement with each test and keeps how long it took."""

    def __init__(self, measured: coverage.Coverage) -> None:
        super().__init__()
        self.measured, self.took, self.began = measured, dict[str, float](), 0.0

    def startTest(self, test: unittest.TestCase) -> None:
        # An answer that was kept by an earlier test would hide what this one runs through.
        for one in kept_answers():
            one.cache_clear()
        self.measured.switch_context(test.id())
        self.began = time.perf_counter()

    def stopTest(self, test: unittest.TestCase) -> None:
        self.took[test.id()] = time.perf_counter() - self.began


def coverage_of(files: list[Path]) -> tuple[dict[str, dict[int, list[str]]], dict[str, float]]:
    """Tests by file and line, and how long each takes [s]; kept for as long as the core stays what it is."""
    sources = sorted(path for path in (ROOT / "gecko").rglob("*") if path.suffix in (".py", ".csv", ".json"))
    digest = hashlib.sha256(b"".join(path.read_bytes() for path in sources)).hexdigest()[:16]
    kept = ROOT / "var" / "mutants" / f"{digest}.json"
    if not kept.exists():
        kept.parent.mkdir(parents=True, exist_ok=True)
        parts = [kept.with_suffix(f".{n}") for n in range(WORKERS)]
        children = [_forked(lambda n=n, part=part: _measure(files, n, part)) for n, part in enumerate(parts)]
        for child in children:
            os.waitpid(child, 0)
        lines: dict[str, dict[str, list[str]]] = {}
        took: dict[str, float] = {}
        for part in parts:
            told = json.loads(part.read_text(encoding="utf-8"))
            part.unlink()
            took |= told["took"]
            for file, found in told["lines"].items():
                for line, tests in found.items():
                    lines.setdefault(file, {}).setdefault(line, []).extend(tests)
        kept.write_text(json.dumps({"lines": lines, "took": took}), encoding="utf-8")
    told = json.loads(kept.read_text(encoding="utf-8"))
    return {file: {int(line): tests for line, tests in found.items()} for file, found in told["lines"].items()}, told["took"]


def _measure(files: list[Path], share: int, into: Path) -> None:
    measured = coverage.Coverage(data_file=None, include=[str(file) for file in files], config_file=False)
    result = Covering(measured)
    measured.start()
    for test in every_test()[share::WORKERS]:
        with redirect_stdout(io.StringIO()), redirect_stderr(io.StringIO()):
            test.run(result)
    measured.stop()
    data = measured.get_data()
    lines = {}
    for file in data.measured_files():
        by_line = {line: [test for test in tests if test] for line, tests in data.contexts_by_lineno(file).items()}
        lines[Path(file).relative_to(ROOT).as_posix()] = {line: tests for line, tests in by_line.items() if tests}
    into.write_text(json.dumps({"lines": lines, "took": result.took}), encoding="utf-8")


def _forked(work: Any) -> int:
    child = os.fork()
    if child:
        return child
    try:
        work()
        os._exit(0)
    except BaseException:
        import traceback

        traceback.print_exc()
        os._exit(9)


@functools.cache
def called(file: str, line: int) -> tuple[str, ...]:
    """What a test that is about the function of a line would name: the rules it is the check of, else itself."""
    tree = ast.parse((ROOT / file).read_text(encoding="utf-8"))
    around = next((one for one in tree.body if isinstance(one, ast.FunctionDef | ast.ClassDef) and one.lineno <= line <= (one.end_lineno or line)), None)
    if around is None:
        return ()
    within = [one for one in ast.walk(around) if isinstance(one, ast.FunctionDef) and one.lineno <= line <= (one.end_lineno or line)]
    first = [one.args[0] for one in around.decorator_list if isinstance(one, ast.Call) and one.args]
    rules = [str(one.value) for one in first if isinstance(one, ast.Constant)]
    return tuple([f'"{one}"' for one in rules] or {one.name + "(" for one in (around, *within) if not one.name.startswith("__")})


@functools.cache
def words_of(test: str) -> str:
    """The text of a test, by its name."""
    module, _, rest = test.rpartition(".")
    module, _, name = module.rpartition(".")
    try:
        return inspect.getsource(getattr(getattr(sys.modules[module], name), rest))
    except (KeyError, AttributeError, OSError, TypeError):
        return ""


# ---- one change tried


@functools.cache
def kept_answers() -> tuple[Any, ...]:
    """Functions that keep what they gave; those that read tables go on keeping it, for no change reaches the tables."""
    found = [one for one in gc.get_objects() if isinstance(one, functools._lru_cache_wrapper)]
    return tuple(one for one in found if one.__module__.startswith("gecko.") and not one.__module__.startswith(("gecko.reference", "gecko.tests")))


@functools.cache
def live_functions() -> tuple[types.FunctionType, ...]:
    """Every function of the core there is before a change is made, those made within others too: a rule may be one of them."""
    return tuple(one for one in gc.get_objects() if isinstance(one, types.FunctionType) and (one.__module__ or "").startswith("gecko."))


def _within(code: types.CodeType) -> Iterator[types.CodeType]:
    for one in code.co_consts:
        if isinstance(one, types.CodeType):
            yield one
            yield from _within(one)


def _put_into_closures(old: types.CodeType, new: types.CodeType) -> None:
    """Functions that another one made already do what they would do if it made them now."""
    places = {(one.co_qualname, one.co_firstlineno, one.co_freevars): one for one in _within(new)}
    made = set(_within(old))
    for function in live_functions():
        if function.__code__ in made:
            key = (function.__code__.co_qualname, function.__code__.co_firstlineno, function.__code__.co_freevars)
            if key in places:
                function.__code__ = places[key]


def apply(mutant: Mutant) -> None:
    """Put a change into the running program: code of functions in place, constants wherever their name went."""
    module = importlib.import_module(mutant.file.removesuffix(".py").replace("/", "."))
    code = compile(mutant.tree, str(ROOT / mutant.file), "exec")
    if mutant.inside:
        _put_code(module, code, mutant.inside.split("."))
    else:
        fresh = types.ModuleType(module.__name__)
        fresh.__dict__.update({name: value for name, value in module.__dict__.items() if name.startswith("__")})
        _rules_apart(lambda: exec(code, fresh.__dict__))
        changed = {name: value for name, value in fresh.__dict__.items() if name.isupper() or name.lstrip("_").isupper()}
        for other in [one for name, one in sys.modules.items() if name.startswith("gecko")]:
            for name, value in changed.items():
                if name in other.__dict__ and other.__dict__[name] is module.__dict__.get(name) and other is not module:
                    setattr(other, name, value)
        for name, value in changed.items():
            setattr(module, name, value)
    for one in kept_answers():
        one.cache_clear()


def _rules_apart(work: Any) -> None:
    """Run a module anew without registering its rules twice."""
    registry = importlib.import_module("gecko.rules.registry")
    kept = dict(registry.RULES)
    work()
    registry.RULES.clear()
    registry.RULES.update(kept)


def _put_code(module: types.ModuleType, code: types.CodeType, path: list[str]) -> None:
    """Give the function at a path its changed code; within another function the outer one's."""
    consts: Any = [one for one in code.co_consts if isinstance(one, types.CodeType)]
    new = next(one for one in consts if one.co_name == path[0])
    holder: Any = module.__dict__[path[0]]
    if isinstance(holder, type):
        new = next(one for one in new.co_consts if isinstance(one, types.CodeType) and one.co_name == path[1])
        holder = holder.__dict__[path[1]]
    for name in ("fget", "func", "__func__", "__wrapped__"):
        while hasattr(holder, name) and not isinstance(holder, types.FunctionType):
            holder = getattr(holder, name)
    while hasattr(holder, "__wrapped__"):
        holder = holder.__wrapped__
    old, holder.__code__ = holder.__code__, new
    _put_into_closures(old, new)


def tried(mutant: Mutant, tests: list[unittest.TestCase]) -> str:
    """What becomes of a change: "noticed", "missed", or "too slow" where time ran out before a test noticed. It is made in a process of its own."""

    def work() -> None:
        sys.stdout = sys.stderr = io.StringIO()
        resource.setrlimit(resource.RLIMIT_CPU, (PATIENCE_S, PATIENCE_S))
        try:
            apply(mutant)
        except (KeyError, StopIteration, AttributeError):
            os._exit(3)
        for test in tests:
            result = unittest.TestResult()
            test.run(result)
            if not result.wasSuccessful():
                os._exit(1)

    child = _forked(work)
    ends = time.monotonic() + WAITS * PATIENCE_S
    while time.monotonic() < ends:
        done, status = os.waitpid(child, os.WNOHANG)
        if done:
            code = os.waitstatus_to_exitcode(status)
            if code == 3:
                raise LookupError(str(mutant))
            if code in (-signal.SIGXCPU, -signal.SIGKILL):
                return "too slow"
            return "noticed" if code else "missed"
        time.sleep(0.005)
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    return "too slow"


def main() -> int:
    """Print the changes nobody noticed and their share."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--count", type=int, default=600)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--only", default="")
    parser.add_argument("--again", type=Path)
    asked = parser.parse_args()
    rooms = [ROOT / room for room in ROOMS]
    files = sorted(file for room in rooms for file in ([room] if room.is_file() else room.rglob("*.py")) if file.name != "__init__.py")
    began = time.monotonic()
    # Everything a child needs is loaded before it is made.
    by_id = {test.id(): test for test in every_test()}
    lines, took = coverage_of(files)
    kept_answers()
    live_functions()
    gc.freeze()
    print(f"{len(by_id)} tests, what they run through known after {time.monotonic() - began:.0f} s", flush=True)
    known = {tuple(row[:4]): row[4] for row in csv.reader(EQUIVALENT.read_text(encoding="utf-8").splitlines()[1:])} if EQUIVALENT.exists() else {}
    chosen = [file for file in files if asked.only in file.as_posix()]
    possible = [site for file in chosen for site in sites(file)]
    if asked.again:
        # Whatever the sample was: it is another one as soon as a line of the core is.
        told = asked.again.read_text(encoding="utf-8")
        sample = [mutant for site in possible if f" {site.file.relative_to(ROOT).as_posix()}:" in told and str(mutant := made(site)) in told]
    else:
        random.Random(asked.seed).shuffle(possible)
        sample = [made(site) for site in possible[: asked.count]]
    same = [mutant for mutant in sample if mutant.key in known]

    sets = {(file, line): frozenset(tests) for file, by_line in lines.items() for line, tests in by_line.items()}

    def of(mutant: Mutant) -> list[unittest.TestCase]:
        found = lines.get(mutant.file, {})
        ids = found.get(mutant.line, []) if mutant.inside else sorted({test for tests in found.values() for test in tests})
        # By turns from each way through its function, the fastest first: a change shows on one way and not on another. Tests that hold every
        # figure of some machines notice the most, so one of them comes after every few others.
        narrow, broad = ([one for one in ids if (BROAD in one) is wide and took.get(one, float("inf")) <= SLOWEST_S and one in by_id] for wide in (False, True))
        ways: dict[frozenset[int], list[str]] = {}
        for one in sorted(narrow, key=lambda one: took[one]):
            through = frozenset(line for line in range(mutant.span[0], mutant.span[1] + 1) if one in sets.get((mutant.file, line), ()))
            ways.setdefault(through, []).append(one)
        turns = [one for turn in itertools.zip_longest(*ways.values()) for one in turn if one is not None]
        mixed = [one for n, first in enumerate(sorted(broad, key=lambda one: took[one])) for one in (*turns[FEW * n : FEW * (n + 1)], first)]
        rest = (*mixed, *turns[FEW * len(broad) :])
        # Those that name what was changed come before all others.
        about = [one for one in turns if any(name in words_of(one) for name in called(mutant.file, mutant.line))]
        return [by_id[one] for one in dict.fromkeys((*about, *rest))]

    missed, unable = dict[Mutant, str](), []

    def one(mutant: Mutant) -> None:
        try:
            if (outcome := tried(mutant, of(mutant))) != "noticed":
                missed[mutant] = outcome if of(mutant) else "not run"
                # Told as it is found: a run may take an hour, and may be ended before.
                print(f"  {missed[mutant]:8} {mutant}", flush=True)
        except LookupError:
            unable.append(mutant)

    with ThreadPoolExecutor(WORKERS) as pool:
        list(pool.map(one, [mutant for mutant in sample if mutant.key not in known]))
    judged = len(sample) - len(same) - len(unable)
    print(
        f"{len(sample)} changes: {len(same)} that nothing follows from, {len(unable)} that cannot be put in; of {judged} left {len(missed)} "
        f"({100 * len(missed) / max(judged, 1):.1f} %, at most 10) went unnoticed. {time.monotonic() - began:.0f} s"
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
