"""Answers of the API go compressed over the line: a plan of driving is a tenth of its size then."""

from __future__ import annotations

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware


class JsonGZipMiddleware(GZipMiddleware):
    """Django's own compression, with its random padding against guessing by size, but for JSON answers only: files are sent as they are."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        """Compress a JSON answer for who takes it."""
        if response.streaming or not response.get("Content-Type", "").startswith("application/json"):
            return response
        return super().process_response(request, response)
