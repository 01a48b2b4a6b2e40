"""When something went wrong: what must be looked at before the machine is powered, charged or ridden again."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from django.db import transaction
from django.utils import timezone

from gecko.document.setup import load_setup
from gecko.plans.standing import OpenStop
from gecko.plans.trouble import Trouble, trouble_of
from server.builds.models import Build, Incident, Setup
from server.errors import Refused, not_found


def setup_in_use(build: Build) -> Setup | None:
    """The setup the machine is in now, else its newest."""
    setups = list(build.setups.all())
    return next((setup for setup in setups if setup.in_use), setups[-1] if setups else None)


def troubles(build: Build | None) -> list[Trouble]:
    """What to do when it goes wrong, with the switches of the machine as it is now; in general words without a machine."""
    setup = setup_in_use(build) if build is not None else None
    return trouble_of(load_setup(setup.document) if setup is not None else None)


@transaction.atomic
def open_incident(build: Build, user: Any, kind: str, note: str, done: list[str], sent_as: str | None = None) -> Incident:
    """Write down that something went wrong. What was already looked at is ticked at once; the rest stays open. Sent under a key that made one
    already, that one comes back."""
    if sent_as is not None and (made := build.incidents.filter(sent_as=sent_as).first()) is not None:
        return made
    found = next((one for one in troubles(build) if one.id == kind), None)
    if found is None:
        raise not_found("kind of trouble")
    now, who = timezone.now().isoformat(timespec="minutes"), user.get_username()
    checks = [
        {"key": check.key, "text": check.text, "gate": check.gate, **({"by": who, "when": now} if check.key in done else {"by": "", "when": ""})}
        for check in found.checks
    ]
    incident = Incident.objects.create(build=build, kind=kind, note=note.strip()[:500], checks=checks, by=user, by_name=who, sent_as=sent_as)
    build.journal.create(kind="crash" if kind == "crash" else "trouble", text=f"{found.title}. {note.strip()} By {who}."[:1000])
    return incident


def _incident(build: Build, incident_id: int) -> Incident:
    incident = build.incidents.filter(pk=incident_id).first()
    if incident is None:
        raise not_found("incident")
    return incident


@transaction.atomic
def close_check(build: Build, user: Any, incident_id: int, key: str, seen: str) -> Incident:
    """Say of one check of an incident what was seen, in at least three words."""
    incident = _incident(build, incident_id)
    check = next((one for one in incident.checks if one["key"] == key), None)
    if check is None:
        raise not_found("check")
    if len(seen.split()) < 3:
        raise Refused("Write what you saw, in at least three words: it is kept in the journal.", field="/seen")
    check |= {"by": user.get_username(), "when": timezone.now().isoformat(timespec="minutes"), "seen": seen.strip()[:300]}
    incident.save(update_fields=["checks"])
    build.journal.create(kind="trouble", text=f"{check['text']}: {seen.strip()} By {user.get_username()}."[:1000])
    return incident


def open_checks(build: Build) -> Iterator[OpenStop]:
    """Checks of incidents nobody has done yet, as open stops of every setup of the build."""
    for incident in build.incidents.all():
        for check in incident.checks:
            if not check["by"]:
                yield OpenStop(
                    key=f"incident:{incident.pk}:{check['key']}",
                    title=check["text"],
                    gate=check["gate"],
                    stage="care",
                    station="",
                    path="",
                    question="",
                    as_found=False,
                )
