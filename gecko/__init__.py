"""The computation core of Plucky Gecko: packs, wire, fuses, motors and motion of small electric machines.

No Django, no network, no clock. SI units inside (V, A, Ω, W, J, s, m, kg, N, rad/s); temperatures in °C, capacity in Ah.
"""

__version__ = "0.1.0"
