"""The server as a whole: parent, compute service and web process, started and stopped as a person does."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import signal
import socket
import sqlite3
import stat
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any, ClassVar
from unittest import TestCase

from gecko.tests.machines import bike
from tools.serving import free_port

ROOT = Path(__file__).resolve().parents[3]


def children(pid: int) -> set[int]:
    """Processes another one started."""
    return {int(one) for one in Path(f"/proc/{pid}/task/{pid}/children").read_text(encoding="ascii").split()}


def left_of(running: set[int]) -> list[int]:
    """Those of them still there after ten seconds at most."""
    for _ in range(100):
        left = [pid for pid in running if Path(f"/proc/{pid}").exists()]
        if not left:
            break
        time.sleep(0.1)
    return left


class Started(TestCase):
    """A server on a folder of its own: one for each test, or one for all of a class that leave it running."""

    port: ClassVar[int]
    environment: ClassVar[dict[str, str]]
    extra: ClassVar[dict[str, str]] = {}
    commands: ClassVar[tuple[list[str], ...]] = (["migrate", "-v", "0", "--skip-checks"],)
    for_all: ClassVar[bool] = False
    process: subprocess.Popen[str]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.port = free_port()
        cls.environment = {**os.environ, "GECKO_VAR": cls.enterClassContext(tempfile.TemporaryDirectory()), **cls.extra}
        for command in cls.commands:
            subprocess.run([sys.executable, "manage.py", *command], cwd=ROOT, env=cls.environment, check=True, capture_output=True)
        if cls.for_all:
            cls.process = cls.started(cls.addClassCleanup)

    def setUp(self) -> None:
        if not self.for_all:
            self.process = self.started(self.addCleanup)
        self.cookies = CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.cookies))

    @classmethod
    def started(cls, at_the_end: Callable[[Callable[[], object]], object]) -> subprocess.Popen[str]:
        """A server that answers. at_the_end: where to say what is done afterwards."""
        command = [sys.executable, "manage.py", "serve", "--port", str(cls.port)]
        process = subprocess.Popen(command, cwd=ROOT, env=cls.environment, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
        assert process.stdout is not None
        at_the_end(process.stdout.close)
        at_the_end(process.wait)
        at_the_end(process.kill)
        while "is open" not in (line := process.stdout.readline()):
            assert line, "The server ended before it answered."
        return process

    def send(self, path: str, body: Any = None, **headers: str) -> Any:
        token = next((cookie.value for cookie in self.cookies if cookie.name == "csrftoken"), "") or ""
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}{path}",
            None if body is None else json.dumps(body).encode(),
            {"Content-Type": "application/json", "X-CSRFToken": token, **headers},
        )
        return json.load(self.opener.open(request, timeout=60))


def niceness(pid: int) -> int:
    """How far a process stands back; the one that reads files in stands back most."""
    return int(Path(f"/proc/{pid}/stat").read_text(encoding="ascii").rsplit(")", 1)[1].split()[16])


class GoesOn(Started):
    """Whatever process of the server is killed, the server goes on, and what it had taken on is done; nor does a slow visitor stop it."""

    extra: ClassVar[dict[str, str]] = {"GECKO_DEMO": "1", "GECKO_REQUEST_HEAD_S": "1"}
    commands: ClassVar[tuple[list[str], ...]] = (["migrate", "-v", "0", "--skip-checks"], ["load_demo", "--skip-checks"])
    for_all = True

    @classmethod
    def tearDownClass(cls) -> None:
        """Killed itself in the end, it leaves nothing running."""
        running = children(cls.process.pid)
        cls.process.kill()
        cls.process.wait(10)
        assert left_of(running) == []
        super().tearDownClass()

    def fetched(self, path: str) -> bytes:
        with self.opener.open(f"http://127.0.0.1:{self.port}{path}", timeout=60) as answer:
            return bytes(answer.read())

    def patiently(self, path: str, body: Any = None) -> Any:
        """The answer, asked for until there is one: a process that is started again takes a moment."""
        for _ in range(60):
            with contextlib.suppress(OSError, http.client.HTTPException):
                return self.send(path, body)
            time.sleep(0.5)
        raise AssertionError(f"{path} was not answered.")

    def test_a_head_that_trickles_in_is_closed_and_a_slow_body_is_not(self) -> None:
        """A byte every tenth of a second: the head is cut off after its second, the body may take three."""
        with socket.create_connection(("127.0.0.1", self.port), timeout=10) as slow:
            began = time.monotonic()
            with self.assertRaises(OSError):
                for byte in b"GET / HTTP/1.1\r\n" + b"X-Slow: " + b"x" * 100:
                    slow.sendall(bytes([byte]))
                    time.sleep(0.1)
            self.assertLess(time.monotonic() - began, 6.0)
        with socket.create_connection(("127.0.0.1", self.port), timeout=10) as slow:
            slow.sendall(b"POST /api/session/sign-in HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 15\r\n\r\n")
            for byte in b'{"username": 1}':
                slow.sendall(bytes([byte]))
                time.sleep(0.2)
            self.assertTrue(slow.recv(12).startswith(b"HTTP/1.1 4"))

    def test_killed_while_it_reads_a_garage_in_it_begins_again_and_has_it_once(self) -> None:
        self.send("/api/session")
        garage = self.send("/api/garages")[0]["id"]
        before = len(self.send(f"/api/garages/{garage}/index")["builds"])
        build = self.send(f"/api/garages/{garage}/index")["builds"][0]["id"]
        file = json.loads(self.fetched(f"/api/builds/{build}/export"))
        first = file["setups"][0]["revisions"][0]
        # Long enough to be killed in the middle of it.
        file["setups"][0]["revisions"] += [{**first, "number": 1000 + n} for n in range(600)]
        content = json.dumps(file).encode()
        made = self.send("/api/uploads", {"name": "long.json", "size": len(content)})
        for offset in range(0, len(content), made["most_part"]):
            token = next(cookie.value for cookie in self.cookies if cookie.name == "csrftoken")
            request = urllib.request.Request(
                f"http://127.0.0.1:{self.port}/api/uploads/{made['id']}/parts/{offset}",
                content[offset : offset + made["most_part"]],
                {"Content-Type": "application/octet-stream", "X-CSRFToken": token or ""},
                method="PUT",
            )
            self.opener.open(request, timeout=60).close()
        job = self.send(f"/api/garages/{garage}/imports", {"upload": made["id"]})
        at = f"/api/garages/{garage}/imports/{job['id']}"
        killed: set[int] = set()
        for state in ("checking", "storing"):
            while (found := self.send(at))["state"] != state:
                self.assertIn(found["state"], ("waiting", "checking", "storing"), found)
                time.sleep(0.02)
            reader = max(children(self.process.pid), key=niceness)
            self.assertNotIn(reader, killed, "Another one was started.")
            killed.add(reader)
            os.kill(reader, signal.SIGKILL)
            self.assertEqual(len(self.send(f"/api/garages/{garage}/index")["builds"]), before)
        while (found := self.send(at))["state"] not in ("done", "failed"):
            time.sleep(0.1)
        self.assertEqual((found["state"], len(self.send(f"/api/garages/{garage}/index")["builds"])), ("done", before + 1))

    def test_a_killed_web_process_is_started_again(self) -> None:
        self.send("/api/session")
        for pid in children(self.process.pid):
            if niceness(pid) == 0:
                os.kill(pid, signal.SIGKILL)
        self.assertTrue(self.patiently("/api/session")["signed_in"])
        found = self.patiently("/api/evaluate", {"setup": bike().model_dump(mode="json")})
        self.assertGreater(found["outcome"]["top_speed_m_s"], 3.0)
        with contextlib.closing(sqlite3.connect(Path(self.environment["GECKO_VAR"]) / "cache.sqlite3")) as kept:
            self.assertGreater(kept.execute("SELECT count(*) FROM kept").fetchone()[0], 0, "What was computed is kept for every process.")
        self.assertIsNone(self.process.poll())


class BehindAProxy(Started):
    """As it stands behind a proxy that ends HTTPS: the proxy speaks plain HTTP and says in its headers what came in."""

    extra: ClassVar[dict[str, str]] = {
        "GECKO_HOSTS": "garage.example",
        "GECKO_HTTPS": "1",
        "GECKO_TRUSTED_PROXY": "127.0.0.1",
        "GECKO_LAN_CODE": "246810",
        "GECKO_ACCESS_LOG": "1",
    }
    BROUGHT: ClassVar[dict[str, str]] = {"Host": "garage.example", "X-Forwarded-Proto": "https", "X-Forwarded-For": "192.0.2.9"}

    def raw(self, method: str, path: str, body: Any = None, **headers: str) -> tuple[int, dict[str, str], str]:
        """A request over plain HTTP, as the proxy sends it; cookies are ours to carry, for they are marked as secure."""
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=30)
        self.addCleanup(connection.close)
        carried = {"Cookie": "; ".join(f"{name}={value}" for name, value in self.jar.items()), "X-CSRFToken": self.jar.get("csrftoken", "")}
        connection.request(method, path, None if body is None else json.dumps(body), {"Content-Type": "application/json", **carried, **headers})
        answer = connection.getresponse()
        for name, value in answer.getheaders():
            if name == "Set-Cookie":
                self.assertIn("Secure", value)
                name, _, kept = value.split(";")[0].partition("=")
                self.jar[name] = kept
        return answer.status, dict(answer.getheaders()), answer.read().decode()

    def test_signing_up_and_saving_work_and_what_comes_in_by_plain_http_is_sent_on(self) -> None:
        """In the end it is ended as one does: all is in the file, which is nobody else's, and nothing goes on running."""
        self.jar: dict[str, str] = {}
        self.assertEqual(self.raw("GET", "/healthz")[0::2], (200, "ok"))
        status, headers, _ = self.raw("GET", "/api/session", Host="garage.example")
        self.assertEqual((status, headers["Location"]), (301, "https://garage.example/api/session"))
        self.assertEqual(self.raw("GET", "/api/session", Host="elsewhere.example", **{"X-Forwarded-Proto": "https"})[0], 400)
        self.assertEqual(self.raw("GET", "/api/session", **self.BROUGHT)[0], 200)
        account = {"username": "ada", "password": "orchard-gate-7", "garage": "Plum Yard", "code": "246810"}
        origin = {"Origin": "https://garage.example"}
        self.assertEqual(self.raw("POST", "/api/session/sign-up", {**account, "code": "1"}, **self.BROUGHT, **origin)[0], 403)
        status, _, text = self.raw("POST", "/api/session/sign-up", account, **self.BROUGHT, **origin)
        self.assertEqual((status, json.loads(text)["signed_in"]), (200, True))
        new = {"name": "Clover", "family": "small dirt bike", "setups": [{"name": "As found", "document": bike().model_dump(mode="json")}]}
        garage = json.loads(self.raw("GET", "/api/garages", **self.BROUGHT)[2])[0]["id"]
        self.assertEqual(self.raw("POST", f"/api/garages/{garage}/builds", new, **self.BROUGHT, **origin)[0], 200)
        foreign = self.raw("POST", f"/api/garages/{garage}/builds", new, **self.BROUGHT, Origin="https://example.org")
        self.assertEqual(foreign[0], 403)
        running = children(self.process.pid)
        self.assertGreaterEqual(len(running), 4, "A web process, a worker in each lane, and who reads files in.")
        self.process.send_signal(signal.SIGTERM)
        self.assertEqual(self.process.wait(30), 0)
        var = Path(self.environment["GECKO_VAR"])
        self.assertEqual(stat.S_IMODE(var.stat().st_mode), 0o700)
        self.assertEqual(stat.S_IMODE((var / "gecko.sqlite3").stat().st_mode), 0o600)
        log = var / "gecko.sqlite3-wal"
        self.assertEqual(log.stat().st_size if log.exists() else 0, 0, "The log is in the file.")
        self.assertEqual(left_of(running), [])
