"""A chain drive's geometry and load: links, centre distance, pull."""

from __future__ import annotations

import math
from dataclasses import dataclass

ALLOWABLE_SHARE = 1.0 / 5.6
"""Load a chain takes in use as a share of its minimum tensile strength: about what chain tables print. This project's planning value. [1]"""


def links_needed(motor_teeth: int, wheel_teeth: int, centre_m: float, pitch_m: float) -> float:
    """Links of a chain around two sprockets at a centre distance, `2C/p + (N1+N2)/2 + ((N2−N1)/2π)²·p/C`. [1]

    centre_m, pitch_m [m]. Source: the usual length formula of roller chain drives (ISO 606 annex, Machinery's practice).

    >>> round(links_needed(11, 55, 0.30, 0.00635), 2)
    128.53
    """
    spread = (wheel_teeth - motor_teeth) / (2.0 * math.pi)
    return 2.0 * centre_m / pitch_m + (motor_teeth + wheel_teeth) / 2.0 + spread * spread * pitch_m / centre_m


def centre_for(motor_teeth: int, wheel_teeth: int, links: int, pitch_m: float) -> float | None:
    """Centre distance that so many links ask for, the inverse of `links_needed`; None where the chain is too short to go round. [m]

    >>> round(centre_for(11, 55, 128, 0.00635), 4)
    0.2983

    Derived here: the chain-length formula of `links_needed` solved for the centre.
    """
    rest = links - (motor_teeth + wheel_teeth) / 2.0
    spread = (wheel_teeth - motor_teeth) / (2.0 * math.pi)
    root = rest * rest - 8.0 * spread * spread
    return None if root < 0.0 or rest <= 0.0 else pitch_m / 4.0 * (rest + math.sqrt(root))


def sprocket_radius_m(teeth: int, pitch_m: float) -> float:
    """Pitch radius of a sprocket, `p/(2 sin(π/N))`. [m]

    >>> round(sprocket_radius_m(55, 0.00635) * 1000, 1)
    55.6

    Source: pitch circle of a chain sprocket, ISO 606.
    """
    return pitch_m / (2.0 * math.sin(math.pi / teeth))


@dataclass(frozen=True)
class ChainFit:
    """A chain for two sprockets: whole even links, the centre distance they ask for [m], and how far that is from the present one [m]."""

    links: int
    centre_m: float
    moves_m: float | None


def fit_chain(motor_teeth: int, wheel_teeth: int, centre_m: float, pitch_m: float, links: int | None = None) -> ChainFit | None:
    """The chain for a pair of sprockets at a centre distance [m]: the present links where they are given, else the next even number.

    Even, since an odd one needs a half link. None where the present chain does not go round.

    Source: as `links_needed`.
    """
    if links is None:
        links = 2 * math.ceil(links_needed(motor_teeth, wheel_teeth, centre_m, pitch_m) / 2.0 - 1e-9)
    asked = centre_for(motor_teeth, wheel_teeth, links, pitch_m)
    return None if asked is None else ChainFit(links, asked, asked - centre_m)
