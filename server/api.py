"""The API: routers of every app, and errors mapped to HTTP once."""

from __future__ import annotations

from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError
from ninja.errors import ValidationError as RequestError
from ninja.security import django_auth
from pydantic import ValidationError

from gecko.errors import GeckoError, field_problems
from server.accounts.api import router as accounts
from server.builds.api import router as builds
from server.engine.api import router as engine
from server.errors import Refused
from server.garage.api import router as garage
from server.logbook.api import router as logbook

api = NinjaAPI(title="Plucky Gecko", version="1", auth=django_auth, urls_namespace="api", docs_url=None)
api.add_router("/session", accounts)
api.add_router("", garage)
api.add_router("", builds)
api.add_router("", logbook)
api.add_router("", engine)


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
    return refused(request, Refused(str(error), code="request_invalid", status=error.status_code))
