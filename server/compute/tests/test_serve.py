"""The server as a whole: parent, compute service and web process, started and stopped as a person does."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import tempfile
import time
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from unittest import TestCase

from gecko.tests.machines import bike
from tools.screenshots import free_port

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


class Serves(TestCase):
    def setUp(self) -> None:
        var = self.enterContext(tempfile.TemporaryDirectory())
        self.port = free_port()
        environment = {**os.environ, "GECKO_VAR": var, "GECKO_DEMO": "1"}
        for command in (["migrate", "-v", "0"], ["load_demo"]):
            subprocess.run([sys.executable, "manage.py", *command], cwd=ROOT, env=environment, check=True, capture_output=True)
        self.process = subprocess.Popen([sys.executable, "manage.py", "serve", "--port", str(self.port)], cwd=ROOT, env=environment, stdout=subprocess.PIPE, text=True)
        self.addCleanup(self.process.kill)
        assert self.process.stdout is not None
        self.addCleanup(self.process.stdout.close)
        while "is open at" not in self.process.stdout.readline():
            pass
        self.cookies = CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.cookies))

    def send(self, path: str, body: Any = None) -> Any:
        token = next((cookie.value for cookie in self.cookies if cookie.name == "csrftoken"), "") or ""
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}{path}",
            None if body is None else json.dumps(body).encode(),
            {"Content-Type": "application/json", "X-CSRFToken": token},
        )
        return json.load(self.opener.open(request, timeout=60))

    def test_it_answers_computes_and_leaves_nothing_running(self) -> None:
        self.send("/api/session")
        found = self.send("/api/evaluate", {"setup": bike().model_dump(mode="json")})
        self.assertGreater(found["outcome"]["top_speed_m_s"], 3.0)
        running = children(self.process.pid)
        self.assertGreaterEqual(len(running), 3, "A web process and a worker in each lane.")
        self.process.send_signal(signal.SIGTERM)
        self.assertEqual(self.process.wait(30), 0)
        self.assertEqual(left_of(running), [])

    def test_when_the_parent_is_killed_nothing_is_left_either(self) -> None:
        running = children(self.process.pid)
        self.process.kill()
        self.process.wait(10)
        self.assertEqual(left_of(running), [])
