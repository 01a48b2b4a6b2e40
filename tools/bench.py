"""Measures the budgets of speed and size and prints them beside what they may be. It judges nothing by exit code.

Core: evaluate, ranges, fixes, a bank of four unlike rows of four. Server: requests on loopback. Web: key press to painted
numbers in the browser, first load as gzip.
"""

from __future__ import annotations

import gzip
import json
import random
import statistics
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from playwright.sync_api import Browser, Request, sync_playwright  # noqa: E402

from gecko.analysis.riding import forget_rides  # noqa: E402
from gecko.document.context import Context  # noqa: E402
from gecko.document.setup import Setup, load_setup  # noqa: E402
from gecko.machine.courses import SHIPPED  # noqa: E402
from gecko.plans.drive.compare import compare  # noqa: E402
from gecko.plans.drive.goals import reach  # noqa: E402
from gecko.plans.drive.ways import drive_changes, drive_plan, drive_sprockets  # noqa: E402
from gecko.plans.evaluate import evaluate  # noqa: E402
from gecko.plans.fixes import fixes  # noqa: E402
from gecko.plans.hookup import build_hookup  # noqa: E402
from gecko.plans.power import power_plan  # noqa: E402
from gecko.plans.protect import protect_plan  # noqa: E402
from gecko.plans.ranges import ranges  # noqa: E402
from gecko.tests.hazards import HAZARDS  # noqa: E402
from gecko.tests.machines import bike, named, safe_bike  # noqa: E402
from gecko.tests.roads import jobs  # noqa: E402
from gecko.tests.test_hazards import found_by  # noqa: E402
from gecko.tests.test_sane_and_unsafe import weighed  # noqa: E402
from gecko.tests.unsafe import follow, unsafe  # noqa: E402
from server.demo import machines  # noqa: E402
from tools.browser import DESK, launch  # noqa: E402
from tools.judged_rides import track  # noqa: E402
from tools.serving import Server, demo_server  # noqa: E402

Measure = tuple[str, str, Callable[[int], object], int]
"""What is measured: name, budget, the work (it is given the number of the run), and how many runs."""

ROUNDS = 6
"""The machine has faster and slower phases of a few seconds; every measure gets its share of them."""


def yardstick() -> float:
    """Processor time of adding 1.0 a million times: by it figures of different machines and phases can be held together. [ms]"""
    used, total = time.process_time(), 0.0
    for _ in range(1_000_000):
        total += 1.0
    return (time.process_time() - used) * 1e3


def timed(*measures: Measure, elsewhere: bool = False) -> None:
    """Print median and 95th percentile of each measure in ms, its runs spread over rounds that take turns.

    It is processor time, with the clock's beside it: what else the machine does makes single runs wait, at times for seconds. Work that is
    done elsewhere, by a server, goes by the clock.
    """
    samples: list[list[tuple[float, float]]] = [[] for _ in measures]
    sticks: list[float] = []
    for _, _, work, _ in measures:
        work(-1)
    for turn in range(ROUNDS):
        sticks.append(yardstick())
        for (_, _, work, runs), found in zip(measures, samples, strict=True):
            for i in range(turn * runs // ROUNDS, (turn + 1) * runs // ROUNDS):
                # A ride once ridden is kept: each run rides its own.
                forget_rides()
                began, used = time.perf_counter(), time.process_time()
                work(i)
                found.append(((time.process_time() - used) * 1e3, (time.perf_counter() - began) * 1e3))
    stick = statistics.median(sticks)
    print(f"yardstick {stick:.0f} ms; figures in brackets are so many of it")
    for (name, budget, _, runs), found in zip(measures, samples, strict=True):
        own, clock = (sorted(column) for column in zip(*found, strict=True))
        spent, beside = (clock, "") if elsewhere else (own, f"   by the clock {statistics.median(clock):7.1f} / {clock[int(0.95 * runs)]:7.1f} ms")
        middle, late = statistics.median(spent), spent[int(0.95 * runs)]
        print(f"{name:<46} median {middle:7.1f} ms ({middle / stick:.2f})   95 % {late:7.1f} ms ({late / stick:.2f})   budget {budget}{beside}")


def unlike_bank() -> Setup:
    """Four rows of four unlike packs, each row behind its own fuse and lead."""
    rows = [
        {
            "fuse": {"rating_a": 20, "dc_volts_v": 58},
            "lead": {"awg": 12, "length_m": named(0.2)},
            "units": [
                {"label": f"{r}{u}", "cells_in_series": 3, "capacity_ah": named(4 + r + 0.3 * u), "resistance_ohm": named(0.03 + 0.01 * r + 0.002 * u)} for u in range(4)
            ],
        }
        for r in range(4)
    ]
    return bike(bank={"rows": rows}, controller__nominal_v=named(43), controller__max_v=named(60))


def core() -> None:
    """The core alone."""
    setups: list[tuple[Setup, Context]] = []
    for make in (machines.marmalade_setups, machines.thistle_setups, machines.bramble_setups, machines.comet_setups):
        made = [load_setup(document) for _, document in make()]
        setups += [(s, Context(baseline=made[0])) for s in made[1:]]
    n = len(setups)
    mixed = unlike_bank()
    long_ride = bike(course=SHIPPED[0].model_dump(), motor__power_w=named(600), bank__rows__0__units__0__capacity_ah=named(34))
    on_a_track = bike(course=track().model_dump(), motor__power_w=named(600))
    timed(
        ("evaluate, a track of 2 000 points", "3 yardsticks", lambda _i: evaluate(on_a_track), 60),
        ("ranges, a track of 2 000 points", "-", lambda _i: ranges(on_a_track), 6),
        ("evaluate, demo setups", "15 / 30 ms", lambda i: evaluate(*setups[i % n]), 24 * n),
        ("ranges, 200 samples", "150 ms", lambda i: ranges(*setups[i % n]), 6 * n),
        ("checked fixes of all findings", "300 ms", lambda i: fixes(*setups[i % n]), 6 * n),
        ("evaluate, a three-hour ride in lawn laps", "15 / 30 ms", lambda _i: evaluate(long_ride), 60),
        ("ranges, a three-hour ride in lawn laps", "150 ms", lambda _i: ranges(long_ride), 18),
        ("plan of driving, a three-hour ride", "300 ms", lambda _i: drive_plan(long_ride), 12),
        ("single changes, a three-hour ride", "300 ms", lambda _i: drive_changes(long_ride), 12),
        ("sprockets, a three-hour ride", "300 ms", lambda _i: drive_sprockets(long_ride), 12),
        ("plan of driving, demo setups", "300 ms", lambda i: drive_plan(*setups[i % n]), 3 * n),
        ("single changes, demo setups", "300 ms", lambda i: drive_changes(*setups[i % n]), 2 * n),
        ("sprockets, demo setups", "300 ms", lambda i: drive_sprockets(*setups[i % n]), 2 * n),
        ("two setups side by side, ranges included", "-", lambda _i: compare([("a", *setups[0]), ("b", *setups[1])]), 12),
        ("evaluate, 4 × 4 unlike packs", "30 / 60 ms", lambda _i: evaluate(mixed), 60),
        ("plan of the packs, demo setups", "300 ms", lambda i: power_plan(*setups[i % n]), 3 * n),
        ("plan of the wiring, demo setups", "300 ms", lambda i: protect_plan(*setups[i % n]), 3 * n),
        ("plan of the hookup, demo setups", "60 ms", lambda i: build_hookup(setups[i % n][0], setups[i % n][1].baseline), 4 * n),
        ("checked fixes, 4 × 4 unlike packs", "6 yardsticks", lambda _i: fixes(mixed), 12),
        ("plan of the packs, 4 × 4 unlike", "600 ms", lambda _i: power_plan(mixed), 12),
        ("plan of the wiring, 4 × 4 unlike", "600 ms", lambda _i: protect_plan(mixed), 12),
        ("what reaches a goal, demo setups", "-", lambda i: reach(setups[i % n][0], "speed", 6.0, setups[i % n][1]), 2 * n),
        ("ranges, 4 × 4 unlike packs", "300 ms", lambda _i: ranges(mixed), 18),
    )


def peace() -> None:
    """Sane machines left in peace, hazards found, unsafe machines mended: shares, not times."""
    machines_tried, roads = 600, 200
    found = [weighed(number) for number in range(machines_tried)]
    quiet, calm = sum(stops == 0 for stops, _ in found), sum(cautions <= 2 for _, cautions in found)
    print(f"{machines_tried} sane machines: no stop on {100 * quiet / machines_tried:.1f} % (98), at most two cautions on {100 * calm / machines_tried:.1f} % (95)")
    seen = sum(bool(found_by(hazard, hazard.bad)) for hazard in HAZARDS)
    silent = sum(not found_by(hazard, hazard.good) for hazard in HAZARDS)
    print(f"{len(HAZARDS)} hazards: found by their rule {100 * seen / len(HAZARDS):.1f} % (97), near twin silent {100 * silent / len(HAZARDS):.1f} %")
    jobs_tried = [(job.name, job.road()) for job in jobs()]
    stuck = [name for name, road in jobs_tried if road.left]
    print(f"{len(jobs_tried)} usual jobs, first fixes followed: {len(stuck)} with plan stops left (0) {stuck}")
    ends = [follow(unsafe(random.Random(5000 + number))[0]) for number in range(roads)]
    mended = sum(not road.left for road in ends)
    over = sum(not road.left and road.after_m_s > 1.05 * road.cap_m_s for road in ends)
    gain = max((road.after_m_s / road.before_m_s - 1.0 for road in ends if road.before_m_s > 0.1 and not road.had_too_few_volts), default=0.0)
    lost = sum(bool(road.gone) for road in ends)
    print(
        f"{roads} unsafe machines, first fixes followed: {100 * mended / roads:.1f} % without plan stops (95), over a cap {over} (0), "
        f"largest gain in speed {100 * gain:.1f} %, without charger, guard or fuse {lost} (0)"
    )


class Client:
    """A signed-in client that keeps its connection settings."""

    def __init__(self, base: str) -> None:
        self.base, jar = base, CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
        self.get("/api/session")
        self.token = next(c.value for c in jar if c.name == "csrftoken")

    def get(self, path: str) -> Any:
        """JSON of a GET."""
        return json.load(self.opener.open(self.base + path))

    def post(self, path: str, body: Any) -> bytes:
        """Bytes of a POST."""
        request = urllib.request.Request(self.base + path, json.dumps(body).encode(), {"Content-Type": "application/json", "X-CSRFToken": str(self.token)})
        return bytes(self.opener.open(request).read())


def server() -> None:
    """A demo server of its own on loopback, then one with 500 builds and 5 000 trials."""
    with tempfile.TemporaryDirectory() as var:
        running = demo_server(Path(var))
        with running:
            client = Client(running.address)
            build = client.get("/api/garages/1")["builds"][0]["id"]
            draft = {"setup": safe_bike(), "build_id": build}
            timed(
                (
                    "POST /api/evaluate, a new draft each time",
                    "50 ms",
                    lambda i: client.post("/api/evaluate", {**draft, "setup": safe_bike(main_lead__length_m=named(0.5 + 0.01 * i))}),
                    60,
                ),
                ("POST /api/evaluate, seen before", "50 ms", lambda _i: client.post("/api/evaluate", draft), 60),
                ("GET a garage of four builds", "100 ms", lambda _i: client.get("/api/garages/1"), 30),
                elsewhere=True,
            )
            crowded(running.address, client, build)
            running.script(MANY)
            timed(
                ("GET a garage of 500 builds, 5 000 trials", "100 ms", lambda _i: client.get("/api/garages/1"), 30),
                ("GET the journal of a build", "100 ms", lambda _i: client.get(f"/api/builds/{build}/journal"), 30),
                ("GET the finder's index of 500 builds", "100 ms", lambda _i: client.get("/api/garages/1/index"), 30),
                elsewhere=True,
            )
            long_rack(running, client)
            key_presses(running.address, client)
            first_paint(running.address)
    cold_garage()


BESIDE = ("/api/ranges", "/api/fixes", "/api/power", "/api/protect", "/api/drive")
"""What a page asks for beside its evaluation, one after the other as slowly as they come."""


def crowded(address: str, client: Client, build: int) -> None:
    """An evaluation while ranges, fixes and plans of the same draft are worked out, over one alone: by the clock."""
    others = [Client(address) for _ in BESIDE]
    waits: dict[bool, list[float]] = {False: [], True: []}
    for i in range(40):
        crowd = i % 2 == 1
        draft = {"setup": safe_bike(motor_lead__length_m=named(0.3 + 0.01 * i)), "build_id": build}
        with ThreadPoolExecutor(len(BESIDE)) as pool:
            asked = [pool.submit(one.post, path, draft) for one, path in zip(others, BESIDE, strict=True)] if crowd else []
            # As in the page, where the evaluation of the next key comes while they are under way.
            time.sleep(0.02)
            began = time.perf_counter()
            client.post("/api/evaluate", {**draft, "setup": safe_bike(motor_lead__length_m=named(0.305 + 0.01 * i))})
            waits[crowd].append((time.perf_counter() - began) * 1e3)
            for one in asked:
                one.result()
    alone, beside = statistics.median(waits[False]), statistics.median(waits[True])
    print(f"{'evaluate while ranges, fixes and plans run':<46} median {beside:7.1f} ms, {beside / alone:.2f} times {alone:.1f} ms alone   budget 1.5 times")


def cold_garage() -> None:
    """The list of 60 unlike builds: never seen, and after a start once it was."""
    with tempfile.TemporaryDirectory() as var:
        running, stick = demo_server(Path(var)), statistics.median(yardstick() for _ in range(5))
        running.script(UNLIKE)
        for name in ("a garage of 64 unlike builds, never seen", "the same, just after a start"):
            with running:
                client = Client(running.address)
                began = time.perf_counter()
                client.get("/api/garages/1")
                spent = (time.perf_counter() - began) * 1e3
                print(f"{name:<46} {spent:7.1f} ms ({spent / stick:.1f})   budget 5 yardsticks")


PAINTED = "() => performance.getEntriesByType('paint').find((one) => one.name === 'first-contentful-paint')?.startTime ?? 0"


LONG_RACK = """
import django; django.setup()
import io
from PIL import Image
from gecko.document.catalogue import catalogue
from server.garage.models import Garage, RackPart
from server.photos import pictures
from server.photos.models import Photo
garage = Garage.objects.get(pk=1)
kinds = {kind: entries for kind, entries in catalogue().items()}
names = sorted(kinds)
parts = []
for i in range(2000):
    kind = names[i % len(names)]
    entry = kinds[kind][(i // len(names)) % len(kinds[kind])]
    parts.append(RackPart(garage=garage, kind=kind, label=f"{entry['label']} no {i}", document=entry["part"], quantity=1, letter="", key=f"long{i}"))
RackPart.objects.bulk_create(parts)
made = list(RackPart.objects.filter(key__startswith="long")[:20])
for i in range(200):
    out = io.BytesIO()
    Image.new("RGB", (1600, 1200), (i, 90, 255 - i)).save(out, "JPEG")
    out.seek(0)
    picture = pictures.taken(out, len(out.getvalue()))
    pictures.keep(picture)
    Photo.objects.create(garage=garage, part=made[i % 20], sha=picture.sha, width=picture.width, height=picture.height)
"""


TYPED = """
box => {
  window.typed = [];
  box.addEventListener("input", () => {
    const from = performance.now();
    requestAnimationFrame(() => requestAnimationFrame(() => window.typed.push(performance.now() - from)));
  }, true);
}
"""


def long_rack(running: Server, client: Client) -> None:
    """A rack of 2 000 parts with 200 photos: its doors, and from a letter typed to the parts of that name, on the rack and in a picker."""
    running.script(LONG_RACK)
    setup = next(build for build in client.get("/api/garages/1/index")["builds"] if build["name"] == "Thistle")
    part = next(one["id"] for one in client.get("/api/garages/1/rack") if one["key"] == "long0")
    timed(
        ("GET a rack of 2 000 parts", "100 ms", lambda _i: client.get("/api/garages/1/rack"), 18),
        ("GET the photos of one of its parts", "100 ms", lambda _i: client.get(f"/api/garages/1/photos?part={part}"), 18),
        elsewhere=True,
    )
    with sync_playwright() as playwright:
        browser = launch(playwright)
        for name, path, opens, label in (
            ("the rack", "/rack", None, "Find a part"),
            ("a picker", f"/builds/{setup['id']}/setups/{setup['setups'][0]['id']}/power", "Find…", "Pack: find by name"),
        ):
            page = browser.new_page(viewport=DESK)
            page.goto(running.address + path)
            if opens is not None:
                page.get_by_role("button", name=opens, exact=True).first.click()
            box = page.get_by_role("searchbox" if opens is None else "combobox", name=label)
            box.wait_for()
            page.wait_for_timeout(1500)
            box.evaluate(TYPED)
            box.press_sequentially("garden pack no 12", delay=150)
            page.wait_for_timeout(500)
            waits = sorted(page.evaluate("window.typed"))
            print(f"{f'a letter typed to parts found, {name}':<46} median {statistics.median(waits):7.1f} ms   at most {waits[-1]:7.1f} ms   budget 100 ms")
            page.close()
        browser.close()


def first_paint(address: str) -> None:
    """A cold page over a slow line, and on a slow machine: until something is painted, and until a build's stage can be used."""
    with sync_playwright() as playwright:
        browser = launch(playwright)
        for name, line, pace in (("at 400 kbit/s and 400 ms", (50_000, 400), 1), ("at a quarter of the pace", None, 4)):
            page = browser.new_page(viewport=DESK)
            tools = page.context.new_cdp_session(page)
            tools.send("Network.enable")
            if line is not None:
                tools.send("Network.emulateNetworkConditions", {"offline": False, "downloadThroughput": line[0], "uploadThroughput": line[0], "latency": line[1]})
            tools.send("Emulation.setCPUThrottlingRate", {"rate": pace})
            began = time.perf_counter()
            page.goto(address, wait_until="commit")
            page.get_by_role("heading", name="Tideline Shed").wait_for(timeout=60_000)
            usable = time.perf_counter() - began
            print(f"{'first paint, ' + name:<46} {page.evaluate(PAINTED):7.0f} ms   budget 1000 ms; the garage usable after {usable:.1f} s (4)")
            page.close()
        browser.close()


UNLIKE = """
import django; django.setup()
from django.utils import timezone
from gecko.plans.arrangements import arrange
from gecko.tests.roads import jobs
from server.builds.models import Build, Revision, Setup
from server.garage.models import Garage
garage = Garage.objects.get(pk=1)
made = list(jobs())
for i in range(60):
    job = made[i % len(made)]
    found = job.found.model_dump(mode="json")
    documents = [found, {**arrange(job.found, job.pack, job.rows, job.series), "rider": {"age_years": 5 + i // len(made)}}]
    build = Build.objects.create(garage=garage, name=f"Build {i}", family=found["vehicle"]["family"])
    for n, document in enumerate(documents):
        setup = Setup.objects.create(build=build, name=f"Setup {n}", is_baseline=n == 0, in_use=n == 1, document=document)
        Revision.objects.create(setup=setup, number=1, document=document, created=timezone.now())
"""


CLOCK = """
selector => {
  window.waits = [];
  let pressed = null;
  document.addEventListener("input", () => { pressed = performance.now(); performance.clearResourceTimings(); }, true);
  // What changes before the answer is there (a range that fades) are not its numbers.
  const answered = () => performance.getEntriesByType("resource").some((one) => one.name.endsWith("/api/evaluate") && one.responseEnd > pressed);
  const seen = () => {
    if (pressed === null || !answered()) return;
    const from = pressed;
    pressed = null;
    // Twice: the first frame starts after this change, the second when that one has been painted.
    requestAnimationFrame(() => requestAnimationFrame(() => window.waits.push(performance.now() - from)));
  };
  new MutationObserver(seen).observe(document.querySelector(selector), { subtree: true, childList: true, characterData: true });
}
"""


def key_presses(address: str, client: Client) -> None:
    """From a key pressed in the motor's volts to the new outcome painted, in the browser: riding steadily, and round a course."""
    builds = {b["name"]: b["id"] for b in client.get("/api/garages/1/index")["builds"]}
    with sync_playwright() as playwright:
        browser = launch(playwright)
        for machine, course in (("Thistle", None), ("Marmalade", "Lawn laps"), ("Thistle", "Down to the boathouse and back")):
            rows = client.get(f"/api/builds/{builds[machine]}")["setups"]
            setup = next(row for row in rows if (row["document"].get("course") or {}).get("name") == course)
            waits = pressed(browser, f"{address}/builds/{builds[machine]}/setups/{setup['id']}/drive")
            name = "key press to numbers, " + (course or "steady")
            print(f"{name:<46} median {statistics.median(waits):7.1f} ms   95 % {waits[int(0.95 * len(waits))]:7.1f} ms   budget 150 ms")
            parts = drawn(browser, f"{address}/builds/{builds[machine]}/setups/{setup['id']}/drive")
            print(f"{'parts of the page drawn by it':<46} {parts}   budget 300")
        browser.close()


QUIET_TICKS = 12
"""Tenths of a second without a request after which nothing follows any more: the slowest starts one second after a key."""


DRAWN = """
window.drawn = 0;
window.__REACT_DEVTOOLS_GLOBAL_HOOK__ = {
  renderers: new Map(), supportsFiber: true, inject: () => 1, onCommitFiberUnmount() {},
  onCommitFiberRoot(_id, root) {
    const walk = (fiber) => {
      for (; fiber; fiber = fiber.sibling) {
        if ([0, 1, 11, 14, 15].includes(fiber.tag) && fiber.flags & 1) window.drawn++;
        if (fiber.child && (!fiber.alternate || fiber.child !== fiber.alternate.child)) walk(fiber.child);
      }
    };
    walk(root.current.child);
  },
};
"""
"""Counts the parts of the page that were drawn, as the page's own developer tools would."""


def drawn(browser: Browser, address: str) -> int:
    """How many parts of the page one number of volts has drawn, with all the answers that follow it. [1]"""
    page = browser.new_page(viewport=DESK)
    page.add_init_script(DRAWN)
    page.goto(address)
    volts = page.get_by_role("textbox", name="Plate volts")
    volts.wait_for()
    page.wait_for_timeout(4000)
    page.evaluate("window.drawn = 0")
    volts.fill("31")
    page.wait_for_timeout(5000)
    found = int(page.evaluate("window.drawn"))
    page.close()
    return found


def pressed(browser: Browser, address: str) -> list[float]:
    """Waits after each of twenty numbers of volts, sorted. [ms]"""
    # Any of its numbers: one alone may round to what it was before, and would seem to wait for its range.
    shown = 'section[aria-label="Outcome"]'
    page = browser.new_page(viewport=DESK)
    under_way: set[Request] = set()
    page.on("request", lambda request: under_way.add(request))
    for over in ("requestfinished", "requestfailed"):
        page.on(over, lambda request: under_way.discard(request))

    def quiet() -> None:
        """Let the answers that follow more slowly (ranges, fixes, changes, saving) through, as between two thoughts."""
        still = 0
        while still < QUIET_TICKS:
            page.wait_for_timeout(100)
            still = 0 if under_way else still + 1

    page.goto(address)
    page.locator(shown).wait_for()
    quiet()
    page.evaluate(CLOCK, shown)
    volts = page.get_by_role("textbox", name="Plate volts")
    for number in range(20, 40):
        before = page.evaluate("window.waits.length")
        volts.fill(str(number))
        page.wait_for_function("before => window.waits.length > before", arg=before)
        quiet()
    waits: list[float] = page.evaluate("window.waits")
    page.close()
    return sorted(waits)


MANY = """
import django; django.setup()
from server.builds.models import Build, Revision, Setup
from server.logbook.models import Trial
from django.utils import timezone
first = Build.objects.get(name="Marmalade")
document = first.setups.get(in_use=True).document
for i in range(496):
    build = Build.objects.create(garage=first.garage, name=f"Build {i}", family="quad")
    setup = Setup.objects.create(build=build, name="As found", is_baseline=True, in_use=True, document=document)
    revision = Revision.objects.create(setup=setup, number=1, document=document, created=timezone.now())
    run = [{"distance_m": 30, "time_s": 9, "direction": "out"}]
    Trial.objects.bulk_create(Trial(build=build, setup=setup, revision=revision, passes=run, speed_m_s=3.3, half_width_m_s=0.2) for _ in range(10))
"""


def web() -> None:
    """Script of the first screen, gzip."""
    assets = ROOT / "web" / "dist" / "assets"
    index = (ROOT / "web" / "dist" / "index.html").read_text(encoding="utf-8")
    size = sum(len(gzip.compress(f.read_bytes(), 6)) for f in assets.glob("*.js") if f.name in index)
    chunks = ("GarageHome", "Header", "Ribbon", "units", "MachineDrawing", "Trail")
    garage = sum(len(gzip.compress(f.read_bytes(), 6)) for f in assets.glob("*.js") if f.name.startswith(chunks))
    print(f"{'first screen, script gzip':<46} {(size + garage) / 1000:.0f} kB   budget 250 kB")


if __name__ == "__main__":
    peace()
    core()
    server()
    web()
