"""URLs: the API, and the web application for everything else."""

from __future__ import annotations

from django.conf import settings
from django.db import connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from server.api import api


@ensure_csrf_cookie
def web_application(_request: HttpRequest) -> HttpResponse:
    """The page that loads the web application; it does its own routing."""
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The web code is not built yet: run `make build`.", status=503, content_type="text/plain")
    response = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


def healthz(_request: HttpRequest) -> HttpResponse:
    """Whether requests are answered and the database can be read: for a proxy or a watchman."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1")
    return HttpResponse("ok", content_type="text/plain")


def no_such_api(request: HttpRequest) -> JsonResponse:
    """Unknown API addresses answer in the API's own form."""
    return JsonResponse({"code": "not_found", "message": f"There is nothing at {request.path}."}, status=404)


urlpatterns = [
    path("healthz", healthz),
    path("api/", api.urls),
    re_path(r"^api/.*$", no_such_api),
    re_path(r"^(?!static/|assets/).*$", web_application),
]
