"""Computing apart: turns, budgets, and that an asker who leaves leaves no work behind."""

from __future__ import annotations

import json
import subprocess
import sys
import threading
import time
from concurrent.futures import Future
from dataclasses import replace
from multiprocessing.connection import Listener
from pathlib import Path
from typing import Any
from unittest import TestCase

from gecko.common.errors import GeckoError
from gecko.document.context import Context
from gecko.plans.evaluate import evaluate
from gecko.tests.machines import bike
from server.compute.client import Asker, Door, asking
from server.compute.client import answer_to as ask
from server.compute.client import use as use_door
from server.compute.jobs import Job, compute
from server.compute.service import MOST_WAITING, Turns, Waiting
from server.errors import Refused

ROOT = Path(__file__).resolve().parents[3]


def job(kind: str = "evaluation") -> Job:
    return Job(kind, bike(), Context())


class Jobs(TestCase):
    def test_an_answer_is_the_cores_own(self) -> None:
        self.assertEqual(json.loads(compute(job())), evaluate(bike()).model_dump(mode="json"))

    def test_words_tell_apart_all_an_answer_depends_on(self) -> None:
        others = [
            job("ranges"),
            Job("evaluation", bike(rider=None), Context()),
            Job("evaluation", bike(), Context(baseline=bike())),
            Job("evaluation", bike(), Context(is_baseline=True)),
            Job("evaluation", bike(), Context(stock=bike())),
            Job("evaluation", bike(), Context(), "other"),
        ]
        self.assertEqual(len({one.words for one in [job(), *others]}), 7)
        self.assertEqual(Job("evaluation", bike(), Context(), lane="now").words, job().words)


class InTurns(TestCase):
    def test_askers_take_turns_each_ones_oldest_first(self) -> None:
        turns, kinds = Turns(), ("ranges", "fixes", "power")
        for asker, kind in [("a", kind) for kind in kinds] + [("b", "drive"), ("c", "changes")]:
            turns.put(asker, Waiting(job(kind)))
        taken = [turns.take() for _ in range(5)]
        self.assertEqual([one.job.kind for one in taken if one], ["ranges", "drive", "changes", "fixes", "power"])

    def test_nobody_queues_without_end_and_what_is_given_up_makes_room(self) -> None:
        turns, waiting = Turns(), [Waiting(job()) for _ in range(MOST_WAITING)]
        self.assertTrue(all(turns.put("a", one) for one in waiting))
        self.assertFalse(turns.put("a", Waiting(job())))
        self.assertTrue(turns.put("b", Waiting(job())))
        waiting[0].answer.cancel()
        self.assertTrue(turns.put("a", Waiting(job())))

    def test_what_is_about_more_may_take_longer(self) -> None:
        """Of several setups a share each, of many trials one for ten, of a file one for four million characters."""
        for kind, extra, shares in (("ranges", None, 1), ("compare", [1, 2, 3], 3), ("predictions", [0] * 21, 3), ("course", ("x" * 5_000_000, "track"), 2)):
            self.assertEqual(replace(job(kind), extra=extra).shares, shares)

    def test_what_nobody_waits_for_is_not_done(self) -> None:
        turns, left, stays = Turns(), Waiting(job("ranges")), Waiting(job("fixes"))
        turns.put("a", left)
        turns.put("a", stays)
        left.answer.cancel()
        self.assertIs(turns.take(), stays)

    def test_a_closed_queue_lets_its_workers_go(self) -> None:
        turns, found = Turns(), Future[Any]()
        threading.Thread(target=lambda: found.set_result(turns.take()), daemon=True).start()
        turns.close()
        self.assertIsNone(found.result(5))


class AtTheDoor(TestCase):
    """The web process's side against a service that answers as told."""

    def setUp(self) -> None:
        listener = Listener(family="AF_UNIX", authkey=b"k")
        self.addCleanup(listener.close)
        self.said: list[tuple[Any, ...]] = []
        self.answers: dict[str, Any] = {}
        threading.Thread(target=self._serve, args=(listener,), daemon=True).start()
        use_door(Door(str(listener.address), b"k", 2))
        self.addCleanup(use_door, None)

    def _serve(self, listener: Listener) -> None:
        with listener.accept() as connection:
            while True:
                try:
                    said = connection.recv()
                except (EOFError, OSError):
                    return
                self.said.append(said)
                if said[0] == "ask" and said[3].kind in self.answers:
                    connection.send((said[1], self.answers[said[3].kind]))

    def test_an_answer_comes_back_and_the_asker_is_named(self) -> None:
        self.answers["ranges"] = ("done", "{}")
        token = asking.set(Asker(lambda: "account 3"))
        self.addCleanup(asking.reset, token)
        self.assertEqual(ask(job("ranges")), "{}")
        self.assertEqual(self.said[0][2], "account 3")

    def test_each_way_it_can_go_wrong_is_told(self) -> None:
        self.answers = {
            "ranges": ("refused", GeckoError("No such thing.", code="unknown", path="/motor")),
            "fixes": ("too long", 10),
            "power": ("busy", 24),
            "drive": ("failed", "Traceback"),
        }
        with self.assertRaises(GeckoError) as core:
            ask(job("ranges"))
        self.assertEqual((core.exception.code, core.exception.path), ("unknown", "/motor"))
        for kind, code, status in (("fixes", "too_long", 422), ("power", "busy", 429)):
            with self.assertRaises(Refused) as refused:
                ask(job(kind))
            self.assertEqual((refused.exception.code, refused.exception.status), (code, status))
        with self.assertRaisesRegex(Exception, "Traceback"):
            ask(job("drive"))

    def test_when_the_browser_has_gone_the_service_is_told(self) -> None:
        token = asking.set(Asker(gone=lambda: True))
        self.addCleanup(asking.reset, token)
        with self.assertRaises(Refused) as refused:
            ask(job("changes"))
        self.assertEqual(refused.exception.code, "gone")
        for _ in range(100):
            if len(self.said) == 2:
                break
            time.sleep(0.02)
        self.assertEqual([said[0] for said in self.said], ["ask", "gone"])
        self.assertEqual(self.said[0][1], self.said[1][1])

    def test_threads_stay_free_for_what_needs_no_computing(self) -> None:
        """Two may wait; the third is told at once."""
        over = threading.Event()

        def wait() -> None:
            token = asking.set(Asker(gone=over.is_set))
            try:
                ask(job("changes"))
            except Refused:
                pass
            finally:
                asking.reset(token)

        waiting = [threading.Thread(target=wait) for _ in range(2)]
        for thread in waiting:
            thread.start()
        while len(self.said) < 2:
            time.sleep(0.01)
        with self.assertRaises(Refused) as refused:
            ask(job("changes"))
        self.assertEqual((refused.exception.code, refused.exception.status), ("busy", 503))
        over.set()
        for thread in waiting:
            thread.join()


SERVED = """
import os
import signal
import time

from gecko.document.context import Context
from gecko.document.parts.rider import Rider
from gecko.tests.machines import bike
from server.compute import service as room
from server.compute.jobs import Job
from server.compute.service import Service

# As urgent as the others: beside other tests one that stands back would hardly ever come to its turn.
room.LATER_NICENESS = 0

def used(pid):
    # Processor time of a process. [s]
    fields = open(f"/proc/{pid}/stat").read().rsplit(")", 1)[1].split()
    return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")


if __name__ == "__main__":
    service = Service(budget_s=1, later=1)
    setup, around = bike(), Context()
    endless = Job("drive", setup, around, tuple(Rider(name=str(i), age_years=7) for i in range(20_000)))
    broken = Job("no such kind", setup, around)
    late = [service.submit("a", one).answer for one in (endless, broken, Job("ranges", setup, around))]
    now = service.submit("b", Job("evaluation", setup, around, lane="now")).answer
    print(now.result(60)[0], all(one.done() for one in late))
    print([one.result(60)[0] for one in late])
    given_up = [service.submit("c", endless) for _ in range(2)]
    given_up[1].give_up()
    worker = service._workers[1]
    ends = []
    for kills in (1, 2):
        given_up[0].answer.result(60)
        killed = service.submit("d", endless).answer
        for _ in range(kills):
            time.sleep(0.4)
            pid = worker._process.pid
            while not worker._ready:
                time.sleep(0.01)
            os.kill(pid, signal.SIGKILL)
            while worker._process.pid == pid:
                time.sleep(0.01)
        ends.append(killed.result(60)[0])
    print(ends)
    service.submit("e", Job("ranges", setup, around)).answer.result(60)
    left = service.submit("e", endless)
    time.sleep(0.3)
    with service._hush:
        time.sleep(0.1)
        before = used(worker._process.pid)
        time.sleep(0.4)
        print("still" if used(worker._process.pid) - before < 0.1 else "at work")
    left.give_up()
    print(left.answer.result(60)[0])
    pid = worker._process.pid
    print([service.submit("e", Job("ranges", setup, around)).answer.result(60)[0] for _ in range(2)], worker._process.pid == pid)
    service.stop()
    print("stopped")
"""


class Served(TestCase):
    def test_workers_keep_to_their_budget_and_are_replaced(self) -> None:
        """A second of processor time ends what would take minutes, and only that; the other lane never waited for it. A job whose worker was killed is
        done by the next one; one that saw two ended is given up. One nobody waits for is left in the middle, and its worker does the next.
        While the first lane's job is done, the other worker holds still."""
        ran = subprocess.run([sys.executable, "-c", SERVED], cwd=ROOT, capture_output=True, text=True, timeout=300, check=False)
        self.assertEqual(
            ran.stdout.splitlines(),
            ["done False", "['too long', 'failed', 'done']", "['too long', 'failed']", "still", "gone", "['done', 'done'] True", "stopped"],
            ran.stderr,
        )
