"""What a link holds: unguessable, told once, kept as a hash only."""

from __future__ import annotations

import hashlib
import secrets


def new_token() -> str:
    """256 bits of chance, as they stand in a link."""
    return secrets.token_urlsafe(32)


def hash_of(token: str) -> str:
    """What is kept of a token. It has 256 bits of chance: a plain hash of it cannot be searched."""
    return hashlib.sha256(token.encode()).hexdigest()
