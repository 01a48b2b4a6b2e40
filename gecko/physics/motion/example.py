"""A machine in round numbers, by which the examples of the formulas can be checked in one's head."""

from __future__ import annotations

from gecko.physics.electric.bank import BankModel, RowModel, Unit
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.electric.operating_point import ControllerModel
from gecko.physics.heat.motor import MotorThermal
from gecko.physics.motion.machine import Machine
from gecko.physics.road.forces import VehicleModel

MOTOR = MotorConstants(resistance_ohm=0.1, k_v_s=0.1, no_load_a=2.0, rated_a=20.0, rated_copper_w=40.0, rated_other_w=20.0)
"""0.1 Ω and 0.1 V·s: 100 rad/s make 10 V, and 10 V over the winding drive 100 A."""

CART = VehicleModel(
    gear_ratio=5.0,
    wheel_radius_m=0.25,
    gear_efficiency=0.8,
    mass_kg=100.0,
    drag_area_m2=1.0,
    rolling_resistance=0.02,
    friction=0.5,
    driven_axle="rear",
    wheelbase_m=1.0,
    com_ahead_of_rear_m=0.4,
    com_height_m=0.5,
    track_m=0.8,
    rotating_share=0.05,
    air_density_kg_m3=1.2,
    gravity_m_s2=10.0,
)
"""100 kg that weigh 1000 N; its motor turns 20 rad/s for each metre a second."""

HEAT = MotorThermal(winding_j_per_k=100.0, case_j_per_k=400.0, winding_to_case_k_per_w=0.5, case_to_air_k_per_w=2.0, open_airflow=False)

BANK = BankModel((RowModel((Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=5.0, resistance_ohm=0.1),), 2),))
"""Two rows side by side of 10 cells each, 5 Ah and 0.1 Ω: 10 Ah and 0.05 Ω."""

MACHINE = Machine(
    bank=BANK,
    path_ohm=0.01,
    motor=MOTOR,
    motor_count=1,
    motor_wiring="single",
    thermal=HEAT,
    control=ControllerModel(efficiency=1.0, idle_a=0.0, battery_limit_a=20.0, phase_limit_a=50.0),
    vehicle=CART,
    guard=None,
    ambient_c=25.0,
    pack_c=25.0,
)
