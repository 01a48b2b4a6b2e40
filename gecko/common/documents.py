"""JSON as it comes and goes."""

from __future__ import annotations

from typing import Any, TypeAlias

Document: TypeAlias = dict[str, Any]
"""A JSON object whose fields nobody has checked yet: a setup before it is validated, or one that edits change in place. Any, because what
stands where is what validating finds out."""
