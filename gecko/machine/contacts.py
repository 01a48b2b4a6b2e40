"""What a plug stands and what its contacts cost."""

from __future__ import annotations

from gecko.common.figures import Figure
from gecko.document.parts.plug import Plug
from gecko.reference.tables import contact

BROWNED = 10.0
"""A browned contact has at least this many times its resistance. [1]"""


def plug_stands_a(plug: Plug) -> float:
    """Amps in force: what is printed on it, else its kind's. [A]"""
    return float(plug.rating_a.value) if plug.rating_a else contact(plug.kind)[1]


def contact_figure(plug: Plug) -> Figure:
    """Resistance of one contact as a figure: entered, else its kind's, ten times when browned. [Ω]"""
    return plug.resistance_ohm or Figure(value=contact(plug.kind)[0] * (BROWNED if plug.browned else 1.0), basis="assumed")


def plug_ohm(plug: Plug) -> float:
    """Resistance of all its poles. [Ω]"""
    return float(plug.poles * contact_figure(plug).value)
