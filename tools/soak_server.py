"""A running server under kills and under many people: what was acknowledged is there, nothing is half, nobody waits long. A failure ends it with 1."""

from __future__ import annotations

import contextlib
import json
import os
import random
import sqlite3
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from copy import deepcopy
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from gecko.tests.machines import safe_bike  # noqa: E402
from tools.serving import PASSWORD, Lost, Person, Server  # noqa: E402

WORKER_KILLS = int(os.environ.get("SOAK_WORKER_KILLS", "900"))
SERVER_KILLS = int(os.environ.get("SOAK_SERVER_KILLS", "100"))
USERS = int(os.environ.get("SOAK_USERS", "32"))
LARGE = (5000, 2000)
"""Revisions and trials of a build that is read in."""

USERS_S = float(os.environ.get("SOAK_USERS_S", "300"))
RESTORES = int(os.environ.get("SOAK_RESTORES", "25"))
WRITERS = 4
WEB_SHARE = 0.06
"""Of the kills of workers so many are of those that answer."""
LIMIT_S = 0.5
"""95 % of saves are answered within so long. [s]"""

REVISIONS = 60
"""Of a build that is read in while it is killed."""

PASSES = [{"distance_m": 30.0, "time_s": 8.0}]
PLANS = ("ranges", "fixes", "power", "protect", "drive", "drive/changes", "drive/sprockets", "hookup")


@dataclass
class Kept:
    """What the server acknowledged to one writer."""

    setup: int
    build: int
    garage: int
    document: dict[str, Any]
    version: int = 1
    saved: int = 0
    """The last save that was acknowledged."""
    trials: set[str] = field(default_factory=set)
    entries: set[str] = field(default_factory=set)
    imports: set[str] = field(default_factory=set)
    backups: set[str] = field(default_factory=set)
    ticked: bool | None = None
    lost: int = 0


class Writer(threading.Thread):
    """Somebody who writes all the time, and knows what was acknowledged."""

    def __init__(self, number: int, server: Server, person: Person, over: threading.Event, wrong: list[str]) -> None:
        super().__init__(daemon=True)
        self._dice = random.Random(number)
        self._number, self._server, self._person, self._over, self._wrong = number, server, person, over, wrong
        garage = person.ok("GET", "/api/garages")[-1]["id"]
        made = person.ok("POST", f"/api/garages/{garage}/builds", {"name": f"Build {number}", "family": "quad", "setups": [{"name": "a", "document": safe_bike()}]})
        row = made["setups"][0]
        self.kept = Kept(row["id"], made["id"], garage, row["document"])
        self._file = json.loads(person.raw("GET", f"/api/builds/{made['id']}/export", None, "application/json")[1])
        first = self._file["setups"][0]["revisions"][0]
        self._file["setups"][0]["revisions"] = [{**first, "number": n + 1} for n in range(REVISIONS)]
        self._count = 0

    def run(self) -> None:
        """Write until it is over."""
        acts: list[Callable[[], None]] = [self._save] * 6 + [self._trial] * 3 + [self._entry] * 3 + [self._tick] * 2 + [self._import]
        if self._number == 0:
            acts.append(self._backup)
        while not self._over.is_set():
            self._count += 1
            try:
                self._dice.choice(acts)()
            except Lost:
                self.kept.lost += 1
                time.sleep(0.2)
            except RuntimeError as error:
                # Busy for a moment, as after a kill, is an answer too.
                if not any(word in str(error) for word in (": 503", ": 429", ": 500 {'code': 'failed'")) or ": 500" in str(error):
                    self._wrong.append(str(error))
                time.sleep(0.2)

    def _again(self, act: Callable[[], Any]) -> Any:
        """An act that is sent again until it is answered: under one key it makes one."""
        for _ in range(200):
            try:
                return act()
            except Lost:
                self.kept.lost += 1
                if self._over.is_set():
                    raise
                time.sleep(0.3)
        raise Lost

    def _save(self) -> None:
        kept, number = self.kept, self._count
        document = deepcopy(kept.document)
        document["rider"]["name"] = f"save {number}"
        try:
            saved = self._person.ok("PUT", f"/api/setups/{kept.setup}", {"document": document, "based_on": kept.version})
        except Lost:
            # Done or not: the next look says which, and nothing in between.
            now = self._again(lambda: self._person.ok("GET", f"/api/builds/{kept.build}"))["setups"][0]
            name = now["document"]["rider"]["name"]
            if name not in (document["rider"]["name"], kept.document["rider"]["name"]):
                self._wrong.append(f"After a lost save it was {name}, neither {document['rider']['name']} nor {kept.document['rider']['name']}.")
            kept.document, kept.version = now["document"], now["version"]
            raise
        kept.document, kept.version, kept.saved = saved["document"], saved["version"], number

    def _trial(self) -> None:
        note = f"trial {self._number} {self._count}"
        body = {"setup_id": self.kept.setup, "passes": PASSES, "note": note, "confirmed": True}
        key = {"Idempotency-Key": note.replace(" ", "-")}
        self._again(lambda: self._person.ok("POST", f"/api/builds/{self.kept.build}/trials", body, **key))
        self.kept.trials.add(note)

    def _entry(self) -> None:
        text = f"entry {self._number} {self._count}"
        key = {"Idempotency-Key": text.replace(" ", "-")}
        self._again(lambda: self._person.ok("POST", f"/api/builds/{self.kept.build}/journal", {"kind": "note", "text": text}, **key))
        self.kept.entries.add(text)

    def _tick(self) -> None:
        at = f"/api/setups/{self.kept.setup}/ticks/safe"
        on = not self.kept.ticked
        self.kept.ticked = None
        self._person.ok("PUT", at, {"measured": 0.0}) if on else self._person.ok("DELETE", at)
        self.kept.ticked = on

    def _import(self) -> None:
        name = f"import {self._number} {self._count}"
        upload = self._person.upload(json.dumps({**self._file, "name": name}).encode(), "build.json")
        at = f"/api/garages/{self.kept.garage}/imports"
        number = self._again(lambda: self._person.ok("POST", at, {"upload": upload}))["id"]
        while not self._over.is_set():
            job = self._again(lambda: self._person.ok("GET", f"{at}/{number}"))
            if job["state"] == "done":
                self.kept.imports.add(name)
                return
            if job["state"] not in ("waiting", "checking", "storing"):
                self._wrong.append(f"{name}: {job['state']} {job['error']}")
                return
            time.sleep(0.2)

    def _backup(self) -> None:
        self.kept.backups.add(self._person.ok("POST", "/api/backups")["name"])


def sound(var: Path) -> list[str]:
    """What is wrong with the database file itself."""
    with contextlib.closing(sqlite3.connect(var / "gecko.sqlite3")) as database:
        found = [str(row) for row in database.execute("PRAGMA integrity_check") if row != ("ok",)]
        return found + [f"foreign key {row}" for row in database.execute("PRAGMA foreign_key_check")]


def check(writer: Writer, var: Path) -> list[str]:
    """What of all that was acknowledged to a writer is not there, or is there twice or half."""
    kept, wrong = writer.kept, []
    with contextlib.closing(sqlite3.connect(var / "gecko.sqlite3")) as database:

        def column(sql: str, *values: Any) -> list[Any]:
            return [row[0] for row in database.execute(sql, values)]

        document = json.loads(column("SELECT document FROM builds_setup WHERE id = ?", kept.setup)[0])
        name = document["rider"]["name"]
        if kept.saved and (not name.startswith("save ") or int(name.split()[1]) < kept.saved):
            wrong.append(f"save {kept.saved} is lost: it is {name}")
        newest = column("SELECT document FROM builds_revision WHERE setup_id = ? ORDER BY number DESC LIMIT 1", kept.setup)[0]
        if json.loads(newest) != document:
            wrong.append("the newest revision is not the setup")
        for what, table, text, told in (("trial", "logbook_trial", "note", kept.trials), ("entry", "logbook_journalentry", "text", kept.entries)):
            there = column(f"SELECT {text} FROM {table} WHERE build_id = ? AND {text} LIKE ?", kept.build, f"{what} %")
            wrong += [f"{one} is lost" for one in told - set(there)]
            if len(there) != len(set(there)):
                wrong.append(f"a {what} is there twice")
        ticked = bool(column("SELECT 1 FROM builds_tick WHERE setup_id = ? AND step = 'safe'", kept.setup))
        if kept.ticked is not None and ticked != kept.ticked:
            wrong.append(f"the tick is {ticked}, it was {kept.ticked}")
        builds = column("SELECT name FROM builds_build WHERE garage_id = ? AND name LIKE 'import %'", kept.garage)
        wrong += [f"{one} is lost" for one in kept.imports - set(builds)]
        if len(builds) != len(set(builds)):
            wrong.append("an import is there twice")
        sizes = column(
            "SELECT count(r.id) FROM builds_build b JOIN builds_setup s ON s.build_id = b.id LEFT JOIN builds_revision r ON r.setup_id = s.id "
            "WHERE b.garage_id = ? AND b.name LIKE 'import %' GROUP BY b.id",
            kept.garage,
        )
        if any(size != REVISIONS for size in sizes):
            wrong.append(f"half an import: {sorted(set(sizes))} of {REVISIONS} revisions")
    for backup in kept.backups:
        file = var / "backups" / backup
        # Rotation may have taken it; what is there is whole.
        if file.exists():
            with contextlib.closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as copy:
                if copy.execute("PRAGMA integrity_check").fetchone() != ("ok",):
                    wrong.append(f"{backup} is damaged")
    return wrong


def grow(server: Server, people: int) -> list[Person]:
    """So many people, each with an account and a garage of his own; the first keeps the server."""
    first = Person(server.port)
    first.come_in("user0", first=True)
    shared = first.ok("GET", "/api/garages")[0]["id"]
    everybody = [first]
    for number in range(1, people):
        # By invitation, one after another: a garage has its most members, so each leaves the first one again.
        token = first.ok("POST", f"/api/garages/{shared}/invitations", {"role": "builder"})["token"]
        person = Person(server.port)
        person.send("GET", "/api/session")
        person.ok("POST", "/api/session/join", {"token": token, "username": f"user{number}", "password": PASSWORD})
        person.ok("POST", "/api/garages", {"name": f"Garage {number}"})
        person.ok("POST", "/api/session/leave-garage", {"garage": shared})
        everybody.append(person)
    return everybody


def kills(server: Server) -> list[str]:
    """Writers write while workers and the whole server are killed again and again."""
    over, wrong = threading.Event(), list[str]()
    writers = [Writer(number, server, person, over, wrong) for number, person in enumerate(grow(server, WRITERS))]
    for writer in writers:
        writer.start()
    dice, began, killed = random.Random(5), time.monotonic(), 0
    for round_ in range(max(SERVER_KILLS, 1)):
        until = WORKER_KILLS * (round_ + 1) // max(SERVER_KILLS, 1)
        while killed < until:
            time.sleep(dice.uniform(0.3, 1.3))
            web = server.web()
            # Those that answer are killed seldom: nothing is acknowledged without them.
            others = [pid for pid in server.children() if pid not in web]
            if chosen := web if dice.random() < WEB_SHARE else others:
                with contextlib.suppress(ProcessLookupError):
                    os.kill(dice.choice(chosen), 9)
                killed += 1
        time.sleep(dice.uniform(0.0, 2.0))
        if round_ < SERVER_KILLS:
            server.kill()
            wrong += [f"after kill {round_ + 1}: {one}" for one in sound(server.var)]
            server.start()
        if round_ % 10 == 9 or round_ == SERVER_KILLS - 1:
            print(
                f"kills: {killed} of workers, {round_ + 1} of the server, {time.monotonic() - began:.0f} s, "
                f"{sum(w.kept.lost for w in writers)} answers lost, acknowledged {_acknowledged(writers)}, wrong {len(wrong)}",
                flush=True,
            )
    # Quiet: what was under way is done or given up, then all is counted.
    time.sleep(15)
    over.set()
    for writer in writers:
        writer.join(120)
    deadline = time.monotonic() + 120
    while time.monotonic() < deadline and _staged(server.var):
        time.sleep(1)
    server.stop()
    wrong += sound(server.var)
    if staged := _staged(server.var):
        wrong.append(f"{staged} garages of files being read in are left")
    for writer in writers:
        wrong += check(writer, server.var)
    print(f"kills: at the end acknowledged {_acknowledged(writers)}", flush=True)
    return wrong


def _acknowledged(writers: list[Writer]) -> str:
    kept = [w.kept for w in writers]
    return ", ".join(
        f"{count} {what}"
        for what, count in (
            ("versions saved", sum(k.version for k in kept)),
            ("trials", sum(len(k.trials) for k in kept)),
            ("entries", sum(len(k.entries) for k in kept)),
            ("imports", sum(len(k.imports) for k in kept)),
            ("backups", sum(len(k.backups) for k in kept)),
        )
    )


def _staged(var: Path) -> int:
    with contextlib.closing(sqlite3.connect(var / "gecko.sqlite3")) as database:
        return int(database.execute("SELECT count(*) FROM garage_garage WHERE name = 'being read in'").fetchone()[0])


def restores(server: Server) -> list[str]:
    """Ended in the middle of putting a backup back: it is the one state or the other, and no sign-in of before is good in what came back."""
    wrong: list[str] = []
    person = grow(server, 1)[0]
    garage = person.ok("GET", "/api/garages")[0]["id"]
    made = person.ok("POST", f"/api/garages/{garage}/builds", {"name": "before", "family": "quad", "setups": [{"name": "a", "document": safe_bike()}]})
    # Something to copy, so that there is a middle.
    for _ in range(4):
        person.ok("POST", f"/api/builds/{made['id']}/setups", {"name": "more", "document": safe_bike()})
    backup = person.ok("POST", "/api/backups")["name"]
    dice, came_back = random.Random(9), 0
    for _ in range(RESTORES):
        person.ok("PATCH", f"/api/builds/{made['id']}", {"name": "after"})
        with ThreadPoolExecutor(1) as one:
            asked = one.submit(person.send, "POST", f"/api/backups/{backup}/restore", {"confirm": backup})
            time.sleep(dice.uniform(0.0, 0.2))
            server.kill()
            with contextlib.suppress(Lost):
                asked.result()
        wrong += sound(server.var)
        with contextlib.closing(sqlite3.connect(server.var / "gecko.sqlite3")) as database:
            name = database.execute("SELECT name FROM builds_build").fetchone()[0]
            signed_in = database.execute("SELECT count(*) FROM django_session").fetchone()[0]
        if name not in ("before", "after"):
            wrong.append(f"after a restore that was ended the build is {name}")
        if name == "before":
            came_back += 1
            if signed_in:
                wrong.append("a sign-in of before came back")
        server.start()
        person.come_in("user0")
    print(f"restores: {RESTORES} ended in the middle, {came_back} had come back, wrong {len(wrong)}", flush=True)
    return wrong


class User:
    """Somebody at a setup: a save and an evaluation every few seconds, all plans once a minute."""

    def __init__(self, number: int, person: Person, over: threading.Event) -> None:
        self._dice, self._person, self._over = random.Random(number), person, over
        garage = person.ok("GET", "/api/garages")[-1]["id"]
        made = person.ok("POST", f"/api/garages/{garage}/builds", {"name": "Mine", "family": "quad", "setups": [{"name": "a", "document": safe_bike()}]})
        row = made["setups"][0]
        self._build, self._setup, self._document, self._version = made["id"], row["id"], row["document"], row["version"]
        self.saves: list[float] = []
        self.evaluations: list[float] = []
        self.plans: list[float] = []
        self.wrong: list[str] = []

    def use(self) -> None:
        """Use it until it is over."""
        plans_at = time.monotonic() + self._dice.uniform(0, 60)
        while not self._over.wait(self._dice.uniform(5, 15)):
            self._document["rider"]["mass_kg"] = {"value": round(self._dice.uniform(20, 90), 2), "basis": "measured"}
            draft = {"setup": self._document, "build_id": self._build}
            self._timed(self.evaluations, "POST", "/api/evaluate", draft)
            said = self._timed(self.saves, "PUT", f"/api/setups/{self._setup}", {"document": self._document, "based_on": self._version})
            if said is not None:
                self._version = said["version"]
            if time.monotonic() >= plans_at:
                plans_at += 60
                with ThreadPoolExecutor(6) as six:
                    for plan in PLANS:
                        six.submit(self._timed, self.plans, "POST", f"/api/{plan}", {**draft, "done": []} if plan == "hookup" else draft)

    def _timed(self, times: list[float], method: str, path: str, body: Any) -> Any:
        start = time.monotonic()
        status, said = self._person.send(method, path, body)
        times.append(time.monotonic() - start)
        if status >= 300:
            self.wrong.append(f"{method} {path}: {status} {str(said)[:200]}")
            return None
        return said


def shares(times: list[float]) -> str:
    """Middle, 95 % and longest of some times, in words."""
    ordered = sorted(times) or [0.0]
    return f"{len(times)} times, median {ordered[len(ordered) // 2]:.2f} s, 95 % {ordered[int(len(ordered) * 0.95)]:.2f} s, longest {ordered[-1]:.2f} s"


def users(server: Server) -> list[str]:
    """Many people at once, each at a setup of his own."""
    over = threading.Event()
    everybody = [User(number, person, over) for number, person in enumerate(grow(server, USERS))]
    threads = [threading.Thread(target=one.use, daemon=True) for one in everybody]
    for thread in threads:
        thread.start()
    began, most = time.monotonic(), 0.0
    while time.monotonic() - began < USERS_S:
        time.sleep(min(30.0, USERS_S))
        most = max(most, server.memory_mb())
    over.set()
    for thread in threads:
        thread.join(120)
    server.stop()
    saves = [t for one in everybody for t in one.saves]
    wrong = [text for one in everybody for text in one.wrong]
    for name, times in (("saves", saves), ("evaluations", [t for o in everybody for t in o.evaluations]), ("plans", [t for o in everybody for t in o.plans])):
        print(f"{USERS} users, {name}: {shares(times)}", flush=True)
    print(f"{USERS} users: memory of all processes at most {most:.0f} MB", flush=True)
    late = sum(t > LIMIT_S for t in saves)
    if late > 0.05 * len(saves):
        wrong.append(f"{late} of {len(saves)} saves took longer than {LIMIT_S} s")
    return wrong


def large(server: Server) -> list[str]:
    """Years of records go in while somebody saves all the time, and out again as they were."""
    writer, reader = grow(server, 2)
    garage = reader.ok("GET", "/api/garages")[-1]["id"]
    made = reader.ok("POST", f"/api/garages/{garage}/builds", {"name": "Long", "family": "quad", "setups": [{"name": "a", "document": safe_bike()}]})
    file = json.loads(reader.raw("GET", f"/api/builds/{made['id']}/export", None, "application/json")[1])
    first = file["setups"][0]["revisions"][0]
    file["setups"][0]["revisions"] = [{**first, "number": n + 1} for n in range(LARGE[0])]
    trial = {"setup": file["setups"][0]["key"], "revision": 1, "when": "2026-03-01T10:00:00Z", "passes": [{**PASSES[0], "direction": "out"}] * 10}
    trial |= {"knob": 0.8, "surface": "short grass", "grade": 0.01, "volts_before_v": 40.5, "volts_after_v": 39.2, "motor_c": 55.0, "note": "Warm day."}
    file["trials"] = [trial] * LARGE[1]
    content = json.dumps(file).encode()
    over, waits = threading.Event(), list[float]()

    def save() -> None:
        at = writer.ok("GET", "/api/garages")[0]["id"]
        build = writer.ok("POST", f"/api/garages/{at}/builds", {"name": "Short", "family": "quad", "setups": [{"name": "a", "document": safe_bike()}]})
        while not over.wait(0.05):
            start = time.monotonic()
            writer.ok("POST", f"/api/builds/{build['id']}/journal", {"kind": "note", "text": "Still here."})
            waits.append(time.monotonic() - start)

    thread = threading.Thread(target=save, daemon=True)
    thread.start()
    began = time.monotonic()
    upload = reader.upload(content, "long.json")
    sent = time.monotonic() - began
    at = f"/api/garages/{garage}/imports"
    job = reader.ok("POST", at, {"upload": upload})
    while (found := reader.ok("GET", f"{at}/{job['id']}"))["state"] in ("waiting", "checking", "storing"):
        time.sleep(0.2)
    took = time.monotonic() - began - sent
    over.set()
    thread.join(30)
    if found["state"] != "done":
        return [f"the import ended {found['state']}: {found['error']}"]
    start = time.monotonic()
    out = json.loads(reader.raw("GET", f"/api/builds/{found['came_in']['builds'][0]['id']}/export", None, "application/json")[1])
    print(
        f"large: {len(content) / 1e6:.0f} MB sent in {sent:.1f} s, read in in {took:.1f} s, out again in {time.monotonic() - start:.1f} s; "
        f"entries meanwhile: {shares(waits)}; memory of all processes {server.memory_mb():.0f} MB",
        flush=True,
    )
    server.stop()
    return [] if out == file else ["what went out is not what came in"]


def read_only(server: Server) -> list[str]:
    """A folder and a file the server's user may only read: everything opens, each save says why not."""
    if os.geteuid() != 0:
        print("read-only: left out, it needs root to give files away", flush=True)
        return []
    person = grow(server, 1)[0]
    garage = person.ok("GET", "/api/garages")[0]["id"]
    made = person.ok("POST", f"/api/garages/{garage}/builds", {"name": "Mine", "family": "quad", "setups": [{"name": "a", "document": safe_bike()}]})
    # Ended hard, so that the log stands beside the file as it does while it runs.
    server.kill()
    for file in [server.var, *server.var.iterdir()]:
        os.chown(file, 65534, 65534)
        file.chmod(0o555 if file.is_dir() else 0o444)
    # As somebody else to these files: what root may do beyond their modes is taken away.
    server.start("setpriv", "--bounding-set=-dac_override,-dac_read_search,-fowner")
    wrong = []
    for path in ("/api/session", "/api/garages", f"/api/garages/{garage}", f"/api/builds/{made['id']}", f"/api/builds/{made['id']}/export"):
        status, said = person.send("GET", path)
        if status != 200:
            wrong.append(f"read-only: GET {path}: {status} {str(said)[:200]}")
    setup = made["setups"][0]
    writes = [
        ("PUT", f"/api/setups/{setup['id']}", {"document": {**setup["document"], "rider": {"name": "x"}}, "based_on": setup["version"]}),
        ("POST", f"/api/builds/{made['id']}/journal", {"kind": "note", "text": "x"}),
        ("POST", "/api/uploads", {"name": "x", "size": 5}),
        ("POST", "/api/backups", None),
    ]
    for method, path, body in writes:
        status, said = person.send(method, path, body)
        if (status, said["code"] if isinstance(said, dict) else "") != (503, "read_only"):
            wrong.append(f"read-only: {method} {path}: {status} {str(said)[:200]}")
    status, said = person.send("POST", "/api/evaluate", {"setup": setup["document"]})
    if status != 200:
        wrong.append(f"read-only: evaluate: {status} {str(said)[:200]}")
    server.stop()
    print(f"read-only: wrong {len(wrong)}", flush=True)
    return wrong


def main() -> int:
    """Each part on a server of its own."""
    parts = sys.argv[1:] or ["kills", "restores", "large", "users", "read_only"]
    wrong: list[str] = []
    for part, act in (("kills", kills), ("restores", restores), ("large", large), ("users", users), ("read_only", read_only)):
        if part not in parts:
            continue
        with tempfile.TemporaryDirectory(prefix="gecko-soak-") as place:
            Path(place).chmod(0o755)
            server = Server(Path(place) / "var")
            server.command("migrate", "-v", "0")
            server.start()
            try:
                wrong += [f"{part}: {one}" for one in act(server)]
            finally:
                with contextlib.suppress(Exception):
                    server.kill()
    for one in wrong[:50]:
        print(one)
    print(f"{len(wrong)} wrong")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
