"""The API: routers of every app, and errors mapped to HTTP once."""

from __future__ import annotations

import logging
import secrets
import sqlite3

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.db import OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError
from ninja.errors import ValidationError as RequestError
from ninja.security import django_auth
from pydantic import ValidationError

from gecko.common.errors import GeckoError, field_problems
from server.accounts.api import router as accounts
from server.bin.api import router as bin_
from server.builds.api import router as builds
from server.engine.api import router as engine
from server.errors import Refused
from server.exchange.api import router as exchange
from server.garage.api import router as garage
from server.keeping.api import router as keeping
from server.logbook.api import router as logbook
from server.overview.api import router as overview
from server.parsing import StrictJson
from server.photos.api import router as photos
from server.rack.api import router as rack
from server.sharing.api import router as sharing
from server.uploads.api import router as uploads

log = logging.getLogger("server.api")

api = NinjaAPI(title="Plucky Gecko", version="1", auth=django_auth, urls_namespace="api", docs_url=None, parser=StrictJson())
api.add_router("/session", accounts)
api.add_router("", garage)
api.add_router("", rack)
api.add_router("", photos)
api.add_router("", overview)
api.add_router("", builds)
api.add_router("", logbook)
api.add_router("", engine)
api.add_router("", uploads)
api.add_router("", exchange)
api.add_router("", sharing)
api.add_router("", keeping)
api.add_router("", bin_)


@api.exception_handler(Refused)
def refused(request: HttpRequest, error: Refused) -> HttpResponse:
    """A refusal with its own status."""
    return api.create_response(request, error.body(), status=error.status)


@api.exception_handler(GeckoError)
def core_refused(request: HttpRequest, error: GeckoError) -> HttpResponse:
    """A refusal of the core."""
    return refused(request, Refused(error.message, code=error.code, field=error.path, hint=error.hint))


@api.exception_handler(ValidationError)
def document_wrong(request: HttpRequest, error: ValidationError) -> HttpResponse:
    """A Setup document that is wrong: every field with its sentence."""
    problems = field_problems(error)
    return refused(request, Refused(problems[0]["message"], code="setup_invalid", field=problems[0]["path"], problems=problems))


@api.exception_handler(RequestError)
def request_wrong(request: HttpRequest, error: RequestError) -> HttpResponse:
    """A request of the wrong shape."""
    problems = [{"path": "/" + "/".join(str(step) for step in item["loc"] if step not in ("body", "payload")), "message": str(item["msg"])} for item in error.errors]
    return refused(request, Refused(problems[0]["message"], code="request_invalid", field=problems[0]["path"], problems=problems))


@api.exception_handler(AuthenticationError)
def signed_out(request: HttpRequest, _error: AuthenticationError) -> HttpResponse:
    """Nobody is signed in."""
    return refused(request, Refused("Sign in first.", code="signed_out", status=401))


@api.exception_handler(Http404)
def nothing_there(request: HttpRequest, _error: Http404) -> HttpResponse:
    """Nothing there."""
    return refused(request, Refused("There is nothing here.", code="not_found", status=404))


@api.exception_handler(HttpError)
def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
    """Errors of the request itself, such as JSON that cannot be read."""
    if isinstance(error.__cause__, Refused):
        return refused(request, error.__cause__)
    return refused(request, Refused(str(error), code="request_invalid", status=error.status_code))


@api.exception_handler(RequestDataTooBig)
def too_big(request: HttpRequest, _error: RequestDataTooBig) -> HttpResponse:
    """A body beyond what the server reads."""
    most = settings.DATA_UPLOAD_MAX_MEMORY_SIZE // 2**20
    return refused(request, Refused(f"This is larger than the {most} MB one request may have.", code="too_large", status=413))


@api.exception_handler(OverflowError)
def number_too_large(request: HttpRequest, _error: OverflowError) -> HttpResponse:
    """A number in an address that no database holds."""
    return nothing_there(request, Http404())


STORES: tuple[tuple[str, str, int, str], ...] = (
    ("locked", "locked_database", 503, "The database is busy with something long. Try again in a moment."),
    ("full", "disk_full", 507, "The server's disk is full: nothing more can be saved until there is room."),
    ("readonly", "read_only", 503, "The server may not write its database: its file or folder is read-only."),
    ("unable to open", "read_only", 503, "The server may not write its database: its file or folder is read-only."),
    ("No space left", "disk_full", 507, "The server's disk is full: nothing more can be saved until there is room."),
    ("Read-only file system", "read_only", 503, "The server may not write where it keeps files: the disk is read-only."),
    ("Permission denied", "read_only", 503, "The server may not write where it keeps files: the folder is read-only."),
)
"""What SQLite or the system says when it cannot store, and how it is told."""


@api.exception_handler(OperationalError)
@api.exception_handler(sqlite3.OperationalError)
@api.exception_handler(OSError)
def not_stored(request: HttpRequest, error: Exception) -> HttpResponse:
    """The database, a copy of it being made, or a folder could not do it: told for what it is."""
    for words, code, status, message in STORES:
        if words in str(error):
            log.error("%s %s: %s", request.method, request.path, error)
            return refused(request, Refused(message, code=code, status=status))
    return failed(request, error)


@api.exception_handler(Exception)
def failed(request: HttpRequest, error: Exception) -> HttpResponse:
    """An unforeseen error: the answer holds a reference under which the log has the details."""
    reference = secrets.token_hex(4)
    log.error("reference %s: %s %s", reference, request.method, request.path, exc_info=error)
    words = f"Something went wrong on the server; nothing was changed. If it happens again, pass on this reference: {reference}."
    return refused(request, Refused(words, code="failed", status=500, extra={"reference": reference}))
