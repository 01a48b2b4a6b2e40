"""A server of one's own to be hard on, and people who use it over HTTP as their browsers do."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from typing import Any, Self

ROOT = Path(__file__).resolve().parent.parent
MANY_THREADS = 20
PASSWORD = "orchard-gate-7"


def free_port() -> int:
    """A port nobody listens on."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


class Server:
    """A server process with its children, on a folder and a port of its own; as a context it runs, and is ended after it."""

    def __init__(self, var: Path, **extra: str) -> None:
        self.var, self.port = var, free_port()
        self.address = f"http://127.0.0.1:{self.port}"
        self.environment = {**os.environ, "GECKO_VAR": str(var), **extra}
        self.process: subprocess.Popen[bytes] | None = None

    def command(self, *words: str) -> None:
        """One of the program's own commands, done to its end."""
        subprocess.run([sys.executable, "manage.py", *words], cwd=ROOT, env=self.environment, check=True, stdout=subprocess.DEVNULL)

    def script(self, text: str) -> None:
        """A Python script on its data."""
        subprocess.run([sys.executable, "-c", text], cwd=ROOT, env={**self.environment, "DJANGO_SETTINGS_MODULE": "server.settings"}, check=True)

    def __enter__(self) -> Self:
        self.start()
        return self

    def __exit__(self, *_: object) -> None:
        self.stop()

    def start(self, *before: str) -> None:
        """Start it, and wait until it answers. before: a command it is started through."""
        words = [*before, sys.executable, "manage.py", "serve", "--port", str(self.port)]
        self.process = subprocess.Popen(words, cwd=ROOT, env=self.environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        for _ in range(600):
            with contextlib.suppress(OSError, http.client.HTTPException):
                connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=5)
                connection.request("GET", "/healthz")
                if connection.getresponse().status == 200:
                    return
            if self.process.poll() is not None:
                raise RuntimeError(f"The server ended with {self.process.returncode}.")
            time.sleep(0.1)
        raise RuntimeError("The server does not answer.")

    def children(self) -> list[int]:
        """Its processes, but the first."""
        assert self.process is not None
        pid = self.process.pid
        with contextlib.suppress(OSError):
            return [int(one) for one in Path(f"/proc/{pid}/task/{pid}/children").read_text(encoding="ascii").split()]
        return []

    def web(self) -> list[int]:
        """Those of its processes that answer requests: they have many threads."""
        found = []
        for pid in self.children():
            with contextlib.suppress(OSError):
                if len(os.listdir(f"/proc/{pid}/task")) > MANY_THREADS:
                    found.append(pid)
        return found

    def memory_mb(self) -> float:
        """What all its processes hold of memory together. [MB]"""
        assert self.process is not None
        pages = 0
        for pid in [self.process.pid, *self.children()]:
            with contextlib.suppress(OSError):
                pages += int(Path(f"/proc/{pid}/statm").read_text(encoding="ascii").split()[1])
        return pages * os.sysconf("SC_PAGE_SIZE") / 1e6

    def kill(self) -> None:
        """End all of it at once, as when the power goes."""
        assert self.process is not None
        children = self.children()
        for pid in [self.process.pid, *children]:
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)
        self.process.wait()
        while any(Path(f"/proc/{pid}").exists() for pid in children):
            time.sleep(0.02)

    def stop(self) -> None:
        """End it as one does."""
        assert self.process is not None
        self.process.terminate()
        self.process.wait(60)


def demo_server(var: Path) -> Server:
    """A server of its own with the demo garage, not yet started."""
    server = Server(var, GECKO_DEMO="1")
    server.command("migrate", "-v", "0")
    server.command("load_demo")
    return server


class Lost(Exception):
    """No answer came: whether it was done nobody knows."""


class Person:
    """Somebody with a browser of his own."""

    def __init__(self, port: int) -> None:
        self._port = port
        self._cookies: dict[str, str] = {}

    def raw(self, method: str, path: str, body: bytes | None, kind: str, **headers: str) -> tuple[int, bytes]:
        """A request; status and content of the answer. Raises Lost where none came."""
        connection = http.client.HTTPConnection("127.0.0.1", self._port, timeout=60)
        carried = {"Content-Type": kind, "Cookie": "; ".join(f"{name}={value}" for name, value in self._cookies.items())}
        try:
            connection.request(method, path, body, {**carried, "X-CSRFToken": self._cookies.get("csrftoken", ""), **headers})
            answer = connection.getresponse()
            content = answer.read()
        except (OSError, http.client.HTTPException) as error:
            raise Lost(str(error)) from error
        finally:
            connection.close()
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self._cookies[key] = rest.split(";")[0]
        return answer.status, content

    def send(self, method: str, path: str, body: Any = None, **headers: str) -> tuple[int, Any]:
        """A request with a JSON body; status and JSON of the answer."""
        content = None if body is None else json.dumps(body).encode()
        status, said = self.raw(method, path, content, "application/json", **headers)
        with contextlib.suppress(ValueError):
            return status, json.loads(said) if said else None
        return status, said

    def ok(self, method: str, path: str, body: Any = None, **headers: str) -> Any:
        """The JSON of an answer that must have worked."""
        status, said = self.send(method, path, body, **headers)
        if status >= 300:
            raise RuntimeError(f"{method} {path}: {status} {str(said)[:300]}")
        return said

    def come_in(self, name: str, *, first: bool = False) -> None:
        """Sign in; the first of all makes the account."""
        self.send("GET", "/api/session")
        body = {"username": name, "password": PASSWORD}
        self.ok("POST", "/api/session/sign-up" if first else "/api/session/sign-in", {**body, "garage": "Soak"} if first else body)

    def upload(self, content: bytes, name: str) -> int:
        """A file sent part by part."""
        made = self.ok("POST", "/api/uploads", {"name": name, "size": len(content)})
        step = made["most_part"]
        for offset in range(0, len(content), step):
            status, said = self.raw("PUT", f"/api/uploads/{made['id']}/parts/{offset}", content[offset : offset + step], "application/octet-stream")
            if status >= 300:
                raise RuntimeError(f"upload: {status} {said[:200]!r}")
        return int(made["id"])
