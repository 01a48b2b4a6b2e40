"""Kinds of parts that the tables tell apart."""

from __future__ import annotations

from typing import Literal

DriveKind = Literal["hub", "chain", "plastic gearbox", "differential", "worm transaxle"]
Tyre = Literal["plastic", "banded plastic", "solid", "pneumatic"]
Brake = Literal["gearbox drag", "drum or band", "rim", "disc"]
